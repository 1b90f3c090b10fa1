import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { runRecipe, StepCache, csvPieces, type Recipe, type Step, type NewStep } from '@fabula/core'
import { fileFromPath, openInput } from '@fabula/formats'
import { writeVisits } from './data.ts'

/**
 * Ratios against pandas for the same work, side by side in one run; medians. `npm run bench` prints them.
 * Above 1 we are faster.
 */
const rows = Number(process.argv[2] ?? 1_000_000)
const folder = mkdtempSync(join(tmpdir(), 'fabula-bench-'))
const path = join(tmpdir(), `fabula-bench-${rows}.csv`)
if (!existsSync(path)) writeVisits(path, rows)
const median = (times: readonly number[]): number => [...times].sort((a, b) => a - b)[times.length >> 1] ?? 0
const time = (work: () => void): number => {
  const began = performance.now()
  work()
  return performance.now() - began
}
const say = (name: string, ours: number, theirs: number): void =>
  void process.stdout.write(
    `${name.padEnd(34)} ${ours.toFixed(0).padStart(7)} ms ${theirs.toFixed(0).padStart(8)} ms   × ${(theirs / ours).toFixed(2)}\n`,
  )
const python = (code: string): number =>
  Number(execFileSync('/usr/bin/python3', ['-c', code], { encoding: 'utf8', maxBuffer: 1e8 }).trim().split('\n').at(-1))

process.stdout.write(
  `${rows.toLocaleString('en-GB')} rows, ${(statSync(path).size / 1e6).toFixed(0)} MB\n${''.padEnd(34)}    ours       pandas     ratio\n`,
)

const file = fileFromPath(path)
const read = { encoding: 'utf-8', delimiter: ',' }
let opened = await openInput([file], read)
const readings: number[] = []
for (let i = 0; i < 3; i++) {
  const began = performance.now()
  opened = await openInput([file], read)
  readings.push(performance.now() - began)
}
const reading = median(readings)
say(
  'read CSV (pandas C reader)',
  reading,
  python(
    `import pandas as pd, time, statistics\nts=[]\nfor _ in range(3):\n    t=time.perf_counter(); pd.read_csv(${JSON.stringify(path)}, parse_dates=["Visit date"]); ts.append((time.perf_counter()-t)*1000)\nprint(statistics.median(ts))`,
  ),
)

const steps: Record<string, NewStep> = {
  'filter, half left': { kind: 'filter', where: { column: 'Weight', op: 'greater', value: 45 } },
  'filter on text': { kind: 'filter', where: { column: 'Status', op: 'is-not', value: 'Cancelled' } },
  'sort by text, then number': { kind: 'sort', by: [{ column: 'Clinic' }, { column: 'Charged', descending: true }] },
  'group by one key': {
    kind: 'summarise',
    by: ['Clinic'],
    measures: [
      { how: 'sum', column: 'Charged', as: 'Sum' },
      { how: 'count', as: 'Rows' },
    ],
  },
  'group by many keys': {
    kind: 'summarise',
    by: ['Animal'],
    measures: [
      { how: 'mean', column: 'Charged', as: 'Mean' },
      { how: 'max', column: 'Visit date', as: 'Latest' },
    ],
  },
  distinct: { kind: 'distinct', columns: ['Animal', 'Clinic'] },
  'formula over numbers': { kind: 'derive', as: 'Rate', formula: 'Charged / Minutes * 60 + Weight' },
  'formula over text': { kind: 'derive', as: 'Key', formula: 'UPPER(LEFT(Clinic; 3))' },
  'formula over dates': { kind: 'derive', as: 'Month', formula: 'DATETRUNC(\'Visit date\'; "month")' },
  'number to text': { kind: 'cast', columns: ['Charged'], type: 'text' },
  'columns to rows, 3': {
    kind: 'unpivot',
    name: 'What',
    groups: [{ columns: ['Charged', 'Weight', 'Minutes'], value: 'Figure' }],
  },
}
const recipeOf = (list: readonly NewStep[]): Recipe => ({
  fabula: 1,
  name: 'Bench',
  inputs: [{ id: 'rows', name: 'Rows', columns: [...opened.table.schema] }],
  tables: [
    {
      id: 'bench',
      name: 'Bench',
      steps: [
        { id: 's1', kind: 'open', input: 'rows', read },
        ...list.map((step, i) => ({ ...step, id: `s${i + 2}` }) as Step),
      ],
    },
  ],
})
const run = (recipe: Recipe, cache?: StepCache) =>
  runRecipe(recipe, {
    sources: () => ({ ...opened, key: 'bench' }),
    parameters: {},
    now: 0,
    ...(cache ? { cache } : {}),
  })

const five = [
  steps['filter on text'],
  steps['formula over dates'],
  steps['formula over numbers'],
  {
    kind: 'summarise',
    by: ['Clinic', 'Month'],
    measures: [
      { how: 'sum', column: 'Charged', as: 'Sum' },
      { how: 'mean', column: 'Rate', as: 'Rate' },
    ],
  },
  { kind: 'sort', by: [{ column: 'Sum', descending: true }] },
] as NewStep[]
const recipes = [...Object.values(steps).map((step) => recipeOf([step])), recipeOf(five)]
const theirs = JSON.parse(
  execFileSync('/usr/bin/python3', [join(import.meta.dirname, 'pandas/steps.py'), path], { encoding: 'utf8' }),
) as Readonly<Record<string, number>>
const names = [...Object.keys(steps), 'a recipe of five steps']
process.stdout.write('against pandas written by hand (bench/pandas/steps.py), its reading left out\n')
names.forEach((name, i) => {
  const recipe = recipes[i] as Recipe
  run(recipe)
  const ours = median(
    [0, 1, 2, 3, 4].map(() =>
      time(() => {
        const [made] = run(recipe).tables
        const table = made?.table
        if (table) table.names.forEach((_, c) => table.column(c))
      }),
    ),
  )
  say(name, ours, theirs[name] ?? 0)
})

const ten = recipeOf([
  ...five.slice(0, 3),
  { kind: 'derive', as: 'A', formula: 'Weight * 2' },
  { kind: 'derive', as: 'B', formula: 'Weight + Minutes' },
  { kind: 'drop', columns: ['Note'] },
  { kind: 'rename', names: { Ref: 'Booking' } },
  { kind: 'derive', as: 'C', formula: 'Charged - 1' },
])
const cache = new StepCache()
run(ten, cache)
const latencies = Array.from({ length: 21 }, (_, i) => {
  const last: Step = { id: 's99', kind: 'filter', where: { column: 'Charged', op: 'greater', value: i } }
  const changed = { ...ten, tables: ten.tables.map((table) => ({ ...table, steps: [...table.steps, last] })) }
  return time(() => {
    const [made] = run(changed, cache).tables
    for (let row = 0; row < 200; row++)
      made?.table?.names.forEach((_, c) => made.table?.cell(c, Math.min(row, (made.table?.rowCount ?? 1) - 1)))
  })
})
process.stdout.write(
  `a changed last sentence of ten: median ${median(latencies).toFixed(0)} ms, p95 ${[...latencies].sort((a, b) => a - b)[19]?.toFixed(0)} ms of engine time\n`,
)
const writing = time(() => {
  for (const piece of csvPieces(opened.table)) void piece
})
say(
  'write CSV (pandas to_csv)',
  writing,
  python(
    `import pandas as pd, time\nd=pd.read_csv(${JSON.stringify(path)})\nt=time.perf_counter(); d.to_csv(${JSON.stringify(join(folder, 'o.csv'))}, index=False); print((time.perf_counter()-t)*1000)`,
  ),
)

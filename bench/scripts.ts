import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { pythonScript, sparkScript, sqlScript, type NewStep, type Recipe, type Step } from '@fabula/core'
import { fileFromPath, openInput } from '@fabula/formats'
import { inEnvironment } from '../scripts/python.mjs'
import { writeWideVisits } from './wide.ts'

/**
 * One story of 15 sentences over a file of 20 columns, run by the engine, by its scripts and by pandas written by
 * hand (bench/pandas/story.py), with the lines of the scripts. `npm run bench:scripts [-- ROWS [pandas|engine|python|sql|spark …]]`
 */
const rows = Number(process.argv[2] ?? 1_000_000)
const wanted = process.argv.slice(3)
const folder = mkdtempSync(join(tmpdir(), 'fabula-scripts-'))
const path = join(tmpdir(), `fabula-wide-${rows}.csv`)
if (!existsSync(path)) await writeWideVisits(path, rows)

const sentences: readonly NewStep[] = [
  { kind: 'drop', columns: ['Desk', 'Note'] },
  { kind: 'cast', columns: ['Visit date'], type: 'date', formats: ['dd/MM/yyyy', 'yyyy-MM-dd'] },
  { kind: 'cast', columns: ['Charged'], type: 'decimal' },
  { kind: 'filter', where: { column: 'Status', op: 'is-none-of', values: ['Cancelled', 'Test'] } },
  { kind: 'clean-text', columns: ['Clinic'], do: ['trim', 'collapse-spaces'] },
  {
    kind: 'replace',
    columns: ['Clinic'],
    pairs: [
      { find: 'oxbow', with: 'Oxbow' },
      { find: 'MARLPIT', with: 'Marlpit' },
    ],
  },
  { kind: 'derive', as: 'Month', formula: 'DATETRUNC(\'Visit date\'; "month")' },
  { kind: 'fill-empty', columns: ['Discount'], with: 0 },
  { kind: 'derive', as: 'Paid', formula: 'Charged * (1 - Discount)' },
  { kind: 'extract', column: 'Service', as: 'Kind', take: { before: '-' } },
  { kind: 'filter', where: { column: 'Weight', op: 'greater', value: 5 } },
  { kind: 'distinct', columns: ['Ref'] },
  { kind: 'window', by: ['Clinic'], measures: [{ how: 'share', column: 'Paid', as: 'Share' }] },
  {
    kind: 'summarise',
    by: ['Clinic', 'Month', 'Kind'],
    measures: [
      { how: 'sum', column: 'Paid', as: 'Takings' },
      { how: 'count', as: 'Visits' },
      { how: 'median', column: 'Charged', as: 'Median' },
      { how: 'distinct', column: 'Animal', as: 'Animals' },
      { how: 'sum', column: 'Share', as: 'Share' },
    ],
  },
  { kind: 'sort', by: [{ column: 'Clinic' }, { column: 'Month' }, { column: 'Takings', descending: true }] },
]

const read = { encoding: 'utf-8', delimiter: ',' }
const opened = await openInput([fileFromPath(path)], read)
/** As the page saves it: with the types that were found. */
const types = Object.fromEntries(opened.table.schema.map(({ name, type }) => [name, { type }]))
const recipe: Recipe = {
  fabula: 1,
  name: 'Takings of a wide export',
  inputs: [{ id: 'visits', name: 'Visits', columns: [...opened.table.schema] }],
  tables: [
    {
      id: 'takings',
      name: 'Takings',
      steps: [
        { id: 's1', kind: 'open', input: 'visits', read: { ...read, types } },
        ...sentences.map((step, i) => ({ ...step, id: `s${i + 2}` }) as Step),
      ],
    },
  ],
  outputs: [{ table: 'takings', format: 'csv', file: 'takings.csv' }],
}
const file = (name: string, text: string): string => {
  writeFileSync(join(folder, name), text)
  return join(folder, name)
}
const scripts = { python: pythonScript(recipe), sql: sqlScript(recipe) }
const python = file('flow.py', scripts.python.text)
const sql = file('flow.sql', scripts.sql.text)
const spark = file('flow.spark.py', sparkScript(recipe).text)
const stored = file('flow.fabula.json', JSON.stringify(recipe))

/** Runs a program; its wall and processor time in seconds and its greatest memory in MB, as the system counts them. */
const measured = (program: string, words: readonly string[]): { wall: number; cpu: number; memory: number } => {
  const code = `import json,resource,subprocess,sys,time
t=time.perf_counter(); done=subprocess.run(sys.argv[1:], stdout=subprocess.DEVNULL, stderr=subprocess.PIPE)
u=resource.getrusage(resource.RUSAGE_CHILDREN)
if done.returncode: sys.exit(done.stderr.decode()[-2000:])
print(json.dumps({"wall": time.perf_counter()-t, "cpu": u.ru_utime+u.ru_stime, "memory": u.ru_maxrss/1024}))`
  return JSON.parse(execFileSync('/usr/bin/python3', ['-c', code, program, ...words], { encoding: 'utf8' })) as {
    wall: number
    cpu: number
    memory: number
  }
}
const out = (name: string): string => join(folder, `${name}.csv`)
const interpreter = process.env.PYTHON ?? '/usr/bin/python3'
const ways: Readonly<Record<string, () => ReturnType<typeof measured>>> = {
  pandas: () => measured(interpreter, [resolve('bench/pandas/story.py'), path, out('pandas')]),
  engine: () =>
    measured('node', [
      resolve('cli/bin/fabula.mjs'),
      'run',
      stored,
      '--input',
      `visits=${path}`,
      '--output',
      `takings=${out('engine')}`,
    ]),
  python: () =>
    measured(interpreter, [python, '--input', `visits=${path}`, '--output', `takings=${out('python')}`, '--quiet']),
  sql: () =>
    measured('psql', [
      '-X',
      '-v',
      'ON_ERROR_STOP=1',
      '-v',
      `visits=${path}`,
      '-v',
      `out_takings=${out('sql')}`,
      '-f',
      sql,
    ]),
  spark: () =>
    measured('env', [
      `PATH=${dirname(inEnvironment('spark-3'))}:${process.env.PATH ?? ''}`,
      `PYSPARK_PYTHON=${inEnvironment('spark-3')}`,
      'SPARK_LOCAL_IP=127.0.0.1',
      'spark-submit',
      '--master',
      process.env.FABULA_SPARK ?? 'local[2]',
      spark,
      '--input',
      `visits=${path}`,
      '--output',
      `takings=${out('spark')}`,
      '--quiet',
    ]),
}
/** The lines of the demo's script, and those of its functions for each sentence. */
const demo = JSON.parse(readFileSync('demo/monthly-takings.fabula.json', 'utf8')) as Recipe
const lines = pythonScript(demo).text.split('\n')
const functions = lines.length - lines.findIndex((line) => line.startsWith('def account'))
const told = demo.tables.reduce((sum, { steps }) => sum + steps.length, 0)
process.stdout.write(
  `the demo in Python: ${lines.length} lines (goal 160), ${(functions / told).toFixed(0)} of functions for each sentence (goal 5)\n`,
)
process.stdout.write(
  `${rows.toLocaleString('en-GB')} rows × 20, ${(statSync(path).size / 1e6).toFixed(0)} MB, 16 sentences; Python ${scripts.python.text.split('\n').length} lines, SQL ${scripts.sql.text.split('\n').length}\n${''.padEnd(10)}    wall      cpu    memory   times by hand\n`,
)
const goals: Readonly<Record<string, string>> = { python: 'goal × 2.5', sql: 'goal 90 s for 1,000,000 rows' }
let byHand = 0
for (const [name, run] of Object.entries(ways)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue
  const { wall, cpu, memory } = run()
  if (name === 'pandas') byHand = wall
  const same =
    name === 'pandas' ||
    !existsSync(out('engine')) ||
    readFileSync(out(name), 'utf8') === readFileSync(out('engine'), 'utf8')
  process.stdout.write(
    `${name.padEnd(10)} ${wall.toFixed(1).padStart(6)} s ${cpu.toFixed(1).padStart(6)} s ${memory.toFixed(0).padStart(6)} MB   ${byHand > 0 ? `× ${(wall / byHand).toFixed(2)}` : ''}   ${goals[name] ?? ''}${same ? '' : '   ANOTHER RESULT than the engine'}\n`,
  )
}

import fc from 'fast-check'
import { spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { refusals, scriptOutputs, type Recipe, type Step } from '@fabula/core'
import { tracerOf, workbook } from '@fabula/formats/testing'
import { runOn } from './chains.ts'
import { randomFiles, randomRecipe, storiesTold, storySeed } from './random.ts'
import { Dice } from './random-values.ts'
import { startRunners, type Runners } from './runners.ts'

const runs = Math.ceil(storiesTold / 2)
const numbers = (count: number) => fc.array(fc.nat(1_000_000), { minLength: count, maxLength: count })

let runners: Runners
beforeAll(async () => {
  runners = await startRunners()
})
afterAll(() => runners.close())

/** What `--trace-out` should hold, by the engine's own tracing of each row. */
const traceOf = async (recipe: Recipe, inputs: Readonly<Record<string, string>>): Promise<string> => {
  const { tables } = await runOn(recipe, inputs)
  const tracer = await tracerOf(
    recipe,
    Object.fromEntries(Object.entries(inputs).map(([id, text]) => [id, { [`${id}.csv`]: text }])),
  )
  const lines = ['table,row,input,file,sheet,source row']
  for (const { table } of scriptOutputs(recipe)) {
    const count = tables.find(({ id }) => id === table)?.table?.rowCount ?? 0
    for (let row = 1; row <= count; row++) {
      const { sources } = await tracer.back(table, row, { limit: Infinity })
      for (const one of sources)
        lines.push(
          'entered' in one
            ? [table, row, one.entered, '', '', one.row].join(',')
            : [table, row, one.input, one.file, '', one.row].join(','),
        )
    }
  }
  return `${lines.join('\n')}\n`
}

test('a traced script names the rows of the files that the engine names, for random stories', async () => {
  let sourcesNamed = 0
  await fc.assert(
    fc.asyncProperty(fc.array(numbers(36), { minLength: 1, maxLength: 5 }), numbers(150), async (rolls, cells) => {
      const whole = randomRecipe(rolls)
      const recipe: Recipe = { ...whole, outputs: [{ table: 'result', format: 'csv', file: 'result.csv' }] }
      const inputs = randomFiles(new Dice(cells))
      const { tables, plan } = await runOn(recipe, inputs)
      fc.pre(tables.every(({ table }) => table !== undefined) && refusals(plan).length === 0)
      const expected = await traceOf(recipe, inputs)
      const story = JSON.stringify({ tables: recipe.tables, ...inputs }, null, 1)
      for (const dialect of ['python', 'sql'] as const)
        expect(await runners.traces[dialect](recipe, plan, inputs), `${dialect}\n${story}`).toBe(expected)
      sourcesNamed += expected.split('\n').length - 2
    }),
    { numRuns: runs, seed: storySeed },
  )
  expect(sourcesNamed).toBeGreaterThan(runs)
}, 600_000)

const titled = [
  'Visits of May',
  '',
  'Ref,Status,Fee',
  'A-1,Done,12',
  '"A-2',
  'late",Test,3',
  ',,',
  'A-3,Done,4.5',
  'Total,,19.5',
  '',
].join('\n')
const recipeOf = (read: object): Recipe => ({
  fabula: 1,
  name: 'Traced',
  inputs: [
    {
      id: 'visits',
      name: 'Visits',
      columns: [
        { name: 'Ref', type: 'text' },
        { name: 'Status', type: 'text' },
        { name: 'Fee', type: 'text' },
      ],
    },
  ],
  tables: [
    {
      id: 'result',
      name: 'Result',
      steps: [
        { id: 's1', kind: 'open', input: 'visits', read } as unknown as Step,
        { id: 's2', kind: 'sort', by: [{ column: 'Ref', descending: true }] } as unknown as Step,
        {
          id: 's3',
          kind: 'summarise',
          by: ['Status'],
          measures: [{ how: 'count', as: 'Visits' }],
        } as unknown as Step,
      ],
    },
  ],
})

test('rows are counted as a person counts them: titles, blank rows, a foot, a cell of two lines', async () => {
  const recipe = recipeOf({ header: 3, footer: 1, types: 'text' })
  const expected = [
    'table,row,input,file,sheet,source row',
    'result,1,visits,visits.csv,,4',
    'result,1,visits,visits.csv,,7',
    'result,2,visits,visits.csv,,5',
    '',
  ].join('\n')
  expect(await runners.traces.python(recipe, undefined, { visits: titled })).toBe(expected)
  expect(await runners.traces.sql(recipe, undefined, { visits: titled })).toBe(expected)
})

test('sheets of workbooks are named, and files of the same name by their paths', () => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-traced-'))
  const book = (ref: string) =>
    workbook({
      May: [['Visits'], [], ['Ref', 'Status', 'Fee'], [`${ref}-1`, 'Done', '12'], [], [`${ref}-2`, 'Test', '3']],
      June: [['Visits'], [], ['Ref', 'Status', 'Fee'], [`${ref}-3`, 'Done', '5']],
    })
  const files = ['north', 'south'].map((region) => {
    mkdirSync(join(folder, region))
    const path = join(folder, region, 'visits.xlsx')
    writeFileSync(path, book(region))
    return path
  })
  const recipe = join(folder, 'recipe.json')
  const read = { header: 3, sheets: { like: '*' }, types: 'text', format: 'xlsx' }
  writeFileSync(recipe, JSON.stringify(recipeOf(read)))
  const fabula = join(import.meta.dirname, '../../cli/bin/fabula.mjs')
  const script = join(folder, 'flow.py')
  const made = spawnSync(process.execPath, [fabula, 'script', recipe, '--to', 'python', '--trace', '--output', script])
  expect(made.stderr.toString()).toBe('')
  const trace = join(folder, 'trace.csv')
  const ran = spawnSync('/usr/bin/python3', [
    script,
    ...files.flatMap((path) => ['--input', `visits=${path}`]),
    ...['--output', `result=${join(folder, 'result.csv')}`, '--trace-out', trace, '--quiet'],
  ])
  expect(ran.stderr.toString()).toBe('')
  const [north = '', south = ''] = files
  expect(readFileSync(trace, 'utf8')).toBe(
    [
      'table,row,input,file,sheet,source row',
      `result,1,visits,${north},May,4`,
      `result,1,visits,${north},June,4`,
      `result,1,visits,${south},May,4`,
      `result,1,visits,${south},June,4`,
      `result,2,visits,${north},May,6`,
      `result,2,visits,${south},May,6`,
      '',
    ].join('\n'),
  )
})

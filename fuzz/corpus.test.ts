import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { planRecipe, readRecipe, recipeLimits, refusals, runRecipe, sentenceOf, writeCsv } from '@fabula/core'
import { fileFromBytes, lookAtFile, openInput } from '@fabula/formats'
import { openFuzzed } from './targets.ts'

const corpus = join(import.meta.dirname, 'corpus')
const names = ['csv', 'json', 'xlsx', 'ods', 'parquet'].flatMap((format) =>
  readdirSync(join(corpus, format)).map((name) => `${format}/${name}`),
)
const bytesOf = (name: string): Buffer => readFileSync(join(corpus, name))
const open = (name: string, bytes = bytesOf(name)) => openInput([fileFromBytes(name.replace(/^.*\//, ''), bytes)], {})

describe('a file that claims more than it holds', () => {
  test.each(names)('%s is opened or refused with a sentence', async (name) => {
    await openFuzzed(name.replace(/^.*\//, ''), bytesOf(name))
  })
  test.each([
    ['xlsx/hostile-column.xlsx', 'a sheet ends at column XFD'],
    ['xlsx/hostile-row.xlsx', 'at most 1,048,576'],
    ['xlsx/hostile-back-and-forth.xlsx', 'far more cells than a file of its size can hold'],
    ['xlsx/hostile-corner.xlsx', 'far more cells than a file of its size can hold'],
    ['ods/hostile-columns.ods', 'repeated columns 2147483647'],
    ['ods/hostile-rows.ods', 'repeated rows 4294967296'],
    ['ods/hostile-many-rows.ods', 'far more cells than a file of its size can hold'],
    ['ods/hostile-blanks.ods', 'repeated blanks 999999999'],
    ['parquet/hostile-rows.parquet', 'damaged Parquet file'],
    ['parquet/hostile-page.parquet', 'does not fit its pages'],
    ['parquet/hostile-runs.parquet', 'does not fit its pages'],
    ['json/hostile-deep.json', 'more than 500 deep'],
    ['json/hostile-deep-records.json', 'more than 500 deep'],
    ['json/hostile-names.json', 'more than 20,000 different names'],
    ['csv/hostile-columns.csv', '100,001 columns in a row, more than the 20,000'],
    ['csv/hostile-open-quote.csv', 'opens a quote in row 2 that is never closed'],
  ])('%s: %s', async (name, sentence) => {
    await expect(open(name)).rejects.toThrow(sentence)
  })
  test('one line of 40 MB says which row goes on too long', async () => {
    const line = Buffer.concat([Buffer.from('Clinic,Fee\n"Oxbow'), Buffer.alloc(40 << 20, 'a,')])
    await expect(open('csv/line.csv', line)).rejects.toThrow('row 2 goes on for more than 16,777,216 characters')
    expect(lookAtFile(fileFromBytes('line.csv', line), {}).rows[0]?.cells).toEqual(['Clinic', 'Fee'])
  })
  test('a cell longer than any cell can be names its column', async () => {
    await expect(open('csv/cell.csv', Buffer.from(`Clinic,Note\nOxbow,"${'x'.repeat(1_000_001)}"\n`))).rejects.toThrow(
      'A cell of column “Note” has 1,000,001 characters',
    )
  })
})

describe('what every object inherits is a name like any other', () => {
  const words = ['__proto__', 'constructor', 'toString', 'hasOwnProperty', 'valueOf']
  test('columns of a JSON file', async () => {
    const { table } = await open('json/prototype.json')
    expect(table.names).toEqual(['__proto__', 'constructor', 'toString', 'hasOwnProperty'])
    expect(table.cell(0, 1)).toBe(3)
  })
  test.each(words)('a column, a parameter and a type called %s', async (word) => {
    const opened = await openInput([fileFromBytes('a.csv', Buffer.from(`${word},B\n007,1\n008,2\n`))], {
      types: { [word]: { type: 'text' } } as never,
    })
    const recipe = JSON.parse(
      `{"fabula":1,"name":"${word}","parameters":[{"name":"${word}","type":"text","value":"007"}],"inputs":[{"id":"a","name":"${word}","columns":[{"name":"${word}","type":"text"},{"name":"B","type":"integer"}]}],
        "tables":[{"id":"constructor","name":"${word}","steps":[{"id":"s1","kind":"open","input":"a"},{"id":"s2","kind":"filter","where":{"column":"${word}","op":"is","value":{"parameter":"${word}"}}},{"id":"s3","kind":"rename","names":{"${word}":"Kept","B":"${word}"}}]}]}`,
    ) as unknown
    const read = readRecipe(recipe)
    if ('faults' in read) throw new Error(JSON.stringify(read.faults))
    const parameters = JSON.parse(`{"${word}":"007"}`) as Record<string, string>
    const { tables, plan } = runRecipe(read.recipe, { sources: () => ({ ...opened, key: 'a' }), parameters, now: 0 })
    expect(plan.tables.flatMap(({ steps }) => steps.flatMap(({ problems }) => problems))).toEqual([])
    expect(tables[0]?.table && writeCsv(tables[0].table)).toBe(`Kept,${word}\n007,1\n`)
  })
})

describe('a recipe that would freeze or fill a machine', () => {
  const open1 = (id: string) => ({ id, kind: 'open', input: 'a' })
  const recipe = (tables: readonly unknown[], more: Record<string, unknown> = {}): unknown => ({
    fabula: 1,
    name: 'Hostile',
    inputs: [
      {
        id: 'a',
        name: 'A',
        columns: [
          { name: 'N', type: 'integer' },
          { name: 'T', type: 'text' },
        ],
      },
    ],
    tables,
    ...more,
  })
  const sentencesOf = (data: unknown): string[] => {
    const read = readRecipe(data)
    return 'faults' in read ? read.faults.map(({ sentence }) => sentence) : []
  }
  const rows = async (count: number) => ({
    ...(await openInput(
      [fileFromBytes('a.csv', Buffer.from(`N,T\n${Array.from({ length: count }, (_, i) => `${i},ab\n`).join('')}`))],
      {},
    )),
    key: 'a',
  })
  const refused = async (steps: readonly unknown[], count = 2): Promise<string> => {
    const read = readRecipe(
      recipe([
        { id: 'b', name: 'Other', steps: [open1('o1')] },
        { id: 't', name: 'T', steps: [open1('s1'), ...steps] },
      ]),
    )
    if ('faults' in read) throw new Error(JSON.stringify(read.faults))
    const source = await rows(count)
    return refusals(runRecipe(read.recipe, { sources: () => source, parameters: {}, now: 0 }).plan)
      .map(({ sentence }) => sentence)
      .join(' ')
  }
  test('tables that each use the two before them are checked at once, and a circle of forty is told once', () => {
    const uses = (i: number, of: number) => ({
      id: `t${i}`,
      name: `T${i}`,
      steps: [
        { id: `s${i}`, kind: 'start-from', table: `t${of}` },
        { id: `u${i}`, kind: 'union', with: [`t${Math.max(0, of - 1)}`] },
      ],
    })
    const chain = Array.from({ length: 198 }, (_, i) => uses(i + 2, i + 1))
    const base = [
      { id: 't0', name: 'T0', steps: [open1('a0')] },
      { id: 't1', name: 'T1', steps: [open1('a1')] },
    ]
    const began = performance.now()
    expect(sentencesOf(recipe([...base, ...chain]))).toEqual([])
    expect(performance.now() - began).toBeLessThan(2000)
    const circle = Array.from({ length: 40 }, (_, i) => ({
      id: `t${i}`,
      name: 'T',
      steps: [
        { id: `s${i}`, kind: 'start-from', table: `t${(i + 1) % 40}` },
        { id: `u${i}`, kind: 'union', with: [`t${(i + 2) % 40}`] },
      ],
    }))
    expect(sentencesOf(recipe(circle))).toEqual([expect.stringContaining('use each other in a circle')])
  })
  test('more than the limits are refused, each with its sentence', () => {
    const steps = (count: number) => [
      open1('s0'),
      ...Array.from({ length: count - 1 }, (_, i) => ({ id: `x${i}`, kind: 'slice', first: 5 })),
    ]
    expect(sentencesOf(recipe([{ id: 't', name: 'T', steps: steps(recipeLimits.steps) }]))).toEqual([])
    expect(sentencesOf(recipe([{ id: 't', name: 'T', steps: steps(recipeLimits.steps + 1) }]))).toEqual([
      expect.stringContaining('2,001 steps; at most 2,000'),
    ])
    expect(
      sentencesOf(recipe(Array.from({ length: 201 }, (_, i) => ({ id: `t${i}`, name: 'T', steps: [open1(`s${i}`)] })))),
    ).toEqual([expect.stringContaining('201 tables; at most 200')])
    expect(
      sentencesOf(
        recipe([{ id: 't', name: 'T', steps: [open1('s')] }], {
          inputs: Array.from({ length: 501 }, (_, i) => ({ id: `a${i}`, name: 'A' })),
        }),
      ),
    ).toEqual([expect.stringContaining('501 inputs; at most 500')])
    expect(
      sentencesOf(
        recipe([{ id: 't', name: 'T', steps: [open1('s')] }], {
          parameters: Array.from({ length: 1001 }, (_, i) => ({ name: `P${i}`, type: 'text', value: '' })),
        }),
      ),
    ).toEqual([expect.stringContaining('1,001 parameters; at most 1,000')])
  })
  test('conditions nested a hundred thousand deep', () => {
    const deep = JSON.parse(
      `${'{"not":'.repeat(100_000)}{"column":"N","op":"is-empty"}${'}'.repeat(100_000)}`,
    ) as unknown
    expect(
      sentencesOf(recipe([{ id: 't', name: 'T', steps: [open1('s1'), { id: 's2', kind: 'filter', where: deep }] }])),
    ).toEqual([expect.stringContaining('nests more than 100 levels deep')])
  })
  test('a formula of fifty thousand terms', () => {
    const long = readRecipe(
      recipe([
        {
          id: 't',
          name: 'T',
          steps: [
            open1('s1'),
            { id: 's2', kind: 'derive', as: 'X', formula: `N${' + 1'.repeat(20_000)}` },
            { id: 's3', kind: 'derive', as: 'Y', formula: `N${' + 1'.repeat(50_000)}` },
          ],
        },
      ]),
    )
    if ('faults' in long) throw new Error('not read')
    const [problem] = planRecipe(long.recipe).tables[0]?.steps[1]?.problems ?? []
    expect(problem?.code).toBe('formula')
    expect(problem && sentenceOf(problem)).toContain('joins at most 400 parts')
  })
  test('a text that doubles forty times', async () => {
    expect(
      await refused(Array.from({ length: 40 }, (_, i) => ({ id: `d${i}`, kind: 'derive', as: 'T', formula: 'T & T' }))),
    ).toContain('1,048,576 characters would be made, more than the 1,000,000')
  })
  test('every row beside every row of a million', async () => {
    expect(await refused([{ id: 'j1', kind: 'join', with: 'b', how: 'cross', prefix: 'b ' }], 20_000)).toContain(
      'would make 400,000,000 rows, more than the 100,000,000',
    )
  })
  test('a match whose keys all repeat', async () => {
    expect(
      await refused([{ id: 'j1', kind: 'join', with: 'b', how: 'inner', on: [{ left: 'T', right: 'T' }] }], 20_000),
    ).toContain('This match would make 400,000,000 rows')
  })
})

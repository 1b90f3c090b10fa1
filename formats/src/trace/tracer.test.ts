import { beforeAll, describe, expect, test } from 'vitest'
import type { Recipe, Step } from '@fabula/core'
import { tracerOf, workbook } from '../testing/index.ts'
import { TraceProblem } from './reports.ts'
import type { Tracer } from './tracer.ts'

const recipeOf = (
  tables: Readonly<Record<string, readonly object[]>>,
  inputs: readonly string[] = ['visits'],
): Recipe => ({
  fabula: 1,
  name: 'Traced',
  inputs: inputs.map((id) => ({ id, name: id })),
  tables: Object.entries(tables).map(([id, steps]) => ({ id, name: id, steps: steps as unknown as Step[] })),
})
const open = (read: object = {}, input = 'visits') => ({ id: 's1', kind: 'open', input, read })

describe('rows of a file as a person counts them', () => {
  // a title, a blank row, the names in row 3, a cell with a line break, a blank row between, a foot
  const file = [
    'Visits of May',
    '',
    'Ref,Status,Fee',
    'A-1,Done,12',
    '"A-2',
    'late",Test,3',
    ',,',
    'A-3,Done,£ 4.50',
    'Total,,19.5',
    '',
  ].join('\n')
  const read = { header: 3, footer: 1, types: 'text' }
  let tracer: Tracer
  beforeAll(async () => {
    tracer = await tracerOf(
      recipeOf({
        visits: [
          open(read),
          { id: 's2', kind: 'filter', where: { column: 'Status', op: 'is', value: 'Done' } },
          { id: 's3', kind: 'cast', columns: ['Fee'], type: 'decimal' },
        ],
      }),
      { visits: { 'visits.csv': file } },
    )
  })
  test('back: the row of the file, its texts, and what lay on the way', async () => {
    expect(await tracer.back('visits', 2)).toEqual({
      table: 'visits',
      row: 2,
      count: 1,
      sources: [{ input: 'visits', file: 'visits.csv', row: 7, values: { Ref: 'A-3', Status: 'Done', Fee: '£ 4.50' } }],
      steps: [
        { id: 's1', sentence: expect.any(String) as string, did: 'opened from visits.csv, row 7' },
        { id: 's2', sentence: 'Keep the rows where Status is “Done”.', did: 'kept, Status is Done' },
        { id: 's3', sentence: expect.any(String) as string, did: '£ 4.50 read as 4.5' },
      ],
    })
  })
  test('a cell: its column alone, and the steps that made it', async () => {
    expect(await tracer.back('visits', 2, { column: 'Fee' })).toMatchObject({
      sources: [{ row: 7, columns: ['Fee'], values: { Fee: '£ 4.50' } }],
      steps: [{ id: 's3' }],
    })
  })
  test('after an earlier step', async () => {
    expect(await tracer.back('visits', 2, { after: 's1' })).toMatchObject({ sources: [{ row: 5 }] })
  })
  test.each([
    [1, 'it stands above the names of the columns'],
    [2, 'it stands above the names of the columns'],
    [3, 'it gives the names of the columns'],
    [6, 'blank row'],
    [8, 'it is of the foot, which is left out'],
  ])('forward: row %i is no row of the table, and why', async (row, why) => {
    expect((await tracer.forward('visits', 'visits.csv', undefined, row)).fates).toEqual([
      { table: 'visits', left: { step: 's1', sentence: expect.any(String) as string, why } },
    ])
  })
  test('forward: where a row left in words of its values, and the row that it is', async () => {
    expect(await tracer.forward('visits', 'visits.csv', undefined, 5)).toMatchObject({
      row: 5,
      values: { Ref: 'A-2\nlate', Status: 'Test', Fee: '3' },
      fates: [{ table: 'visits', left: { step: 's2', why: 'Status is Test' } }],
    })
    expect((await tracer.forward('visits', 'visits.csv', undefined, 7)).fates).toEqual([
      { table: 'visits', rows: [2], count: 1 },
    ])
  })
  test('the sheet as it stands in the file, from any row', async () => {
    const { shown, total, rows } = await tracer.rows.sheet('visits', {}, 3, 3)
    expect(shown).toEqual({ input: 'visits', file: 'visits.csv' })
    expect(total).toBe(8)
    expect(rows).toEqual([
      { at: 3, cells: ['Ref', 'Status', 'Fee'] },
      { at: 4, cells: ['A-1', 'Done', '12'] },
      { at: 5, cells: ['A-2\nlate', 'Test', '3'] },
    ])
    await expect(tracer.rows.sheet('visits', { file: 'june.csv' }, 1, 3)).rejects.toThrow('has no file “june.csv”')
  })
  test('what is not there is said', async () => {
    await expect(tracer.back('visits', 3)).rejects.toThrow('has no row 3: it has 2')
    await expect(tracer.back('visits', 1, { column: 'Vet' })).rejects.toThrow('has no column “Vet”')
    await expect(tracer.back('visits', 1, { after: 's9' })).rejects.toThrow('has no step “s9”')
    await expect(tracer.back('fees', 1)).rejects.toThrow(TraceProblem)
    await expect(tracer.forward('visits', 'visits.csv', undefined, 99)).rejects.toThrow(
      'There is no row 99 in visits.csv',
    )
    await expect(tracer.forward('visits', 'june.csv', undefined, 4)).rejects.toThrow('has no file “june.csv”')
  })
})

describe('rows that left between two sentences', () => {
  const visits = 'Ref,Status,Fee\nA,Done,10\nB,Test,2\nC,Done,\nC,Done,5\nD,Test,1\nE,Done,7\n'
  let tracer: Tracer
  beforeAll(async () => {
    tracer = await tracerOf(
      recipeOf({
        visits: [
          open(),
          { id: 's2', kind: 'filter', where: { column: 'Status', op: 'is', value: 'Done' } },
          { id: 's3', kind: 'distinct', columns: ['Ref'] },
          { id: 's4', kind: 'slice', first: 2 },
        ],
      }),
      { visits: { 'v.csv': visits } },
    )
  })
  const counts = async (span: { since?: string; until?: string }) => {
    const [one] = await tracer.lost('visits', 10, span)
    return {
      opened: one?.opened,
      inResult: one?.inResult,
      left: one?.left.map(({ step, why, rows }) => [step, why, ...rows.map(({ row }) => row)]),
    }
  }
  test('between the files and the result', async () =>
    expect(await counts({})).toEqual({
      opened: 6,
      inResult: 2,
      left: [
        ['s2', 'Status is Test', 3, 6],
        ['s3', 'the same Ref as another row, which stays', 5],
        ['s4', 'it is not of the first 2 rows', 7],
      ],
    }))
  test('between the files and a sentence', async () =>
    expect(await counts({ until: 's2' })).toEqual({ opened: 6, inResult: 4, left: [['s2', 'Status is Test', 3, 6]] }))
  test('between two sentences: only rows that are in the first count', async () =>
    expect(await counts({ since: 's2', until: 's3' })).toEqual({
      opened: 4,
      inResult: 3,
      left: [['s3', 'the same Ref as another row, which stays', 5]],
    }))
  test('between a sentence and the result', async () =>
    expect(await counts({ since: 's3' })).toEqual({
      opened: 3,
      inResult: 2,
      left: [['s4', 'it is not of the first 2 rows', 7]],
    }))
  test('a sentence that is not there is said', async () =>
    expect(tracer.lost('visits', 10, { since: 's9' })).rejects.toThrow('has no step “s9”'))
})

test('inputs that come in after the second sentence do not count', async () => {
  const tracer = await tracerOf(
    recipeOf(
      {
        prices: [open({}, 'prices')],
        visits: [
          { ...open(), id: 'v1' },
          { id: 'v2', kind: 'sort', by: [{ column: 'Ref' }] },
          { id: 'v3', kind: 'join', with: 'prices', how: 'left', on: [{ left: 'Ref', right: 'Ref' }] },
        ],
      },
      ['visits', 'prices'],
    ),
    { visits: { 'v.csv': 'Ref\nA\n' }, prices: { 'p.csv': 'Ref,Price\nB,2\n' } },
  )
  const inputs = async (span: object) =>
    (await tracer.lost('visits', 1, span)).map(({ input, opened }) => [input, opened])
  expect(await inputs({})).toEqual([
    ['visits', 1],
    ['prices', 1],
  ])
  expect(await inputs({ until: 'v2' })).toEqual([['visits', 1]])
  expect(await inputs({ since: 'v2' })).toEqual([['visits', 1]])
})

describe('what a figure passed over', () => {
  const fees = 'Clinic,Fee\nOxbow,£ 10\nOxbow,n/c\nOxbow,\nMarlpit,3\nOxbow,5\n'
  const tracer = () =>
    tracerOf(
      recipeOf({
        visits: [
          open({ types: 'text' }),
          { id: 's2', kind: 'cast', columns: ['Fee'], type: 'decimal' },
          {
            id: 's3',
            kind: 'summarise',
            by: ['Clinic'],
            measures: [
              { how: 'sum', column: 'Fee', as: 'Fees' },
              { how: 'count', as: 'Rows' },
            ],
          },
          { id: 's4', kind: 'rename', names: { Fees: 'Takings' } },
        ],
      }),
      { visits: { 'v.csv': fees } },
    )
  test('rows of the group that were empty or could not be read, with their texts', async () => {
    const { passedOver } = await (await tracer()).backWithPassedOver('visits', 1, { column: 'Takings', limit: 10 })
    const { count, sources } = passedOver
    expect(count).toBe(2)
    expect(sources).toMatchObject([
      { row: 3, values: { Fee: 'n/c' } },
      { row: 4, values: {} },
    ])
  })
  test.each(['Rows', 'Clinic'])('%s passes over none', async (column) =>
    expect((await (await tracer()).backWithPassedOver('visits', 1, { column, limit: 10 })).passedOver).toEqual({
      count: 0,
      sources: [],
    }),
  )
})

describe('groups, joins, unions and shapes', () => {
  const visits = 'Ref,Clinic,Code,Fee\nA,Oxbow,VAC,10\nB,Oxbow,,\nC,Marlpit,GRM,7\nD,Oxbow,VAC,5\nA,Oxbow,VAC,10\n'
  const prices = 'Code,Price\nVAC,8\nVAC,9\n'
  const files = { visits: { 'v.csv': visits }, prices: { 'p.csv': prices } }
  const withPrices = (steps: readonly object[]) =>
    tracerOf(
      recipeOf({ prices: [open({}, 'prices')], visits: [{ ...open(), id: 'v1' }, ...steps] }, ['visits', 'prices']),
      files,
    )
  const join = (how: string) => ({
    id: 'j',
    kind: 'join',
    with: 'prices',
    how,
    on: [{ left: 'Code', right: 'Code' }],
  })

  test('a total: the rows that enter it; what is empty is passed over', async () => {
    const tracer = await withPrices([
      {
        id: 'g',
        kind: 'summarise',
        by: ['Clinic'],
        measures: [
          { how: 'sum', column: 'Fee', as: 'Fees' },
          { how: 'count', as: 'Rows' },
          { how: 'max', column: 'Fee', as: 'Most' },
        ],
      },
    ])
    const rows = async (column?: string) => (await tracer.back('visits', 1, { column })).sources.map(({ row }) => row)
    expect(await rows('Fees')).toEqual([2, 5, 6])
    expect(await rows('Rows')).toEqual([2, 3, 5, 6])
    expect(await rows('Most')).toEqual([2])
    expect(await rows('Clinic')).toEqual([2, 3, 5, 6])
    expect(await rows()).toEqual([2, 3, 5, 6])
  })
  test('a total over a match that multiplies counts a row as often as it enters', async () => {
    const tracer = await withPrices([
      join('inner'),
      { id: 'g', kind: 'summarise', by: [], measures: [{ how: 'sum', column: 'Fee', as: 'Fees' }] },
    ])
    const { sources, count } = await tracer.back('visits', 1, { column: 'Fees' })
    expect(count).toBe(3)
    expect(sources.map(({ row, times }) => [row, times])).toEqual([
      [2, 2],
      [5, 2],
      [6, 2],
    ])
  })
  test('a joined row comes from both tables, a brought cell from the other one', async () => {
    const tracer = await withPrices([join('left')])
    expect((await tracer.back('visits', 2)).sources).toMatchObject([
      { input: 'visits', row: 2 },
      { input: 'prices', row: 3 },
    ])
    expect((await tracer.back('visits', 2, { column: 'Price' })).sources).toMatchObject([
      { input: 'prices', row: 3, columns: ['Price'], values: { Price: '9' } },
    ])
    expect((await tracer.back('visits', 3, { column: 'Price' })).sources).toEqual([])
  })
  test('a row without a match leaves an inner join, and why', async () => {
    const tracer = await withPrices([join('inner')])
    const why = async (row: number) => (await tracer.forward('visits', 'v.csv', undefined, row)).fates
    expect(await why(4)).toMatchObject([{ table: 'visits', left: { step: 'j', why: 'no Code in prices is GRM' } }])
    expect(await why(3)).toMatchObject([{ table: 'visits', left: { why: 'Code is empty, which matches nothing' } }])
  })
  test('of rows alike the one that stays is named as its file names it', async () => {
    const tracer = await withPrices([{ id: 'd', kind: 'distinct', columns: ['Ref', 'Fee'] }])
    expect((await tracer.forward('visits', 'v.csv', undefined, 6)).fates).toMatchObject([
      { left: { step: 'd', why: 'the same Ref and Fee as row 2, which stays' } },
    ])
    expect(tracer.conservation('visits', 'visits')).toMatchObject({
      opened: 5,
      inResult: 4,
      left: [{ rows: Int32Array.of(4) }],
    })
  })
  test('columns that became rows: the one cell that a label stands for', async () => {
    const tracer = await tracerOf(
      recipeOf({
        visits: [
          open(),
          {
            id: 'u',
            kind: 'unpivot',
            name: 'Month',
            groups: [{ columns: ['May', 'June'], value: 'Fee' }],
            empty: 'drop',
          },
        ],
      }),
      { visits: { 'm.csv': 'Clinic,May,June\nOxbow,1,\nMarlpit,,4\nTarn End,,\n' } },
    )
    expect((await tracer.back('visits', 2, { column: 'Fee' })).sources).toMatchObject([{ row: 3, columns: ['June'] }])
    const [label] = (await tracer.back('visits', 2, { column: 'Month' })).sources
    expect(label).toMatchObject({ row: 3 })
    expect(label).not.toHaveProperty('columns')
    expect((await tracer.forward('visits', 'm.csv', undefined, 4)).fates).toMatchObject([{ left: { step: 'u' } }])
  })
  test('rows that became columns: each cell through its label; a gap comes from nothing', async () => {
    const tracer = await withPrices([
      {
        id: 'p',
        kind: 'pivot',
        labels: 'Clinic',
        values: [{ column: 'Fee', how: 'sum' }],
        by: ['Ref'],
        found: ['Oxbow'],
      },
    ])
    expect((await tracer.back('visits', 1, { column: 'Oxbow' })).sources.map(({ row }) => row)).toEqual([2, 6])
    expect((await tracer.back('visits', 3, { column: 'Oxbow' })).sources).toEqual([])
    // the row of the other clinic stays, but enters no figure; neither does the empty one
    expect(tracer.conservation('visits', 'visits')).toMatchObject({ opened: 5, inResult: 5, withoutFigure: 2 })
  })
  test('tables turned over: every row, and a cell from its one cell', async () => {
    const tracer = await withPrices([{ id: 't', kind: 'transpose' }])
    expect((await tracer.back('visits', 1)).count).toBe(5)
    expect((await tracer.back('visits', 4, { column: 'Column 3' })).sources).toMatchObject([
      { row: 4, columns: ['Fee'], values: { Fee: '7' } },
    ])
  })
  test('a union: the table that a row came from; what a table lacks is of its row alone', async () => {
    const tracer = await withPrices([{ id: 'u', kind: 'union', with: ['prices'] }])
    expect((await tracer.back('visits', 6)).sources).toMatchObject([{ input: 'prices', row: 2 }])
    expect((await tracer.back('visits', 6, { column: 'Fee' })).sources).toEqual([
      { input: 'prices', file: 'p.csv', row: 2, values: { Code: 'VAC', Price: '8' } },
    ])
  })
  test('running figures go up to the row, neighbours to one, ranks to the group', async () => {
    const tracer = await withPrices([
      {
        id: 'w',
        kind: 'window',
        by: ['Clinic'],
        measures: [
          { how: 'running-sum', column: 'Fee', as: 'Run' },
          { how: 'previous', column: 'Fee', as: 'Before' },
          { how: 'rank', as: 'Rank' },
          { how: 'sum', column: 'Fee', as: 'All' },
        ],
        order: [{ column: 'Ref' }],
      },
    ])
    const rows = async (column: string) => (await tracer.back('visits', 4, { column })).sources.map(({ row }) => row)
    expect(await rows('Run')).toEqual([2, 5, 6])
    expect(await rows('Before')).toEqual([3])
    expect(await rows('Rank')).toEqual([2, 3, 5, 6])
    expect(await rows('All')).toEqual([2, 5, 6])
  })
  test('a formula through a total counts each row once, by all columns it names', async () => {
    const tracer = await withPrices([
      { id: 'w', kind: 'window', by: ['Clinic'], measures: [{ how: 'sum', column: 'Fee', as: 'All' }] },
      { id: 'f', kind: 'derive', as: 'Part', formula: 'Fee / All' },
    ])
    const { sources, steps } = await tracer.back('visits', 1, { column: 'Part' })
    expect(sources.map(({ row, times }) => [row, times])).toEqual([
      [2, undefined],
      [5, undefined],
      [6, undefined],
    ])
    expect(steps.map(({ id }) => id)).toEqual(['w', 'f'])
  })
  test('gaps filled from above come from the row they were taken from, a constant from none of the columns', async () => {
    const tracer = await withPrices([
      { id: 'a', kind: 'fill', columns: ['Code'], direction: 'down' },
      { id: 'b', kind: 'fill-empty', columns: ['Fee'], with: 0 },
    ])
    expect((await tracer.back('visits', 2, { column: 'Code' })).sources).toMatchObject([{ row: 2, columns: ['Code'] }])
    const [fee] = (await tracer.back('visits', 2, { column: 'Fee' })).sources
    expect(fee).toMatchObject({ row: 3 })
    expect(fee).not.toHaveProperty('columns')
  })
})

describe('typed-in rows and workbooks', () => {
  test('a typed-in row is named by its table', async () => {
    const tracer = await tracerOf(
      recipeOf(
        {
          targets: [
            { id: 't1', kind: 'enter', columns: [{ name: 'Clinic', type: 'text' }], rows: [['Oxbow'], ['Marlpit']] },
            { id: 't2', kind: 'slice', first: 1 },
          ],
        },
        [],
      ),
      {},
    )
    expect((await tracer.back('targets', 1)).sources).toEqual([
      { entered: 'targets', row: 1, values: { Clinic: 'Oxbow' } },
    ])
    expect(await tracer.forwardEntered('targets', 2)).toEqual({
      entered: 'targets',
      row: 2,
      values: { Clinic: 'Marlpit' },
      fates: [
        {
          table: 'targets',
          left: {
            step: 't2',
            sentence: expect.any(String) as string,
            why: 'it is not of the first 1 row',
          },
        },
      ],
    })
  })
  test('the name of a sheet, and what a file lacks, come from the row and from no column of it', async () => {
    const tracer = await tracerOf(recipeOf({ visits: [open({ origin: { file: 'File' } })] }), {
      visits: { 'a.csv': 'Ref,Fee\nA,1\n', 'b.csv': 'Ref\nB\n' },
    })
    expect((await tracer.back('visits', 1, { column: 'File' })).sources).toEqual([
      { input: 'visits', file: 'a.csv', row: 2, values: { Ref: 'A', Fee: '1' } },
    ])
    expect((await tracer.back('visits', 2, { column: 'Fee' })).sources).toEqual([
      { input: 'visits', file: 'b.csv', row: 2, values: { Ref: 'B' } },
    ])
    expect((await tracer.forward('visits', 'b.csv', undefined, 2)).fates).toEqual([
      { table: 'visits', rows: [2], count: 1 },
    ])
  })
  test('a row of a sheet is named by file, sheet and its row there', async () => {
    const tracer = await tracerOf(recipeOf({ visits: [open({ sheets: ['May', 'June'], header: 2 })] }), {
      visits: {
        'months.xlsx': workbook({
          May: [['May 2031'], ['Ref', 'Fee'], ['A', 1], [], ['B', 2]],
          June: [['June 2031'], ['Ref', 'Fee'], ['C', 3]],
        }),
      },
    })
    expect((await tracer.back('visits', 2)).sources).toEqual([
      { input: 'visits', file: 'months.xlsx', sheet: 'May', row: 5, values: { Ref: 'B', Fee: '2' } },
    ])
    expect((await tracer.back('visits', 3)).sources).toMatchObject([{ sheet: 'June', row: 3 }])
    expect((await tracer.forward('visits', 'months.xlsx', 'May', 4)).fates).toMatchObject([
      { left: { why: 'blank row' } },
    ])
    expect((await tracer.forward('visits', 'months.xlsx', 'June', 3)).fates).toEqual([
      { table: 'visits', rows: [3], count: 1 },
    ])
    await expect(tracer.forward('visits', 'months.xlsx', undefined, 3)).rejects.toThrow(
      'Several sheets of months.xlsx are taken',
    )
    await expect(tracer.forward('visits', 'months.xlsx', 'July', 3)).rejects.toThrow('No sheet “July”')
  })
  test('records of JSON are counted from the first', async () => {
    const tracer = await tracerOf(recipeOf({ visits: [open()] }), {
      visits: { 'v.json': '[{"Ref":"A"},{},{"Ref":"B","Vet":{"Name":"Ines"}}]' },
    })
    expect((await tracer.back('visits', 2)).sources).toEqual([
      { input: 'visits', file: 'v.json', row: 3, values: { Ref: 'B', 'Vet.Name': 'Ines' } },
    ])
    expect((await tracer.forward('visits', 'v.json', undefined, 2)).fates).toMatchObject([
      { left: { why: 'blank row' } },
    ])
  })
})

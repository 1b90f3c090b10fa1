import { describe, expect, test } from 'vitest'
import { columnOf, type Cell, type ColumnType } from '../../table/column.ts'
import { Table } from '../../table/table.ts'
import { factsOf } from './facts.ts'
import { findText } from './find.ts'
import { partnersOf } from '../suggest/partners.ts'

const facts = (type: ColumnType, cells: readonly Cell[], name = 'A') => factsOf(name, columnOf(type, cells))
const says = (type: ColumnType, cells: readonly Cell[], name = 'A') =>
  facts(type, cells, name).findings.map(({ sentence }) => sentence)
const repeat = <T>(n: number, make: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => make(i))

describe('facts', () => {
  test('numbers: quarters, deviation, spans between round numbers', () => {
    const reported = facts('decimal', [4, null, 8, 15, 16, 23, 42, 42])
    expect(reported).toMatchObject({
      rows: 8,
      filled: 7,
      distinct: 6,
      least: '4',
      greatest: '42',
      median: '16',
      quarters: ['11.5', '32.5'],
    })
    expect(reported.mean).toBeCloseTo(21.428571, 6)
    expect(reported.deviation).toBeCloseTo(15.295502, 6)
    expect(reported.bars.map(({ label, count }) => [label, count]).filter(([, count]) => count !== 0)).toEqual([
      ['0 to 5', 1],
      ['5 to 10', 1],
      ['15 to 20', 2],
      ['20 to 25', 1],
      ['40 to 45', 2],
    ])
    expect(reported.common[0]).toMatchObject({ label: '42', count: 2, where: { column: 'A', op: 'is', value: 42 } })
  })
  test('a bar selects just the rows it counts', () => {
    const [bar] = facts('integer', [10, 20, 30, 990]).bars.filter(({ count }) => count > 0)
    expect(bar).toMatchObject({
      count: 3,
      where: {
        all: [
          { op: 'at-least', value: 0 },
          { op: 'less', value: 100 },
        ],
      },
    })
  })
  test('dates by a fitting unit', () => {
    const days = (n: number, step: number) => repeat(n, (i) => 22_400 + i * step)
    expect(facts('date', days(20, 1)).bars[0]?.label).toMatch(/^2031-0\d-\d\d$/)
    expect(facts('date', days(20, 30)).bars[0]?.label).toMatch(/^[A-Z][a-z][a-z] 2031$/)
    expect(facts('date', days(20, 400)).bars[0]?.label).toBe('2031')
    expect(facts('date', days(20, 30)).bars.reduce((sum, { count }) => sum + count, 0)).toBe(20)
  })
  test('text: lengths, patterns, the rarest', () => {
    const reported = facts('text', [...repeat(20, (i) => `VAC-${i % 10}`), 'x', null])
    expect(reported).toMatchObject({ shortest: 1, longest: 5, filled: 21, distinct: 11 })
    expect(reported.patterns.map(({ label, count }) => [label, count])).toEqual([
      ['AAA-9', 20],
      ['a', 1],
    ])
    expect(reported.rare[0]).toMatchObject({ label: 'x', count: 1 })
  })
  test('nothing filled tells nothing but that', () => {
    expect(facts('decimal', [null, null])).toMatchObject({ rows: 2, filled: 0, distinct: 0, bars: [] })
    expect(facts('text', [])).toMatchObject({ rows: 0, filled: 0 })
  })
})

describe('findings', () => {
  test('dates in mixed forms, with how many rows of each', () => {
    expect(says('text', ['02/05/2031', '13/05/2031', '2031-05-03', '13/05/2031'])).toEqual([
      'It holds dates as text, written d/M/yyyy (3) and yyyy-MM-dd (1).',
    ])
    // the year of the dates that have one stands for the others
    expect(facts('text', ['2 May', '3 May 2030', '4 May 2030', '5 Jun 2032']).findings[0]?.step).toMatchObject({
      formats: ['d MMM yyyy', 'd MMM'],
      year: 2030,
    })
    expect(facts('text', ['5/13/2031', '2/5/2031']).findings[0]?.step).toMatchObject({
      kind: 'cast',
      formats: ['M/d/yyyy'],
    })
  })
  test('numbers as text, but not codes with leading zeros', () => {
    expect(says('text', ['£ 5', '1,200.50', '7'])[0]).toContain('It holds numbers as text, such as “£ 5”')
    expect(facts('text', ['9007199254740993', '12', '9007199254740994'], 'Id').findings[0]).toMatchObject({
      sentence: expect.stringContaining('more than 15 digits, such as “9007199254740993”') as unknown,
      step: { kind: 'check', unique: ['Id'] },
    })
    expect(says('text', ['007', '012', '100'])).toEqual([])
    const [commas] = facts('text', ['12,5', '€ 1.234,50', '(45,00)', '2,5 %', '3,250']).findings
    expect(commas?.sentence).toContain('with a comma before decimals')
    expect(commas?.step).toMatchObject({ kind: 'cast', type: 'decimal', locale: { decimal: ',', group: '.' } })
    expect(facts('text', ['1 234,50', '7 000']).findings[0]?.step).toMatchObject({
      locale: { decimal: ',', group: ' ' },
    })
    expect(facts('text', ['12,5 kg', '3,1 kg'], 'Weight').findings[0]?.step).toMatchObject({
      formula: expect.stringContaining('NUMBERVALUE(') as unknown,
    })
  })
  test('numbers with a unit behind them are read without it', () => {
    expect(facts('text', ['30.1 kg', '4.8kg', '12', ' 7 kg'], 'Weight').findings.at(-1)).toMatchObject({
      sentence: 'It holds numbers with “kg” behind them.',
      step: { kind: 'derive', as: 'Weight' },
    })
    expect(says('text', ['30.1 kg', '4 lb', '12 kg']).join()).not.toContain('behind them')
  })
  test('several values in a cell become rows; addresses and sentences with commas do not', () => {
    expect(
      facts('text', ['cough; limp', 'limp', 'fever;cough', 'limp; fever', 'cough'], 'Signs').findings,
    ).toMatchObject([{ verb: 'A row for each', step: { kind: 'split', by: { pattern: '\\s*;\\s*' }, into: 'rows' } }])
    expect(
      says('text', ['Mill Lane 3, Oxbow', 'High Street 1, Marlpit', 'The Green, Tarn End', 'Dock Road 9, Acre']).join(),
    ).not.toContain('several values')
  })
  test('values that differ only by case, spaces or look-alike letters become the commonest of them', () => {
    const [finding] = facts('text', [
      'Marlpit',
      'Marlpit',
      'MARLPIT',
      'M\u0430rlpit',
      'Fern Hollow',
      'Fernhollow',
      'Oxbow',
    ]).findings
    expect(finding?.sentence).toContain('2 groups of values differ only by case')
    expect(finding?.step).toMatchObject({
      kind: 'unify',
      groups: [
        { into: 'Marlpit', from: ['Marlpit', 'MARLPIT', 'M\u0430rlpit'] },
        { from: ['Fern Hollow', 'Fernhollow'] },
      ],
    })
  })
  test('outliers and repeats of a likely key', () => {
    expect(says('integer', [...repeat(200, (i) => i % 20), 9000])).toEqual([
      '1 value lies far from the rest, such as 9000; half lie between 5 and 15.',
    ])
    expect(says('text', [...repeat(40, (i) => `B${i}`), 'B7'], 'Booking ref')).toEqual([
      'It looks like a key, but 1 value stands more than once, such as “B7”.',
    ])
    expect(
      says(
        'text',
        repeat(40, (i) => `B${i % 20}`),
        'Booking ref',
      ),
    ).toEqual([])
  })
})

const table = Table.of(
  ['Species', 'Kind', 'Fee'],
  [
    columnOf('text', ['dog', 'cat', null, null]),
    columnOf('text', [null, null, 'cat', 'Dog food']),
    columnOf('decimal', [12.5, null, 3, 120]),
  ],
)
test('what a sheet lacks and has under another name', () => {
  const stacked = Table.of(
    ['Species', 'Kind', 'Fee'],
    [
      columnOf('text', ['dog', 'cat', null, null]),
      columnOf('text', [null, null, 'cat', 'dog']),
      columnOf('decimal', [1, 2, 3, 4]),
    ],
  )
  expect(
    partnersOf(stacked, [
      { file: 'a', rows: 2, lacks: ['Kind'] },
      { file: 'b', rows: 2, lacks: ['Species'] },
    ]),
  ).toEqual([{ file: 'b', sheet: undefined, lacks: 'Species', has: 'Kind', values: 2, agree: 2 }])
})
test('a value is found anywhere, row by row, round from the end to the start, and backwards', () => {
  expect(findText(table, 'DOG', null, false)).toEqual({ found: { row: 0, column: 'Species' }, total: 2 })
  expect(findText(table, 'dog', { row: 0, column: 'Species' }, false).found).toEqual({ row: 3, column: 'Kind' })
  expect(findText(table, 'dog', { row: 3, column: 'Kind' }, false).found).toEqual({ row: 0, column: 'Species' })
  expect(findText(table, 'dog', null, true).found).toEqual({ row: 3, column: 'Kind' })
  expect(findText(table, '12', null, false)).toEqual({ found: { row: 0, column: 'Fee' }, total: 2 })
  expect(findText(table, 'horse', null, false)).toEqual({ found: null, total: 0 })
})

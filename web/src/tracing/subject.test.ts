import { describe, expect, test } from 'vitest'
import type { LostReply, TraceReply } from '@fabula/core/api'
import { lostCsv, lostWords, reasonWords, sourceGroups, sourceWords } from './subject.ts'

const nameOf = (table: string): string => (table === 'targets' ? 'Targets' : table)
const input = (over: Partial<LostReply['inputs'][number]> = {}): LostReply['inputs'][number] => ({
  input: 'visits',
  name: 'Visits',
  opened: 1204,
  inResult: 1110,
  withoutFigure: 0,
  left: [],
  ...over,
})

describe('a source row by its name', () => {
  test.each([
    [{ input: 'visits', file: 'v.csv', row: 17 }, 'row 17 of v.csv'],
    [{ input: 'visits', file: 'months.xlsx', sheet: 'May', row: 5 }, 'row 5 of May in months.xlsx'],
    [{ entered: 'targets', row: 2 }, 'row 2 of Targets'],
  ])('%j', (from, words) => expect(sourceWords(from, nameOf)).toBe(words))
})

describe('why rows left, in a sentence', () => {
  const reason = (count: number, why: string) => ({
    step: 's5',
    sentence: '',
    place: 'Takings 5',
    why,
    count,
    rows: [],
  })
  test('each reason with its number and sentence', () =>
    expect(reasonWords(input({ left: [reason(61, 'Status is Cancelled'), reason(31, 'Status is Test')] }))).toBe(
      '61 at Takings 5, Status is Cancelled; 31 at Takings 5, Status is Test.',
    ))
  test('beyond four the rest is counted', () =>
    expect(reasonWords(input({ left: [6, 5, 4, 3, 2, 1].map((n) => reason(n, `n is ${n}`)) }))).toMatch(
      /; 3 more for other reasons\.$/,
    ))
  test('the table is named where it is not “it”', () =>
    expect(lostWords(input(), 'Takings')).toBe('1,110 of 1,204 rows of Visits are in Takings; 94 left.'))
})

describe('source rows by file', () => {
  const sources: TraceReply['sources'] = [
    { input: 'visits', file: 'v.csv', row: 2, values: { Fee: '3' } },
    { input: 'visits', file: 'v.csv', row: 9, values: { Fee: '4', Vet: 'Ines' } },
    { input: 'visits', file: 'm.xlsx', sheet: 'May', row: 4, values: {} },
    { entered: 'targets', row: 1, values: { Clinic: 'Oxbow' } },
  ]
  test('are together, with the columns that any of them has', () => {
    expect(sourceGroups(sources, nameOf).map(({ title, columns, rows }) => [title, columns, rows.length])).toEqual([
      ['v.csv', ['Fee', 'Vet'], 2],
      ['m.xlsx, May', [], 1],
      ['Targets', ['Clinic'], 1],
    ])
  })
  test('keep the order they came in', () => {
    expect(sourceGroups(sources, nameOf)[0]?.rows.map(({ row }) => row)).toEqual([2, 9])
  })
})

describe('the rows that were lost', () => {
  test('are counted with those that stay', () => {
    expect(lostWords(input())).toBe('1,110 of 1,204 rows of Visits are in it; 94 left.')
    expect(lostWords(input({ inResult: 1204 }))).toBe('1,204 of 1,204 rows of Visits are in it; none left.')
    expect(lostWords(input({ opened: 1, inResult: 1 }))).toBe('1 of 1 row of Visits is in it; none left.')
  })
  test('with those that enter no figure, where there are figures', () => {
    expect(lostWords(input({ withoutFigure: 2 }))).toContain('2 of those in it enter no figure.')
    expect(lostWords(input({ withoutFigure: null }))).not.toContain('figure')
  })
  test('go to CSV one a row, quoted where they must be', () => {
    const rows = [
      { file: 'a, b.csv', row: 7 },
      { file: 'm.xlsx', sheet: 'May', row: 3 },
    ]
    const left = [
      { step: 's5', sentence: 'Keep the rows.', place: 'Takings 5', why: 'Status is “"Test"”', count: 2, rows },
    ]
    expect(lostCsv({ inputs: [input({ left })] })).toBe(
      'Input,File,Sheet,Row,Left at,Why\nVisits,"a, b.csv",,7,Takings 5 Keep the rows.,"Status is “""Test""”"\nVisits,m.xlsx,May,3,Takings 5 Keep the rows.,"Status is “""Test""”"\n',
    )
  })
})

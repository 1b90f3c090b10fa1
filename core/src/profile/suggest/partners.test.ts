import { describe, expect, test } from 'vitest'
import { columnOf } from '../../table/column.ts'
import { Table } from '../../table/table.ts'
import { partnersOf, type StackedPart } from './partners.ts'

/** May has Clinic, June has Praxis in its place; the rows of both stand under one another. */
const stacked = (clinic: (string | null)[], praxis: (string | null)[]) =>
  Table.of(['Clinic', 'Praxis'], [columnOf('text', clinic), columnOf('text', praxis)])
const parts: readonly StackedPart[] = [
  { file: 'may.csv', rows: 3, lacks: ['Praxis'] },
  { file: 'june.csv', rows: 2, lacks: ['Clinic'] },
]

describe('a column that a part has in place of one it lacks', () => {
  test('is the one whose values stand there elsewhere', () => {
    const table = stacked(['Oxbow', 'Marlpit', 'Oxbow', null, null], [null, null, null, 'Oxbow', 'Marlpit'])
    expect(partnersOf(table, parts)).toEqual([
      { file: 'june.csv', sheet: undefined, lacks: 'Clinic', has: 'Praxis', values: 2, agree: 2 },
    ])
  })
  test('is none where less than half of them do', () => {
    const table = stacked(['Oxbow', 'Marlpit', 'Oxbow', null, null], [null, null, null, 'Tarn End', 'Long Acre'])
    expect(partnersOf(table, parts)).toEqual([])
  })
  test('is none where it is empty', () => {
    expect(partnersOf(stacked(['Oxbow', 'Marlpit', 'Oxbow', null, null], Array(5).fill(null)), parts)).toEqual([])
  })
  test('is none where another part has it too', () => {
    const table = stacked(['Oxbow', 'Marlpit', 'Oxbow', null, null], ['x', null, null, 'Oxbow', 'Marlpit'])
    const both = [{ file: 'may.csv', rows: 3, lacks: [] }, parts[1] as StackedPart]
    expect(partnersOf(table, both)).toEqual([])
  })
  test('is none of another type', () => {
    const table = Table.of(
      ['Clinic', 'Praxis'],
      [columnOf('text', ['1', '2', '1', null, null]), columnOf('integer', [null, null, null, 1, 2])],
    )
    expect(partnersOf(table, parts)).toEqual([])
  })
  test('a single part has none', () => {
    const table = stacked(['Oxbow', null, null], [null, 'Oxbow', null])
    expect(partnersOf(table, [{ file: 'may.csv', rows: 3, lacks: ['Praxis'] }])).toEqual([])
  })
})

import fc from 'fast-check'
import { expect, test } from 'vitest'
import { cellAt, columnOf, lengthOf, type Cell, type Column, type ColumnType } from '../../table/column.ts'
import { LazyColumn } from '../../table/lazy-column.ts'
import { Table } from '../../table/table.ts'
import { labelsOfParts, stacked, type Part } from './stacked.ts'

const cellsOf = (column: Column): Cell[] => Array.from({ length: lengthOf(column) }, (_, row) => cellAt(column, row))
const texts = fc.array(fc.option(fc.constantFrom('Tarn End', 'Oxbow', 'Marlpit'), { nil: null }), { maxLength: 6 })
const numbers = fc.array(fc.option(fc.integer({ min: -9, max: 9 }), { nil: null }), { maxLength: 6 })
/** A column of one table, or rows that have no such column. */
const partOf = (type: ColumnType, cells: readonly Cell[], known: boolean): Part => ({
  rowCount: cells.length,
  table: known ? Table.of(['A'], [columnOf(type, cells)], cells.length) : undefined,
})
const expected = (parts: readonly (readonly [readonly Cell[], boolean])[]): Cell[] =>
  parts.flatMap(([cells, known]) => cells.map((cell) => (known ? cell : null)))

test.each([
  ['text', texts],
  ['integer', numbers],
] as const)('columns of %s behind one another, one cell at a time, some, and all', (type, some) => {
  fc.assert(
    fc.property(fc.array(fc.tuple(some as typeof texts, fc.boolean()), { minLength: 1, maxLength: 4 }), (given) => {
      const make = (): LazyColumn =>
        stacked(
          type,
          given.map(([cells, known]) => partOf(type, cells, known)),
        ) as LazyColumn
      const wanted = expected(given)
      const column = make()
      expect(column.length).toBe(wanted.length)
      expect(wanted.map((_, row) => column.cell(row))).toEqual(wanted)
      const rows = Int32Array.from([...wanted.keys(), -1]).reverse()
      expect(cellsOf(make().gather(rows))).toEqual([null, ...wanted.toReversed()])
      expect(cellsOf(column.column)).toEqual(wanted)
    }),
  )
})

test('a column of several types is changed to the one that all have', () => {
  const parts = [partOf('integer', [1, null], true), partOf('text', ['Oxbow'], true)]
  expect(cellsOf(stacked('text', parts) as Column)).toEqual(['1', null, 'Oxbow'])
})

test('each row has the label of its part, empty labels none', () => {
  const column = labelsOfParts(['May', '', 'June'], [2, 1, 0])
  expect([0, 1, 2].map((row) => column.cell(row))).toEqual(['May', 'May', null])
  expect(cellsOf(column.column)).toEqual(['May', 'May', null])
})

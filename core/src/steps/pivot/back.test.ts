import fc from 'fast-check'
import { expect, test } from 'vitest'
import { runRecipe, type Recipe, type Step, Table, writeCsv } from '../../index.ts'
import { columnOf, type Cell, type ColumnType } from '../../table/column.ts'

const months = ['January', 'February', 'March']
const tableOf = (type: ColumnType, rows: readonly (readonly Cell[])[]): Table =>
  Table.of(
    ['Ref', ...months],
    [
      columnOf(
        'text',
        rows.map((_, i) => `R${i}`),
      ),
      ...months.map((_, k) =>
        columnOf(
          type,
          rows.map((row) => row[k] ?? null),
        ),
      ),
    ],
    rows.length,
  )
const toRows = { kind: 'unpivot', name: 'Month', groups: [{ columns: months, value: 'Fee' }] }
const back = { kind: 'pivot', labels: 'Month', values: [{ column: 'Fee', how: 'only' }] }
/** The table that some steps make of another, as CSV; by its columns after single cells were read. */
const told = (table: Table, steps: readonly object[]): string => {
  const recipe: Recipe = {
    fabula: 1,
    name: 'There and back',
    inputs: [{ id: 'rows', name: 'Rows', columns: [...table.schema] }],
    tables: [
      {
        id: 'rows',
        name: 'Rows',
        steps: [
          { id: 's0', kind: 'open', input: 'rows' },
          ...steps.map((step, i) => ({ id: `s${i + 1}`, ...step }) as Step),
        ],
      },
    ],
  }
  const { tables } = runRecipe(recipe, {
    sources: () => ({ table, notes: {}, unreadable: [], key: 'rows' }),
    parameters: {},
    now: 0,
  })
  const made = tables[0]?.table as Table
  const cells = made.names.map((_, at) => Array.from({ length: made.rowCount }, (_, row) => made.cell(at, row)))
  const text = writeCsv(made)
  expect(made.names.map((_, at) => Array.from({ length: made.rowCount }, (_, row) => made.cell(at, row)))).toEqual(
    cells,
  )
  return text
}

test.each<[ColumnType, fc.Arbitrary<Cell>]>([
  ['decimal', fc.option(fc.constantFrom(0, -1.5, 12))],
  ['text', fc.constantFrom('a', 'b', null)],
  ['date', fc.option(fc.integer({ min: 22_000, max: 22_400 }))],
])('columns of %s become rows and columns again', (type, cell) => {
  fc.assert(
    fc.property(fc.array(fc.tuple(cell, cell, cell), { minLength: 1, maxLength: 12 }), (rows) => {
      const table = tableOf(type, rows)
      const whole = told(table, [])
      expect(told(table, [toRows, back])).toBe(whole)
      // the same rows in another order, and where one of them is missing
      const mixed = { kind: 'sort', by: [{ column: 'Month' }, { column: 'Ref', descending: true }] }
      const inOrder = { kind: 'sort', by: [{ column: 'Ref', natural: true }] }
      const sorted = [{ kind: 'select', columns: ['Ref', ...months] }, inOrder]
      expect(told(table, [toRows, mixed, back, ...sorted])).toBe(whole)
      const without = { kind: 'filter', where: { column: 'Month', op: 'is-not', value: 'March' } }
      expect(told(table, [toRows, without, back])).toBe(told(table, [{ kind: 'drop', columns: ['March'] }]))
      const found = { ...back, found: ['February', 'January', 'May'] }
      expect(told(table, [toRows, found]).split('\n')[0]).toBe('Ref,February,January,May')
      expect(told(table, [toRows, found, { kind: 'drop', columns: ['May'] }])).toBe(
        told(table, [{ kind: 'select', columns: ['Ref', 'February', 'January'] }]),
      )
    }),
    { numRuns: 40 },
  )
})

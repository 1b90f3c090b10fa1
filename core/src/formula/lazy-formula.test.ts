import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { columnOf, cellAt, lengthOf, type Cell, type Column } from '../table/column.ts'
import { codesOf } from '../table/codes.ts'
import { gather, markComplete } from '../table/gather.ts'
import { LazyColumn } from '../table/lazy-column.ts'
import { markAscending } from '../table/rows-in-order.ts'
import { Table } from '../table/table.ts'
import { checkFormula, type TypedNode } from './check.ts'
import { evaluateFormula } from './evaluate.ts'
import { formulaColumn } from './lazy-formula.ts'

const environment = { parameters: { Rate: 2.5, Nothing: null }, now: 0 }
const parsed = (text: string, table: Table) => {
  const checked = checkFormula(text, table.schema, { Rate: 'decimal', Nothing: 'decimal' })
  if ('problem' in checked) throw new Error(JSON.stringify(checked.problem))
  return checked
}
const visits = (rows: readonly (readonly [fee: number | null, minutes: number | null, place: number])[]): Table =>
  Table.of(
    ['Fee', 'Minutes', 'Clinic', 'Day', 'Paid', 'Ref'],
    [
      columnOf(
        'decimal',
        rows.map(([fee]) => fee),
      ),
      columnOf(
        'integer',
        rows.map(([, minutes]) => minutes),
      ),
      columnOf(
        'text',
        rows.map(([, , place]) => [null, 'Oxbow', 'Marlpit', 'Long Acre'][place] as string),
      ),
      columnOf(
        'date',
        rows.map(([, , place]) => (place === 0 ? null : 22_000 + place * 9)),
      ),
      columnOf(
        'boolean',
        rows.map(([, , place]) => place > 1),
      ),
      columnOf(
        'text',
        rows.map((_, i) => (i % 4 === 3 ? null : `${['a', ' B 😀', 'é  x '][i % 3] ?? ''}${i}`)),
      ),
    ],
  )
const rows = fc.array(
  fc.tuple(
    fc.option(fc.constantFrom(0, -0, 0.1, -12.5, 1e308, 3)),
    fc.option(fc.integer({ min: -2, max: 3 })),
    fc.integer({ min: 0, max: 3 }),
  ),
  { minLength: 1, maxLength: 40 },
)
const formulas = [
  'Fee / Minutes * 60 + 1',
  '-Minutes - Minutes',
  'Fee * 10%',
  '1 / (Fee / Minutes)',
  'Fee / Minutes + Minutes / Minutes',
  'Fee * Fee * Fee',
  '(Fee + $Rate) / Minutes',
  'Fee + $Nothing',
  'Minutes / 0',
  'UPPER(LEFT(Clinic; 3))',
  'IF(Paid; Clinic; "none")',
  'LEN(Clinic)',
  'Day + Minutes',
  'DATETRUNC(Day; "month")',
  'NUMBERVALUE(Clinic & "1")',
  'COALESCE(Clinic; "home")',
  'UPPER(LEFT(Ref; 2)) & "-" & RIGHT(Ref; 0) & Clinic',
  'IF(STARTSWITH(Ref; "a"); TRIM(Ref); MID(Ref; 2; 3))',
  'LEFT(Ref; Minutes)',
  'AND(Ref > Clinic; NOT(Paid)) = ISBLANK(Ref)',
]
const cells = (column: Column): Cell[] => Array.from({ length: lengthOf(column) }, (_, row) => cellAt(column, row))
/** The whole formula as it is computed without anything lazy, and the same as a lazy column. */
const both = (text: string, table: Table) => {
  const { formula, type } = parsed(text, table) as { formula: TypedNode; type: Column['type'] }
  const plain = evaluateFormula(formula, type, table, environment)
  const { column, rows: chosen, failures } = formulaColumn(formula, type, table, environment)
  return { plain, made: Table.of([], [], table.rowCount).with(0, 'Made', column, false, chosen), column, failures }
}
const textsOf = ({ codes }: { readonly codes: Uint32Array }, all: readonly Cell[]): unknown => {
  const cellOf = new Map<number, Cell>()
  return all.every((cell, row) => {
    const known = cellOf.has(codes[row]!) ? cellOf.get(codes[row]!) : cell
    cellOf.set(codes[row]!, known ?? null)
    return Object.is(known, cell) && (cell === null) === (codes[row] === 0)
  })
}

describe('a lazy formula holds what the formula gives', () => {
  test.each(formulas)('%s', (text) => {
    fc.assert(
      fc.property(rows, fc.constantFrom('all', 'some', 'some in order'), (given, which) => {
        const all = visits(given)
        const some = Int32Array.from(given.keys()).filter((row) => row % 3 !== 1)
        if (which === 'some in order') markAscending(some)
        const table = which === 'all' ? all : all.rows(markComplete(some))
        const { plain, made, failures } = both(text, table)
        const expected = cells(plain.column)
        expect(expected.map((_, row) => made.cell(0, row))).toEqual(expected)
        expect([...failures]).toEqual([...plain.failures])
        expect(textsOf(made.codes(0), expected)).toBe(true)
        expect(cells(made.column(0))).toEqual(expected)
        const index = Int32Array.of(expected.length - 1, -1, 0)
        expect(cells(both(text, table).made.rows(index).column(0))).toEqual([expected.at(-1), null, expected[0]])
      }),
      { numRuns: 60 },
    )
  })
  test('numbers, texts and dates are computed when they are asked for; what may fail somewhere unknown is at once', () => {
    const table = visits(Array.from({ length: 80 }, (_, i) => [i / 8, i % 4, 1 + (i % 3)]))
    const isLazy = (text: string): boolean => both(text, table).column instanceof LazyColumn
    expect(
      [
        'Fee / Minutes * 60 + 1',
        'UPPER(LEFT(Clinic; 3))',
        'DATETRUNC(Day; "month")',
        'IF(Paid; Clinic; "none")',
        'UPPER(LEFT(Ref; 2))',
      ].map(isLazy),
    ).toEqual([true, true, true, true, true])
    expect(['1 / (Fee / Minutes)', 'Fee ^ 2', 'NUMBERVALUE(Clinic)', 'LEFT(Ref; Minutes)'].map(isLazy)).toEqual([
      false,
      false,
      false,
      false,
    ])
  })
  test('of few of many rows only these are computed', () => {
    const table = visits(Array.from({ length: 400 }, (_, i) => [i, 1 + (i % 3), 1 + (i % 3)]))
    const { column } = both('Fee / Minutes', table)
    const whole = column as LazyColumn
    expect(cells(whole.gather(Int32Array.of(6, -1, 399)))).toEqual([6, null, 399])
    expect(whole.buffers.length).toBe(table.select([0, 1]).buffers.length)
    expect(cells(whole.gather(Int32Array.from({ length: 100 }, (_, i) => i)))).toEqual(
      cells(
        gather(
          whole.column,
          Int32Array.from({ length: 100 }, (_, i) => i),
        ),
      ),
    )
    expect(whole.buffers.length).toBeGreaterThan(table.select([0, 1]).buffers.length)
    expect(codesOf(whole.column).bound).toBe(whole.codes(undefined).bound)
    whole.release()
    expect(whole.cell(7)).toBe(7 / 2)
  })
})

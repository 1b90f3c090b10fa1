import fc from 'fast-check'
import { expect, test } from 'vitest'
import { columnWriter, type Cell, type ColumnType } from '../../table/column.ts'
import { Table } from '../../table/table.ts'
import { pairRows } from './pairs.ts'

const table = (type: ColumnType, cells: readonly Cell[]): Table => {
  const writer = columnWriter(type, cells.length)
  cells.forEach((cell, row) => cell !== null && writer.set(row, cell))
  return Table.of(['Key'], [writer.done()])
}
/** Keys of few values, some empty: whole numbers close together, far apart, days, texts. */
const keys: readonly (readonly [ColumnType, readonly Cell[]])[] = [
  ['integer', [null, -3, 0, 2, 5]],
  ['integer', [null, -3e14, 0, 2, 5e14]],
  ['date', [null, 22_400, 22_401, 22_403]],
  ['text', [null, 'Oxbow', 'Tarn', 'oxbow']],
]

test('rows of a match are the same one by one, before all are found, and all at once; what is counted is what they are', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...keys),
      fc.array(fc.nat(4), { maxLength: 12 }),
      fc.array(fc.nat(4), { maxLength: 8 }),
      fc.constantFrom('left', 'full', 'inner', 'right'),
      ([type, values], left, right, how) => {
        const cells = (of: readonly number[]): Cell[] => of.map((at) => values[at % values.length] as Cell)
        const [lefts, rights] = [cells(left), cells(right)]
        const params = { with: 'other', how, on: [{ left: 'Key', right: 'Key' }], matches: 'first' } as const
        const found = lefts.map((cell) => (cell === null ? -1 : rights.indexOf(cell)))
        const behind =
          how === 'full' || how === 'right'
            ? [...rights.keys()].filter((row) => rights[row] === null || !lefts.includes(rights[row] as Cell))
            : []
        const kept = [...found.keys()].filter((row) => how === 'left' || how === 'full' || (found[row] as number) >= 0)

        const pairs = pairRows(params, table(type, lefts), table(type, rights), 'Other')

        const wanted = [...kept.map((row) => found[row] as number), ...behind]
        expect(Array.from({ length: pairs.right.length }, (_, place) => pairs.right.at(place))).toEqual(wanted)
        expect([...pairs.right.rows]).toEqual(wanted)
        expect(Array.from({ length: pairs.right.length }, (_, place) => pairs.right.at(place))).toEqual(wanted)
        expect([...pairs.left]).toEqual([...kept, ...behind.map(() => -1)])
        expect(pairs.notes).toEqual({
          matched: found.filter((row) => row >= 0).length,
          unmatchedLeft: found.filter((row) => row < 0).length,
          unmatchedRight: rights.filter((cell) => cell === null || !lefts.includes(cell)).length,
          multiplied: 0,
        })
      },
    ),
  )
})

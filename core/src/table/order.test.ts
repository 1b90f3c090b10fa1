import { expect, test } from 'vitest'
import { columnOf, type Cell, type ColumnType } from './column.ts'
import { sortedOrder } from './order.ts'

/** Rows in the order that the recipe's contract gives, computed slowly: by value, ties at their place, empty last either way. */
const slowly = (cells: readonly Cell[], descending: boolean): number[] =>
  cells
    .map((cell, row) => ({ cell: cell as number | null, row }))
    .sort(
      (a, b) =>
        (a.cell === null || b.cell === null
          ? Number(a.cell === null) - Number(b.cell === null)
          : (a.cell - b.cell) * (descending ? -1 : 1)) || a.row - b.row,
    )
    .map(({ row }) => row)
const quickly = (type: ColumnType, cells: readonly Cell[], descending: boolean): number[] => [
  ...sortedOrder([{ column: columnOf(type, cells), descending, natural: false }], cells.length),
]

/** The same 400 numbers on every run, between -1 and 1. */
const unlike = (seed: number): number[] => Array.from({ length: 400 }, (_, i) => Math.sin((i + 1) * seed * 12.9898))

test.each([
  ['whole numbers', (x: number) => Math.round(x * 50)],
  ['whole numbers beyond 32 bits', (x: number) => Math.round(x * 9e15)],
  ['ids of twelve digits close together', (x: number) => 500_000_000_000 + Math.round(x * 1e6)],
  ['whole numbers just about 32 bits apart', (x: number) => Math.round(x * 2 ** 31)],
  ['money', (x: number) => Math.round(x * 9000) / 100],
  ['money among thousandths', (x: number) => (x > 0.9 ? Math.round(x * 9e6) / 1e6 : Math.round(x * 900) / 100)],
  ['numbers of any size', (x: number) => x * 10 ** Math.round(x * 200)],
])('%s are in order up and down, empty last', (_, make) => {
  for (const seed of [1, 2, 3]) {
    const cells = unlike(seed).map((x, i) => (i % 17 === 0 ? null : make(x) + 0))
    for (const descending of [false, true])
      expect(quickly('decimal', cells, descending)).toEqual(slowly(cells, descending))
  }
})

test('days and yes or no are in order up and down, empty last; where all are empty, as they stand', () => {
  for (const descending of [false, true]) {
    const days = unlike(4).map((x, i) => (i % 7 < 2 ? null : Math.round(x * 1000) - 200))
    expect(quickly('date', days, descending)).toEqual(slowly(days, descending))
    const paid = unlike(5).map((x, i) => (i % 7 < 2 ? null : x > 0))
    const asNumbers = paid.map((cell) => (cell === null ? null : Number(cell)))
    expect(quickly('boolean', paid, descending)).toEqual(slowly(asNumbers, descending))
    for (const type of ['decimal', 'date', 'boolean'] as const)
      expect(quickly(type, [null, null, null], descending)).toEqual([0, 1, 2])
  }
})

test('a second key orders what the first leaves alike', () => {
  const clinics = columnOf('text', ['Oxbow', 'marlpit', 'Oxbow', null, 'Marlpit', 'marlpit'])
  const fees = columnOf('decimal', [2.5, 1, 10, 0, 3, null])
  expect([
    ...sortedOrder(
      [
        { column: clinics, descending: false, natural: false },
        { column: fees, descending: true, natural: false },
      ],
      6,
    ),
  ]).toEqual([4, 1, 5, 2, 0, 3])
})

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

import { describe, expect, test } from 'vitest'
import { rolling } from '../testing/rolling.ts'
import { aggregate } from './aggregate.ts'
import { cellAt, columnOf, type Cell } from './column.ts'
import { medianOf } from './median.ts'

const plain = (cells: readonly Cell[]): number | undefined => {
  const sorted = cells.filter((cell): cell is number => cell !== null).sort((a, b) => a - b)
  const middle = sorted.length >> 1
  if (sorted.length === 0) return undefined
  return sorted.length % 2 === 1 ? sorted[middle] : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2
}

describe('the median', () => {
  test('is that of the sorted values, whatever their order, repeats and empty cells', () => {
    const roll = rolling(7)
    for (let n = 0; n < 300; n++) {
      const cells = Array.from({ length: n % 41 }, () => (roll(9) === 0 ? null : roll(n % 5 === 0 ? 3 : 1000) - 300))
      expect(medianOf(columnOf('decimal', cells)), JSON.stringify(cells)).toBe(plain(cells))
    }
    const rising = Array.from({ length: 10_001 }, (_, i) => i)
    expect(medianOf(columnOf('integer', rising))).toBe(5000)
    expect(medianOf(columnOf('integer', rising.toReversed()))).toBe(5000)
  })
})

describe('of groups', () => {
  /** The groups of rows with these ids, and the cells of each. */
  const check = (cells: readonly Cell[], ids: Uint32Array, count: number): void => {
    const groups = { ids, count, first: new Int32Array(count) }
    const column = columnOf('decimal', cells)
    const ofGroup = Array.from({ length: count }, (_, g) => cells.filter((_, i) => ids[i] === g))
    const made = (how: 'median' | 'distinct'): Cell[] => {
      const figures = aggregate({ how }, column, groups, 'decimal').column
      return ofGroup.map((_, g) => cellAt(figures, g))
    }
    // what no number can say is an empty cell that is counted
    const told = (median: number | undefined): Cell =>
      median === undefined || Math.abs(median) === Infinity ? null : median
    expect(made('median')).toEqual(ofGroup.map((those) => told(plain(those))))
    expect(made('distinct')).toEqual(ofGroup.map((those) => new Set(those.filter((cell) => cell !== null)).size))
  }
  const shapes: Readonly<Record<string, (roll: (n: number) => number) => Cell>> = {
    'money with empty cells': (roll) => (roll(20) === 0 ? null : roll(24_000) / 100),
    'whole numbers that repeat': (roll) => roll(3),
    'two far apart, so that the two in the middle are too': (roll) => (roll(2) === 0 ? -1e9 : 1e9 + roll(5)),
    'one far from all others': (roll) => (roll(500) === 0 ? 1e300 : roll(1000)),
    'farther apart than a number can say': (roll) => (roll(2) === 0 ? -1.7e308 : 1.7e308) / (1 + roll(3)),
    'all alike': () => 7.25,
    'all empty': () => null,
    'nearer than a bin can be narrow': (roll) => roll(4) * Number.MIN_VALUE,
  }
  test.each(Object.keys(shapes))('median and different values: %s', (shape) => {
    const roll = rolling(shape.length)
    for (const [rows, count] of [
      [3000, 1],
      [3001, 4],
      [2000, 9],
      [50, 40],
      [0, 1],
    ] as const) {
      const cells = Array.from({ length: rows }, () => shapes[shape]!(roll))
      // the last group has no rows
      const ids = Uint32Array.from(cells, () => roll(Math.max(1, count - 1)))
      check(cells, ids, count)
    }
  })
  test('different values of so many groups that their pairs are not marked', () => {
    const rows = 20_000
    const roll = rolling(3)
    const cells = Array.from({ length: rows }, () => roll(3000))
    check(
      cells.slice(0, 900),
      Uint32Array.from({ length: 900 }, () => roll(700)),
      700,
    )
    const groups = { ids: Uint32Array.from(cells, (_, i) => i), count: rows, first: new Int32Array(rows) }
    const each = aggregate({ how: 'distinct' }, columnOf('integer', cells), groups, 'integer').column
    expect(cells.every((_, row) => cellAt(each, row) === 1)).toBe(true)
  })
})

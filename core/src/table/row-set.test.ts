import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  allRows,
  noRows,
  oneRow,
  RowCounter,
  rowsOfGroups,
  rowsWhere,
  sumOfSets,
  throughIndex,
  timesAt,
  timesOfRows,
  type RowSet,
} from './row-set.ts'

/** A set as pairs of row and times. */
const pairs = (set: RowSet): [number, number][] => [...set.rows].map((row, i) => [row, timesAt(set, i)])
const setOf = (...rows: readonly number[]): RowSet => {
  const counter = new RowCounter(100)
  for (const row of rows) counter.add(row, 1)
  return counter.done()
}

describe('a counter of rows', () => {
  test('gives each row once, ascending, with how often it was added', () => {
    expect(pairs(setOf(7, 3, 7, 7, 0))).toEqual([
      [0, 1],
      [3, 1],
      [7, 3],
    ])
  })
  test('keeps no counts where every row came once', () => {
    expect(setOf(5, 2)).toEqual({ rows: Int32Array.of(2, 5) })
  })
  test('passes over rows that are none', () => expect(pairs(setOf(-1, 4, -1))).toEqual([[4, 1]]))
  test('counts the same whether many rows are added or few', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(4000), { maxLength: 6000, minLength: 0 }),
        fc.integer({ min: 1, max: 3 }),
        (rows, times) => {
          const counter = new RowCounter(4001)
          const expected = new Map<number, number>()
          for (const row of rows) {
            counter.add(row, times)
            expected.set(row, (expected.get(row) ?? 0) + times)
          }
          expect(pairs(counter.done())).toEqual([...expected].sort(([a], [b]) => a - b))
        },
      ),
      { numRuns: 60, seed: 2031 },
    )
  })
})

describe('sets of rows', () => {
  test('go through an index; -1 leads nowhere', () => {
    expect(pairs(throughIndex(setOf(0, 1, 2, 2), Int32Array.of(9, -1, 9), 10))).toEqual([[9, 3]])
  })
  test('of groups are the rows of those groups, as often as the group counts', () => {
    expect(pairs(rowsOfGroups(setOf(1, 1), Uint32Array.of(0, 1, 0, 1, 2)))).toEqual([
      [1, 2],
      [3, 2],
    ])
    expect(rowsOfGroups(noRows, Uint32Array.of(0, 1))).toEqual(noRows)
  })
  test('are told apart by a test, with their counts', () => {
    expect(pairs(rowsWhere(setOf(1, 2, 2, 3), (row) => row > 1))).toEqual([
      [2, 2],
      [3, 1],
    ])
  })
  test('add up', () => {
    expect(pairs(sumOfSets(setOf(1, 2), setOf(2, 5)))).toEqual([
      [1, 1],
      [2, 2],
      [5, 1],
    ])
    expect(sumOfSets(noRows, oneRow(4))).toEqual(oneRow(4))
    expect(sumOfSets(oneRow(4), noRows)).toEqual(oneRow(4))
  })
  test('say of each row of a table how often it counts', () => {
    expect([...timesOfRows(setOf(1, 1, 3), 5)]).toEqual([0, 2, 0, 1, 0])
    expect(pairs(allRows(2))).toEqual([
      [0, 1],
      [1, 1],
    ])
  })
})

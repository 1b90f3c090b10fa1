import { describe, expect, test } from 'vitest'
import { columnOf, type Cell } from './column.ts'
import { medianOf, valueCounts } from './value-counts.ts'

describe('the median', () => {
  const plain = (cells: readonly Cell[]): number | undefined => {
    const sorted = cells.filter((cell): cell is number => cell !== null).sort((a, b) => a - b)
    const middle = sorted.length >> 1
    if (sorted.length === 0) return undefined
    return sorted.length % 2 === 1 ? sorted[middle] : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2
  }
  test('is that of the sorted values, whatever their order, repeats and empty cells', () => {
    let seed = 7
    const next = (most: number): number => (seed = (seed * 48_271) % 2_147_483_647) % most
    for (let n = 0; n < 300; n++) {
      const cells = Array.from({ length: n % 41 }, () => (next(9) === 0 ? null : next(n % 5 === 0 ? 3 : 1000) - 300))
      expect(medianOf(columnOf('decimal', cells)), JSON.stringify(cells)).toBe(plain(cells))
    }
    const rising = Array.from({ length: 10_001 }, (_, i) => i)
    expect(medianOf(columnOf('integer', rising))).toBe(5000)
    expect(medianOf(columnOf('integer', rising.toReversed()))).toBe(5000)
  })
})

describe('values with their rows', () => {
  test('come in order of first appearance, empty cells left out', () => {
    expect([...(valueCounts(columnOf('text', ['b', null, 'a', 'b'])) ?? [])]).toEqual([
      ['b', 2],
      ['a', 1],
    ])
    expect([...(valueCounts(columnOf('boolean', [true, false, true])) ?? [])]).toEqual([
      ['true', 2],
      ['false', 1],
    ])
  })
  test('are given up where there are too many', () => {
    const names = Array.from({ length: 30 }, (_, i) => `name ${i}`)
    expect(valueCounts(columnOf('text', names), 29)).toBeUndefined()
    expect(valueCounts(columnOf('text', names), 30)?.size).toBe(30)
  })
})

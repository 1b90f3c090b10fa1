import { describe, expect, test } from 'vitest'
import { columnOf } from './column.ts'
import { valueCounts } from './value-counts.ts'

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

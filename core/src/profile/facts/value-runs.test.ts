import { expect, test } from 'vitest'
import { columnOf, type ColumnType, type ValueColumn } from '../../table/column.ts'
import { rolling } from '../../testing/rolling.ts'
import { valueRuns } from './value-runs.ts'

test.each<[name: string, type: ColumnType, draw: (roll: (n: number) => number) => number, rows: number]>([
  ['few rows', 'decimal', (roll) => roll(50) / 4, 300],
  ['whole numbers close together', 'integer', (roll) => roll(90) - 45, 20_000],
  ['whole numbers far apart', 'integer', (roll) => roll(40) * 1e9, 20_000],
  ['amounts that repeat', 'decimal', (roll) => roll(700) / 100, 20_000],
  ['amounts that hardly repeat', 'decimal', (roll) => roll(2_000_000) / 7, 20_000],
  ['amounts of which the first repeat and the others do not', 'decimal', (roll) => roll(9) / 8, 20_000],
  ['days', 'date', (roll) => 22_000 + roll(1000), 20_000],
  ['moments', 'datetime', (roll) => 1.9e12 + roll(500) * 60_000, 20_000],
])('%s: each filled value once, in order, with its rows', (name, type, draw, rows) => {
  const roll = rolling(7)
  const cells = Array.from({ length: rows }, (_, row) => {
    if (roll(10) === 0) return null
    return name.includes('others') && row > 2500 ? row / 3 : draw(roll)
  })
  const filled = cells.filter((cell) => cell !== null).toSorted((a, b) => a - b)
  const runs = valueRuns(columnOf(type, cells) as ValueColumn)
  expect(runs.filled).toBe(filled.length)
  expect([...runs.values].flatMap((value, i) => Array.from({ length: runs.counts[i]! }, () => value))).toEqual(filled)
  expect(new Set(runs.values).size).toBe(runs.values.length)
  for (const k of [0, 1, filled.length >> 1, filled.length - 1]) expect(runs.at(k)).toBe(filled[k])
  for (const bound of [filled[0]! - 1, filled[0]!, filled[filled.length >> 1]!, filled.at(-1)!, filled.at(-1)! + 1]) {
    expect(runs.below(bound)).toBe(filled.filter((value) => value < bound).length)
    expect(runs.upTo(bound)).toBe(filled.filter((value) => value <= bound).length)
  }
})

test('of nothing there is nothing', () => {
  const runs = valueRuns(columnOf('decimal', [null, null]) as ValueColumn)
  expect([runs.filled, runs.below(1), runs.upTo(1), runs.values.length]).toEqual([0, 0, 0, 0])
})

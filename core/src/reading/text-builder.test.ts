import { describe, expect, test } from 'vitest'
import { rolling } from '../testing/rolling.ts'
import { cellAt } from '../table/column.ts'
import { TextBuilder } from './text-builder.ts'

/** A text of each row, and the column that is built of them where so many rows are expected. */
const built = (rows: number, expected: number, text: (row: number) => string) => {
  const builder = new TextBuilder(expected)
  for (let row = 0; row < rows; row++) builder.add(text(row))
  const column = builder.done()
  for (let row = 0; row < rows; row += 997) expect(cellAt(column, row)).toBe(text(row) || null)
  return column.form
}
const drawn = (among: number, rows: number): ((row: number) => string) => {
  const roll = rolling(3)
  const texts = Array.from({ length: rows }, () => `A${roll(among)}`)
  return (row) => texts[row] as string
}

describe('a text column is a dictionary', () => {
  test('of few texts, and of many that the rest of the file will repeat', () => {
    expect(built(25_000, 1_000_000, (row) => (row % 9 === 0 ? '' : `w${row % 40}`))).toBe('dictionary')
    // of 20,000 rows more than half differ already
    expect(built(25_000, 1_000_000, drawn(50_000, 25_000))).toBe('dictionary')
  })
  test('but not where nearly all texts differ, or will', () => {
    expect(built(25_000, 1_000_000, (row) => `B${row}`)).toBe('plain')
    expect(built(25_000, 1_000_000, (row) => (row % 2 === 0 ? '' : `B${row}`))).toBe('dictionary')
    expect(built(25_000, 25_000, drawn(50_000, 25_000))).toBe('plain')
    expect(built(25_000, 1_000_000, drawn(3_000_000, 25_000))).toBe('plain')
  })
  test('nor where equal texts stand together and new ones go on to come', () => {
    const pairs = (row: number): string => `B${row - (row % 3 === 1 ? 1 : 0)}`
    expect(built(150_000, 1_000_000, pairs)).toBe('dictionary')
    expect(built(165_000, 1_000_000, pairs)).toBe('plain')
  })
})

import fc from 'fast-check'
import { expect, test } from 'vitest'
import { bytesColumn } from '../testing/bytes-column.ts'
import { columnOf, lengthOf, textAt, type TextColumn } from './column.ts'
import { joinedTexts } from './joined-texts.ts'
import { maxCellCharacters } from './limits.ts'

const textsOf = (column: TextColumn): string[] => Array.from({ length: lengthOf(column) }, (_, i) => textAt(column, i))
const text = fc.string({ unit: 'grapheme', maxLength: 6 })

test('texts of bytes, of a dictionary and one for all rows are joined row by row', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(text, text), { minLength: 1, maxLength: 12 }), text, (rows, constant) => {
      const plain = rows.map(([one]) => one)
      const words = rows.map(([, two]) => two)
      const coded = columnOf(
        'text',
        words.map((word) => word || null),
      ) as TextColumn
      const made = joinedTexts([constant, bytesColumn(plain), coded, bytesColumn(plain)], rows.length)
      expect(made && textsOf(made)).toEqual(rows.map(([one, two]) => constant + one + two + one))
    }),
  )
})
test('what is no bytes, has no UTF-8 or is too long for a cell is left to others', () => {
  const plain = bytesColumn(['a', 'b'])
  expect(joinedTexts([columnOf('text', ['x', 'y']) as TextColumn, '-'], 2)).toBeUndefined()
  expect(joinedTexts([plain, '\ud800'], 2)).toBeUndefined()
  expect(joinedTexts([plain, columnOf('text', ['x', '\udc00']) as TextColumn], 2)).toBeUndefined()
  expect(joinedTexts([plain, 'x'.repeat(maxCellCharacters)], 2)).toBeUndefined()
  expect(joinedTexts([plain, 'x'.repeat(maxCellCharacters - 1)], 2)).toBeDefined()
  // the strings were asked for, and the bytes are gone
  const read = bytesColumn(['a', 'b'])
  expect(read.strings).toEqual(['a', 'b'])
  expect(joinedTexts([read, '-'], 2)).toBeUndefined()
})

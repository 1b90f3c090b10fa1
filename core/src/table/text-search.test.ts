import fc from 'fast-check'
import { expect, test } from 'vitest'
import { bytesColumn } from '../testing/bytes-column.ts'
import { searchBytes, type TextSearch } from './text-search.ts'

const says: Readonly<Record<TextSearch, (text: string, other: string) => boolean>> = {
  is: (text, other) => text === other,
  contains: (text, other) => text.includes(other),
  'starts-with': (text, other) => text.startsWith(other),
  'ends-with': (text, other) => text.endsWith(other),
}
const few = fc.array(fc.constantFrom('a', 'b', 'é', '🐇', 'ß'), { maxLength: 5 }).map((signs) => signs.join(''))

test('texts are found in bytes as in strings', () => {
  fc.assert(
    fc.property(
      fc.array(few, { minLength: 1, maxLength: 12 }),
      few,
      fc.constantFrom(...(Object.keys(says) as TextSearch[])),
      (texts, other, search) => {
        const found = searchBytes(bytesColumn(texts), search, other)
        if (other === '') expect(found).toBeUndefined()
        else expect([...(found ?? [])]).toEqual(texts.map((text) => (says[search](text, other) ? 1 : 0)))
      },
    ),
    { numRuns: 500 },
  )
})
test('what has no bytes is left to strings', () => {
  expect(searchBytes(bytesColumn(['a']), 'contains', '\ud83d')).toBeUndefined()
  expect(searchBytes({ type: 'text', form: 'plain', strings: ['a'] }, 'contains', 'a')).toBeUndefined()
})

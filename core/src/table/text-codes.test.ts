import { expect, test } from 'vitest'
import { factsOf } from '../profile/facts/facts.ts'
import { bytesColumn } from '../testing/bytes-column.ts'
import { codesOf, sharedCodes } from './codes.ts'
import { asDictionary, columnOf, textAt } from './column.ts'
import { gather } from './gather.ts'
import type { PlainText } from './stored-text.ts'

const texts = ['Oxbow', '', 'Tarn End', 'Oxbow', 'Grünau 🐇', 'B7', 'tarn end', '']

test('texts that are bytes have the codes and the dictionary of the same texts as strings', () => {
  const bytes = bytesColumn(texts)
  const strings = columnOf('text', texts) as ReturnType<typeof asDictionary>
  expect(codesOf(bytes)).toEqual({ codes: strings.indices, bound: strings.dictionary.length })
  expect(asDictionary(bytes)).toEqual(strings)
  // coded without a string for each of them
  expect(bytes.stored?.encoded).toBeDefined()
  const mixed = gather(bytes, Int32Array.from([5, -1, 0, 5, 2])) as PlainText
  expect(asDictionary(mixed)).toEqual(columnOf('text', ['B7', '', 'Oxbow', 'B7', 'Tarn End']))
})

test('equal texts of two columns have equal codes, whatever form they have', () => {
  const others = ['B7', 'Marlpit', '', 'Oxbow']
  for (const left of [bytesColumn(texts), columnOf('text', texts)])
    for (const right of [bytesColumn(others), columnOf('text', others)]) {
      const codes = sharedCodes(left, right)
      const again = sharedCodes(left, right)
      expect([...again.left, ...again.right]).toEqual([...codes.left, ...codes.right])
      for (let i = 0; i < texts.length; i++)
        for (let k = 0; k < others.length; k++) expect(codes.left[i] === codes.right[k]).toBe(texts[i] === others[k])
      for (const code of [...codes.left, ...codes.right]) expect(code).toBeLessThan(codes.bound)
      expect(texts.map((text, i) => (text === '' ? 0 : codes.left[i]))).toEqual([...codes.left])
    }
})

test('facts of texts that are bytes are those of the same texts as strings', () => {
  for (const deep of [true, false])
    expect(factsOf('Name', bytesColumn(texts), deep)).toEqual(factsOf('Name', columnOf('text', texts), deep))
  const bytes = bytesColumn(texts)
  expect(factsOf('Name', bytes, false)).toMatchObject({ filled: 6, distinct: 5 })
  expect(bytes.stored?.encoded).toBeDefined()
  expect(textAt(bytes, 4)).toBe('Grünau 🐇')
  // another name asks for other conditions
  expect(factsOf('Clinic', bytes).common[0]).toMatchObject({ label: 'Oxbow', where: { column: 'Clinic' } })
})

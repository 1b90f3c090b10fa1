import fc from 'fast-check'
import { expect, test } from 'vitest'
import { shapeCounts } from './shapes.ts'

/** What the shape of a text is, said once more: classes of characters, runs of five and more cut short. */
const shapeOf = (text: string): string =>
  text
    .replace(/\p{Lu}/gu, 'A')
    .replace(/\p{Ll}/gu, 'a')
    .replace(/\p{N}/gu, '9')
    .replace(/(A|a|9)\1{4,}/g, '$1$1$1…')
const expected = (words: readonly { text: string; count: number }[]) => {
  const counts = new Map<string, number>()
  for (const { text, count } of words) counts.set(shapeOf(text), (counts.get(shapeOf(text)) ?? 0) + count)
  return [...counts]
    .map(([label, count]) => ({ label, count }))
    .sort((a, b) => b.count - a.count)
    .slice(0, 6)
}

test('shapes of texts, the commonest first, those of equal count in order of appearance', () => {
  const text = fc.string({ unit: fc.constantFrom('A', 'b', 'Z', '7', '0', '-', ' ', '.', 'é', 'ß', 'Ä'), minLength: 1 })
  const word = fc.record({ text, count: fc.integer({ min: 1, max: 9 }) })
  fc.assert(
    fc.property(fc.array(word, { maxLength: 40 }), (words) => {
      expect(shapeCounts(words)).toEqual(expected(words))
    }),
  )
})

test('long runs are one shape, whatever their length', () => {
  const words = ['VAC-1', 'VAC-12', 'B1000000', 'B20000', 'B999', 'aaaaaaaaaaaa'].map((text) => ({ text, count: 1 }))
  expect(shapeCounts(words)).toEqual([
    { label: 'A999…', count: 2 },
    { label: 'AAA-9', count: 1 },
    { label: 'AAA-99', count: 1 },
    { label: 'A999', count: 1 },
    { label: 'aaa…', count: 1 },
  ])
})

test('more shapes than there are states for are counted too', () => {
  const sign = (n: number): string => '!#$%&()*+,-./:;<=>?@'[Math.floor(n) % 20] as string
  const words = Array.from({ length: 9000 }, (_, i) => ({
    text: `${sign(i)}${sign(i / 20)}${sign(i / 400)}a${sign(i / 8000)}`,
    count: 1 + (i % 7 === 0 ? 3 : 0),
  }))
  const twice = [...words, ...words.slice(0, 5), { text: words[8999]?.text ?? '', count: 40 }]
  expect(shapeCounts(twice)).toEqual(expected(twice))
})

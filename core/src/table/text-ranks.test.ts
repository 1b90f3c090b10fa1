import fc from 'fast-check'
import { expect, test } from 'vitest'
import { columnOf, type TextColumn } from './column.ts'
import { compareText, textRanks } from './text-ranks.ts'

const piece = fc.constantFrom(
  'a',
  'B',
  'b',
  'Z',
  '0',
  '7',
  '12',
  '007',
  ' ',
  '-',
  '\0',
  '\x7f',
  'é',
  'É',
  'ß',
  'İ',
  'Σ',
  '\ue000',
  '🐇',
  'ﬀ',
)
const word = fc.array(piece, { maxLength: 7 }).map((pieces) => pieces.join(''))
/** Texts that begin alike, so that what is told apart stands behind the first characters. */
const texts = fc
  .tuple(fc.constantFrom('', 'Fernhollow ', 'clinic é '), fc.array(word, { minLength: 1, maxLength: 40 }), fc.boolean())
  .map(([start, words, some]) => words.map((one, i) => (some && i % 5 === 0 ? '' : start + one)))

const formsOf = (all: readonly string[]): TextColumn[] => [
  columnOf(
    'text',
    all.map((text) => text || null),
  ) as TextColumn,
  { type: 'text', form: 'plain', strings: all },
]

test('ranks have the order of the texts, equal ones alike and the empty one last, whatever form a column has', () => {
  fc.assert(
    fc.property(texts, fc.boolean(), (all, natural) => {
      const compare = compareText(natural)
      const filled = [...new Set(all.filter((text) => text !== ''))].sort(compare)
      for (const column of formsOf(all)) {
        const { ranks, bound } = textRanks(column, natural)
        const rankOf = new Map(all.map((text, row) => [text, ranks[row]!]))
        // rows of one text have one rank
        expect(all.map((text) => rankOf.get(text))).toEqual([...ranks])
        const inOrder = filled.map((text) => rankOf.get(text) as number)
        expect(inOrder).toEqual([...new Set(inOrder)].sort((a, b) => a - b))
        expect(Math.max(-1, ...ranks)).toBeLessThan(bound)
        const empty = rankOf.get('')
        if (empty !== undefined) expect(empty).toBe(bound - 1)
        expect(inOrder.every((rank) => rank < bound - 1)).toBe(true)
      }
    }),
  )
})
test('a column sorted by again keeps its ranks', () => {
  for (const column of formsOf(['b', '', 'a10', 'a9'])) {
    expect([...textRanks(column, false).ranks]).toEqual([2, 3, 0, 1])
    expect([...textRanks(column, true).ranks]).toEqual([2, 3, 1, 0])
    expect([...textRanks(column, false).ranks]).toEqual([2, 3, 0, 1])
  }
})

import { kernels } from '../kernels/kernels.ts'
import { uint32s } from '../kernels/memory.ts'
import { lengthOf, type TextColumn } from './column.ts'
import { rowReader } from './stored-text.ts'
import { compareCodePoints, lower, naturalKey } from './text.ts'

/** What texts are compared by first. */
const keyOf = (text: string, natural: boolean): string => (natural ? naturalKey(lower(text)) : lower(text))

/** Text by its lower-cased code points, ties by code points; naturally, digit runs first as numbers. */
export const compareText = (natural: boolean): ((a: string, b: string) => number) => {
  const keys = new Map<string, string>()
  const known = (text: string): string => {
    let key = keys.get(text)
    if (key === undefined) keys.set(text, (key = keyOf(text, natural)))
    return key
  }
  return (a, b) => compareCodePoints(known(a), known(b)) || compareAlike(a, b, natural)
}
/** Texts whose keys are the same. */
const compareAlike = (a: string, b: string, natural: boolean): number =>
  (natural ? compareCodePoints(lower(a), lower(b)) : 0) || compareCodePoints(a, b)

/** So many characters of the keys are sorted by as numbers, four in a word. */
const wordsAKey = 4
const beyondAscii = 0xff

/** How many characters all keys begin with, and how many the longest has. */
const extentOf = (keys: readonly string[]): { readonly shared: number; readonly longest: number } => {
  const [first = ''] = keys
  let shared = first.length
  let longest = 0
  for (const key of keys) {
    let same = 0
    while (same < shared && key.charCodeAt(same) === first.charCodeAt(same)) same++
    shared = same
    longest = Math.max(longest, key.length)
  }
  return { shared, longest }
}
/**
 * Four characters of each key as a number that has their order: 0 behind the end, and behind the first that is not ASCII, which
 * stands above all that are. Keys with the same numbers need not be the same.
 */
const fillWord = (word: Uint32Array, keys: readonly string[], from: number, ended: Uint8Array): void => {
  const n = word.length
  for (let i = 0; i < n; i++) {
    const key = keys[i] as string
    let bits = 0
    for (let k = from; k < from + 4; k++) {
      let code = k < key.length && ended[i] === 0 ? key.charCodeAt(k) : 0
      if (code > 127) {
        code = beyondAscii
        ended[i] = 1
      }
      bits = (bits << 8) | code
    }
    word[i] = bits
  }
}
/** Marks places whose word is another than that of the place before. */
const markBreaks = (order: Int32Array, word: Uint32Array, breaks: Uint8Array): void => {
  const n = order.length
  for (let i = 1; i < n; i++) if (word[order[i]!] !== word[order[i - 1]!]) breaks[i] = 1
}

/** Places of texts in order: by the first characters of their keys as numbers, then those alike in them by all of their characters. */
const orderOfTexts = (texts: readonly string[], natural: boolean): Int32Array => {
  const keys = texts.map((text) => keyOf(text, natural))
  const { shared, longest } = extentOf(keys)
  const ended = new Uint8Array(texts.length)
  const words: Uint32Array[] = []
  for (let from = shared; from < longest && words.length < wordsAKey; from += 4) {
    const word = uint32s(texts.length)
    fillWord(word, keys, from, ended)
    words.push(word)
  }
  let order: Int32Array = Int32Array.from(texts, (_, i) => i)
  for (const word of [...words].reverse()) order = kernels().sortRows(order, [{ ranks: word, bits: 32 }])
  const breaks = new Uint8Array(texts.length)
  for (const word of words) markBreaks(order, word, breaks)
  const compare = (a: number, b: number): number =>
    compareCodePoints(keys[a] as string, keys[b] as string) ||
    compareAlike(texts[a] as string, texts[b] as string, natural)
  for (let from = 0, end = 0; from < order.length; from = end) {
    end = from + 1
    while (end < order.length && breaks[end] === 0) end++
    if (end > from + 1) order.subarray(from, end).sort(compare)
  }
  return order
}

/** A rank a text, all below `bound`; equal texts have equal ranks, and the empty text has the last. */
export type TextRanks = { readonly ranks: Uint32Array; readonly bound: number }

const rank = (texts: readonly string[], natural: boolean): TextRanks => {
  const order = orderOfTexts(texts, natural)
  const ranks = uint32s(texts.length)
  let next = 0
  let before: string | undefined
  for (const at of order) {
    const text = texts[at] as string
    if (text !== '' && before !== undefined && text !== before) next++
    if (text === '') continue
    ranks[at] = next
    before = text
  }
  const last = before === undefined ? 0 : next + 1
  texts.forEach((text, at) => {
    if (text === '') ranks[at] = last
  })
  return { ranks, bound: last + 1 }
}

type Ranked = { plain?: TextRanks; natural?: TextRanks }
/** Ranks of the words of a dictionary, or of the rows of a plain column: columns do not change, and are sorted by again. */
const ranksKnown = new WeakMap<object, Ranked>()
const ranked = (of: object, texts: () => readonly string[], natural: boolean): TextRanks => {
  const found = ranksKnown.get(of) ?? {}
  ranksKnown.set(of, found)
  return (found[natural ? 'natural' : 'plain'] ??= rank(texts(), natural))
}

const rowsOf = (column: TextColumn & { form: 'plain' }): string[] => {
  const read = rowReader(column)
  return Array.from({ length: lengthOf(column) }, (_, row) => read(row))
}

/** A rank a row of a text column in ascending order. */
export const textRanks = (column: TextColumn, natural: boolean): TextRanks => {
  if (column.form === 'plain') return ranked(column, () => rowsOf(column), natural)
  const { indices, dictionary } = column
  const { ranks, bound } = ranked(dictionary, () => dictionary, natural)
  const ofRows = uint32s(indices.length)
  kernels().lookUp(indices, ranks, ofRows)
  return { ranks: ofRows, bound }
}

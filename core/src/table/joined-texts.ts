import { textsOf } from '../kernels/csv-output.ts'
import { uint32s, uint8s } from '../kernels/memory.ts'
import type { TextColumn } from './column.ts'
import { maxCellCharacters, maxColumnCharacters } from './limits.ts'
import {
  gatherEncoded,
  LazyStrings,
  plainBytes,
  plainTextFromBytes,
  unpacked,
  type Decoder,
  type EncodedStrings,
  type PlainText,
} from './stored-text.ts'

/** Texts with half of a pair of surrogates have no UTF-8. */
const isWritable = (text: string): boolean => !/\p{Surrogate}/u.test(text)

/** Texts behind one another as bytes; undefined where one has no UTF-8. */
const encode = (texts: readonly string[], decoder: Decoder): EncodedStrings | undefined => {
  if (!texts.every(isWritable)) return undefined
  const { bytes, ends } = textsOf(texts)
  const offsets = uint32s(texts.length + 1)
  offsets.set(ends, 1)
  return unpacked({ offsets, bytes }, decoder)
}

/** A column's cells, or the bytes of one text for all rows; undefined where there are none. */
const encodedPart = (part: TextColumn | string, decoder: Decoder): EncodedStrings | Uint8Array | undefined => {
  if (typeof part === 'string') return encode([part], decoder)?.bytes
  if (part.form === 'plain') return part.stored?.encoded
  const words = encode(part.dictionary, decoder)
  const { indices } = part
  return words && gatherEncoded(words, new Int32Array(indices.buffer, indices.byteOffset, indices.length))
}

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

/** Adds the bytes of each row of a part to what the parts before have. */
const addLengths = (lengths: Float64Array, { starts, ends }: EncodedStrings): void => {
  const n = lengths.length
  for (let i = 0; i < n; i++) lengths[i] = lengths[i]! + ends[i]! - starts[i]!
}
/** Copies one text to the place of each row, and moves the places behind it. */
const copyText = (bytes: Uint8Array, places: Uint32Array, from: Uint8Array): void => {
  const n = places.length
  const length = from.length
  for (let i = 0; i < n; i++) {
    const at = places[i]!
    for (let k = 0; k < length; k++) bytes[at + k] = from[k]!
    places[i] = at + length
  }
}
/** Offsets of texts of so many bytes each; whether all are short enough for a cell, and together for a column. */
const placeTexts = (lengths: Float64Array, offsets: Uint32Array): boolean => {
  const n = lengths.length
  let end = 0
  let longest = 0
  for (let i = 0; i < n; i++) {
    end += lengths[i]!
    if (lengths[i]! > longest) longest = lengths[i]!
    offsets[i + 1] = end
  }
  return longest <= maxCellCharacters && end <= maxColumnCharacters
}
/** Copies each row of a part to its place, and moves the place behind it. */
const copyTexts = (
  bytes: Uint8Array,
  places: Uint32Array,
  from: Uint8Array,
  starts: Uint32Array,
  ends: Uint32Array,
): void => {
  const n = starts.length
  for (let i = 0; i < n; i++) {
    let at = places[i]!
    const end = ends[i]!
    for (let k = starts[i]!; k < end; k++) bytes[at++] = from[k]!
    places[i] = at
  }
}

/**
 * The texts of each row behind one another, of columns of which one at least is bytes, without a string a cell. Undefined where that
 * is not so, where a text has no UTF-8, and where one may be longer than a cell can hold.
 */
export const joinedTexts = (parts: readonly (TextColumn | string)[], rows: number): PlainText | undefined => {
  const first = parts.flatMap((part) =>
    typeof part !== 'string' && part.form === 'plain' ? (part.stored?.encoded ?? []) : [],
  )[0]
  if (!first) return undefined
  const { decoder } = first
  const all = parts.flatMap((part) => encodedPart(part, decoder) ?? [])
  if (all.length < parts.length) return undefined
  const constant = all.reduce((sum, part) => sum + (part instanceof Uint8Array ? part.length : 0), 0)
  const lengths = new Float64Array(rows).fill(constant)
  for (const part of all) if (!(part instanceof Uint8Array)) addLengths(lengths, part)
  const offsets = uint32s(rows + 1)
  if (!placeTexts(lengths, offsets)) return undefined
  const bytes = uint8s(offsets[rows]!)
  const places = offsets.slice(0, rows)
  for (const part of all)
    if (part instanceof Uint8Array) copyText(bytes, places, part)
    else copyTexts(bytes, places, plainBytes(part.bytes), part.starts, part.ends)
  return plainTextFromBytes('text', new LazyStrings(unpacked({ offsets, bytes }, decoder)))
}

import { kernels } from '../kernels/kernels.ts'
import { uint32s, uint8s } from '../kernels/memory.ts'
import type { DenseCodes } from '../kernels/table-kernels.ts'

/** Bytes that V8 takes for a string, on average. */
export const bytesAString = 40

/** The same bytes as a plain array of them: a loop that meets subclasses, such as what files are read into, is several times as slow. */
export const plainBytes = (bytes: Uint8Array): Uint8Array =>
  bytes.constructor === Uint8Array ? bytes : new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength)

/** Text of many cells in one buffer: cell i is the UTF-8 of `bytes` from `starts[i]` up to `ends[i]`. */
export type EncodedStrings = {
  readonly starts: Uint32Array
  readonly ends: Uint32Array
  readonly bytes: Uint8Array
  readonly decode: (start: number, end: number) => string
  readonly decoder: Decoder
}
/** What makes texts of spans of some bytes. */
export type Decoder = (bytes: Uint8Array) => (start: number, end: number) => string

/** Cells that lie behind one another from the first byte on: `offsets` has one entry more than there are cells. */
export type PackedStrings = { readonly offsets: Uint32Array; readonly bytes: Uint8Array }

/** Cells of packed text. */
export const unpacked = ({ offsets, bytes }: PackedStrings, decoder: Decoder): EncodedStrings => ({
  starts: offsets.subarray(0, -1),
  ends: offsets.subarray(1),
  bytes,
  decode: decoder(bytes),
  decoder,
})

/** So many bytes are decoded at once. */
const bytesAPiece = 1 << 16

/** The cells of some rows as strings. Pieces of ASCII, where bytes and characters have the same places, are decoded whole and cut. */
const decodeRows = ({ starts, ends, bytes, decode }: EncodedStrings, first: number, last: number): string[] => {
  const strings = new Array<string>(last - first)
  let piece = ''
  let from = 0
  let to = 0
  let ascii = false
  for (let i = first; i < last; i++) {
    const start = starts[i]!
    const end = ends[i]!
    if (start < from || end > to) {
      from = start
      to = Math.min(bytes.length, Math.max(end, start + bytesAPiece))
      piece = decode(from, to)
      // what is cut off at the end of a piece belongs to a cell that goes on behind it
      ascii = piece.length === to - from
    }
    strings[i - first] = ascii ? piece.slice(start - from, end - from) : decode(start, end)
  }
  return strings
}

/** Strings that stay bytes until somebody needs all of them; a single one is decoded alone. */
export class LazyStrings {
  private made: readonly string[] | undefined
  private stored: EncodedStrings | undefined
  readonly length: number
  constructor(stored: EncodedStrings) {
    this.stored = stored
    this.length = stored.starts.length
  }
  at(i: number): string {
    if (!this.stored) return this.made?.[i] ?? ''
    return this.stored.decode(this.stored.starts[i] ?? 0, this.stored.ends[i] ?? 0)
  }
  isEmptyAt(i: number): boolean {
    return this.stored ? this.stored.starts[i] === this.stored.ends[i] : this.made?.[i] === ''
  }
  get all(): readonly string[] {
    if (this.stored) {
      this.made = decodeRows(this.stored, 0, this.length)
      this.stored = undefined
    }
    return this.made ?? []
  }
  /** The bytes, while nobody has asked for all strings. */
  get encoded(): EncodedStrings | undefined {
    return this.stored
  }
  /** Whether no cell has more bytes, or characters, than these. */
  isWithin(most: number): boolean {
    if (!this.stored) return this.all.every((text) => text.length <= most)
    const { starts, ends } = this.stored
    const n = starts.length
    // texts behind one another that together are no longer need not be looked at one by one
    const together = starts.buffer === ends.buffer ? 64 : 1
    for (let first = 0; first < n; first += together) {
      const end = Math.min(n, first + together)
      if (ends[end - 1]! - starts[first]! <= most) continue
      for (let i = first; i < end; i++) if (ends[i]! - starts[i]! > most) return false
    }
    return true
  }
  /** The buffers held now, for accounting; after `all` the strings themselves. */
  get buffers(): readonly (readonly [object, number])[] {
    const { stored, made = [] } = this
    return stored
      ? [
          [stored.starts.buffer, stored.starts.buffer.byteLength],
          [stored.ends.buffer, stored.ends.buffer.byteLength],
          [stored.bytes.buffer, stored.bytes.byteLength],
        ]
      : [[made, made.length * bytesAString]]
  }
}

/** Codes of texts that are bytes, looked for once and remembered with them. */
const codesOfTexts = new WeakMap<EncodedStrings, DenseCodes>()
/** A code a row, so that equal texts have equal codes; 0 for empty ones, the others in order of first appearance. O(bytes). */
export const encodedCodes = (texts: EncodedStrings): DenseCodes => {
  const codes = codesOfTexts.get(texts) ?? kernels().textCodes(texts)
  codesOfTexts.set(texts, codes)
  return codes
}

/** The cells at these positions, which share the bytes; -1 gives an empty one. */
export const gatherEncoded = (from: EncodedStrings, index: Int32Array): EncodedStrings => {
  const starts = uint32s(index.length)
  const ends = uint32s(index.length)
  fillPlaces(starts, from.starts, index)
  fillPlaces(ends, from.ends, index)
  return { ...from, starts, ends }
}
const fillPlaces = (to: Uint32Array, from: Uint32Array, index: Int32Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = from[index[i]!]!
}

/** Cells of several texts behind one another; bytes are copied where not all have the same. Undefined where they are too many. */
export const concatEncoded = (parts: readonly EncodedStrings[]): EncodedStrings | undefined => {
  const [first] = parts
  if (!first) return undefined
  const total = parts.reduce((sum, { starts }) => sum + starts.length, 0)
  if (parts.some(({ bytes }) => bytes !== first.bytes)) return concatPacked(parts, total, first.decoder)
  const starts = uint32s(total)
  const ends = uint32s(total)
  let at = 0
  for (const part of parts) {
    starts.set(part.starts, at)
    ends.set(part.ends, at)
    at += part.starts.length
  }
  return { ...first, starts, ends }
}
const concatPacked = (
  parts: readonly EncodedStrings[],
  total: number,
  decoder: Decoder,
): EncodedStrings | undefined => {
  const packed = parts.flatMap((part) => pack(part) ?? [])
  const size = packed.reduce((sum, { bytes }) => sum + bytes.length, 0)
  if (packed.length < parts.length || size > 0xffff_ffff) return undefined
  const bytes = uint8s(size)
  const offsets = uint32s(total + 1)
  let at = 0
  let end = 0
  for (const part of packed) {
    bytes.set(part.bytes, end)
    shiftPlaces(offsets, at, part.offsets, end)
    at += part.offsets.length - 1
    end += part.bytes.length
  }
  return unpacked({ offsets, bytes }, decoder)
}
const shiftPlaces = (to: Uint32Array, at: number, from: Uint32Array, by: number): void => {
  const n = from.length
  for (let i = 0; i < n; i++) to[at + i] = from[i]! + by
}

/** The cells behind one another from the first byte on, as they are written to a file. Undefined where they are too long for 32-bit places. */
export const pack = (text: EncodedStrings): PackedStrings | undefined => {
  const { starts, ends, bytes } = text
  const count = starts.length
  const together = packRows(text, 0, count)
  const offsets = uint32s(count + 1)
  if (together) {
    offsets.set(together.ends, 1)
    return { offsets, bytes: together.bytes }
  }
  let length = 0
  for (let i = 0; i < count; i++) {
    length += ends[i]! - starts[i]!
    if (length > 0xffff_ffff) return undefined
    offsets[i + 1] = length
  }
  const packed = uint8s(length)
  for (let i = 0; i < count; i++) packed.set(bytes.subarray(starts[i], ends[i]), offsets[i])
  return { offsets, bytes: packed }
}

/** The bytes of some rows where they lie behind one another, with their ends; undefined where they do not. */
export const packRows = (
  { starts, ends, bytes }: EncodedStrings,
  from: number,
  to: number,
): { readonly bytes: Uint8Array; readonly ends: Uint32Array } | undefined => {
  const first = starts[from] ?? 0
  const made = uint32s(to - from)
  return endsTogether(starts, ends, from, made)
    ? { bytes: bytes.subarray(first, first + (made.at(-1) ?? 0)), ends: made }
    : undefined
}
/** Ends of cells counted from the start of the first; whether each begins where the one before ends. */
const endsTogether = (starts: Uint32Array, ends: Uint32Array, from: number, made: Uint32Array): boolean => {
  const n = made.length
  const first = n > 0 ? starts[from]! : 0
  for (let i = 0, at = first; i < n; i++) {
    if (starts[from + i] !== at) return false
    at = ends[from + i]!
    made[i] = at - first
  }
  return true
}

/** A plain text column that is read from stored bytes on use. An own getter, so that a copy by spread has its strings too. */
export const plainTextFromBytes = (type: 'text' | 'list', stored: LazyStrings): PlainText => ({
  type,
  form: 'plain',
  stored,
  get strings() {
    return stored.all
  },
})

/** So many rows are decoded at a time. */
const rowsAPiece = 4096

/** Reads the texts of a plain column one after another: bytes stay bytes, but for those of some thousand rows. */
export const rowReader = (column: PlainText): ((row: number) => string) => {
  const encoded = column.stored?.encoded
  if (!encoded) {
    const { strings } = column
    return (row) => strings[row] as string
  }
  let first = 0
  let piece: string[] = []
  return (row) => {
    if (row < first || row >= first + piece.length) {
      first = row
      piece = decodeRows(encoded, row, Math.min(encoded.starts.length, row + rowsAPiece))
    }
    return piece[row - first] as string
  }
}

/** Text whose values nearly all differ: one string a row, made from bytes on first use. */
export type PlainText = {
  readonly type: 'text' | 'list'
  readonly form: 'plain'
  readonly strings: readonly string[]
  /** Where the strings are still bytes: single cells are read from here. */ readonly stored?: LazyStrings
}

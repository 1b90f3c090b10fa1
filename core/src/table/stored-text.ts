import { uint32s, uint8s } from '../kernels/memory.ts'

/** Bytes that V8 takes for a string, on average. */
export const bytesAString = 40

/** Text of many cells in one buffer: cell i is the UTF-8 of `bytes` from `starts[i]` up to `ends[i]`. */
export type EncodedStrings = {
  readonly starts: Uint32Array
  readonly ends: Uint32Array
  readonly bytes: Uint8Array
  readonly decode: (start: number, end: number) => string
}

/** Cells that lie behind one another from the first byte on: `offsets` has one entry more than there are cells. */
export type PackedStrings = { readonly offsets: Uint32Array; readonly bytes: Uint8Array }

/** Cells of packed text. */
export const unpacked = (
  { offsets, bytes }: PackedStrings,
  decode: (start: number, end: number) => string,
): EncodedStrings => ({ starts: offsets.subarray(0, -1), ends: offsets.subarray(1), bytes, decode })

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
  /** The most bytes of a cell; undefined where the strings are made. */
  get longest(): number | undefined {
    if (!this.stored) return undefined
    const { starts, ends } = this.stored
    let longest = 0
    for (let i = 0; i < starts.length; i++) longest = Math.max(longest, ends[i]! - starts[i]!)
    return longest
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

/** The cells at these positions, which share the bytes; -1 gives an empty one. */
export const gatherEncoded = ({ starts, ends, bytes, decode }: EncodedStrings, index: Int32Array): EncodedStrings => {
  const from = uint32s(index.length)
  const to = uint32s(index.length)
  for (let i = 0; i < index.length; i++) {
    const at = index[i]!
    if (at < 0) continue
    from[i] = starts[at]!
    to[i] = ends[at]!
  }
  return { starts: from, ends: to, bytes, decode }
}

/** Cells of several texts behind one another; undefined where they have not the same bytes. */
export const concatEncoded = (parts: readonly EncodedStrings[]): EncodedStrings | undefined => {
  const [first] = parts
  if (!first || parts.some(({ bytes }) => bytes !== first.bytes)) return undefined
  const total = parts.reduce((sum, { starts }) => sum + starts.length, 0)
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

/** The cells behind one another from the first byte on, as they are written to a file. */
export const pack = ({ starts, ends, bytes }: EncodedStrings): PackedStrings | undefined => {
  const offsets = uint32s(starts.length + 1)
  let length = 0
  let together = true
  for (let i = 0; i < starts.length; i++) {
    together &&= starts[i] === length
    length += ends[i]! - starts[i]!
    if (length > 0xffff_ffff) return undefined
    offsets[i + 1] = length
  }
  if (together) return { offsets, bytes: bytes.subarray(0, length) }
  const packed = uint8s(length)
  for (let i = 0; i < starts.length; i++) packed.set(bytes.subarray(starts[i], ends[i]), offsets[i])
  return { offsets, bytes: packed }
}

/** The bytes of some rows where they lie behind one another, with their ends; undefined where they do not. */
export const packRows = (
  { starts, ends, bytes }: EncodedStrings,
  from: number,
  to: number,
): { readonly bytes: Uint8Array; readonly ends: Uint32Array } | undefined => {
  const first = starts[from]!
  const made = uint32s(to - from)
  for (let i = from, at = first; i < to; i++) {
    if (starts[i] !== at) return undefined
    at = ends[i]!
    made[i - from] = at - first
  }
  return { bytes: bytes.subarray(first, ends[to - 1]), ends: made }
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

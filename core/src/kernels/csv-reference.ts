import { int32s, uint32s, uint8s } from './memory.ts'
import {
  bytesABlock,
  cellsABlock,
  longestRow,
  numberFlags,
  type ByteDictionary,
  type ByteSource,
  type CellTexts,
  type CsvKernel,
  type CsvLayout,
} from './csv-kernel.ts'
import { ReferenceDictionary } from './dictionary-reference.ts'

const lineFeed = 10
const carriageReturn = 13
const minus = 45
const zero = 48
const powers = Array.from({ length: 16 }, (_, i) => 10 ** i)

/** Whether the number read last has a mark: a second result, so that none is allocated. */
let hadMark = false
/** Digits with at most one mark, up to 15, no leading zero: the number, or NaN. */
// eslint-disable-next-line complexity -- a number scanned in place, byte by byte; a call a byte would cost half the speed of reading
const numberIn = (bytes: Uint8Array, start: number, end: number, mark: number): number => {
  const negative = bytes[start] === minus
  const first = negative ? start + 1 : start
  let value = 0
  let point = -1
  for (let i = first; i < end; i++) {
    const byte = bytes[i]!
    const digit = byte - zero
    if (digit >= 0 && digit <= 9) value = value * 10 + digit
    else if (byte === mark && point < 0) point = i
    else return NaN
  }
  const digits = end - first - (point < 0 ? 0 : 1)
  const ahead = (point < 0 ? end : point) - first
  if (digits < 1 || digits > 15 || (ahead > 1 && bytes[first] === zero) || point === end - 1) return NaN
  hadMark = point >= 0
  if (hadMark) value /= powers[end - point - 1]!
  return negative && value !== 0 ? -value : value
}

class ReferenceCsv implements CsvKernel {
  next = 0
  private readonly source: ByteSource
  private readonly layout: CsvLayout
  private readonly most: number
  /** Start and end of each cell of the block, row by row. */
  private readonly cuts: Int32Array
  private block = uint8s(bytesABlock)
  private rows = 0
  readonly flags: Uint8Array
  constructor(source: ByteSource, layout: CsvLayout) {
    this.source = source
    this.layout = layout
    this.most = Math.max(1, Math.floor(cellsABlock / layout.width))
    this.cuts = int32s(this.most * layout.width * 2)
    this.flags = uint8s(this.most)
  }

  cut(from: number): number {
    for (;;) {
      const part = this.source.block(from, this.block.length)
      this.block.set(part)
      const last = from + part.length === this.source.size
      this.rows = 0
      let at = 0
      let after = 0
      while (this.rows < this.most && at < part.length) {
        after = this.row(at, part.length, last)
        if (after < 0) break
        at = Math.min(after, part.length)
        this.rows++
      }
      this.next = from + at
      // a row that is longer than the block
      if (this.rows > 0 || after !== incomplete || this.block.length >= longestRow) return this.rows
      this.block = uint8s(this.block.length * 4)
    }
  }

  /** One row into `cuts`; the position after its line break, or that it is odd or goes on behind the block. */
  // eslint-disable-next-line complexity -- a state machine over bytes (RFC 4180); a call a byte would cost half the speed of reading
  private row(from: number, end: number, last: boolean): number {
    const { block, cuts } = this
    const { delimiter, quote, width } = this.layout
    let k = this.rows * width * 2
    let filled = 0
    for (let columns = 0, start = from; ; columns++) {
      const quoted = start < end && block[start] === quote
      let i: number
      let until: number
      if (quoted) {
        ;[until, i] = this.unquoted(start + 1, end)
        if (i > end || (i === end && !last)) return last ? odd : incomplete
        if (block[i] === carriageReturn && block[i + 1] === lineFeed && i + 1 < end) i++
        if (i < end && block[i] !== delimiter && block[i] !== lineFeed) return odd
      } else {
        i = start
        while (i < end && block[i] !== delimiter && block[i] !== lineFeed) i++
        until = i > start && (i === end || block[i] === lineFeed) && block[i - 1] === carriageReturn ? i - 1 : i
      }
      if (i === end && !last) return incomplete
      const ended = i === end || block[i] === lineFeed
      if (columns === width || (ended && columns + 1 !== width)) return odd
      cuts[k++] = quoted ? start + 1 : start
      cuts[k++] = until
      filled += until - cuts[k - 2]!
      start = i + 1
      if (ended) return filled > 0 ? start : odd
    }
  }

  /** Where the content of a quoted cell ends once doubled quotes are made one in place, and the place behind its closing quote; a place behind the end where none closes it. */
  private unquoted(from: number, end: number): [until: number, after: number] {
    const { block } = this
    const { quote } = this.layout
    let written = from
    for (let read = from; read < end; read++) {
      if (block[read] === quote) {
        if (read + 1 >= end || block[read + 1] !== quote) return [written, read + 1]
        read++
      }
      block[written++] = block[read]!
    }
    return [written, end + 1]
  }

  numbers(column: number, mark: number, values: Float64Array, at: number): number {
    const { block, cuts, flags } = this
    const step = this.layout.width * 2
    let found = 0
    for (let i = 0, k = column * 2; i < this.rows; i++, k += step) {
      const start = cuts[k]!
      const end = cuts[k + 1]!
      const value = start === end ? 0 : numberIn(block, start, end, mark)
      const other = value !== value
      values[at + i] = other ? 0 : value
      flags[i] = numberFlags.number
      if (start === end) flags[i] = numberFlags.empty
      else if (other) flags[i] = numberFlags.other
      else if (hadMark) found |= 2
      if (flags[i] !== numberFlags.number) found |= 1
    }
    return found
  }

  text(column: number, row: number): string {
    const k = (row * this.layout.width + column) * 2
    return this.source.decoder(this.block)(this.cuts[k]!, this.cuts[k + 1]!)
  }

  firstFilled(column: number): number {
    const step = this.layout.width * 2
    for (let i = 0, k = column * 2; i < this.rows; i++, k += step) if (this.cuts[k] !== this.cuts[k + 1]) return i
    return -1
  }

  texts(column: number, before: number): CellTexts {
    const { block, cuts } = this
    const step = this.layout.width * 2
    const ends = uint32s(this.rows)
    let length = 0
    for (let i = 0, k = column * 2; i < this.rows; i++, k += step)
      ends[i] = before + (length += cuts[k + 1]! - cuts[k]!)
    const bytes = uint8s(length)
    for (let i = 0, at = 0, k = column * 2; i < this.rows; i++, k += step)
      for (let from = cuts[k]!; from < cuts[k + 1]!; from++) bytes[at++] = block[from]!
    return { bytes, ends }
  }

  dictionary(): ByteDictionary {
    const dictionary = new ReferenceDictionary()
    const step = this.layout.width * 2
    return {
      get size() {
        return dictionary.size
      },
      codes: (column, codes, at) => {
        let last = 0
        for (let i = 0, k = column * 2; i < this.rows; i++, k += step) {
          const code = dictionary.codeOf(this.block, this.cuts[k]!, this.cuts[k + 1]!, last)
          codes[at + i] = code
          if (code > 0) last = code
        }
      },
      codeOf: (text) => dictionary.codeOf(text),
      codesOf: ({ bytes, ends }) => {
        const codes = uint32s(ends.length)
        for (let i = 0; i < ends.length; i++) codes[i] = dictionary.codeOf(bytes, i === 0 ? 0 : ends[i - 1]!, ends[i]!)
        return codes
      },
      texts: () => dictionary.texts(),
    }
  }
}

/** What `row` gives instead of a place. */
const odd = -1
const incomplete = -2

/** CSV from bytes in plain TypeScript. */
export const referenceCsv = (source: ByteSource, layout: CsvLayout): CsvKernel => new ReferenceCsv(source, layout)

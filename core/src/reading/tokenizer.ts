import { int32s } from '../table/memory.ts'

const cellsABlock = 1 << 12
const lineFeed = 10
const carriageReturn = 13

/**
 * Cuts UTF-8 bytes into cells, a block of rows at a time: `cuts` holds start and end of each cell, row by row. A
 * block ends before a row that is not plain: another width than `width`, blank, a doubled quote, a line break in quotes.
 */
export class CsvTokenizer {
  readonly cuts: Int32Array
  readonly width: number
  /** Where the row after the block begins. */
  next = 0
  private readonly bytes: Uint8Array
  private readonly delimiter: number
  private readonly quote: number
  private readonly most: number
  constructor(bytes: Uint8Array, delimiter: number, quote: number, width: number) {
    this.bytes = bytes
    this.delimiter = delimiter
    this.quote = quote
    this.width = width
    this.most = Math.max(1, Math.floor(cellsABlock / width))
    this.cuts = int32s(this.most * width * 2)
  }

  /** How many plain rows begin at `from`. */
  cut(from: number): number {
    let rows = 0
    let at = from
    while (rows < this.most && at < this.bytes.length) {
      const after = this.row(at, rows * this.width * 2)
      if (after < 0) break
      at = after
      rows++
    }
    this.next = at
    return rows
  }

  /** One row into `cuts` at k; the position after its line break, or -1 where it is not plain. */
  // eslint-disable-next-line complexity -- a state machine over bytes (RFC 4180); a call a byte would cost half the speed of reading
  private row(from: number, k: number): number {
    const { bytes, cuts, delimiter, quote } = this
    const end = bytes.length
    const last = k + this.width * 2 - 2
    const highest = Math.max(delimiter, quote, lineFeed)
    let start = from
    let i = from
    let filled = 0
    for (;;) {
      if (bytes[start] === quote) {
        // eslint-disable-next-line max-depth -- a state machine over bytes (RFC 4180); a call a byte would cost half the speed of reading
        for (i = start + 1; i < end && bytes[i] !== quote; i++) if (bytes[i] === lineFeed) return -1
        if (i === end) return -1
        cuts[k] = start + 1
        cuts[k + 1] = i
        filled += i - start
        i++
        if (bytes[i] === carriageReturn && bytes[i + 1] === lineFeed) i++
        if (i < end && bytes[i] !== delimiter && bytes[i] !== lineFeed) return -1
      } else {
        for (; i < end; i++) {
          const byte = bytes[i]!
          // eslint-disable-next-line max-depth -- a state machine over bytes (RFC 4180); a call a byte would cost half the speed of reading
          if (byte > highest) continue
          // eslint-disable-next-line max-depth -- a state machine over bytes (RFC 4180); a call a byte would cost half the speed of reading
          if (byte === delimiter || byte === lineFeed) break
          // eslint-disable-next-line max-depth -- a state machine over bytes (RFC 4180); a call a byte would cost half the speed of reading
          if (byte === quote) return -1
        }
        cuts[k] = start
        cuts[k + 1] = (i === end || bytes[i] === lineFeed) && i > start && bytes[i - 1] === carriageReturn ? i - 1 : i
        filled += cuts[k + 1]! - start
      }
      const ends = i >= end || bytes[i] === lineFeed
      if (ends || k === last) return ends && k === last && filled > 0 ? i + 1 : -1
      k += 2
      i++
      start = i
    }
  }
}

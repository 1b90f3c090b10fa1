import { StringDecoder } from 'node:string_decoder'
import { setTimeout as delay } from 'node:timers/promises'
import Papa from 'papaparse'
import { headerRows, TableBuilder, type ReadOptions } from '@fabula/core'
import type { FileContent } from '../file-content.ts'
import type { YieldControl } from '../yield-control.ts'
import { checkWidth, dropReturn, parsePiece } from './parsed-rows.ts'
import { freeThreads, readInThread, type SegmentReading } from './segment-threads.ts'
import { sniffDelimiter } from './sniff.ts'
import { NotPlain, Utf8Source } from './utf8-source.ts'

/** Names and the first types are found in so many bytes, of which a string is made per cell; in more where these hold no row below the names. */
const firstPieces = [1 << 17, 1 << 20] as const
/** Smaller files are read at once in any way. */
const smallestScanned = 2 << 20

type Head = { readonly rows: string[][]; readonly end: number; readonly delimiter: string }
/** The first rows of a file, one below the names among them at least, and the byte at which they end; undefined where they cannot be told. */
const headOf = (source: Utf8Source, read: ReadOptions, quote: string): Head | undefined => {
  for (const size of firstPieces) {
    const first = source.block(0, size)
    const mark = first[0] === 0xef && first[1] === 0xbb && first[2] === 0xbf ? 3 : 0
    const head = new StringDecoder('utf8').write(first.subarray(mark))
    const delimiter = read.delimiter ?? sniffDelimiter(head, quote)
    if (delimiter.charCodeAt(0) > 127) return undefined
    const parser = new Papa.Parser({ delimiter, newline: '\n', quoteChar: quote, escapeChar: quote })
    const { data: rows, meta } = parsePiece(parser, head, true)
    if (rows.length <= Math.max(1, ...headerRows(read)) + (read.skip ?? 0)) continue
    dropReturn(rows)
    return { rows, end: mark + Buffer.byteLength(head.slice(0, meta.cursor)), delimiter }
  }
  return undefined
}

/** A file to read from its bytes, and how. `early`: within which part of it a column that turns out to be text ends the reading. */
export type Scan = {
  readonly content: FileContent
  readonly name: string
  readonly read: ReadOptions
  readonly asText: ReadonlySet<string>
  readonly early: number
  readonly yieldControl: YieldControl
}

/** A row ends within so many bytes, or the file is not parted there. */
const longestLine = 1 << 16
/** This thread begins first: its part is so many times as long as that of another. */
const ownPart = 1.1
/** Where parts of a file begin that other threads read: behind line ends, of which one may stand within quotes. */
const placesOf = ({ size, descriptor, part }: FileContent, from: number): number[] => {
  const threads = descriptor === undefined ? 0 : freeThreads(size)
  const places = Array.from({ length: threads }, (_, i) => {
    const about = Math.floor(from + ((size - from) * (ownPart + i)) / (ownPart + threads))
    const end = part(about, longestLine).indexOf(10)
    return end < 0 ? [] : [about + end + 1]
  }).flat()
  return places.filter((place, i) => place < size && place !== places[i - 1])
}

/** A part of a file that another thread reads: from a byte on, up to another. */
type Part = { readonly from: number; readonly end: number; readonly reading: SegmentReading }
/** So often the one who asked for a file hears of it while other threads read. */
const waitMs = 20

/** A file that this thread reads from its bytes; others read the parts of it that are given them. */
class FileScan {
  private readonly scan: Scan
  private readonly builder: TableBuilder
  private readonly delimiter: number
  private readonly quote: number
  private parts: Part[] = []
  constructor(scan: Scan, builder: TableBuilder, delimiter: string, quote: string) {
    this.scan = scan
    this.builder = builder
    this.delimiter = delimiter.charCodeAt(0)
    this.quote = quote.charCodeAt(0)
  }

  /** Reads all rows from a byte on, or until a column turns out to be text early; false where a quote stands as it should not. */
  async rows(from: number): Promise<boolean> {
    this.beginParts(placesOf(this.scan.content, from))
    try {
      let at = await this.readUpTo(from, this.parts[0]?.from ?? this.scan.content.size)
      // a part that begins within quotes is not where this thread ends
      while (at !== undefined && this.parts[0]?.from === at) at = await this.takePart(at)
      await this.endParts()
      const { size } = this.scan.content
      return at === undefined || at === size || (await this.readUpTo(at, size)) === size
    } finally {
      await this.endParts()
    }
  }

  private beginParts(places: readonly number[]): void {
    const { scan, builder, delimiter, quote } = this
    const { content, read } = scan
    const { descriptor, size } = content
    const { start } = builder
    if (descriptor === undefined || !start) return
    const request = { descriptor, size, read, asText: [...scan.asText], start, delimiter, quote }
    this.parts = places.map((from, i) => {
      const end = places[i + 1] ?? size
      return { from, end, reading: readInThread({ ...request, from, end }) }
    })
  }
  /** Ends what other threads still read. */
  private async endParts(): Promise<void> {
    const ended = this.parts
    this.parts = []
    for (const { reading } of ended) reading.progress.stop()
    await Promise.all(ended.map(({ reading }) => reading.result))
    for (const { reading } of ended) reading.close()
  }

  /** Says how far all threads are, of which this one is at a byte. */
  private async sayProgress(at: number): Promise<void> {
    const { scan, builder, parts } = this
    let bytes = at
    let rows = builder.rowCount
    for (const { from, end, reading } of parts) {
      bytes += reading.progress.share * (end - from)
      rows += reading.progress.rows
    }
    await scan.yieldControl(bytes / scan.content.size, rows)
  }

  /** The byte at which the reading ended: `end`, or where a row with a quote out of place begins; undefined where it is no use to go on. */
  private async readUpTo(from: number, end: number): Promise<number | undefined> {
    const { builder } = this
    const { content, early } = this.scan
    const rows = builder.scan(new Utf8Source(content, end), from, this.delimiter, this.quote)
    for (;;) {
      const { value, done } = rows.next()
      if (done) return value
      if (value < early * content.size && builder.surprises.length > 0) return undefined
      await this.sayProgress(value)
    }
  }

  /** The rows of the first part, below all that there are; the byte at which they end, or `from` where they have to be read by this thread. */
  private async takePart(from: number): Promise<number> {
    const { end, reading } = this.parts[0] as Part
    const waiting = Symbol('waiting')
    for (;;) {
      const segment = await Promise.race([reading.result, delay(waitMs, waiting)])
      if (segment === waiting) {
        await this.sayProgress(from)
        continue
      }
      if (!segment) {
        await this.endParts()
        return from
      }
      this.builder.append(segment, new Utf8Source(this.scan.content))
      this.parts.shift()
      reading.close()
      return end
    }
  }
}

/**
 * Large files in plain UTF-8: the first piece goes the way of all files, the rest is read from its bytes
 * without a string per cell, three to four times as fast. Undefined where a file is not of that kind.
 */
export const scanCsv = async (scan: Scan): Promise<TableBuilder | undefined> => {
  const { content, name, read, asText } = scan
  const quote = read.quote ?? '"'
  if (content.size < smallestScanned || read.footer || read.range || quote.charCodeAt(0) > 127) return undefined
  if (read.encoding !== undefined && !/^utf-?8$/i.test(read.encoding)) return undefined
  try {
    // no more is read of the file than its head
    const head = headOf(new Utf8Source(content, content.size, 0), read, quote)
    if (!head) return undefined
    const { rows, end, delimiter } = head
    const builder = new TableBuilder(read, asText)
    checkWidth(rows, name)
    builder.expect(Math.ceil((rows.length * content.size * 1.04) / end))
    builder.add(rows)
    return (await new FileScan(scan, builder, delimiter, quote).rows(end)) ? builder : undefined
  } catch (error) {
    if (error instanceof NotPlain) return undefined
    throw error
  }
}

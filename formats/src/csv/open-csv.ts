import { StringDecoder } from 'node:string_decoder'
import Papa from 'papaparse'
import { figure, headerRows, TableBuilder, maxColumns, type BuiltTable, type ReadOptions } from '@fabula/core'
import type { YieldControl } from '../yield-control.ts'
import { FileProblem, OpenQuote } from '../problem.ts'
import type { FileContent } from '../file-content.ts'
import { textPieces } from './decode.ts'
import { sniffDelimiter } from './sniff.ts'
import { NotPlain, Utf8Source } from './utf8-source.ts'

type Parsed = { data: string[][]; errors: readonly { code: string; row?: number }[]; meta: { cursor: number } }
/** The rows of a piece of text; `ignoreLast` leaves a row that may go on in the next piece. */
const parsePiece = (parser: Papa.Parser, text: string, ignoreLast: boolean): Parsed =>
  parser.parse(text, 0, ignoreLast) as Parsed

/** The line end that parts rows; a `\r` before `\n` is taken off the last cell. */
const lineEnd = (text: string): '\n' | '\r' => (text.includes('\n') || !text.includes('\r') ? '\n' : '\r')

const dropReturn = (rows: string[][]): void => {
  for (const row of rows) {
    const last = row.length - 1
    const cell = row[last] as string
    if (cell.charCodeAt(cell.length - 1) === 13) row[last] = cell.slice(0, -1)
  }
}

/** A row longer than this is no row: it would be held whole, and read again with each piece of the file. */
const mostRow = 16 << 20

/** The rows of a file in batches, as they stand in it. A line break at the very end makes no row. `partial`: the bytes break off, and with them the last row. */
// eslint-disable-next-line complexity -- a generator that keeps the state of the parser between pieces
export function* csvRows(
  bytes: Buffer,
  name: string,
  read: ReadOptions,
  partial = false,
): Generator<{ rows: string[][]; done: number }> {
  const quote = read.quote ?? '"'
  let parser: Papa.Parser | undefined
  let rest = ''
  let returns = false
  let seen = 0
  let pending: string[][] = []
  for (const { text, done } of textPieces(bytes, name, read.encoding)) {
    const piece = rest + text
    const last = done === 1 && !partial
    parser ??= new Papa.Parser({
      delimiter: read.delimiter ?? sniffDelimiter(piece, quote),
      newline: lineEnd(piece),
      quoteChar: quote,
      escapeChar: quote,
    })
    const { data, errors, meta } = parsePiece(parser, piece, !last)
    const open = last ? errors.find(({ code }) => code === 'MissingQuotes') : undefined
    if (open)
      throw new OpenQuote(
        `${name} opens a quote in row ${seen + (open.row ?? 0) + 1} that is never closed. Close it in the file, or say that the file has no quotes.`,
      )
    rest = last ? '' : piece.slice(meta.cursor)
    if (rest.length > mostRow)
      throw new FileProblem(
        `${name}: row ${figure(seen + data.length + 1)} goes on for more than ${figure(mostRow)} characters. A quote may be opened there and never closed, or the rows are parted by another sign than line breaks. Mend the row, or say that the file has no quotes.`,
      )
    returns ||= text.includes('\r')
    if (returns) dropReturn(data)
    seen += data.length
    if (last && data.length > 0 && data.at(-1)?.length === 1 && data.at(-1)?.[0] === '') data.pop()
    if (pending.length > 0) yield { rows: pending, done }
    pending = data
    if (!last) {
      yield { rows: pending, done }
      pending = []
    }
  }
  if (pending.length > 0) yield { rows: pending, done: 1 }
}

/** Names and the first types are found in so many bytes, of which a string is made per cell; in more where these hold no row below the names. */
const firstPieces = [1 << 17, 1 << 20] as const
/** Where a column that began as numbers turns out to be text within this part of a file, it is read anew at once, else when all such columns are known. */
const earlyPart = 0.05
/** So often at most is a file read anew at once. */
const mostEarlyPasses = 3

/** Smaller files are read at once in any way. */
const smallestScanned = 2 << 20

/**
 * Large files in plain UTF-8: the first piece goes the way of all files, the rest is read from its bytes
 * without a string per cell, three to four times as fast. Undefined where a file is not of that kind.
 */
const scanFile = async (
  content: FileContent,
  name: string,
  read: ReadOptions,
  asText: ReadonlySet<string>,
  early: number,
  yieldControl: YieldControl,
): Promise<TableBuilder | undefined> => {
  const quote = read.quote ?? '"'
  if (content.size < smallestScanned || read.footer || read.range || quote.charCodeAt(0) > 127) return undefined
  if (read.encoding !== undefined && !/^utf-?8$/i.test(read.encoding)) return undefined
  const source = new Utf8Source(content)
  try {
    return await scanSource(source, name, read, quote, asText, early, yieldControl)
  } catch (error) {
    if (error instanceof NotPlain) return undefined
    throw error
  }
}

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

const scanSource = async (
  source: Utf8Source,
  name: string,
  read: ReadOptions,
  quote: string,
  asText: ReadonlySet<string>,
  early: number,
  yieldControl: YieldControl,
): Promise<TableBuilder | undefined> => {
  const head = headOf(source, read, quote)
  if (!head) return undefined
  const { rows, end, delimiter } = head
  const builder = new TableBuilder(read, asText)
  checkWidth(rows, name)
  builder.expect(Math.ceil((rows.length * source.size * 1.04) / end))
  builder.add(rows)
  const scan = builder.scan(source, end, delimiter.charCodeAt(0), quote.charCodeAt(0))
  for (;;) {
    const { value, done } = scan.next()
    if (done) return value ? builder : undefined
    if (value < early * source.size && builder.surprises.length > 0) return builder
    await yieldControl(value / source.size, builder.rowCount)
  }
}

/** A table that wide is another table lying on its side, or a file parted by the wrong sign. */
export const checkWidth = (rows: readonly (readonly string[])[], name: string): void => {
  const at = rows.findIndex((row) => row.length > maxColumns)
  if (at >= 0)
    throw new FileProblem(
      `${name} has ${figure(rows[at]?.length ?? 0)} columns in a row, more than the ${figure(maxColumns)} that can be opened. Choose another sign that parts the cells, or ask for the export with rows and columns the other way round.`,
    )
}

/** One file as a table. Read anew where a column that began as numbers turned out to be text. */
export const openCsvFile = async (
  content: FileContent,
  name: string,
  read: ReadOptions,
  yieldControl: YieldControl,
  forced: ReadonlySet<string> = new Set(),
): Promise<BuiltTable> => {
  const pass = async (asText: ReadonlySet<string>, early: number): Promise<TableBuilder> => {
    const scanned = await scanFile(content, name, read, asText, early, yieldControl)
    if (scanned) return scanned
    const builder = new TableBuilder(read, asText)
    for (const { rows, done } of csvRows(content.all(), name, read)) {
      checkWidth(rows, name)
      builder.add(rows)
      await yieldControl(done, builder.rowCount)
    }
    return builder
  }
  let asText = forced
  for (let passes = 1; ; passes++) {
    const builder = await pass(asText, passes > mostEarlyPasses ? 0 : earlyPart)
    if (builder.surprises.length === 0) return builder.done()
    asText = new Set([...asText, ...builder.surprises])
  }
}

import Papa from 'papaparse'
import { figure, TableBuilder, type BuiltTable, type ReadOptions } from '@fabula/core'
import type { YieldControl } from '../yield-control.ts'
import { FileProblem, OpenQuote } from '../problem.ts'
import type { FileContent } from '../file-content.ts'
import { textPieces } from './decode.ts'
import { sniffDelimiter } from './sniff.ts'
import { checkWidth, dropReturn, parsePiece } from './parsed-rows.ts'
import { scanCsv } from './scan-csv.ts'

/** The line end that parts rows; a `\r` before `\n` is taken off the last cell. */
const lineEnd = (text: string): '\n' | '\r' => (text.includes('\n') || !text.includes('\r') ? '\n' : '\r')

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

/** Where a column that began as numbers turns out to be text within this part of a file, it is read anew at once, else when all such columns are known. */
const earlyPart = 0.05
/** So often at most is a file read anew at once. */
const mostEarlyPasses = 3

/** One file as a table. Read anew where a column that began as numbers turned out to be text. */
export const openCsvFile = async (
  content: FileContent,
  name: string,
  read: ReadOptions,
  yieldControl: YieldControl,
  forced: ReadonlySet<string> = new Set(),
): Promise<BuiltTable> => {
  const pass = async (asText: ReadonlySet<string>, early: number): Promise<TableBuilder> => {
    const scanned = await scanCsv({ content, name, read, asText, early, yieldControl })
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

import { codesOf, readyCodes } from '../table/codes.ts'
import { cellAt, isNumber, isTextColumn, lengthOf, type Column, type ValueColumn } from '../table/column.ts'
import { rowsAnOutput, textsOf, type OutputColumn } from '../kernels/csv-output.ts'
import { kernels } from '../kernels/kernels.ts'
import type { DenseCodes } from '../kernels/table-kernels.ts'
import { textOfCell } from '../table/cell-text.ts'
import { packRows, rowReader, type PlainText } from '../table/stored-text.ts'
import type { Table } from '../table/table.ts'

const needsQuotes = /[",\r\n]|^ | $/
const cell = (text: string): string => (needsQuotes.test(text) ? `"${text.replaceAll('"', '""')}"` : text)

/** Text that a spreadsheet would take for a formula, and that is not a number: programs pass over white space before the sign, and take its full-width form for it. */
const risky = /^\s*[=+\-@\uff1d\uff0b\uff0d\uff20]|^[\t\r\n]/
const plainNumber = /^[-+]?(?:[0-9]+\.?[0-9]*|\.[0-9]+)(?:[eE][-+]?[0-9]+)?$/
/** A text that a spreadsheet would take for a formula, with an apostrophe in front. Source: OWASP, CSV Injection. */
export const guarded = (text: string): string =>
  risky.test(text) && !plainNumber.test(text.trim()) ? `'${text}` : text

const plainTexts = (column: PlainText, write: (text: string) => string, guard: boolean): OutputColumn => {
  const text = rowReader(column)
  return {
    form: 'texts',
    stored: (from, to) => column.stored?.encoded && packRows(column.stored.encoded, from, to),
    guard,
    written: (from, to) => textsOf(Array.from({ length: to - from }, (_, i) => write(text(from + i)))),
  }
}

const outputColumn = (column: Column, guard: boolean): OutputColumn => {
  const write = guard ? (text: string) => cell(guarded(text)) : cell
  if (isTextColumn(column))
    return column.form === 'plain'
      ? plainTexts(column, write, guard)
      : { form: 'coded', codes: column.indices, words: textsOf(column.dictionary.map(write)) }
  const coded = codesToWrite(column)
  if (!coded)
    return {
      form: 'numbers',
      values: column.values as Float64Array,
      nulls: column.nulls,
      write: (value) => textOfCell(column.type, value),
    }
  const first = kernels().firstRows(coded)
  const words = Array.from(first, (row, code) => {
    const value = code === 0 || row < 0 ? null : cellAt(column, row)
    return value === null ? '' : textOfCell(column.type, value)
  })
  return { form: 'coded', codes: coded.codes, words: textsOf(words) }
}
/** Days, times and booleans are written once each; of numbers such as lie close together. */
const codesToWrite = (column: ValueColumn): DenseCodes | undefined =>
  readyCodes(column, Math.max(16, lengthOf(column) >> 2)) ?? (isNumber(column.type) ? undefined : codesOf(column))

/** CSV as section 2 of the recipe writes it, in pieces of some thousand rows: comma, LF, a header, quotes only where needed, empty is nothing. A piece is valid until the next is asked for. */
export function* csvPieces(table: Table, guard = false): Generator<Uint8Array> {
  const names = table.names.map((name) => cell(guard ? guarded(name) : name))
  yield new TextEncoder().encode(`${names.join(',')}\n`)
  // without columns there are no lines either
  if (names.length === 0) return
  const rows = kernels().csvOutput(names.map((_, i) => outputColumn(table.column(i), guard)))
  for (let from = 0; from < table.rowCount; from += rowsAnOutput)
    yield rows(from, Math.min(table.rowCount, from + rowsAnOutput))
}

/** A table as CSV (RFC 4180): UTF-8, commas, LF, quotes only where needed, empty cells as nothing. */
export const writeCsv = (table: Table, guard = false): string => {
  const decoder = new TextDecoder('utf-8', { ignoreBOM: true })
  let text = ''
  for (const piece of csvPieces(table, guard)) text += decoder.decode(piece, { stream: true })
  return text + decoder.decode()
}

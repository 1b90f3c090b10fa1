import { codesOf, readyCodes } from '../table/codes.ts'
import { cellAt, isNumber, isTextColumn, lengthOf, type Column, type ValueColumn } from '../table/column.ts'
import type { CellTexts } from '../kernels/csv-kernel.ts'
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

/** Bytes that make quotes needed, or that a cell begins or ends with where they are. */
const [quoteMark, commaSign, carriageReturn, lineFeed, blank] = [34, 44, 13, 10, 32]
/** Whether one of some cells may need quotes, or a guard: of that the first byte decides, which is neither letter nor digit. */
const needsCare = ({ bytes, ends }: CellTexts, guard: boolean): boolean => {
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]!
    if (byte <= commaSign && (byte === quoteMark || byte === commaSign || byte === lineFeed || byte === carriageReturn))
      return true
  }
  for (let i = 0; i < ends.length; i++) {
    const from = i === 0 ? 0 : ends[i - 1]!
    const end = ends[i]!
    if (from === end) continue
    if (bytes[from] === blank || bytes[end - 1] === blank) return true
    if (guard && !isWordByte(bytes[from]!)) return true
  }
  return false
}
const isWordByte = (byte: number): boolean =>
  (byte >= 48 && byte <= 57) || (byte >= 65 && byte <= 90) || (byte >= 97 && byte <= 122)

/** The bytes of rows of a plain column, as they are where none of them needs care. */
const plainTexts = (column: PlainText, write: (text: string) => string, guard: boolean): OutputColumn => {
  const text = rowReader(column)
  return {
    form: 'texts',
    texts: (from, to) => {
      const stored = column.stored?.encoded
      const bytes = stored && packRows(stored, from, to)
      return bytes && !needsCare(bytes, guard)
        ? bytes
        : textsOf(Array.from({ length: to - from }, (_, i) => write(text(from + i))))
    },
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

/** CSV as section 2 of the recipe writes it, in pieces of some thousand rows: comma, LF, a header, quotes only where needed, empty is nothing. Each piece is the caller's. */
export function* csvPieces(table: Table, guard = false): Generator<Uint8Array> {
  const names = table.names.map((name) => cell(guard ? guarded(name) : name))
  yield new TextEncoder().encode(`${names.join(',')}\n`)
  // without columns there are no lines either
  if (names.length === 0) return
  const rows = kernels().csvOutput(names.map((_, i) => outputColumn(table.column(i), guard)))
  for (let from = 0; from < table.rowCount; from += rowsAnOutput)
    yield rows(from, Math.min(table.rowCount, from + rowsAnOutput)).slice()
}

/** A table as CSV (RFC 4180): UTF-8, commas, LF, quotes only where needed, empty cells as nothing. */
export const writeCsv = (table: Table, guard = false): string => {
  const decoder = new TextDecoder('utf-8', { ignoreBOM: true })
  let text = ''
  for (const piece of csvPieces(table, guard)) text += decoder.decode(piece, { stream: true })
  return text + decoder.decode()
}

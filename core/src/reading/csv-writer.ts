import { isTextColumn, type Column, type ColumnType, type TextColumn } from '../table/column.ts'
import { float64s, isSet } from '../kernels/memory.ts'
import { textOfCell } from '../table/cell-text.ts'
import type { Table } from '../table/table.ts'

const needsQuotes = /[",\r\n]|^ | $/
const cell = (text: string): string => (needsQuotes.test(text) ? `"${text.replaceAll('"', '""')}"` : text)

/** Text that a spreadsheet would take for a formula, and that is not a number: programs pass over white space before the sign, and take its full-width form for it. */
const risky = /^\s*[=+\-@\uff1d\uff0b\uff0d\uff20]|^[\t\r\n]/
const plainNumber = /^[-+]?(?:[0-9]+\.?[0-9]*|\.[0-9]+)(?:[eE][-+]?[0-9]+)?$/
/** A text that a spreadsheet would take for a formula, with an apostrophe in front. Source: OWASP, CSV Injection. */
export const guarded = (text: string): string =>
  risky.test(text) && !plainNumber.test(text.trim()) ? `'${text}` : text

/** Values written before, each in the slot its size leads to: most exports repeat their prices and days. As many slots as there are rows, at most 131,072. */
const remembered = (write: (value: number) => string, rows: number): ((value: number) => string) => {
  const slots = 2 ** Math.min(17, Math.ceil(Math.log2(Math.max(2, rows))))
  const values = float64s(slots).fill(NaN)
  const texts = Array<string>(slots).fill('')
  return (value) => {
    const slot = (value * 2654.435769) & (slots - 1)
    if (values[slot] === value) return texts[slot] as string
    values[slot] = value
    return (texts[slot] = write(value))
  }
}

/** Puts the cells of rows `from` to `to` of a column into `cells` as CSV writes them. */
type CellWriter = (from: number, to: number, cells: string[]) => void
const textWriter = (column: TextColumn, guard: boolean): CellWriter => {
  const write = guard ? (text: string) => cell(guarded(text)) : cell
  if (column.form === 'plain')
    return (from, to, cells) => {
      for (let row = from; row < to; row++) cells[row - from] = write(column.strings[row] as string)
    }
  const { indices } = column
  const words = column.dictionary.map(write)
  return (from, to, cells) => {
    for (let row = from; row < to; row++) cells[row - from] = words[indices[row]!] as string
  }
}
type ValueFormatter = (value: number) => string
/** How values of a type are written; all columns of one type share what is remembered, so that a wide table needs no more than a narrow one. */
const valueWords = (rows: number): ((type: ColumnType) => ValueFormatter) => {
  const known = new Map<ColumnType, ValueFormatter>([
    ['boolean', (value) => (value === 1 ? 'true' : 'false')],
    ['integer', String],
  ])
  return (type) => {
    const write = known.get(type) ?? remembered((value) => textOfCell(type, value), rows)
    known.set(type, write)
    return write
  }
}
const writer = (column: Column, guard: boolean, words: (type: ColumnType) => ValueFormatter): CellWriter => {
  if (isTextColumn(column)) return textWriter(column, guard)
  const { type, values, nulls } = column
  const write = words(type)
  return (from, to, cells) => {
    for (let row = from; row < to; row++) cells[row - from] = isSet(nulls, row) ? '' : write(values[row]!)
  }
}

/** CSV as section 2 of the recipe writes it, in pieces of some thousand rows: comma, LF, a header, quotes only where needed, empty is nothing. */
export function* csvPieces(table: Table, guard = false, rowsAPiece = 8192): Generator<string> {
  yield `${table.names.map((name) => cell(guard ? guarded(name) : name)).join(',')}\n`
  // without columns there are no lines either
  const rows = table.names.length > 0 ? table.rowCount : 0
  const words = valueWords(rows)
  const writers = table.names.map((_, i) => writer(table.column(i), guard, words))
  const cells = writers.map(() => Array<string>(Math.min(rows, rowsAPiece)).fill(''))
  for (let from = 0; from < rows; from += rowsAPiece) {
    const to = Math.min(rows, from + rowsAPiece)
    writers.forEach((write, c) => write(from, to, cells[c] as string[]))
    yield rowsOf(cells, to - from)
  }
}
const rowsOf = (cells: readonly (readonly string[])[], rows: number): string => {
  const [first = [], ...rest] = cells
  let piece = ''
  for (let row = 0; row < rows; row++) {
    piece += first[row] as string
    for (let c = 0; c < rest.length; c++) piece += ',' + ((rest[c] as readonly string[])[row] as string)
    piece += '\n'
  }
  return piece
}

/** A table as CSV (RFC 4180): UTF-8, commas, LF, quotes only where needed, empty cells as nothing. */
export const writeCsv = (table: Table, guard = false): string => [...csvPieces(table, guard)].join('')

import { holdsWords, isEmptyAt, lengthOf, textAt, type Column } from '../table/column.ts'
import { textOfCell } from '../table/reading.ts'
import type { Table } from '../table/table.ts'

const needsQuotes = /[",\r\n]|^ | $/
const cell = (text: string): string => (needsQuotes.test(text) ? `"${text.replaceAll('"', '""')}"` : text)

/** Text that a spreadsheet would take for a formula, and that is not a number. */
const risky = /^[=+\-@\t\r]/
const plainNumber = /^[-+]?(?:[0-9]+\.?[0-9]*|\.[0-9]+)(?:[eE][-+]?[0-9]+)?$/
export const guarded = (text: string): string => (risky.test(text) && !plainNumber.test(text) ? `'${text}` : text)

/** The cells of a column as CSV writes them; a coded text is quoted once per word. */
const writer = (column: Column, guard: boolean): ((row: number) => string) => {
  if (holdsWords(column)) {
    const write = guard ? (text: string) => cell(guarded(text)) : cell
    if (column.form === 'plain') return (row) => write(textAt(column, row))
    const words = column.words.map(write)
    return (row) => words[column.codes[row] as number] as string
  }
  const { type, values } = column
  if (type === 'boolean') return (row) => (isEmptyAt(column, row) ? '' : values[row] === 1 ? 'true' : 'false')
  if (type === 'integer') return (row) => (isEmptyAt(column, row) ? '' : String(values[row]))
  const known = new Map<number, string>()
  return (row) => {
    if (isEmptyAt(column, row)) return ''
    const value = values[row] as number
    let text = known.get(value)
    if (text === undefined) {
      text = textOfCell(type, value)
      if (known.size < 100_000) known.set(value, text)
    }
    return text
  }
}

/** CSV as section 2 of the recipe writes it, in pieces of some thousand rows: comma, LF, a header, quotes only where needed, empty is nothing. */
export function* csvPieces(table: Table, guard = false, rowsAPiece = 8192): Generator<string> {
  yield `${table.names.map((name) => cell(guard ? guarded(name) : name)).join(',')}\n`
  const columns = table.names.map((_, i) => table.column(i))
  const writers = columns.map((column) => writer(column, guard))
  const rows = columns[0] ? lengthOf(columns[0]) : 0
  for (let from = 0; from < rows; from += rowsAPiece) {
    let piece = ''
    for (let row = from; row < Math.min(rows, from + rowsAPiece); row++) {
      for (let c = 0; c < writers.length; c++) piece += (c > 0 ? ',' : '') + (writers[c] as (row: number) => string)(row)
      piece += '\n'
    }
    yield piece
  }
}

export const writeCsv = (table: Table, guard = false): string => [...csvPieces(table, guard)].join('')

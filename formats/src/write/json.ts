import type { Table } from '@fabula/core'
import { textAt } from './cells.ts'

/** Records, one a line, in pieces: numbers, yes or no and lists as JSON has them, dates and times as ISO text; empty cells are left out. Format: RFC 8259. */
export function* jsonPieces(table: Table, rowsAPiece = 4096): Generator<string> {
  const keys = table.names.map((name) => JSON.stringify(name))
  const types = table.schema.map(({ type }) => type)
  const member = (column: number, row: number): string[] => {
    const text = textAt(table, column, row)
    if (text === null) return []
    const type = types[column]
    const plain = type === 'integer' || type === 'decimal' || type === 'boolean' || type === 'list'
    return [`${keys[column]}:${plain ? text : JSON.stringify(text)}`]
  }
  yield '['
  for (let from = 0; from < table.rowCount; from += rowsAPiece) {
    let piece = ''
    for (let row = from; row < Math.min(table.rowCount, from + rowsAPiece); row++)
      piece += `${row === 0 ? '\n' : ',\n'}{${keys.flatMap((_, column) => member(column, row)).join(',')}}`
    yield piece
  }
  yield '\n]\n'
}

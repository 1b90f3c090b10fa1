import { textOfCell, type Cell, type Table } from '@fabula/core'

/** Cells of a table by column and row, as text where they are filled. */
export const textAt = (table: Table, column: number, row: number): string | null => {
  const cell: Cell = table.cell(column, row)
  return cell === null ? null : textOfCell(table.schema[column]?.type ?? 'text', cell)
}

/** What a format cannot hold; nothing is written then. */
export class UnwritableTable extends Error {}

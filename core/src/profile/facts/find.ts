import { isTextColumn, isNullAt, type Column } from '../../table/column.ts'
import { testText } from '../../table/gather.ts'
import { uint8s } from '../../kernels/memory.ts'
import { textOfCell } from '../../table/cell-text.ts'
import type { Table } from '../../table/table.ts'
import { lower } from '../../table/text.ts'

/** A row, and a column by name. */
export type CellPosition = { readonly row: number; readonly column: string }

/** 1 where the cell's text holds the words, whatever the case. Numbers and dates are only looked at for what can stand in one. */
const holding = (column: Column, words: string): Uint8Array | undefined => {
  if (isTextColumn(column)) return testText(column, (text) => text !== '' && lower(text).includes(words))
  if (!/^[-0-9.:te+ ]+$/.test(words) && column.type !== 'boolean') return undefined
  const { values, type } = column
  const mask = uint8s(values.length)
  for (let i = 0; i < values.length; i++) {
    if (isNullAt(column, i)) continue
    mask[i] = lower(textOfCell(type, type === 'boolean' ? values[i] === 1 : values[i]!)).includes(words) ? 1 : 0
  }
  return mask
}

/** How many cells of a table hold the words, and the next of them after a spot, row by row; round from the end to the start. */
export const findText = (
  table: Table,
  text: string,
  from: CellPosition | null,
  back: boolean,
): { found: CellPosition | null; total: number } => {
  const words = lower(text)
  const masks = table.names.map((_, c) => holding(table.column(c), words))
  const width = table.names.length
  let total = 0
  for (const mask of masks) if (mask) for (let i = 0; i < mask.length; i++) total += mask[i]!
  if (total === 0) return { found: null, total }
  const cells = table.rowCount * width
  const chooseStart = () => {
    if (from) return from.row * width + Math.max(0, table.positionOf(from.column))
    if (back) return cells
    return -1
  }
  const start = chooseStart()
  const step = back ? -1 : 1
  for (let n = 1; n <= cells; n++) {
    const at = (((start + n * step) % cells) + cells) % cells
    if (masks[at % width]?.[Math.floor(at / width)] === 1)
      return { found: { row: Math.floor(at / width), column: table.names[at % width] as string }, total }
  }
  return { found: null, total }
}

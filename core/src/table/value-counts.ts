import { cellAt, isNullAt, isTextColumn, lengthOf, type Column } from './column.ts'
import { IntList } from '../kernels/memory.ts'
import { textOfCell } from './cell-text.ts'

/** More different values than this are not kept, and not compared. */
const mostValues = 10_000

/** The different filled values of a column as text with their rows, in order of first appearance; undefined where there are more than `most`. O(rows). */
export const valueCounts = (column: Column, most = mostValues): Map<string, number> | undefined => {
  const counts = new Map<string, number>()
  const add = (text: string, rows: number): boolean => {
    counts.set(text, (counts.get(text) ?? 0) + rows)
    return counts.size <= most
  }
  if (isTextColumn(column) && column.form === 'dictionary') {
    const { indices, dictionary } = column
    const rows = new Float64Array(dictionary.length)
    for (let i = 0; i < indices.length; i++) rows[indices[i]!]!++
    for (let i = 1; i < dictionary.length; i++)
      if (rows[i]! > 0 && !add(dictionary[i] as string, rows[i]!)) return undefined
    return counts
  }
  for (let row = 0, n = lengthOf(column); row < n; row++) {
    const cell = cellAt(column, row)
    if (cell !== null && !add(textOfCell(column.type, cell), 1)) return undefined
  }
  return counts
}

/** The rows whose cell is one of these texts. O(rows). */
export const rowsWithTexts = (column: Column, texts: readonly string[]): Int32Array => {
  const wanted = new Set(texts)
  const rows = new IntList()
  for (let row = 0, n = lengthOf(column); row < n; row++) {
    const cell = cellAt(column, row)
    if (cell !== null && wanted.has(textOfCell(column.type, cell))) rows.push(row)
  }
  return rows.done()
}

/** Whether a column has a cell that is filled; stops at the first. */
export const hasValue = (column: Column): boolean => {
  for (let row = 0, n = lengthOf(column); row < n; row++) if (!isNullAt(column, row)) return true
  return false
}

/** The filled cells of a column at the first `most` of these rows, as text. */
export const textsAt = (column: Column, rows: Int32Array, most: number): string[] =>
  [...rows.subarray(0, most)].flatMap((row) => {
    const cell = row < lengthOf(column) ? cellAt(column, row) : null
    return cell === null ? [] : [textOfCell(column.type, cell)]
  })

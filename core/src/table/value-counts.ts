import { asDictionary, cellAt, isTextColumn, lengthOf, type Column } from './column.ts'
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
  if (isTextColumn(column)) {
    const { indices, dictionary } = asDictionary(column)
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

/** The median of a number column without its empty cells; undefined where all are empty. */
export const medianOf = (column: Column): number | undefined => {
  const values = new Float64Array(lengthOf(column))
  let n = 0
  for (let row = 0; row < values.length; row++) {
    const cell = cellAt(column, row)
    if (typeof cell === 'number') values[n++] = cell
  }
  if (n === 0) return undefined
  const sorted = values.subarray(0, n).sort()
  const middle = n >> 1
  return n % 2 === 1 ? sorted[middle] : (sorted[middle - 1]! + sorted[middle]!) / 2
}

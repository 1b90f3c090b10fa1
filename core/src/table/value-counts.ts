import { cellAt, isNullAt, isTextColumn, lengthOf, type Column } from './column.ts'
import { float64s, IntList } from '../kernels/memory.ts'
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

/** Puts the k-th smallest of the first n values at place k, smaller ones before it. C. A. R. Hoare, CACM 4 (1961), algorithm 65; O(n) on average. */
const select = (values: Float64Array, n: number, k: number): void => {
  let from = 0
  let to = n - 1
  while (from < to) {
    const middle = (from + to) >> 1
    const [a, b, c] = [values[from]!, values[middle]!, values[to]!]
    const pivot = Math.max(Math.min(a, b), Math.min(Math.max(a, b), c))
    let i = from
    let j = to
    while (i <= j) {
      while (values[i]! < pivot) i++
      while (values[j]! > pivot) j--
      if (i > j) break
      const swapped = values[i]!
      values[i++] = values[j]!
      values[j--] = swapped
    }
    if (k <= j) to = j
    else if (k >= i) from = i
    else return
  }
}

/** The median of at least one number, whose order it changes. */
export const middleOf = (values: Float64Array): number => {
  const n = values.length
  const middle = n >> 1
  select(values, n, middle)
  if (n % 2 === 1) return values[middle]!
  let below = -Infinity
  for (let i = 0; i < middle; i++) below = Math.max(below, values[i]!)
  return (below + values[middle]!) / 2
}

/** The median of a number column without its empty cells; undefined where all are empty. */
export const medianOf = (column: Column): number | undefined => {
  const values = float64s(lengthOf(column))
  let n = 0
  for (let row = 0; row < values.length; row++) {
    const cell = cellAt(column, row)
    if (typeof cell === 'number') values[n++] = cell
  }
  return n === 0 ? undefined : middleOf(values.subarray(0, n))
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

import { bitmap, isSet, set } from '../kernels/memory.ts'
import {
  cellAt,
  columnWriter,
  isNullAt,
  isTextColumn,
  lengthOf,
  type Cell,
  type Column,
  type DictionaryText,
  type ValueColumn,
} from './column.ts'

/** What stands in an empty row; null leaves it empty. */
type Put = (row: number) => Cell
/** A column and how many of its empty cells were filled. */
export type FilledColumn = { readonly column: Column; readonly filled: number }

const fillValues = (column: ValueColumn, put: Put): FilledColumn => {
  const { nulls } = column
  if (!nulls) return { column, filled: 0 }
  const values = column.values.slice()
  const left = bitmap(values.length)
  let filled = 0
  let anyLeft = false
  for (let row = 0; row < values.length; row++) {
    if (!isSet(nulls, row)) continue
    const cell = put(row)
    if (cell === null) {
      set(left, row)
      anyLeft = true
      continue
    }
    values[row] = cell === 0 ? 0 : Number(cell)
    filled++
  }
  return { column: { ...column, values, nulls: anyLeft ? left : undefined } as ValueColumn, filled }
}

const fillTexts = (column: DictionaryText, put: Put): FilledColumn => {
  const indices = column.indices.slice()
  if (!indices.includes(0)) return { column, filled: 0 }
  const dictionary = [...column.dictionary]
  const codes = new Map<Cell, number>(dictionary.map((word, code) => [word, code]))
  let filled = 0
  for (let row = 0; row < indices.length; row++) {
    if (indices[row] !== 0) continue
    const cell = put(row)
    if (cell === null || cell === '') continue
    let code = codes.get(cell)
    if (code === undefined) {
      code = dictionary.push(cell as string) - 1
      codes.set(cell, code)
    }
    indices[row] = code
    filled++
  }
  return filled === 0 ? { column, filled } : { column: { ...column, indices, dictionary }, filled }
}

/** A column with what `put` gives in its empty rows. */
export const withFilled = (column: Column, put: Put): FilledColumn => {
  if (!isTextColumn(column)) return fillValues(column, put)
  if (column.form === 'dictionary') return fillTexts(column, put)
  const writer = columnWriter(column.type, lengthOf(column))
  let filled = 0
  for (let row = 0, n = lengthOf(column); row < n; row++) {
    const cell = isNullAt(column, row) ? put(row) : cellAt(column, row)
    if (cell !== null && isNullAt(column, row)) filled++
    writer.set(row, cell)
  }
  return { column: writer.done(), filled }
}

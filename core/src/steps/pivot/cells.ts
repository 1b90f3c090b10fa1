import { uint8s } from '../../kernels/memory.ts'
import type { Groups } from '../../kernels/table-kernels.ts'
import { isNullAt, type Column } from '../../table/column.ts'

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

/** The cell of each row: its group times the number of labels, and its label. */
export const cellIds = (ids: Uint32Array, groups: Uint32Array, labels: Int32Array, width: number): void => {
  const n = ids.length
  for (let i = 0; i < n; i++) ids[i] = groups[i]! * width + labels[i]!
}
/** Whether each row is the cell at its own place: row by row, the labels in their order. */
export const areInPlace = (groups: Uint32Array, labels: Int32Array, width: number): boolean => {
  const n = groups.length
  for (let i = 0; i < n; i++) if (groups[i]! * width + labels[i]! !== i) return false
  return true
}
/** The same for rows that are taken. */
export const cellIdsOf = (
  ids: Uint32Array,
  taken: Int32Array,
  groups: Uint32Array,
  labels: Int32Array,
  width: number,
): void => {
  const n = ids.length
  for (let i = 0; i < n; i++) ids[i] = groups[taken[i]!]! * width + labels[taken[i]!]!
}

/** A byte for each cell: whether it has rows. */
export const hasRows = ({ ids, count }: Groups): Uint8Array => {
  const held = uint8s(count)
  const n = ids.length
  for (let i = 0; i < n; i++) held[ids[i]!] = 1
  return held
}

/** The row of each cell into `rows`; the first row whose cell has one already, -1 where there is none such. */
export const placeAll = (rows: Int32Array, ids: Uint32Array): number => {
  const n = ids.length
  for (let i = 0; i < n; i++) {
    if (rows[ids[i]!] !== -1) return i
    rows[ids[i]!] = i
  }
  return -1
}
/** The same of rows whose cell is filled. */
export const placeFilled = (rows: Int32Array, ids: Uint32Array, column: Column): number => {
  for (let i = 0; i < ids.length; i++) {
    if (isNullAt(column, i)) continue
    if (rows[ids[i]!] !== -1) return i
    rows[ids[i]!] = i
  }
  return -1
}

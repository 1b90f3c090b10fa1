import { isTextColumn, isNullAt, lengthOf, typeTogether, type Column } from '../../table/column.ts'
import { concat, mapText } from '../../table/gather.ts'
import { groupBy } from '../../table/group.ts'
import { isSet, int32s } from '../../kernels/memory.ts'
import { convert } from '../../reading/convert.ts'
import { lower, trim } from '../../table/text.ts'

/** What is passed over where keys are compared. */
export type KeyComparison = { readonly ignoreCase?: boolean | undefined; readonly trim?: boolean | undefined }

/** Text as keys are compared: cut and in small letters where so asked. */
const seen = (column: Column, { ignoreCase, trim: cut }: KeyComparison): Column =>
  column.type !== 'text' || (!ignoreCase && !cut)
    ? column
    : mapText(column, (text) => (ignoreCase ? lower(cut ? trim(text) : text) : trim(text)))

/** Rows whose cell is empty get the id -1. */
const withoutEmpty = (ids: Int32Array, column: Column): void => {
  if (isTextColumn(column)) {
    for (let i = 0; i < ids.length; i++) if (isNullAt(column, i)) ids[i] = -1
  } else if (column.nulls) for (let i = 0; i < ids.length; i++) if (isSet(column.nulls, i)) ids[i] = -1
}

/**
 * Rows of two tables by their keys: `left[i] === right[k]` where all keys are equal; -1 where one of them is empty, which
 * matches nothing. Numbers of either sort compare by value.
 */
export const keyIds = (
  left: readonly Column[],
  right: readonly Column[],
  how: KeyComparison,
): { readonly left: Int32Array; readonly right: Int32Array; readonly count: number } => {
  const n = left[0] ? lengthOf(left[0]) : 0
  const m = right[0] ? lengthOf(right[0]) : 0
  const both = left.map((column, i) => {
    const type = typeTogether([column.type, (right[i] as Column).type])
    return concat(type, [
      convert(seen(column, how), { type }).column,
      convert(seen(right[i] as Column, how), { type }).column,
    ])
  })
  const { ids, count } = groupBy(both, n + m)
  const all = new Int32Array(ids.buffer, ids.byteOffset, ids.length)
  for (const column of both) withoutEmpty(all, column)
  return { left: all.subarray(0, n), right: all.subarray(n), count }
}

/** Rows by id: those of id g stand in `rows` from `starts[g]` to `starts[g + 1]`, in their own order. */
export const bucket = (ids: Int32Array, count: number): { readonly starts: Int32Array; readonly rows: Int32Array } => {
  const starts = int32s(count + 1)
  for (const id of ids) if (id >= 0) starts[id + 1] = starts[id + 1]! + 1
  for (let g = 0; g < count; g++) starts[g + 1] = starts[g + 1]! + starts[g]!
  const next = starts.slice()
  const rows = int32s(starts[count]!)
  for (let i = 0; i < ids.length; i++) {
    const id = ids[i]!
    if (id < 0) continue
    rows[next[id]!] = i
    next[id] = next[id]! + 1
  }
  return { starts, rows }
}

import { kernels } from '../kernels/kernels.ts'
import { uint32s } from '../kernels/memory.ts'
import type { DenseCodes, Groups } from '../kernels/table-kernels.ts'
import { codesOf } from './codes.ts'
import type { Column } from './column.ts'
import type { Table } from './table.ts'

/** Pairs whose codes have a product below this are told apart by it. */
const mostProduct = 1 << 22
/** Groups of rows equal in two codes. */
export const pairCodes = (a: DenseCodes, b: DenseCodes): Groups => {
  if (a.bound * b.bound > mostProduct) return kernels().pairGroups(a.codes, b.codes)
  return kernels().groupPairs(a, b)
}

/** Groups of rows equal in all these columns. No columns: one group of all rows, none where there are no rows. */
export const groupBy = (columns: readonly Column[], rowCount: number): Groups =>
  groupsOf(
    columns.map((column) => () => codesOf(column)),
    rowCount,
  )
/** Groups of the rows of a table that are equal in all these columns; of no columns as `groupBy`. */
export const groupRows = (table: Table, names: readonly string[]): Groups =>
  groupsOf(
    names.map((name) => () => table.codes(table.positionOf(name))),
    table.rowCount,
  )
/** Codes are made one after the other, so that no more than two are held. */
const groupsOf = (columns: readonly (() => DenseCodes)[], rowCount: number): Groups => {
  const [first, second, ...rest] = columns
  if (!first)
    return { ids: uint32s(rowCount), count: rowCount > 0 ? 1 : 0, first: new Int32Array(rowCount > 0 ? 1 : 0) }
  if (!second) return kernels().groupCodes(first())
  return rest.reduce(
    (groups, column) => pairCodes({ codes: groups.ids, bound: groups.count }, column()),
    pairCodes(first(), second()),
  )
}

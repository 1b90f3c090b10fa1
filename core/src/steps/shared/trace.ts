import type { RowSet } from '../../table/row-set.ts'
import type { TraceSource } from './step-kind.ts'

/** Columns of the same rows; the rows without a column where none is named. */
export const sourcesIn = (columns: readonly string[], rows: RowSet): readonly TraceSource[] =>
  columns.length === 0 ? [{ rows }] : [...new Set(columns)].map((column) => ({ column, rows }))

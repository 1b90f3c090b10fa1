import type { RowSet } from '../../table/row-set.ts'
import type { Table } from '../../table/table.ts'
import type { RowLineage, RunContext } from './step-kind.ts'

/** A step that ran, as it is traced through. */
export type TracedStep = {
  /** The table before it; without columns where it is a start. */
  readonly before: Table
  readonly after: Table
  readonly context: RunContext
  readonly lineage: RowLineage
  /** The rows before it that rows after it were made of, by its row lineage. */
  readonly back: (rows: RowSet) => RowSet
}

/** Rows that a row or a cell was made of. `table`: another table, finished; absent for the table before the step. `column`: absent for the row as a whole. */
export type TraceSource = {
  readonly table?: string | undefined
  readonly column?: string | undefined
  readonly rows: RowSet
}

/** Why a row left at a step. `rowName` names a row of the table before it as its file does. */
export type LeftContext = TracedStep & { readonly rowName: (row: number) => string }

/** How a kind of step is traced through; what it leaves out follows from its row and column lineage. */
export type StepTrace<P> = {
  /** What rows after it were made of, where row lineage does not say it. */
  readonly rows?: (params: P, step: TracedStep, rows: RowSet) => readonly TraceSource[]
  /** What the cells of a column in these rows were made of; undefined where column lineage says it. */
  readonly cells?: (params: P, step: TracedStep, column: string, rows: RowSet) => readonly TraceSource[] | undefined
  /** The rows after it that were made of rows of another table. */
  readonly fromTable?: (params: P, step: TracedStep, table: string, rows: RowSet) => RowSet
  /** Why a row before it, or of another table, is in no row after it, in words of its own values. */
  readonly left?: (params: P, step: LeftContext, row: number, table: string | undefined) => string | undefined
  /** The columns by whose values alone `left` says why; rows alike in them left for the same reason. Without it every row is asked about. */
  readonly leftBy?: (params: P, step: TracedStep, table: string | undefined) => readonly string[]
  /** Why a row before it that it could have taken away stays, or what it did with it. */
  readonly did?: (params: P, step: TracedStep, row: number) => string | undefined
  /** What it made of a cell, where “a became b” does not say it well. */
  readonly changed?: (before: string, after: string) => string
}

/** Columns of the same rows; the rows without a column where none is named. */
export const sourcesIn = (columns: readonly string[], rows: RowSet): readonly TraceSource[] =>
  columns.length === 0 ? [{ rows }] : [...new Set(columns)].map((column) => ({ column, rows }))

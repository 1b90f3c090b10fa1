import type { RowSet } from '../table/row-set.ts'
import type { BackTrace } from './back.ts'
import type { PlacedStep } from './traced-run.ts'

/** Rows whose empty cell a figure passed over: after the step before the one that made the figure. */
export type PassedOver = { readonly at: PlacedStep; readonly column: string; readonly rows: RowSet }

/** The rows of its group that the figure of a cell passed over, as their cell is empty; undefined where it is no figure of a column. O(rows of the group). */
export const passedOver = (
  steps: ReadonlyMap<string, readonly PlacedStep[]>,
  { visits }: BackTrace,
): PassedOver | undefined => {
  for (const { placed, column: made, rows, sources } of visits) {
    const { traced, table } = placed
    if (traced.lineage.kind !== 'groups') continue
    const [source] = sources
    const own = steps.get(table) ?? []
    const at = own[own.indexOf(placed) - 1]
    const column = source?.column
    if (!at || column === undefined || column === made) return undefined
    const position = traced.before.positionOf(column)
    const empty = traced.back(rows).rows.filter((row) => traced.before.isNull(position, row))
    return { at, column, rows: { rows: empty } }
  }
  return undefined
}

import { kindOf, paramsOf } from '../recipe/step-access.ts'
import { takenTables } from '../recipe/used-tables.ts'
import { allRows, noRows, oneRow, RowCounter, sumOfSets, timesOfRows, type RowSet } from '../table/row-set.ts'
import { inputOf, isOrigin, type PlacedStep } from './traced-run.ts'

/** Rows after a step that rows before it went into. */
const forward = ({ traced: { lineage, after }, step }: PlacedStep, rows: RowSet): RowSet => {
  if (rows.rows.length === 0) return noRows
  if (lineage.kind === 'same') return rows
  if (kindOf(step).trace?.rows !== undefined && lineage.kind === 'source') return allRows(after.rowCount)
  if (lineage.kind === 'source') return noRows
  const counter = new RowCounter(after.rowCount)
  if (lineage.kind === 'groups') {
    const { ids } = lineage.groups
    for (const row of rows.rows) counter.add(ids[row]!, 1)
    return { rows: counter.done().rows }
  }
  const wanted = timesOfRows(rows, (rows.rows.at(-1) ?? -1) + 1)
  for (let at = 0; at < lineage.index.length; at++) if ((wanted[lineage.index[at]!] ?? 0) > 0) counter.add(at, 1)
  return counter.done()
}

/** A step at which all that was left of a row left: the row there, of the table before it or of another one. */
export type Leaving = {
  readonly placed: PlacedStep
  readonly row: number
  readonly table: string | undefined
}
/** What became of a row in a table: the rows of its result that it is in, or where it left. */
export type Fate = { readonly rows: Int32Array } | { readonly left: Leaving }

/** The later of two leavings in the order of running. */
const later = (a: Leaving | undefined, b: Leaving | undefined): Leaving | undefined => {
  if (!a || !b) return a ?? b
  return b.placed.order >= a.placed.order ? b : a
}

/** The rows of one table that a source row is in, step by step. */
type ForwardState = {
  readonly rows: RowSet
  /** Whether the row comes into the table at all, to stay or to leave. */
  readonly reached: boolean
  readonly left: Leaving | undefined
}

/** The rows of another table that a step takes in, or where they left. */
const withTable = (state: ForwardState, placed: PlacedStep, other: string, fate: Fate | undefined): ForwardState => {
  const fromTable = kindOf(placed.step).trace?.fromTable
  if (!fate || !fromTable) return state
  if ('left' in fate) return { ...state, reached: true, left: later(state.left, fate.left) }
  const brought = fromTable(paramsOf(placed.step), placed.traced, other, { rows: fate.rows })
  const gone: Leaving | undefined =
    brought.rows.length === 0 ? { placed, row: fate.rows[0] ?? 0, table: other } : undefined
  return { rows: sumOfSets(state.rows, brought), reached: true, left: later(state.left, gone) }
}

/** The state after a step. What left at it counts only where nothing of the row is in its result. */
const afterStep = (state: ForwardState, placed: PlacedStep, fates: ReadonlyMap<string, Fate>): ForwardState => {
  const rows = forward(placed, state.rows)
  const own: Leaving | undefined =
    state.rows.rows.length > 0 && rows.rows.length === 0
      ? { placed, row: state.rows.rows[0] ?? 0, table: undefined }
      : undefined
  const next = takenTables(placed.step).reduce<ForwardState>(
    (now, other) => withTable(now, placed, other, fates.get(other)),
    {
      rows,
      reached: state.reached,
      left: later(state.left, own),
    },
  )
  return next.rows.rows.length > 0 ? { ...next, left: state.left } : next
}

/** Rows of the finished tables that a row is in, or the step at which it left each; only tables that it reaches. */
export const fatesOf = (
  steps: ReadonlyMap<string, readonly PlacedStep[]>,
  origin: PlacedStep,
  row: number,
): ReadonlyMap<string, Fate> => {
  const fates = new Map<string, Fate>()
  const input = inputOf(origin)
  const begins = (placed: PlacedStep): boolean =>
    placed === origin || (input !== undefined && isOrigin(placed) && inputOf(placed) === input)
  for (const [table, own] of steps) {
    let state: ForwardState = { rows: noRows, reached: false, left: undefined }
    for (const placed of own)
      state = begins(placed) ? { rows: oneRow(row), reached: true, left: undefined } : afterStep(state, placed, fates)
    if (state.rows.rows.length > 0) fates.set(table, { rows: state.rows.rows })
    else if (state.left) fates.set(table, { left: state.left })
  }
  return fates
}

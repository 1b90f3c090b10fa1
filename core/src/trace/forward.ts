import { kindOf, paramsOf } from '../recipe/step-access.ts'
import { usedTables } from '../recipe/used-tables.ts'
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
    for (const row of rows.rows) counter.add(lineage.ids[row]!, 1)
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

/** A row on its way through one table. */
type Way = {
  readonly rows: RowSet
  /** Whether the row comes into the table at all, to stay or to leave. */
  readonly reached: boolean
  readonly left: Leaving | undefined
}

/** The rows of another table that a step takes in, or where they left. */
const joinedBy = (way: Way, placed: PlacedStep, other: string, fate: Fate | undefined): Way => {
  const fromTable = kindOf(placed.step).trace?.fromTable
  if (!fate || !fromTable) return way
  if ('left' in fate) return { ...way, reached: true, left: later(way.left, fate.left) }
  const brought = fromTable(paramsOf(placed.step), placed.traced, other, { rows: fate.rows })
  const gone: Leaving | undefined =
    brought.rows.length === 0 ? { placed, row: fate.rows[0] ?? 0, table: other } : undefined
  return { rows: sumOfSets(way.rows, brought), reached: true, left: later(way.left, gone) }
}

/** One step of a row's way. What left at it counts only where nothing of the row is in its result. */
const stepOn = (way: Way, placed: PlacedStep, fates: ReadonlyMap<string, Fate>): Way => {
  const rows = forward(placed, way.rows)
  const own: Leaving | undefined =
    way.rows.rows.length > 0 && rows.rows.length === 0
      ? { placed, row: way.rows.rows[0] ?? 0, table: undefined }
      : undefined
  const next = usedTables(placed.step).reduce<Way>((now, other) => joinedBy(now, placed, other, fates.get(other)), {
    rows,
    reached: way.reached,
    left: later(way.left, own),
  })
  return next.rows.rows.length > 0 ? { ...next, left: way.left } : next
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
    let way: Way = { rows: noRows, reached: false, left: undefined }
    for (const placed of own)
      way = begins(placed) ? { rows: oneRow(row), reached: true, left: undefined } : stepOn(way, placed, fates)
    if (way.rows.rows.length > 0) fates.set(table, { rows: way.rows.rows })
    else if (way.left) fates.set(table, { left: way.left })
  }
  return fates
}

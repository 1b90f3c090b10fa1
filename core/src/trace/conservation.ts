import { kindOf } from '../recipe/step-access.ts'
import { takenTables } from '../recipe/used-tables.ts'
import { allRows, noRows, oneRow, type RowSet } from '../table/row-set.ts'
import { traceBack } from './back.ts'
import { inputOf, isOrigin, rowSources, type PlacedStep } from './traced-run.ts'

/** The steps of a run, and the tables that one is made from in the order of running, itself last. */
export type TracedChain = {
  readonly steps: ReadonlyMap<string, readonly PlacedStep[]>
  readonly tables: readonly string[]
}

/** Of an input the rows that are in a table's result, and of the others at which step each left. */
export type Conservation = {
  readonly input: string
  readonly opened: number
  readonly inResult: number
  /** Of the rows in the result, those that reach no figure of it; undefined where it has no figures. */
  readonly withoutFigure: number | undefined
  readonly left: readonly {
    readonly placed: PlacedStep
    /** Rows of the opened input. */
    readonly rows: Int32Array
    /** Of each of them the row there at which the last of it left, of the table before the step or of another one. */
    readonly lastRows: readonly { readonly row: number; readonly table: string | undefined }[]
  }[]
}

/** The rows of each input that rows after a step were made of, a mark a row. */
const originOf = (
  chain: TracedChain,
  at: PlacedStep,
  rows: RowSet,
  columns?: readonly string[],
): ReadonlyMap<string, Uint8Array> => {
  const found = new Map<string, Uint8Array>()
  for (const { placed, state } of traceBack(chain.steps, chain.tables, at, rows, columns, false).origins) {
    const input = inputOf(placed)
    if (input === undefined) continue
    const marks = found.get(input) ?? new Uint8Array(placed.traced.after.rowCount)
    found.set(input, marks)
    for (const set of state.values()) for (const row of set.rows) marks[row] = 1
  }
  return found
}

/** Rows of one table that are in no row after a step: of the table before it, or of another one after its last step. */
type Leavers = { readonly table: string | undefined; readonly after: PlacedStep; readonly rows: RowSet }

/** The rows that leave at a step, by table. */
const leaversAt = ({ steps }: TracedChain, placed: PlacedStep): readonly Leavers[] => {
  const { traced } = placed
  const sources = rowSources(placed, allRows(traced.after.rowCount))
  const missing = (count: number, table: string | undefined): RowSet => {
    const marks = new Uint8Array(count)
    for (const source of sources) if (source.table === table) for (const row of source.rows.rows) marks[row] = 1
    return { rows: Int32Array.from(marks.keys()).filter((row) => marks[row] === 0) }
  }
  const own = steps.get(placed.table) ?? []
  const previous = own[own.indexOf(placed) - 1]
  const others = takenTables(placed.step)
  const all: readonly (readonly [string | undefined, PlacedStep | undefined, RowSet])[] = [
    [undefined, previous, traced.lineage.kind === 'same' ? noRows : missing(traced.before.rowCount, undefined)],
    ...others.map((id) => [id, steps.get(id)?.at(-1), missing(traced.context.table(id).rowCount, id)] as const),
  ]
  return all.flatMap(([table, after, rows]) => (after && rows.rows.length > 0 ? [{ table, after, rows }] : []))
}

/** Columns of the result that are figures: made by a measure of groups and carried on. */
const figureColumns = (chain: TracedChain, at: PlacedStep): string[] => {
  return at.traced.after.names.filter((column) =>
    traceBack(chain.steps, chain.tables, at, allRows(Math.min(1, at.traced.after.rowCount)), [column]).visits.some(
      ({ placed: { traced }, column: name, sources }) =>
        traced.lineage.kind === 'groups' &&
        name !== undefined &&
        (traced.before.positionOf(name) < 0 || sources.some((source) => source.column !== name)),
    ),
  )
}

/** The rows of an input that a row after a step was made of. */
const inputRowsOf = (chain: TracedChain, at: PlacedStep, row: number, input: string): number[] =>
  traceBack(chain.steps, chain.tables, at, oneRow(row), undefined, false)
    .origins.filter(({ placed }) => inputOf(placed) === input)
    .flatMap(({ state }) => [...state.values()].flatMap(({ rows }) => [...rows]))

/** Of each row after a step the one row of the input that it was made of; undefined where steps between make rows of several. O(rows and steps). */
const originIndex = ({ steps }: TracedChain, at: PlacedStep, input: string): Int32Array | undefined => {
  const own = steps.get(at.table) ?? []
  let index = allRows(at.traced.after.rowCount).rows
  for (let i = own.indexOf(at); i >= 0; i--) {
    const placed = own[i] as PlacedStep
    const { lineage } = placed.traced
    if (isOrigin(placed)) return inputOf(placed) === input ? index : undefined
    if (kindOf(placed.step).trace?.fromTable || (lineage.kind !== 'same' && lineage.kind !== 'index')) return undefined
    if (lineage.kind === 'index') index = index.map((row) => (row < 0 ? -1 : lineage.index[row]!))
  }
  return undefined
}

/** Of rows of an input that left at a step, the row that left there: followed back from each that left. */
const lastRowsOf = (
  chain: TracedChain,
  leavers: readonly Leavers[],
  input: string,
  rows: readonly number[],
): { row: number; table: string | undefined }[] => {
  const wanted = new Set(rows)
  const found = new Map<number, { row: number; table: string | undefined }>()
  for (const { table, after, rows: left } of leavers) {
    const one = originIndex(chain, after, input)
    for (const row of left.rows) {
      if (found.size === wanted.size) break
      const sources = one ? [one[row]!] : inputRowsOf(chain, after, row, input)
      const unseen = sources.filter((source) => wanted.has(source) && !found.has(source))
      for (const source of unseen) found.set(source, { row, table })
    }
  }
  return rows.map((row) => found.get(row) ?? { row: 0, table: undefined })
}

/** Rows by the step at which they left; only those that `began` marks. */
const rowsByStep = (
  leftAt: readonly (PlacedStep | undefined)[],
  began: Uint8Array | undefined,
): ReadonlyMap<PlacedStep, number[]> => {
  const groups = new Map<PlacedStep, number[]>()
  leftAt.forEach((placed, row) => {
    if (!placed || began?.[row] === 0) return
    const known = groups.get(placed)
    if (known) known.push(row)
    else groups.set(placed, [row])
  })
  return groups
}

/** Of the rows that are in a result, how many there are and how many reach no figure; only those that `began` marks. */
const countInside = (inside: Uint8Array, counted: Uint8Array | undefined, began: Uint8Array | undefined) => {
  let inResult = 0
  let withoutFigure = 0
  for (let row = 0; row < inside.length; row++) {
    if (inside[row] !== 1 || began?.[row] === 0) continue
    inResult++
    if (counted?.[row] !== 1) withoutFigure++
  }
  return { inResult, withoutFigure }
}

/** The first step of these tables that opens an input. */
const openingOf = ({ steps, tables }: TracedChain, input: string): PlacedStep | undefined =>
  tables.flatMap((id) => steps.get(id) ?? []).find((placed) => isOrigin(placed) && inputOf(placed) === input)

/**
 * Where every row of an input went: it is in the table's result, or left at one step, the latest in the order of running.
 * @param since only rows that are in a row after this step count
 */
export const conservation = (
  chain: TracedChain,
  table: string,
  input: string,
  since?: PlacedStep,
): Conservation | undefined => {
  const { steps, tables } = chain
  const at = steps.get(table)?.at(-1)
  const origin = openingOf(chain, input)
  if (!at || !origin) return undefined
  const all = origin.traced.after.rowCount
  const began = since && originOf(chain, since, allRows(since.traced.after.rowCount)).get(input)
  if (since && !began) return undefined
  const opened = began ? began.reduce((sum, mark) => sum + mark, 0) : all
  const inside = originOf(chain, at, allRows(at.traced.after.rowCount)).get(input) ?? new Uint8Array(all)
  const leftAt: (PlacedStep | undefined)[] = Array.from({ length: all })
  const leaving = new Map<PlacedStep, readonly Leavers[]>()
  for (const placed of tables.flatMap((id) => steps.get(id) ?? [])) {
    const leavers = isOrigin(placed) ? [] : leaversAt(chain, placed)
    if (leavers.length === 0) continue
    leaving.set(placed, leavers)
    markLeavers(chain, placed, leavers, input, inside, leftAt)
  }
  const groups = rowsByStep(leftAt, began)
  const figures = figureColumns(chain, at)
  const counted =
    figures.length === 0 ? undefined : originOf(chain, at, allRows(at.traced.after.rowCount), figures).get(input)
  const { inResult, withoutFigure } = countInside(inside, counted, began)
  return {
    input,
    opened,
    inResult,
    withoutFigure: figures.length === 0 ? undefined : withoutFigure,
    left: [...groups].map(([placed, rows]) => ({
      placed,
      rows: Int32Array.from(rows),
      lastRows: lastRowsOf(chain, leaving.get(placed) ?? [], input, rows),
    })),
  }
}

/** Marks the rows of an input whose last rows in a step's table left at the step. */
const markLeavers = (
  chain: TracedChain,
  placed: PlacedStep,
  leavers: readonly Leavers[],
  input: string,
  inside: Uint8Array,
  leftAt: (PlacedStep | undefined)[],
): void => {
  const gone = leavers.flatMap(({ after, rows }) => originOf(chain, after, rows).get(input) ?? [])
  if (gone.length === 0) return
  const stays = originOf(chain, placed, allRows(placed.traced.after.rowCount)).get(input)
  for (let row = 0; row < leftAt.length; row++)
    if (inside[row] !== 1 && stays?.[row] !== 1 && gone.some((marks) => marks[row] === 1)) leftAt[row] = placed
}

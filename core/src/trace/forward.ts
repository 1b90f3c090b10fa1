import { kindOf, paramsOf } from '../recipe/step-access.ts'
import { usedTables } from '../recipe/used-tables.ts'
import { allRows, noRows, oneRow, RowCounter, sumOfSets, timesOfRows, type RowSet } from '../table/row-set.ts'
import { traceBack } from './back.ts'
import { inputOf, isOrigin, rowSources, type PlacedStep } from './traced-run.ts'

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

const originOf = (
  steps: ReadonlyMap<string, readonly PlacedStep[]>,
  chain: readonly string[],
  at: PlacedStep,
  rows: RowSet,
  columns?: readonly string[],
): ReadonlyMap<string, Uint8Array> => {
  const found = new Map<string, Uint8Array>()
  for (const { placed, state } of traceBack(steps, chain, at, rows, columns, false).origins) {
    const input = inputOf(placed)
    if (input === undefined) continue
    const marks = found.get(input) ?? new Uint8Array(placed.traced.after.rowCount)
    found.set(input, marks)
    for (const set of state.values()) for (const row of set.rows) marks[row] = 1
  }
  return found
}

/** Rows before a step, and of the other tables that it uses, that are in no row after it. */
const leavers = (placed: PlacedStep): { readonly own: RowSet; readonly others: ReadonlyMap<string, RowSet> } => {
  const { traced } = placed
  const sources = rowSources(placed, allRows(traced.after.rowCount))
  const missing = (count: number, table: string | undefined): RowSet => {
    const marks = new Uint8Array(count)
    for (const source of sources) if (source.table === table) for (const row of source.rows.rows) marks[row] = 1
    return { rows: Int32Array.from(marks.keys()).filter((row) => marks[row] === 0) }
  }
  const follows = kindOf(placed.step).trace?.fromTable !== undefined
  return {
    own: traced.lineage.kind === 'same' ? noRows : missing(traced.before.rowCount, undefined),
    others: new Map(
      follows ? usedTables(placed.step).map((id) => [id, missing(traced.context.table(id).rowCount, id)]) : [],
    ),
  }
}

/** Columns of the result that are figures: made by a measure of groups and carried on. */
const figureColumns = (steps: ReadonlyMap<string, readonly PlacedStep[]>, chain: readonly string[], at: PlacedStep) => {
  const columns = at.traced.after.names.filter((column) =>
    traceBack(steps, chain, at, allRows(Math.min(1, at.traced.after.rowCount)), [column]).visits.some(
      ({ placed: { traced }, column: name, sources }) =>
        traced.lineage.kind === 'groups' &&
        name !== undefined &&
        (traced.before.positionOf(name) < 0 || sources.some((source) => source.column !== name)),
    ),
  )
  return columns
}

/** The rows of an input that a row after a step was made of. */
const inputRowsOf = (
  steps: ReadonlyMap<string, readonly PlacedStep[]>,
  chain: readonly string[],
  at: PlacedStep,
  row: number,
  input: string,
): number[] =>
  traceBack(steps, chain, at, oneRow(row), undefined, false)
    .origins.filter(({ placed }) => inputOf(placed) === input)
    .flatMap(({ state }) => [...state.values()].flatMap(({ rows }) => [...rows]))

/** Of each row after a step the one row of the input that it was made of; undefined where steps between make rows of several. O(rows and steps). */
const originIndex = (
  steps: ReadonlyMap<string, readonly PlacedStep[]>,
  at: PlacedStep,
  input: string,
): Int32Array | undefined => {
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
  steps: ReadonlyMap<string, readonly PlacedStep[]>,
  chain: readonly string[],
  placed: PlacedStep,
  input: string,
  rows: readonly number[],
): { row: number; table: string | undefined }[] => {
  const { own, others } = leavers(placed)
  const table = steps.get(placed.table) ?? []
  const wanted = new Set(rows)
  const found = new Map<number, { row: number; table: string | undefined }>()
  const look = (at: PlacedStep | undefined, left: RowSet, of: string | undefined): void => {
    const one = at && originIndex(steps, at, input)
    for (const row of at ? left.rows : []) {
      if (found.size === wanted.size) return
      const sources = one ? [one[row]!] : inputRowsOf(steps, chain, at as PlacedStep, row, input)
      for (const source of sources) if (wanted.has(source) && !found.has(source)) found.set(source, { row, table: of })
    }
  }
  look(table[table.indexOf(placed) - 1], own, undefined)
  for (const [id, left] of others) look(steps.get(id)?.at(-1), left, id)
  return rows.map((row) => found.get(row) ?? { row: 0, table: undefined })
}

/** Where every row of an input went: it is in the table's result, or left at one step, the latest in the order of running. */
export const conservation = (
  steps: ReadonlyMap<string, readonly PlacedStep[]>,
  chain: readonly string[],
  table: string,
  input: string,
): Conservation | undefined => {
  const at = steps.get(table)?.at(-1)
  const origin = chain
    .flatMap((id) => steps.get(id) ?? [])
    .find((placed) => isOrigin(placed) && inputOf(placed) === input)
  if (!at || !origin) return undefined
  const opened = origin.traced.after.rowCount
  const inside = originOf(steps, chain, at, allRows(at.traced.after.rowCount)).get(input) ?? new Uint8Array(opened)
  const leftAt: (PlacedStep | undefined)[] = Array.from({ length: opened })
  for (const id of chain)
    for (const placed of steps.get(id) ?? [])
      if (!isOrigin(placed)) markLeavers(steps, chain, placed, input, inside, leftAt)
  const groups = new Map<PlacedStep, number[]>()
  leftAt.forEach((placed, row) => {
    if (!placed) return
    const known = groups.get(placed)
    if (known) known.push(row)
    else groups.set(placed, [row])
  })
  const figures = figureColumns(steps, chain, at)
  const counted =
    figures.length === 0 ? undefined : originOf(steps, chain, at, allRows(at.traced.after.rowCount), figures).get(input)
  let inResult = 0
  let withoutFigure = 0
  for (let row = 0; row < opened; row++) {
    if (inside[row] !== 1) continue
    inResult++
    if (counted?.[row] !== 1) withoutFigure++
  }
  return {
    input,
    opened,
    inResult,
    withoutFigure: figures.length === 0 ? undefined : withoutFigure,
    left: [...groups].map(([placed, rows]) => ({
      placed,
      rows: Int32Array.from(rows),
      lastRows: lastRowsOf(steps, chain, placed, input, rows),
    })),
  }
}

/** The rows of an input, as marks, of which rows leave at a step: of its own table, or of another one that it uses. */
const marksOfLeavers = (
  steps: ReadonlyMap<string, readonly PlacedStep[]>,
  chain: readonly string[],
  placed: PlacedStep,
  input: string,
): Uint8Array[] => {
  const { own, others } = leavers(placed)
  const table = steps.get(placed.table) ?? []
  const from: (readonly [PlacedStep | undefined, RowSet])[] = [
    [table[table.indexOf(placed) - 1], own],
    ...[...others].map(([id, rows]) => [steps.get(id)?.at(-1), rows] as const),
  ]
  return from.flatMap(([last, rows]) => {
    const marks = last && rows.rows.length > 0 ? originOf(steps, chain, last, rows).get(input) : undefined
    return marks ? [marks] : []
  })
}

/** Marks the rows of an input whose last rows in a step's table left at the step. */
const markLeavers = (
  steps: ReadonlyMap<string, readonly PlacedStep[]>,
  chain: readonly string[],
  placed: PlacedStep,
  input: string,
  inside: Uint8Array,
  leftAt: (PlacedStep | undefined)[],
): void => {
  const gone = marksOfLeavers(steps, chain, placed, input)
  if (gone.length === 0) return
  const stays = originOf(steps, chain, placed, allRows(placed.traced.after.rowCount)).get(input)
  for (let row = 0; row < leftAt.length; row++)
    if (inside[row] !== 1 && stays?.[row] !== 1 && gone.some((marks) => marks[row] === 1)) leftAt[row] = placed
}

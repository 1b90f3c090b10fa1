import { oneRow, sumOfSets, type RowSet } from '../table/row-set.ts'
import type { TraceSource } from '../steps/shared/step-kind.ts'
import { cellSources, isOrigin, rowSources, type PlacedStep } from './traced-run.ts'

/**
 * Rows of a table under way to their sources, by column and term. A row without a column stands under ''. What several
 * columns of one formula name are terms apart: a row that enters by two of them enters once.
 */
type State = Map<string, RowSet>
const keyOf = (column: string | undefined, term: string): string => `${column ?? ''}\u0000${term}`
const partsOf = (key: string): { readonly column: string | undefined; readonly term: string } => {
  const at = key.indexOf('\u0000')
  return { column: at === 0 ? undefined : key.slice(0, at), term: key.slice(at + 1) }
}

/** Beyond so many terms they are taken together, so that formulas upon formulas stay cheap. */
const mostTerms = 400

const add = (state: State, key: string, rows: RowSet): void => {
  if (rows.rows.length === 0) return
  const known = state.get(key)
  state.set(key, known ? sumOfSets(known, rows) : rows)
}

/** Rows of an input, or typed in, that something was made of; by column and term. */
export type Origin = { readonly placed: PlacedStep; readonly state: ReadonlyMap<string, RowSet> }

/** What of a step lay on the way back: its sources of each column that was followed. */
export type BackVisit = {
  readonly placed: PlacedStep
  readonly column: string | undefined
  /** The rows after the step. */
  readonly rows: RowSet
  readonly sources: readonly TraceSource[]
}

/** The way back from rows, or cells of a column, after a step. */
export type BackTrace = { readonly origins: readonly Origin[]; readonly visits: readonly BackVisit[] }

type Walk = {
  /** Rows of finished tables that are still to be followed. */
  readonly pending: Map<string, State>
  readonly visits: BackVisit[] | undefined
}

/** Several columns of the same rows are terms of a formula. */
const termOf = (term: string, sources: readonly TraceSource[], i: number, size: number): string => {
  const isFormula =
    sources.length > 1 && sources.every(({ rows, table }) => table === undefined && rows === sources[0]?.rows)
  return isFormula && size < mostTerms ? `${term}/${i}` : term
}

const stepBack = (walk: Walk, placed: PlacedStep, state: State): State => {
  const before: State = new Map()
  for (const [key, rows] of state) {
    const { column, term } = partsOf(key)
    const sources = column === undefined ? rowSources(placed, rows) : cellSources(placed, column, rows)
    walk.visits?.push({ placed, column, rows, sources })
    sources.forEach((source, i) => {
      const next = keyOf(source.column, termOf(term, sources, i, before.size))
      if (source.table === undefined) add(before, next, source.rows)
      else {
        const there = walk.pending.get(source.table) ?? new Map<string, RowSet>()
        walk.pending.set(source.table, there)
        add(there, next, source.rows)
      }
    })
  }
  return before
}

const tableBack = (walk: Walk, steps: readonly PlacedStep[], from: State): Origin[] => {
  let state = from
  for (let i = steps.length - 1; i >= 0 && state.size > 0; i--) {
    const placed = steps[i] as PlacedStep
    if (isOrigin(placed)) {
      walk.visits?.push(
        ...[...state].map(([key, rows]) => ({ placed, column: partsOf(key).column, rows, sources: [] })),
      )
      return [{ placed, state }]
    }
    state = stepBack(walk, placed, state)
  }
  return []
}

/**
 * Follows rows, or the cells of a column in them, from after a step back to the rows that they were made of.
 * @param chain tables in the order of running, the step's own last
 * @param at the step of the last table; the rows are those after it
 */
export const traceBack = (
  steps: ReadonlyMap<string, readonly PlacedStep[]>,
  chain: readonly string[],
  at: PlacedStep,
  rows: RowSet,
  columns: readonly string[] | undefined,
  visited = true,
): BackTrace => {
  const visits: BackVisit[] = []
  const walk: Walk = { pending: new Map(), visits: visited ? visits : undefined }
  const start: State = new Map((columns ?? [undefined]).map((column) => [keyOf(column, ''), rows]))
  const own = steps.get(at.table) ?? []
  const origins = tableBack(walk, own.slice(0, own.indexOf(at) + 1), start)
  for (const table of [...chain].reverse()) {
    const state = walk.pending.get(table)
    if (table !== at.table && state) origins.push(...tableBack(walk, steps.get(table) ?? [], state))
  }
  return { origins, visits }
}

/** Rows of an origin together, with how often each enters and by which columns. */
export type OriginRows = {
  readonly placed: PlacedStep
  /** How many rows there are. */
  readonly count: number
  /** The first of them. */
  readonly rows: readonly { readonly row: number; readonly times: number; readonly columns: readonly string[] }[]
}

/** The rows of each origin once, ascending; of the first `most` what is known of them. A row enters as often as by the column and term by which it enters most often. */
export const originRows = ({ placed, state }: Origin, most = Infinity): OriginRows => {
  const marks = new Uint8Array(placed.traced.after.rowCount)
  for (const { rows } of state.values()) for (const row of rows) marks[row] = 1
  const first: number[] = []
  let count = 0
  for (let row = 0; row < marks.length; row++) if (marks[row] === 1 && count++ < most) first.push(row)
  const found = new Map(first.map((row) => [row, { times: 0, columns: new Set<string>() }]))
  const last = first.at(-1) ?? -1
  for (const [key, { rows, times }] of state) {
    const { column } = partsOf(key)
    for (let i = 0; i < rows.length && rows[i]! <= last; i++) {
      const one = found.get(rows[i]!)
      if (!one) continue
      one.times = Math.max(one.times, times?.[i] ?? 1)
      if (column !== undefined) one.columns.add(column)
    }
  }
  return { placed, count, rows: [...found].map(([row, { times, columns }]) => ({ row, times, columns: [...columns] })) }
}

/** The way back of one row after a step. */
export const rowBack = (
  steps: ReadonlyMap<string, readonly PlacedStep[]>,
  chain: readonly string[],
  at: PlacedStep,
  row: number,
  column: string | undefined,
): BackTrace => traceBack(steps, chain, at, oneRow(row), column === undefined ? undefined : [column])

import { cellAt, isNumber, typeTogether, type Column, type ColumnType } from '../../table/column.ts'
import { concat, sliceRows } from '../../table/gather.ts'
import { groupBy } from '../../table/group.ts'
import { IntList, int32s } from '../../kernels/memory.ts'
import { convert } from '../../reading/convert.ts'
import { textOfCell } from '../../table/cell-text.ts'
import type { Table } from '../../table/table.ts'
import type { StepRun } from '../../engine/run.ts'
import { suggestKeys } from '../suggest/keys.ts'

/** Which rows of a difference are shown. */
export const reconcileShows = ['different', 'only-here', 'only-there', 'changed', 'all'] as const
/** One of the ways to show a difference. */
export type ReconcileShow = (typeof reconcileShows)[number]
/** A column of both tables, or of one: cells that differ among rows that stand in both, and totals of numbers. */
export type ColumnDifference = {
  readonly name: string
  readonly here: boolean
  readonly there: boolean
  readonly key: boolean
  readonly changed: number
  readonly totalHere?: number
  readonly totalThere?: number
}
/** How many rows stand on one side alone, are the same, or changed; and each column’s difference. */
export type ReconciliationFigures = {
  readonly keys: readonly string[]
  readonly rowsHere: number
  readonly rowsThere: number
  readonly onlyHere: number
  readonly onlyThere: number
  readonly same: number
  readonly changed: number
  /** Rows whose key stands more than once: they are paired one by one, in their order. */
  readonly repeated: number
  readonly columns: readonly ColumnDifference[]
}
/** A row of either table; `old` holds what changed cells held before, by position. */
export type ReconciledRow = {
  readonly row: number
  readonly state: 'same' | 'added' | 'removed'
  readonly cells: readonly (string | null)[]
  readonly old?: Readonly<Record<number, string>>
}

/** Each row here with the first that came from it there. */
const descended = (lineage: Int32Array, rows: number): { partner: Int32Array; alone: Int32Array } => {
  const partner = int32s(rows).fill(-1)
  const alone = new IntList()
  lineage.forEach((from, row) => {
    if (from >= 0 && partner[from]! < 0) partner[from] = row
    else alone.push(row)
  })
  return { partner, alone: alone.done() }
}

/** For each row after a later sentence the row after an earlier one that it was; undefined where rows were merged or made anew between. */
export const lineageBetween = (steps: readonly StepRun[], earlier: string, later: string): Int32Array | undefined => {
  const from = steps.findIndex(({ step }) => step.id === earlier)
  const to = steps.findIndex(({ step }) => step.id === later)
  if (from < 0 || to < from) return undefined
  let index = sliceRows(steps[to]?.table.rowCount ?? 0)
  for (const { result } of steps.slice(from + 1, to + 1).reverse()) {
    const origin = result?.lineage
    if (!origin || origin.kind === 'same') continue
    if (origin.kind !== 'index') return undefined
    index = index.map((row) => (row < 0 ? -1 : origin.index[row]!))
  }
  return index
}

/** A column of both tables, read as one type. */
const alike = (here: Table, there: Table, name: string): { readonly a: Column; readonly b: Column } => {
  const type = typeTogether([here.named(name).type, there.named(name).type])
  return { a: convert(here.named(name), { type }).column, b: convert(there.named(name), { type }).column }
}

const shared = (here: Table, there: Table): string[] => here.names.filter((name) => there.positionOf(name) >= 0)

/** Columns of the same name that tell rows apart in both tables; all they share where there are none. */
export const reconcileKeys = (here: Table, there: Table): string[] => {
  const named = (one: Table, other: Table): string[][] =>
    suggestKeys(one, other, 8).flatMap(({ on, repeats }) =>
      !repeats && on.every(({ left, right }) => left === right) ? [on.map(({ left }) => left).sort()] : [],
    )
  const back = named(there, here).map((names) => JSON.stringify(names))
  return named(here, there).find((names) => back.includes(JSON.stringify(names))) ?? shared(here, there)
}

const total = (column: Column): number | undefined => {
  if (column.type !== 'integer' && column.type !== 'decimal') return undefined
  let sum = 0
  for (let row = 0; row < column.values.length; row++) if (!Number.isNaN(column.values[row])) sum += column.values[row]!
  return sum
}

/** Two tables held against each other row by row, by keys of the same name. `here` is what was, `there` what is. */
export class Reconciliation {
  private readonly here: Table
  private readonly there: Table
  private readonly keys: readonly string[]
  /** Row there of each row here, -1 where there is none; and the other way round. */
  private readonly partner: Int32Array
  private readonly alone: Int32Array
  private readonly columns: readonly string[]
  /** Columns of both, but for the keys, as one type. */
  private readonly compared: readonly { readonly name: string; readonly a: Column; readonly b: Column }[]
  private readonly changedRow: Uint8Array
  private readonly changedCells: readonly number[]
  private repeated = 0

  /** Rows are paired by keys, or by where they came from: the row here of each row there, -1 where it has none. */
  constructor(here: Table, there: Table, by: { readonly keys: readonly string[] } | { readonly lineage: Int32Array }) {
    const keys = 'keys' in by ? by.keys : []
    this.here = here
    this.there = there
    this.keys = keys
    this.columns = [...here.names, ...there.names.filter((name) => here.positionOf(name) < 0)]
    const { partner, alone } = 'keys' in by ? this.pair() : descended(by.lineage, here.rowCount)
    this.partner = partner
    this.alone = alone
    this.compared = shared(here, there)
      .filter((name) => !keys.includes(name))
      .map((name) => ({ name, ...alike(here, there, name) }))
    this.changedRow = new Uint8Array(here.rowCount)
    this.changedCells = this.compared.map(({ a, b }) => {
      let changed = 0
      for (let row = 0; row < partner.length; row++) {
        const to = partner[row]!
        if (to < 0 || cellAt(a, row) === cellAt(b, to)) continue
        changed++
        this.changedRow[row] = 1
      }
      return changed
    })
  }

  private pair(): { partner: Int32Array; alone: Int32Array } {
    const { here, there, keys } = this
    const both = keys.map((name) => {
      const { a, b } = alike(here, there, name)
      return concat(a.type, [a, b])
    })
    // an empty key is a key like any other here: the question is what changed, not what belongs together
    const { ids, count } = groupBy(both, here.rowCount + there.rowCount)
    const left = ids.subarray(0, here.rowCount)
    const right = ids.subarray(here.rowCount)
    const first = int32s(count).fill(-1)
    const last = int32s(count).fill(-1)
    const next = int32s(there.rowCount).fill(-1)
    for (let row = 0; row < there.rowCount; row++) {
      const id = right[row]!
      if (first[id]! < 0) first[id] = row
      else next[last[id]!] = row
      last[id] = row
    }
    const partner = int32s(here.rowCount).fill(-1)
    const taken = new Uint8Array(there.rowCount)
    const seen = new Uint8Array(count)
    for (let row = 0; row < here.rowCount; row++) {
      const id = left[row]!
      const to = first[id]!
      if (seen[id]) this.repeated++
      seen[id] = 1
      if (to < 0) continue
      partner[row] = to
      taken[to] = 1
      first[id] = next[to]!
    }
    const alone = new IntList()
    for (let row = 0; row < there.rowCount; row++) if (!taken[row]) alone.push(row)
    return { partner, alone: alone.done() }
  }

  figures(): ReconciliationFigures {
    const { here, there, keys, partner, alone } = this
    const onlyHere = partner.reduce((sum, to) => sum + (to < 0 ? 1 : 0), 0)
    const changed = this.changedRow.reduce((sum, n) => sum + n, 0)
    const columns = this.columns.map((name): ColumnDifference => {
      const a = here.positionOf(name) >= 0 ? here.named(name) : undefined
      const b = there.positionOf(name) >= 0 ? there.named(name) : undefined
      const totals =
        a && b && isNumber(a.type) && isNumber(b.type) ? { totalHere: total(a) ?? 0, totalThere: total(b) ?? 0 } : {}
      return {
        name,
        here: a !== undefined,
        there: b !== undefined,
        key: keys.includes(name),
        changed: this.changedCells[this.compared.findIndex((one) => one.name === name)] ?? 0,
        ...totals,
      }
    })
    return {
      keys,
      rowsHere: here.rowCount,
      rowsThere: there.rowCount,
      onlyHere,
      onlyThere: alone.length,
      same: here.rowCount - onlyHere - changed,
      changed,
      repeated: this.repeated,
      columns,
    }
  }

  /** The rows that a figure counts: `removed` stand only here, `added` only there; changed cells hold what was in `old`. */
  show(
    which: ReconcileShow,
    from: number,
    count: number,
  ): {
    readonly total: number
    readonly columns: readonly {
      readonly name: string
      readonly type: ColumnType
      readonly state: 'same' | 'added' | 'removed'
    }[]
    readonly rows: readonly ReconciledRow[]
  } {
    const { here, there, partner, alone } = this
    const places = this.newMethod_1(here, partner, which)
    const mine = places.done()
    const theirs = which === 'all' || which === 'only-there' || which === 'different' ? alone : int32s(0)
    const columns = this.newMethod(here, there)
    const text = (table: Table, at: number, row: number): string | null => {
      const cell = at < 0 ? null : table.cell(at, row)
      return cell === null ? null : textOfCell(table.schema[at]?.type ?? 'text', cell)
    }
    const rowAt = (i: number): ReconciledRow => {
      if (i >= mine.length) {
        const row = theirs[i - mine.length]!
        return { row, state: 'added', cells: columns.map(({ b }) => text(there, b, row)) }
      }
      const row = mine[i]!
      const to = partner[row]!
      if (to < 0) return { row, state: 'removed', cells: columns.map(({ a }) => text(here, a, row)) }
      const cells = columns.map(({ a, b }) => (b < 0 ? text(here, a, row) : text(there, b, to)))
      const old = Object.fromEntries(
        columns.flatMap(({ name, a, b }, c) =>
          a < 0 || b < 0 || this.keys.includes(name) || this.sameCell(name, row, to)
            ? []
            : [[c, text(here, a, row) ?? '']],
        ),
      )
      return { row, state: 'same', cells, ...(Object.keys(old).length > 0 ? { old } : {}) }
    }
    const all = mine.length + theirs.length
    return {
      total: all,
      columns: columns.map(({ name, type, state }) => ({ name, type, state })),
      rows: Array.from({ length: Math.max(0, Math.min(all, from + count) - from) }, (_, i) => rowAt(from + i)),
    }
  }
  private newMethod_1(here: Table, partner: Int32Array<ArrayBufferLike>, which: string) {
    const places = new IntList()
    for (let row = 0; row < here.rowCount; row++) {
      const gone = partner[row]! < 0
      const turned = this.changedRow[row] === 1
      if (
        which === 'all' ||
        (which === 'only-here' && gone) ||
        (which === 'changed' && turned) ||
        (which === 'different' && (gone || turned))
      )
        places.push(row)
    }
    return places
  }

  private newMethod(here: Table, there: Table) {
    return this.columns.map((name) => {
      const a = here.positionOf(name)
      const b = there.positionOf(name)
      const rowState = () => {
        if (b < 0) return 'removed' as const
        if (a < 0) return 'added' as const
        return 'same' as const
      }
      return {
        name,
        a,
        b,
        type: (b >= 0 ? there.schema[b] : here.schema[a])?.type ?? ('text' as const),
        state: rowState(),
      }
    })
  }

  private sameCell(name: string, row: number, to: number): boolean {
    const one = this.compared.find((column) => column.name === name)
    return !one || cellAt(one.a, row) === cellAt(one.b, to)
  }
}

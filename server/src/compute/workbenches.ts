import {
  alignedColumns,
  alignmentPartners,
  JoinMatching,
  Reconciliation,
  reconcileKeys,
  rowsUnmatched,
  suggestKeys,
  typeWays,
  type JoinShow,
  type ReconcileShow,
  type Table,
} from '@fabula/core'
import type { AlignReply, MatchReply, ReconcileReply } from '@fabula/core/api'

type KeyPairRequest = readonly { readonly left: string; readonly right: string }[]
export type MatchAsked = {
  readonly on: KeyPairRequest
  readonly ignoreCase: boolean
  readonly trim: boolean
  readonly matches: 'all' | 'first' | 'one'
  readonly show: JoinShow
  readonly from: number
  readonly fromThere: number
  readonly count: number
}

const comparable = (left: Table, right: Table, { left: l, right: r }: KeyPairRequest[number]): boolean => {
  const number = (type: string): string => (type === 'integer' || type === 'decimal' ? 'number' : type)
  return number(left.named(l).type) === number(right.named(r).type)
}

/** Two tables on the bench: how they meet by these keys, and the rows that are asked for. */
export const matchTables = (left: Table, right: Table, asked: MatchAsked): MatchReply => {
  const there =
    asked.on.length > 0 &&
    asked.on.every(({ left: l, right: r }) => left.positionOf(l) >= 0 && right.positionOf(r) >= 0)
  const fits = there && asked.on.every((pair) => comparable(left, right, pair))
  const match = fits ? new JoinMatching(left, right, asked) : undefined
  const shown = match
    ? match.show(asked.show, [asked.from, asked.fromThere], asked.count)
    : rowsUnmatched(left, right, [asked.from, asked.fromThere], asked.count)
  const side = (table: Table, part: (typeof shown)['left']): MatchReply['left'] => ({
    columns: table.schema.map((field) => ({ ...field })),
    rows: table.rowCount,
    shown: { total: part.total, rows: part.rows.map(({ row, state, cells }) => ({ row, state, cells: [...cells] })) },
  })
  return {
    left: side(left, shown.left),
    right: side(right, shown.right),
    suggestions: suggestKeys(left, right).map(({ on, share, repeats }) => ({
      on: on.map((pair) => ({ ...pair })),
      share,
      repeats,
    })),
    matching: match ? (structuredClone(match.figures()) as NonNullable<MatchReply['matching']>) : null,
    ways: there && !fits ? typeWays(left, right, asked).map((way) => ({ ...way })) : [],
  }
}

/** Tables under one another on the bench: which has which column, and which columns may be one. */
export const alignTables = (
  union: Parameters<typeof alignedColumns>[0],
  own: string,
  tables: readonly Table[],
): AlignReply => {
  const columns = alignedColumns(union, own, tables)
  return {
    tables: [own, ...union.with].map((id, at) => ({ id, rows: tables[at]?.rowCount ?? 0 })),
    columns: columns.map(({ name, type, from }) => ({
      name,
      type,
      from: from.map((cell) => (cell ? { ...cell } : null)),
    })),
    partners: alignmentPartners(columns, tables).map((partner) => ({ ...partner })),
  }
}

/** Two tables held against each other, and the rows that are asked for. */
export const reconcileTables = (
  here: Table,
  there: Table,
  lineage: Int32Array | undefined,
  asked: {
    readonly keys: readonly string[] | null
    readonly show: ReconcileShow
    readonly from: number
    readonly count: number
  },
): ReconcileReply => {
  const shared = here.names.filter((name) => there.positionOf(name) >= 0)
  const chosen = asked.keys?.filter((name) => shared.includes(name))
  const byLineage = chosen === undefined && lineage !== undefined
  const keys = chosen ?? reconcileKeys(here, there)
  const held = new Reconciliation(here, there, byLineage ? { lineage } : { keys: keys.length > 0 ? keys : shared })
  const { columns, ...figures } = held.figures()
  const shown = held.show(asked.show, asked.from, asked.count)
  return {
    ...figures,
    byLineage,
    keys: [...figures.keys],
    shared,
    columns: columns.map((column) => ({ ...column })),
    shown: {
      total: shown.total,
      columns: shown.columns.map((column) => ({ ...column })),
      rows: shown.rows.map(({ row, state, cells, old }) => ({
        row,
        state,
        cells: [...cells],
        ...(old ? { old: { ...old } } : {}),
      })),
    },
  }
}

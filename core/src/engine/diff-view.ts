import { ownValue } from '../table/own.ts'
import type { Cell } from '../table/column.ts'
import { IntList, int32s } from '../kernels/memory.ts'
import { textOfCell } from '../table/cell-text.ts'
import type { Table } from '../table/table.ts'
import { columnLineageOf } from './lineage.ts'
import { pairingOf, type RowPairs } from './pairing.ts'
import type { RowSelection } from '../steps/shared/statistics.ts'
import type { StepRun } from './run.ts'

/** What a view shows of a step. */
export type DiffMode = 'before' | 'changes' | 'after'

/** A column of a view; `was` is its name before the step. */
export type DiffColumn = {
  readonly name: string
  readonly type: Table['schema'][number]['type']
  readonly state: 'same' | 'added' | 'removed'
  readonly was?: string | undefined
}
/** `old`: the text before, by position; `bad`: positions whose cell could not be read. */
export type DiffRow = {
  readonly row: number
  readonly state: 'same' | 'added' | 'removed'
  readonly cells: readonly (string | null)[]
  readonly old?: Readonly<Record<number, string>> | undefined
  readonly bad?: readonly number[] | undefined
}
/** A window of rows, with the columns before and after laid side by side. */
export type DiffView = {
  readonly columns: readonly DiffColumn[]
  readonly total: number
  readonly rows: readonly DiffRow[]
}

const text = (table: Table, column: number, row: number): string | null => {
  const cell: Cell = table.cell(column, row)
  return cell === null ? null : textOfCell(table.schema[column]?.type ?? 'text', cell)
}

const plain = (table: Table, from: number, count: number): DiffView => {
  const end = Math.min(table.rowCount, from + count)
  const types = table.schema.map(({ type }) => type)
  return {
    columns: table.schema.map(({ name, type }) => ({ name, type, state: 'same' })),
    total: table.rowCount,
    rows: Array.from({ length: Math.max(0, end - from) }, (_, i) => ({
      row: from + i,
      state: 'same' as const,
      cells: types.map((type, c) => {
        const cell = table.cell(c, from + i)
        return cell === null ? null : textOfCell(type, cell)
      }),
    })),
  }
}

/** A window on some rows of a table, in their order. */
export const viewOfRows = (table: Table, rows: Int32Array, from: number, count: number): DiffView => ({
  ...plain(table, 0, 0),
  total: rows.length,
  rows: [...rows.subarray(from, from + count)].map((row) => plain(table, row, 1).rows[0] as DiffRow),
})

type ColumnLayout = {
  readonly columns: readonly DiffColumn[]
  readonly from: readonly number[]
  readonly to: readonly number[]
}

/** Columns of the output in their order; those that went stand where they stood. */
const alignColumns = (before: Table, step: StepRun): ColumnLayout => {
  const output = step.table.schema
  const columnLineage = columnLineageOf(step.step, before.schema, output)
  const columns: (DiffColumn & { from: number; to: number })[] = output.map(({ name, type }, to) => {
    const was = ownValue(columnLineage, name)
    const from = was === undefined ? -1 : before.positionOf(was)
    return {
      name,
      type,
      state: from < 0 ? 'added' : 'same',
      ...(was !== undefined && was !== name ? { was } : {}),
      from,
      to,
    }
  })
  before.schema.forEach(({ name, type }, from) => {
    if (columns.some((column) => column.from === from)) return
    const left = columns.findIndex((column) => column.from === from - 1)
    const end = () => {
      if (from === 0) return 0
      if (left < 0) return columns.length
      return left + 1
    }
    columns.splice(end(), 0, {
      name,
      type,
      state: 'removed',
      from,
      to: -1,
    })
  })
  return {
    columns: columns.map(({ from: _from, to: _to, ...column }) => column),
    from: columns.map(({ from }) => from),
    to: columns.map(({ to }) => to),
  }
}

const sameCell = (a: Cell, b: Cell): boolean => a === b

/** Positions of columns whose cells can differ at all. */
const comparable = (before: Table, after: Table, { from, to }: ColumnLayout): number[] =>
  from.flatMap((f, c) => {
    const t = to[c]!
    return f < 0 || t < 0 || before.sharesColumn(f, after, t) ? [] : [c]
  })

const rowChanged = (
  before: Table,
  after: Table,
  { from, to }: ColumnLayout,
  columns: readonly number[],
  b: number,
  a: number,
): boolean => columns.some((c) => !sameCell(before.cell(from[c]!, b), after.cell(to[c]!, a)))

const unreadableRows = (step: StepRun): Set<number> =>
  new Set((step.result?.unreadable ?? []).flatMap(({ rows }) => [...rows]))

/** Rows by what they met in the other table of a match; undefined for other selections. */
const matchPredicate = (
  only: RowSelection,
  { result }: StepRun,
): ((before: number, after: number) => boolean) | undefined => {
  const lineage = result?.lineage
  if (lineage?.kind !== 'index') return undefined
  const { index, other, keepsUnmatchedOnly: anti = false } = lineage
  const meets = (a: number): boolean => (other?.at(a) ?? -1) >= 0
  if (only === 'matched') return (_b, a) => (anti ? a < 0 : a >= 0 && index[a]! >= 0 && meets(a))
  if (only === 'unmatched') return (_b, a) => (anti ? a >= 0 : a < 0 || (index[a]! >= 0 && !meets(a)))
  if (only === 'unmatched-there') return (_b, a) => a >= 0 && index[a]! < 0
  if (only === 'multiplied') return (b, a) => b < 0 && a >= 0 && index[a]! >= 0
  return undefined
}

/** Whether a row of the view is shown, by its row before and after (-1 where there is none); chosen once, asked for each row. */
const rowPredicate = (
  only: RowSelection,
  before: Table,
  step: StepRun,
  layout: ColumnLayout,
): ((before: number, after: number) => boolean) => {
  if (only === 'left') return (_b, a) => a < 0
  if (only === 'added') return (b) => b < 0
  const joined = matchPredicate(only, step)
  if (joined) return joined
  const bad = unreadableRows(step)
  if (only === 'unreadable') return (_b, a) => bad.has(a)
  const columns = comparable(before, step.table, layout)
  if (only === 'values-changed')
    return (b, a) => a >= 0 && b >= 0 && rowChanged(before, step.table, layout, columns, b, a)
  return (b, a) => a < 0 || b < 0 || bad.has(a) || rowChanged(before, step.table, layout, columns, b, a)
}

/** The rows of a view that are shown, and how many there are of them. */
const shownRows = (
  before: Table,
  step: StepRun,
  only: RowSelection,
  layout: ColumnLayout,
  from: number,
  count: number,
): { readonly total: number; readonly pairs: RowPairs } => {
  const pairing = pairingOf(before, step)
  if (only === 'all') return { total: pairing.total, pairs: pairing.window(from, count) }
  const all = pairing.window(0, pairing.total)
  const kept = new IntList()
  const isShown = rowPredicate(only, before, step, layout)
  for (let i = 0; i < pairing.total; i++) if (isShown(all.before[i]!, all.after[i]!)) kept.push(i)
  const rows = kept.done()
  const shown = rows.subarray(from, from + count)
  return {
    total: rows.length,
    pairs: { before: shown.map((row) => all.before[row]!), after: shown.map((row) => all.after[row]!) },
  }
}

/** What a step changed, as one table: rows and columns that left struck, those that came, and cells with their old value. */
const changes = (before: Table, step: StepRun, only: RowSelection, from: number, count: number): DiffView => {
  const { table: after } = step
  const layout = alignColumns(before, step)
  const { total, pairs } = shownRows(before, step, only, layout, from, count)
  const bad = step.result?.unreadable ?? []
  const badRows = bad.map(({ rows: list }) => new Set(list))
  const columns = new Set(comparable(before, after, layout))
  const view = (i: number): DiffRow => {
    const b = pairs.before[i]!
    const a = pairs.after[i]!
    const old: Record<number, string> = {}
    const failed: number[] = []
    const cells = layout.columns.map((column, c): string | null => {
      const f = layout.from[c]!
      const t = layout.to[c]!
      if (a < 0 || t < 0) return b < 0 || f < 0 ? null : text(before, f, b)
      const now = text(after, t, a)
      if (bad.some((one, k) => one.column === column.name && badRows[k]?.has(a))) failed.push(c)
      if (b >= 0 && columns.has(c)) {
        const was = text(before, f, b)
        if (was !== now || before.isNull(f, b) !== (now === null)) old[c] = was ?? ''
      }
      return now
    })
    const rowState = () => {
      if (a < 0) return 'removed'
      if (b < 0) return 'added'
      return 'same'
    }
    return {
      row: a < 0 ? b : a,
      state: rowState(),
      cells,
      ...(Object.keys(old).length > 0 ? { old } : {}),
      ...(failed.length > 0 ? { bad: failed } : {}),
    }
  }
  return { columns: layout.columns, total, rows: Array.from(pairs.before, (_, i) => view(i)) }
}

/** A window on a step: the table before it, after it, or what it changed. */
export const diffView = (
  steps: readonly StepRun[],
  at: number,
  diffMode: DiffMode,
  only: RowSelection,
  from: number,
  count: number,
): DiffView => {
  const step = steps[at] as StepRun
  const before = at > 0 ? (steps[at - 1] as StepRun).table : undefined
  if (diffMode === 'before' && before) return plain(before, from, count)
  if (only === 'against') return viewOfRows(step.table, step.result?.check?.against ?? int32s(0), from, count)
  if (diffMode === 'after' || !before || !step.result) {
    const bad = step.result?.unreadable ?? []
    const view = plain(step.table, from, count)
    if (only === 'unreadable' && bad.length > 0) {
      const rows = [...new Set(bad.flatMap((one) => [...one.rows]))].sort((a, b) => a - b)
      return {
        ...view,
        total: rows.length,
        rows: rows.slice(from, from + count).map((row) => {
          const here = bad.filter((one) => one.rows.includes(row))
          return {
            ...(plain(step.table, row, 1).rows[0] as DiffRow),
            bad: here.map(({ column }) => step.table.positionOf(column)),
            // of an opened file the texts of the first cells are known
            old: Object.fromEntries(
              here.flatMap(({ column, rows: all, texts = [] }) => {
                const original = texts[all.indexOf(row)]
                return original === undefined ? [] : [[step.table.positionOf(column), original]]
              }),
            ),
          }
        }),
      }
    }
    return view
  }
  return changes(before, step, only, from, count)
}

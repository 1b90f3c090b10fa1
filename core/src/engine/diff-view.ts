import { ownValue } from '../table/own.ts'
import type { Cell } from '../table/column.ts'
import { sliceRows } from '../table/gather.ts'
import { bitmap, isSet, IntList, int32s, set } from '../kernels/memory.ts'
import { textOfCell } from '../table/cell-text.ts'
import type { Table } from '../table/table.ts'
import { columnLineageOf } from './lineage.ts'
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

/** Rows of input and output side by side: for each row of the view its row before (-1 where it came) and after (-1 where it left). */
type Pairing = { readonly before: Int32Array; readonly after: Int32Array }

/** Rows in the order they had: those that left stand where they stood, and a row that stands twice came the second time. */
const interleavedPairs = (index: Int32Array, rows: number): Pairing | undefined => {
  const before = new IntList()
  const after = new IntList()
  let next = 0
  for (let at = 0; at < index.length; at++) {
    const row = index[at]!
    if (row >= 0 && row < next - 1) return undefined
    for (; next < row; next++) {
      before.push(next)
      after.push(-1)
    }
    before.push(row === next ? row : -1)
    after.push(at)
    if (row === next) next++
  }
  for (; next < rows; next++) {
    before.push(next)
    after.push(-1)
  }
  return { before: before.done(), after: after.done() }
}

/** The first place of each row; at every further one it came. */
const firsts = (index: Int32Array, rows: number): Int32Array => {
  const seen = bitmap(rows)
  return index.map((row) => {
    if (row < 0 || isSet(seen, row)) return -1
    set(seen, row)
    return row
  })
}

const pairRows = (before: Table, step: StepRun): Pairing => {
  const origin = step.result?.lineage
  const rows = step.table.rowCount
  if (!origin || origin.kind === 'same') return { before: sliceRows(rows), after: sliceRows(rows) }
  if (origin.kind !== 'index') return { before: int32s(rows).fill(-1), after: sliceRows(rows) }
  return (
    interleavedPairs(origin.index, before.rowCount) ?? {
      before: firsts(origin.index, before.rowCount),
      after: sliceRows(rows),
    }
  )
}

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
  const meets = (a: number): boolean => (other?.[a] ?? -1) >= 0
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

const wanted = (
  pairing: Pairing,
  only: RowSelection,
  before: Table,
  step: StepRun,
  layout: ColumnLayout,
): Int32Array | undefined => {
  if (only === 'all') return undefined
  const kept = new IntList()
  const isShown = rowPredicate(only, before, step, layout)
  for (let i = 0; i < pairing.before.length; i++) if (isShown(pairing.before[i]!, pairing.after[i]!)) kept.push(i)
  return kept.done()
}

/** What a step changed, as one table: rows and columns that left struck, those that came, and cells with their old value. */
const changes = (before: Table, step: StepRun, only: RowSelection, from: number, count: number): DiffView => {
  const { table: after } = step
  const layout = alignColumns(before, step)
  const pairing = pairRows(before, step)
  const rows = wanted(pairing, only, before, step, layout)
  const total = rows?.length ?? pairing.before.length
  const bad = step.result?.unreadable ?? []
  const badRows = bad.map(({ rows: list }) => new Set(list))
  const columns = new Set(comparable(before, after, layout))
  const view = (i: number): DiffRow => {
    const b = pairing.before[i]!
    const a = pairing.after[i]!
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
  const end = Math.min(total, from + count)
  return {
    columns: layout.columns,
    total,
    rows: Array.from({ length: Math.max(0, end - from) }, (_, i) => view(rows ? rows[from + i]! : from + i)),
  }
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

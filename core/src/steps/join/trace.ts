import { RowCounter, rowsWhere, throughIndex, timesOfRows, type RowSet } from '../../table/row-set.ts'
import { cellWords } from '../shared/columns.ts'
import type { LeftContext, StepTrace, TracedStep, TraceSource } from '../shared/step-kind.ts'
import { layout, onOf, type Join } from './layout.ts'

/** The rows of the other table that rows of the result met. */
const there = (params: Join, { lineage, context }: TracedStep, rows: RowSet): RowSet =>
  lineage.kind === 'index' && lineage.other
    ? throughIndex(rows, lineage.other.rows, context.table(params.with).rowCount)
    : { rows: new Int32Array(0) }

const filled = (sources: readonly TraceSource[]): readonly TraceSource[] =>
  sources.filter(({ rows }) => rows.rows.length > 0)

/** Why a row has no place in the result: it met no row, or, where those that meet none are kept, it met one. */
const reason = (params: Join, step: LeftContext, row: number, table: string | undefined): string => {
  const { before, context } = step
  const other = context.table(params.with)
  const on = onOf(params)
  const [own, from] = table === undefined ? [before, 'left' as const] : [other, 'right' as const]
  const [names, into] =
    table === undefined ? [context.names(params.with), 'right' as const] : [context.names(''), 'left' as const]
  const values = on.map((pair) => cellWords(own, pair[from], row)).join(', ')
  const columns = on.map((pair) => pair[into]).join(', ')
  if (on.length === 0) return `${names} has no rows`
  if (on.some((pair) => own.isNull(own.positionOf(pair[from]), row)))
    return `${on.map((pair) => pair[from]).join(', ')} is empty, which matches nothing`
  if (params.how === 'left-only' || (params.how === 'right-only' && table !== undefined))
    return `${columns} ${values} is in ${names}`
  if (params.how === 'right-only') return `only rows of ${context.names(params.with)} are kept`
  const met = meets(params, step, row, table)
  return met ? `another row of it is taken for ${columns} ${values}` : `no ${columns} in ${names} is ${values}`
}

/** Whether a row has the keys of a row on the other side, as they are written. */
const meets = (params: Join, { before, context }: TracedStep, row: number, table: string | undefined): boolean => {
  const other = context.table(params.with)
  const [own, from, far, into] =
    table === undefined
      ? [before, 'left' as const, other, 'right' as const]
      : [other, 'right' as const, before, 'left' as const]
  const wanted = onOf(params).map((pair) => cellWords(own, pair[from], row))
  for (let at = 0; at < far.rowCount; at++)
    if (onOf(params).every((pair, k) => cellWords(far, pair[into], at) === wanted[k])) return true
  return false
}

/** Rows and cells of a join through the pairs of rows that it made. */
export const joinTrace: StepTrace<Join> = {
  rows: (params, step, rows) =>
    filled([{ rows: step.back(rows) }, { table: params.with, rows: there(params, step, rows) }]),
  cells: (params, step, column, rows) => {
    const { before, context, lineage, back } = step
    if (lineage.kind !== 'index') return undefined
    const { left, brought } = layout(params, before.schema, context.table(params.with).schema)
    const from = brought.find(({ field }) => field.name === column)?.from
    if (from !== undefined) return filled([{ table: params.with, column: from, rows: there(params, step, rows) }])
    if (!left.some((field) => field.name === column)) return undefined
    const key = onOf(params).find((pair) => pair.left === column)?.right
    const alone = rowsWhere(rows, (row) => lineage.index[row]! < 0)
    return filled([
      { column, rows: back(rows) },
      ...(key === undefined ? [] : [{ table: params.with, column: key, rows: there(params, step, alone) }]),
    ])
  },
  fromTable: (_params, { lineage, after }, _table, rows) => {
    const counter = new RowCounter(after.rowCount)
    if (lineage.kind !== 'index' || !lineage.other) return counter.done()
    const times = timesOfRows(rows, (rows.rows.at(-1) ?? -1) + 1)
    const met = lineage.other.rows
    for (let row = 0; row < after.rowCount; row++) {
      const count = times[met[row]!] ?? 0
      if (count > 0) counter.add(row, count)
    }
    return counter.done()
  },
  leftBy: (params, _step, table) => onOf(params).map((pair) => (table === undefined ? pair.left : pair.right)),
  left: reason,
  did: (params, { before, context, lineage }, row) => {
    if (params.how === 'left-only') return `kept, ${context.names(params.with)} has none like it`
    if (lineage.kind !== 'index' || params.how === 'cross') return undefined
    const at = lineage.index.indexOf(row)
    if (at < 0 || (lineage.other?.at(at) ?? -1) < 0) return `joined with nothing of ${context.names(params.with)}`
    const values = onOf(params).map(({ left, right }) => `${right} = ${cellWords(before, left, row)}`)
    return `joined with ${context.names(params.with)}, ${values.join(', ')}`
  },
}

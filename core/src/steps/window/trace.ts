import { isNullAt } from '../../table/column.ts'
import type { Groups } from '../../kernels/table-kernels.ts'
import { uint32s } from '../../kernels/memory.ts'
import { RowCounter, rowsWhere, throughIndex, timesOfRows, type RowSet } from '../../table/row-set.ts'
import type { Table } from '../../table/table.ts'
import { measureSources } from '../shared/trace-measures.ts'
import type { TraceSource } from '../shared/step-kind.ts'

type Measure = { readonly how: string; readonly column?: string | undefined }
/** The groups, the order of rows, and of each row the one that `previous` or `next` takes. */
type Walked = { readonly groups: Groups; readonly order: Int32Array; readonly neighbours: Int32Array | undefined }

const ofPlace = ['rank', 'dense-rank', 'row-number']

/** The rows up to each of these in the order of its group, as often as they enter their running figures. */
const rowsUpTo = (table: Table, column: string, { groups, order }: Walked, rows: RowSet): RowSet => {
  const values = table.named(column)
  const own = timesOfRows(rows, table.rowCount)
  const entered = uint32s(groups.count)
  const counter = new RowCounter(table.rowCount)
  for (let i = order.length - 1; i >= 0; i--) {
    const row = order[i]!
    const group = groups.ids[row]!
    entered[group] = entered[group]! + own[row]!
    if (entered[group]! > 0 && !isNullAt(values, row)) counter.add(row, entered[group]!)
  }
  return counter.done()
}

/** The rows that enter a figure beside these rows. */
export const windowSources = (
  { how, column }: Measure,
  table: Table,
  walked: Walked,
  rows: RowSet,
): readonly TraceSource[] => {
  const { groups, order, neighbours } = walked
  if (neighbours && column !== undefined) return [{ column, rows: throughIndex(rows, neighbours, table.rowCount) }]
  if (how === 'running-sum' && column !== undefined) return [{ column, rows: rowsUpTo(table, column, walked, rows) }]
  const figured =
    how === 'share' && column !== undefined ? rowsWhere(rows, (row) => !isNullAt(table.named(column), row)) : rows
  const wanted = throughIndex(figured, Int32Array.from(groups.ids), groups.count)
  const measure = ofPlace.includes(how) ? { how: 'count' } : { how, column }
  return measureSources(table, measure, wanted, groups.ids, order)
}

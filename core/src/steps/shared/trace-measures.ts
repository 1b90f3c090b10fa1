import { cellAt, isNullAt, type Cell, type Column } from '../../table/column.ts'
import { RowCounter, timesOfRows, type RowSet } from '../../table/row-set.ts'
import { compareText } from '../../table/text-ranks.ts'
import type { Table } from '../../table/table.ts'
import type { TraceSource } from './step-kind.ts'

/** Measures whose figure is the cell of one row. */
const ofOneRow = ['min', 'max', 'first', 'last', 'only'] as const
type OneRowMeasure = (typeof ofOneRow)[number]
const isOfOneRow = (how: string): how is OneRowMeasure => (ofOneRow as readonly string[]).includes(how)

const textOrder = compareText(false)
const isBefore = (a: Exclude<Cell, null>, b: Exclude<Cell, null>): boolean =>
  typeof a === 'string' ? textOrder(a, String(b)) < 0 : Number(a) < Number(b)

/** Whether a row takes the place of the one found before it in its group. */
const replaces = (how: OneRowMeasure, column: Column, row: number, found: number | undefined): boolean => {
  if (how === 'first' || how === 'last') return how === 'last' || found === undefined
  const cell = cellAt(column, row)
  if (cell === null) return false
  if (found === undefined) return true
  const best = cellAt(column, found) as Exclude<Cell, null>
  if (how === 'min') return isBefore(cell, best)
  return how === 'max' && isBefore(best, cell)
}

/** Of each group that counts the row whose cell is its figure. */
const deciders = (
  how: OneRowMeasure,
  values: Column,
  ids: Int32Array | Uint32Array,
  order: Int32Array | undefined,
  weight: (row: number) => number,
): Map<number, number> => {
  const found = new Map<number, number>()
  for (let i = 0; i < ids.length; i++) {
    const row = order ? order[i]! : i
    if (weight(row) > 0 && replaces(how, values, row, found.get(ids[row]!))) found.set(ids[row]!, row)
  }
  return found
}

/**
 * The rows that enter a measure of groups. `wanted`: the groups, as rows of the result; `ids`: the group of each row, -1 of
 * rows that are in none; `order`: the rows in the order that `first` and `last` go by. O(rows).
 */
export const measureSources = (
  table: Table,
  { how, column }: { readonly how: string; readonly column?: string | undefined },
  wanted: RowSet,
  ids: Int32Array | Uint32Array,
  order?: Int32Array,
): readonly TraceSource[] => {
  const times = timesOfRows(wanted, (wanted.rows.at(-1) ?? -1) + 1)
  const counter = new RowCounter(table.rowCount)
  const weight = (row: number): number => times[ids[row]!] ?? 0
  if (how === 'count' || column === undefined) {
    for (let row = 0; row < ids.length; row++) if (weight(row) > 0) counter.add(row, weight(row))
    return [{ rows: counter.done() }]
  }
  const values = table.named(column)
  if (!isOfOneRow(how)) {
    for (let row = 0; row < ids.length; row++)
      if (weight(row) > 0 && !isNullAt(values, row)) counter.add(row, weight(row))
    return [{ column, rows: counter.done() }]
  }
  for (const [group, row] of deciders(how, values, ids, order, weight)) counter.add(row, times[group] ?? 1)
  return [{ column, rows: counter.done() }]
}

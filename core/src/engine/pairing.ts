import { bitmap, int32s, isSet, set } from '../kernels/memory.ts'
import { sliceRows } from '../table/gather.ts'
import { rowOrder } from '../table/rows-in-order.ts'
import type { Table } from '../table/table.ts'
import type { StepRun } from './run.ts'

/** Rows of a view: of each its row before a step (-1 where it came) and after it (-1 where it left). */
export type RowPairs = { readonly before: Int32Array; readonly after: Int32Array }
/** Rows of input and output side by side. */
export type Pairing = {
  readonly total: number
  /** Some rows of the view; all that there are of so many. */
  readonly window: (from: number, count: number) => RowPairs
}

/** Rows in the order they had: those that left stand where they stood, and a row that stands twice came the second time. */
const orderedWindow = (index: Int32Array, rows: number, from: number, count: number): RowPairs => {
  const pairs = { before: int32s(count), after: int32s(count) }
  let next = 0
  let at = 0
  for (let place = 0; place < from + count; place++) {
    const row = at < index.length ? index[at]! : rows
    const left = row > next || at === index.length
    if (place >= from) {
      pairs.before[place - from] = left || row === next ? next : -1
      pairs.after[place - from] = left ? -1 : at
    }
    if (left || row === next) next++
    if (!left) at++
  }
  return pairs
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

/** A pairing of as many rows as there are after the step. */
const ofRowsAfter = (total: number, before: (after: Int32Array, from: number) => Int32Array): Pairing => ({
  total,
  window: (from, count) => {
    const after = sliceRows(Math.max(0, Math.min(count, total - from)), from)
    return { before: before(after, from), after }
  },
})

/** The rows before a step beside those after it. */
export const pairingOf = (before: Table, { result, table }: StepRun): Pairing => {
  const origin = result?.lineage
  if (!origin || origin.kind === 'same') return ofRowsAfter(table.rowCount, (after) => after)
  if (origin.kind !== 'index') return ofRowsAfter(table.rowCount, (after) => int32s(after.length).fill(-1))
  const { index } = origin
  const { ordered, different } = rowOrder(index)
  if (!ordered) {
    const rows = origin.kept === index.length ? index : firsts(index, before.rowCount)
    return ofRowsAfter(index.length, (after, from) => rows.subarray(from, from + after.length))
  }
  const total = before.rowCount + index.length - different
  return {
    total,
    window: (from, count) => orderedWindow(index, before.rowCount, from, Math.max(0, Math.min(count, total - from))),
  }
}

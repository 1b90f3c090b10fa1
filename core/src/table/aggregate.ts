import { cellAt, columnWriter, isEmptyAt, lengthOf, type Column, type ColumnType } from './column.ts'
import { floats, hasBit, IntList, ints } from './memory.ts'
import { gather } from './gather.ts'
import { groupBy, type Groups } from './group.ts'
import { maxInteger } from './number.ts'
import { extreme } from './order.ts'

export const hows = ['count', 'filled', 'distinct', 'sum', 'mean', 'median', 'min', 'max', 'first', 'last'] as const
export type How = (typeof hows)[number]

/** A figure per group, and the groups whose figure could not be told. */
export type Aggregated = { readonly column: Column; readonly failures: Int32Array }
const nothingFailed = ints(0)

const whole = (counts: Int32Array): Aggregated => ({ column: { type: 'integer', values: Float64Array.from(counts), empty: undefined }, failures: nothingFailed })

const countRows = ({ ids, count }: Groups): Int32Array => {
  const counts = ints(count)
  for (let i = 0; i < ids.length; i++) counts[ids[i] as number] = (counts[ids[i] as number] as number) + 1
  return counts
}
const countCells = (column: Column, { ids, count }: Groups): Int32Array => {
  const counts = ints(count)
  for (let i = 0; i < ids.length; i++) if (!isEmptyAt(column, i)) counts[ids[i] as number] = (counts[ids[i] as number] as number) + 1
  return counts
}

/** Neumaier's compensated sums: A. Neumaier, ZAMM 54 (1974), 39–51. Exact enough that ten times 0.1 is 1. */
export const sums = (values: Float64Array, empty: Uint8Array | undefined, ids: Uint32Array, count: number): Float64Array => {
  const sum = floats(count)
  const lost = floats(count)
  for (let i = 0; i < values.length; i++) {
    if (hasBit(empty, i)) continue
    const group = ids[i] as number
    const x = values[i] as number
    const s = sum[group] as number
    const t = s + x
    lost[group] = (lost[group] as number) + (Math.abs(s) >= Math.abs(x) ? s - t + x : x - t + s)
    sum[group] = t
  }
  for (let g = 0; g < count; g++) sum[g] = (sum[g] as number) + (lost[g] as number)
  return sum
}

/** What is empty in all its cells gives empty; what leaves the range of its type is counted. */
const figures = (type: 'integer' | 'decimal', filled: Int32Array, figure: (group: number) => number): Aggregated => {
  const writer = columnWriter(type, filled.length)
  const failures = new IntList()
  const limit = type === 'integer' ? maxInteger : Number.MAX_VALUE
  for (let g = 0; g < filled.length; g++) {
    if (filled[g] === 0) continue
    const value = figure(g)
    if (Math.abs(value) <= limit) writer.set(g, value)
    else failures.push(g)
  }
  return { column: writer.done(), failures: failures.done() }
}

const distinct = (column: Column, groups: Groups): Aggregated => {
  const cells = groupBy([column], lengthOf(column))
  const counts = ints(groups.count)
  const pairs = groups.count === 1 ? cells : groupPairs(groups, cells)
  for (const row of pairs.first) if (!isEmptyAt(column, row)) counts[groups.ids[row] as number] = (counts[groups.ids[row] as number] as number) + 1
  return whole(counts)
}
/** Pairs of a group and a value, each once. */
const groupPairs = (groups: Groups, cells: Groups): Groups =>
  groupBy(
    [
      { type: 'integer', values: Float64Array.from(groups.ids), empty: undefined },
      { type: 'integer', values: Float64Array.from(cells.ids), empty: undefined },
    ],
    groups.ids.length,
  )

const medians = (column: Column, groups: Groups): Aggregated => {
  const lists: number[][] = Array.from({ length: groups.count }, () => [])
  for (let i = 0; i < groups.ids.length; i++) if (!isEmptyAt(column, i)) lists[groups.ids[i] as number]?.push(cellAt(column, i) as number)
  return figures('decimal', Int32Array.from(lists, (list) => list.length), (g) => {
    const list = Float64Array.from(lists[g] ?? []).sort()
    const middle = list.length >> 1
    return list.length % 2 === 1 ? (list[middle] as number) : ((list[middle - 1] as number) + (list[middle] as number)) / 2
  })
}

/** One row of each group: its first or last, whether filled or not. */
const oneOf = (column: Column, groups: Groups, last: boolean): Aggregated => {
  const rows = ints(groups.count).fill(-1)
  for (let i = 0; i < groups.ids.length; i++) if (last || rows[groups.ids[i] as number] === -1) rows[groups.ids[i] as number] = i
  return { column: gather(column, rows), failures: nothingFailed }
}

/** Empty is passed over by all but count, first and last; of nothing all but the counts are empty. */
export const aggregate = (how: How, column: Column | undefined, groups: Groups, type: ColumnType): Aggregated => {
  if (column === undefined || how === 'count') return whole(countRows(groups))
  switch (how) {
    case 'filled':
      return whole(countCells(column, groups))
    case 'distinct':
      return distinct(column, groups)
    case 'median':
      return medians(column, groups)
    case 'min':
    case 'max':
      return { column: gather(column, extreme(column, groups.ids, groups.count, how === 'max')), failures: nothingFailed }
    case 'first':
    case 'last':
      return oneOf(column, groups, how === 'last')
    case 'sum':
    case 'mean': {
      if (column.type !== 'integer' && column.type !== 'decimal') throw new Error(`${how} of ${column.type}`)
      const filled = countCells(column, groups)
      const totals = sums(column.values, column.empty, groups.ids, groups.count)
      return how === 'sum' ? figures(type === 'integer' ? 'integer' : 'decimal', filled, (g) => totals[g] as number) : figures('decimal', filled, (g) => (totals[g] as number) / (filled[g] as number))
    }
  }
}


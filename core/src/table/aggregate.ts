import { codesOf } from './codes.ts'
import {
  cellAt,
  columnWriter,
  isNullAt,
  isTextColumn,
  type Cell,
  type Column,
  type ColumnType,
  type FloatColumn,
} from './column.ts'
import { listText, type ListItem } from './list.ts'
import { kernels } from '../kernels/kernels.ts'
import { bitmap, float64s, isSet, IntList, int32s, set, uint8s, type Bitmap } from '../kernels/memory.ts'
import { gather } from './gather.ts'
import { GroupsOfChosen, GroupsOfCodes, pairCodes } from './group.ts'
import type { FilledNumbers, Groups, GroupTotals, SummedNumbers } from '../kernels/table-kernels.ts'
import { compensatedSum, maxInteger } from './number.ts'
import { extreme } from './order.ts'
import { textOfCell } from './cell-text.ts'
import { groupMedians } from './median.ts'
import { Table } from './table.ts'

/** The aggregates that steps and formulas know. */
export const aggregates = [
  'count',
  'filled',
  'distinct',
  'sum',
  'mean',
  'median',
  'min',
  'max',
  'deviation',
  'first',
  'last',
  'list',
  'join',
  'any',
  'every',
  'share',
] as const
/** One of the aggregates. */
export type Aggregate = (typeof aggregates)[number]

/** A figure per group, and the groups whose figure could not be computed. */
export type AggregateResult = { readonly column: Column; readonly failures: Int32Array }
const nothingFailed = int32s(0)

const whole = (counts: Int32Array): AggregateResult => ({
  column: { type: 'integer', values: new Float64Array(counts), nulls: undefined },
  failures: nothingFailed,
})

const countRows = (groups: Groups): Int32Array =>
  groups instanceof GroupsOfCodes ? groups.sizes : kernels().countCodes(groups.ids, groups.count)
const countCells = (column: Column, groups: Groups): Int32Array => {
  const { ids, count } = groups
  if (!isTextColumn(column) && !column.nulls) return countRows(groups)
  const counts = int32s(count)
  if (!isTextColumn(column)) countFilled(ids, column.nulls as Bitmap, counts)
  else if (column.form === 'dictionary') countCoded(ids, column.indices, counts)
  else for (let i = 0; i < ids.length; i++) if (!isNullAt(column, i)) counts[ids[i]!] = counts[ids[i]!]! + 1
  return counts
}

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

const countFilled = (ids: Uint32Array, nulls: Bitmap, counts: Int32Array): void => {
  const n = ids.length
  for (let i = 0; i < n; i++) if ((nulls[i >> 3]! & (1 << (i & 7))) === 0) counts[ids[i]!]!++
}
const countCoded = (ids: Uint32Array, codes: Uint32Array, counts: Int32Array): void => {
  const n = ids.length
  for (let i = 0; i < n; i++) if (codes[i] !== 0) counts[ids[i]!]!++
}
/** What is empty in all its cells gives empty; what leaves the range of its type is counted. */
const figures = (
  type: 'integer' | 'decimal',
  filled: Int32Array,
  figure: (group: number) => number,
): AggregateResult => {
  const values = float64s(filled.length)
  const nulls = bitmap(filled.length)
  const failures = new IntList()
  let empty = 0
  const limit = type === 'integer' ? maxInteger : Number.MAX_VALUE
  for (let g = 0; g < filled.length; g++) {
    const value = filled[g] === 0 ? NaN : figure(g)
    if (Math.abs(value) <= limit) values[g] = value === 0 ? 0 : value
    else {
      set(nulls, g)
      empty++
      if (filled[g] !== 0) failures.push(g)
    }
  }
  return { column: { type, values, nulls: empty > 0 ? nulls : undefined }, failures: failures.done() }
}

/** Marks for each pair of a group and a code are kept where they are no more than this. */
const mostMarks = 1 << 24
const countPairs = (
  ids: Uint32Array,
  codes: Uint32Array,
  bound: number,
  seen: Uint8Array,
  counts: Int32Array,
): void => {
  const n = ids.length
  for (let i = 0; i < n; i++) {
    const group = ids[i]!
    const pair = group * bound + codes[i]!
    counts[group]! += 1 - seen[pair]!
    seen[pair] = 1
  }
}
const distinct = (column: Column, groups: Groups): AggregateResult => {
  const { ids, count } = groups
  const counts = int32s(count)
  const { codes, bound } = codesOf(column)
  if (count * bound <= mostMarks) {
    const seen = uint8s(count * bound)
    // the empty cell is no value
    for (let group = 0; group < count; group++) seen[group * bound] = 1
    countPairs(ids, codes, bound, seen, counts)
    return whole(counts)
  }
  const pairs = pairCodes({ codes: ids, bound: count }, { codes, bound })
  for (const row of pairs.first) if (codes[row] !== 0) counts[ids[row]!]!++
  return whole(counts)
}

const medians = (column: Column, groups: Groups): AggregateResult => {
  if (column.type !== 'integer' && column.type !== 'decimal') throw new Error(`median of ${column.type}`)
  const { counts, medianOf } = groupMedians(column, groups)
  return figures('decimal', counts, medianOf)
}

/** One row of each group: its first or last in the order, whether filled or not. */
const oneOf = (column: Column, groups: Groups, order: Int32Array | undefined, last: boolean): AggregateResult => {
  const rows = int32s(groups.count).fill(-1)
  for (let k = 0; k < groups.ids.length; k++) {
    const i = order ? order[k]! : k
    if (last || rows[groups.ids[i]!] === -1) rows[groups.ids[i]!] = i
  }
  return { column: gather(column, rows), failures: nothingFailed }
}

/** The filled cells of each group in the order, as a list or as joined text. */
const gathered = (
  column: Column,
  groups: Groups,
  order: Int32Array | undefined,
  make: (items: readonly Exclude<Cell, null>[]) => string | null,
  type: 'list' | 'text',
): AggregateResult => {
  const items: Exclude<Cell, null>[][] = Array.from({ length: groups.count }, () => [])
  for (let k = 0; k < groups.ids.length; k++) {
    const i = order ? order[k]! : k
    const cell = cellAt(column, i)
    if (cell !== null) items[groups.ids[i]!]?.push(cell)
  }
  const writer = columnWriter(type, groups.count)
  items.forEach((list, g) => writer.set(g, make(list) || null))
  return { column: writer.done(), failures: nothingFailed }
}

/** Whether any, or every, filled cell of a group is true; empty where none is filled. */
const anyOrEvery = (column: Column, groups: Groups, every: boolean): AggregateResult => {
  const writer = columnWriter('boolean', groups.count)
  const held = int32s(groups.count).fill(-1)
  for (let i = 0; i < groups.ids.length; i++) {
    const cell = cellAt(column, i)
    if (cell === null) continue
    const g = groups.ids[i]!
    const one = cell === true ? 1 : 0
    if (held[g] === -1) held[g] = one
    else held[g] = every ? Math.min(held[g]!, one) : Math.max(held[g]!, one)
  }
  held.forEach((value, g) => value >= 0 && writer.set(g, value === 1))
  return { column: writer.done(), failures: nothingFailed }
}

/** Sample deviation in two passes, of what each value is above the first of its group, so that equal values deviate by nothing; empty below two values. */
const deviations = (
  values: Float64Array,
  empty: Uint8Array | undefined,
  groups: Groups,
  filled: Int32Array,
): AggregateResult => {
  const firsts = float64s(groups.count).fill(NaN)
  for (let i = 0; i < values.length; i++)
    if (!isSet(empty, i) && Number.isNaN(firsts[groups.ids[i]!])) firsts[groups.ids[i]!] = values[i]!
  const above = float64s(values.length)
  for (let i = 0; i < values.length; i++) above[i] = values[i]! - firsts[groups.ids[i]!]!
  const sumsAbove = (): Float64Array =>
    kernels().groupTotals([{ values: above, nulls: empty }], groups.ids, groups.count)[0]!.sums
  const means = sumsAbove()
  for (let g = 0; g < means.length; g++) means[g] = means[g]! / filled[g]!
  for (let i = 0; i < values.length; i++) above[i] = (above[i]! - means[groups.ids[i]!]!) ** 2
  const totals = sumsAbove()
  return figures(
    'decimal',
    filled.map((n) => (n < 2 ? 0 : n)),
    (g) => Math.sqrt(totals[g]! / (filled[g]! - 1)),
  )
}

/** What an aggregate takes: `separator` for `join`, `order` for `first`, `last`, `list` and `join`. */
export type AggregateOptions = {
  readonly how: Aggregate
  readonly separator?: string | undefined
  /** Rows in the order that first, last, list and join go by; the order of the table where none is given. */ readonly order?:
    Int32Array | undefined
}

const itemOf =
  (type: ColumnType) =>
  (cell: Exclude<Cell, null>): ListItem =>
    typeof cell === 'boolean' || type === 'integer' || type === 'decimal' ? cell : textOfCell(type, cell)

/** The first column of a table, whose numbers are added up: of all rows, or of those that are chosen. */
export type ChosenColumn = { readonly of: Table; readonly rows: Int32Array | undefined }
const numbersOf = ({ of }: ChosenColumn): FilledNumbers => of.column(0) as FloatColumn
const formulaOf = (column: ChosenColumn): SummedNumbers => {
  const formula = column.of.formula(0)
  if (formula) return formula
  const { values, nulls } = numbersOf(column)
  return { numbers: values, nulls }
}

/** The sums of numbers by group, of columns with the same rows. Groups that are known by something else than an id a row are told apart by that. */
const totalsOfRows = (
  columns: readonly ChosenColumn[],
  rows: Int32Array | undefined,
  groups: Groups,
): readonly GroupTotals[] => {
  if (groups instanceof GroupsOfCodes && groups.keys.rows === rows) return groups.totals(columns.map(formulaOf))
  const { groupTotals } = kernels()
  const numbers = columns.map(numbersOf)
  if (groups instanceof GroupsOfChosen && groups.rows === rows) return groupTotals(numbers, groups.ofRows, groups.count)
  return groupTotals(numbers, groups.ids, groups.count, rows)
}
/** The sums of the numbers of columns by group. */
export const totalsOf = (columns: readonly ChosenColumn[], groups: Groups): Map<ChosenColumn, GroupTotals> => {
  const made = new Map<ChosenColumn, GroupTotals>()
  for (const rows of new Set(columns.map((column) => column.rows))) {
    const those = columns.filter((column) => column.rows === rows)
    const totals = totalsOfRows(those, rows, groups)
    those.forEach((column, i) => made.set(column, totals[i]!))
  }
  return made
}
/** The sums of the numbers of each group, or what is made of them. */
export const totalled = (
  how: 'sum' | 'mean' | 'share',
  { sums, counts }: GroupTotals,
  type: ColumnType,
): AggregateResult => {
  if (how === 'mean') return figures('decimal', counts, (g) => sums[g]! / counts[g]!)
  if (how === 'sum') return figures(type === 'integer' ? 'integer' : 'decimal', counts, (g) => sums[g]!)
  const grand = compensatedSum(sums)
  return figures('decimal', counts, (g) => (grand === 0 ? NaN : sums[g]! / grand))
}

/** Empty is passed over by all but count, first and last; of nothing all but the counts are empty. */
export const aggregate = (
  { how, separator = ', ', order }: AggregateOptions,
  column: Column | undefined,
  groups: Groups,
  type: ColumnType,
  // eslint-disable-next-line complexity -- one case for each aggregate
): AggregateResult => {
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
      return {
        column: gather(column, extreme(column, groups.ids, groups.count, how === 'max')),
        failures: nothingFailed,
      }
    case 'first':
    case 'last':
      return oneOf(column, groups, order, how === 'last')
    case 'list':
      return gathered(column, groups, order, (items) => listText(items.map(itemOf(column.type))), 'list')
    case 'join':
      return gathered(
        column,
        groups,
        order,
        (items) => items.map((item) => textOfCell(column.type, item)).join(separator),
        'text',
      )
    case 'any':
    case 'every':
      return anyOrEvery(column, groups, how === 'every')
    case 'sum':
    case 'mean':
    case 'share':
      if (column.type !== 'integer' && column.type !== 'decimal') throw new Error(`${how} of ${column.type}`)
      return totalled(
        how,
        totalsOfRows([{ of: Table.of([how], [column]), rows: undefined }], undefined, groups)[0]!,
        type,
      )
    case 'deviation':
      if (column.type !== 'integer' && column.type !== 'decimal') throw new Error(`${how} of ${column.type}`)
      return deviations(column.values, column.nulls, groups, countCells(column, groups))
  }
}

import { ownValue } from '../table/own.ts'
import { codeAt, codesBy, codesOf, codingOf, product, wordsOf, type Coding } from '../table/codes.ts'
import { cellAt, lengthOf, type Cell, type Column, type ColumnType, type FloatColumn } from '../table/column.ts'
import { gather, gatherIndices, layOut, markComplete } from '../table/gather.ts'
import { columnBuffers } from '../table/held-buffers.ts'
import { bitmap, fillSet, float64s, int32s, set, uint8s } from '../kernels/memory.ts'
import { kernels } from '../kernels/kernels.ts'
import type { DenseCodes, NumberFormula, SummedNumbers } from '../kernels/table-kernels.ts'
import { LazyColumn, type LazySource } from '../table/lazy-column.ts'
import { boundsOfColumn, zeroRows, type Bounds } from '../table/ranges.ts'
import { isAscending, rowOrder } from '../table/rows-in-order.ts'
import { Table } from '../table/table.ts'
import type { TypedNode } from './check.ts'
import { constantsOf } from './failing.ts'
import { failed, type ResultBounds } from './function-kind.ts'
import { emptyOf } from './operators.ts'
import {
  compute,
  evaluateFormula,
  evaluateRows,
  mergedRows,
  readsOf,
  rowsOfBit,
  withoutUnmet,
  type Environment,
} from './evaluate.ts'

/** What is known of a formula over numbers without computing it. */
type Known = Bounds & {
  /** The rows that fail, ascending; undefined where none does. */
  readonly failing: Int32Array | undefined
  /** The columns that it reads: where one is empty the result is. */
  readonly reads: readonly FloatColumn[]
}
const numberKnown = (value: Cell): Known | undefined =>
  typeof value === 'number'
    ? { low: value, high: value, least: Math.abs(value), failing: undefined, reads: [] }
    : undefined
const columnKnown = (column: Column): Known | undefined => {
  if (column.type !== 'integer' && column.type !== 'decimal') return undefined
  const bounds = boundsOfColumn(column)
  return bounds.low <= bounds.high ? { ...bounds, failing: undefined, reads: [column] } : undefined
}
const leastOf = ({ low, high, least = 0 }: ResultBounds): number =>
  low > 0 || high < 0 ? Math.min(Math.abs(low), Math.abs(high)) : least

/** The bounds of a formula over numbers and the rows that fail; undefined where that is not known without computing it. O(rows) the first time. */
const knownOf = (node: TypedNode, table: Table, environment: Environment): Known | undefined => {
  if (node.kind === 'column') return columnKnown(table.named(node.name))
  if (node.kind !== 'call')
    return numberKnown(node.kind === 'constant' ? node.value : (ownValue(environment.parameters, node.name) ?? null))
  if (!node.fn.bounds) return undefined
  const args: Known[] = []
  for (const arg of node.args) {
    const known = knownOf(arg, table, environment)
    if (!known) return undefined
    args.push(known)
  }
  const bounds = node.fn.bounds(args)
  if (!bounds) return undefined
  const reads = args.flatMap((arg) => arg.reads)
  const found = args.flatMap(({ failing }) => failing ?? [])
  if (bounds.failsAtZero !== undefined) {
    // of what is computed nobody knows where it is 0
    const divisor = columnUnder(node.args[bounds.failsAtZero])
    if (!divisor) return undefined
    const zeros = zeroRows(table.named(divisor) as FloatColumn)
    found.push(reads.reduce((rows, { nulls }) => rowsOfBit(rows, nulls, 0), zeros))
  }
  const failing = found.length > 0 ? found.reduce(mergedRows) : undefined
  return { low: bounds.low, high: bounds.high, least: leastOf(bounds), reads, failing }
}
/** The column that a part of a formula is, if only by another type. */
const columnUnder = (node: TypedNode | undefined): string | undefined => {
  if (node?.kind === 'call' && node.fn.name === 'as_decimal') return columnUnder(node.args[0])
  return node?.kind === 'column' ? node.name : undefined
}

/** One cell of a formula; empty where it fails. */
const cellOf = (node: TypedNode, table: Table, row: number, environment: Environment): Cell => {
  if (node.kind === 'column') return table.cell(table.positionOf(node.name), row)
  if (node.kind === 'constant') return node.value
  if (node.kind === 'parameter') return ownValue(environment.parameters, node.name) ?? null
  const cells = node.args.map((arg) => cellOf(arg, table, row, environment))
  const types = node.args.map(({ type }) => type)
  const outcome = compute(node.fn, cells, types, environment)
  return outcome === failed || outcome === '' ? null : outcome
}

/** The numbers of a formula whose bounds are known. */
const numbersOf = (node: TypedNode, table: Table, environment: Environment): NumberFormula => {
  if (node.kind === 'column') return (table.named(node.name) as FloatColumn).values
  if (node.kind === 'call') return node.fn.numbers!(node.args.map((arg) => numbersOf(arg, table, environment)))
  return (node.kind === 'constant' ? node.value : ownValue(environment.parameters, node.name)) as number
}
/** The numbers of a formula whose bounds are known, and which of them are empty. */
const summedNumbers = (
  formula: TypedNode,
  table: Table,
  environment: Environment,
  failures: Int32Array,
): SummedNumbers => {
  const numbers = numbersOf(formula, table, environment)
  const given = readsOf(formula).columns.map((name) => (table.named(name) as FloatColumn).nulls)
  const empty = given.reduce(emptyOf, undefined)
  if (failures.length === 0) return { numbers, nulls: empty }
  const nulls = empty ?? bitmap(table.rowCount)
  for (const row of failures) set(nulls, row)
  return { numbers, nulls }
}
const calculated = (type: 'integer' | 'decimal', { numbers, nulls }: SummedNumbers, rowCount: number): Column => {
  const values = float64s(rowCount)
  kernels().calculate(numbers, values)
  // what was computed of an empty cell is any number, or none
  if (nulls) fillSet(values, nulls, 0)
  return { type, values, nulls }
}

/** A lazy column whose cells are computed one at a time until somebody needs all of them. */
const computedWhenNeeded = (
  formula: TypedNode,
  type: ColumnType,
  table: Table,
  environment: Environment,
  source: Pick<LazySource, 'make' | 'numbers'>,
): LazyColumn =>
  new LazyColumn({
    ...{ type, length: table.rowCount, holds: () => table.buffers, again: true, ...source },
    cell: (row) => cellOf(formula, table, row, environment),
  })

/** A lazy column with the rows in which it could not be computed. */
type LazyFormula = { readonly column: LazyColumn; readonly failures: Int32Array }

/** A formula over numbers whose bounds show which cells fail. */
const byBounds = (
  formula: TypedNode,
  type: ColumnType,
  table: Table,
  environment: Environment,
): LazyFormula | undefined => {
  const known = formula.kind === 'call' ? knownOf(formula, table, environment) : undefined
  if (!known || (type !== 'integer' && type !== 'decimal')) return undefined
  const failures = known.failing ?? int32s(0)
  const numbers = (): SummedNumbers => summedNumbers(formula, table, environment, failures)
  const make = (): Column => calculated(type, numbers(), table.rowCount)
  return { column: computedWhenNeeded(formula, type, table, environment, { make, numbers }), failures }
}

/** Whether a formula gives a cell, or an empty one, whatever its columns hold. */
const isTotal = (node: TypedNode): boolean => {
  if (node.kind !== 'call') return true
  const { total } = node.fn
  return (total === true || total?.(constantsOf(node)) === true) && node.args.every(isTotal)
}
/** A formula that never fails. */
const byCells = (
  formula: TypedNode,
  type: ColumnType,
  table: Table,
  environment: Environment,
): LazyFormula | undefined => {
  if (formula.kind !== 'call' || !isTotal(formula)) return undefined
  const make = (): Column => evaluateRows(formula, type, table, environment).column
  return { column: computedWhenNeeded(formula, type, table, environment, { make }), failures: int32s(0) }
}

/** The words of each column in each combination of the codes of all. */
const combinations = (words: readonly Column[], bound: number): Column[] => {
  let below = bound
  return words.map((column) => {
    const count = lengthOf(column)
    below /= count
    const index = int32s(bound)
    for (let code = 0; code < bound; code++) index[code] = Math.floor(code / below) % count
    return gather(column, markComplete(index))
  })
}

/** Of more combinations than this those that are met are looked for first. */
const mostCombinations = 65_536

/** A formula computed for each combination of the values that its columns can hold, where these are few and none fails; its cells are looked up. */
const byCodes = (
  formula: TypedNode,
  type: ColumnType,
  table: Table,
  environment: Environment,
  most: number,
): LazyFormula | undefined => {
  const codings: Coding[] = []
  let bound = 1
  for (let at = 0; at < table.names.length; at++) {
    const coding = codingOf(table.column(at), most / bound)
    if (!coding) return undefined
    codings.push(coding)
    bound *= coding.bound
  }
  const words = codings.map((coding, at) => wordsOf(coding, table.column(at)))
  const each = Table.of(table.names, combinations(words, bound), bound)
  const { column: perCode, failures } = evaluateRows(formula, type, each, environment)
  if (failures.length > 0) return undefined
  const codes = (rows?: Int32Array): DenseCodes =>
    codings.map((coding, at) => codesBy(coding, table.column(at), rows)).reduce((all, one) => product(all, one))
  const column = new LazyColumn({
    ...{ type, length: table.rowCount, again: true },
    holds: () => [...table.buffers, ...columnBuffers(perCode)],
    cell: (row) =>
      cellAt(
        perCode,
        codings.reduce((all, coding, at) => all * coding.bound + codeAt(coding, table.column(at), row), 0),
      ),
    make: () => {
      const all = codes()
      return layOut(
        withoutUnmet(perCode, () => kernels().firstRows(all)),
        all.codes,
      )
    },
    codes: (rows) => {
      const all = codes(rows)
      const made = codesOf(perCode)
      const index = new Int32Array(all.codes.buffer, all.codes.byteOffset, all.codes.length)
      return { codes: gatherIndices(made.codes, markComplete(index)), bound: made.bound }
    },
  })
  return { column, failures }
}

/** The column of a formula, with the rows of the table whose cell could not be computed. */
export type FormulaColumn = {
  readonly column: Column | LazyColumn
  /** The rows of the column that are those of the table; where there are none, all. */
  readonly rows: Int32Array | undefined
  readonly failures: Int32Array
}

/**
 * The places of rows among chosen ones, both in order, into `places`; how many they are. Ahead of a place a row stands no farther than
 * there are rows between: from there back it is found past those that were not chosen alone.
 */
const placesAmong = (rows: Int32Array, chosen: Int32Array, places: Int32Array): number => {
  const n = rows.length
  const last = chosen.length - 1
  let found = 0
  for (let i = 0, place = 0; i < n && last >= 0; i++) {
    const row = rows[i]!
    let at = Math.min(last, place + Math.max(0, row - chosen[place]!))
    while (at > place && chosen[at]! > row) at--
    if (chosen[at] === row) places[found++] = at
    place = at
  }
  return found
}
/** The places of those rows of a column that were chosen of it. */
const among = (rows: Int32Array, chosen: Int32Array | undefined, rowCount: number): Int32Array => {
  if (!chosen || rows.length === 0) return rows
  if (isAscending(chosen) && rowOrder(rows).ordered) {
    const places = int32s(rows.length)
    return places.slice(0, placesAmong(rows, chosen, places))
  }
  const marks = uint8s(rowCount)
  for (const row of rows) marks[row] = 1
  return kernels().rowsOfCodes(new Uint32Array(chosen.buffer, chosen.byteOffset, chosen.length), marks, 1)
}

/** The formula's column over a table, lazy where it is known which cells fail. */
export const formulaColumn = (
  formula: TypedNode,
  type: ColumnType,
  table: Table,
  given: Environment,
): FormulaColumn => {
  // a lazy column outlives the run, of which it holds no more than it needs
  const environment = { parameters: given.parameters, now: given.now }
  const { columns, byCell } = readsOf(formula)
  const before = table.beforeChoice(columns.map((name) => table.positionOf(name)))
  // of few of many rows only these are computed
  if (before && before.table.rowCount <= 2 * table.rowCount) {
    const most = Math.min(mostCombinations, table.rowCount >> 1)
    const { rows, table: whole } = before
    const lazy =
      byBounds(formula, type, whole, environment) ??
      (byCell ? byCodes(formula, type, whole, environment, most) : undefined) ??
      byCells(formula, type, whole, environment)
    if (lazy) return { column: lazy.column, rows, failures: among(lazy.failures, rows, whole.rowCount) }
  }
  return { ...evaluateFormula(formula, type, table, environment), rows: undefined }
}

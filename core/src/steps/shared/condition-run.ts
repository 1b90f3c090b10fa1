import { ownValue } from '../../table/own.ts'
import { checkFormula } from '../../formula/check.ts'
import { evaluateFormula } from '../../formula/evaluate.ts'
import { compilePattern } from '../../codegen/regex.ts'
import {
  cellAt,
  holdsWords,
  isEmptyAt,
  isNumber,
  lengthOf,
  type Cell,
  type Column,
  type ColumnType,
} from '../../table/column.ts'
import { dayMs } from '../../table/calendar.ts'
import { testText } from '../../table/gather.ts'
import { bytes } from '../../table/memory.ts'
import { compareText } from '../../table/order.ts'
import type { Table } from '../../table/table.ts'
import { lower, trim } from '../../table/text.ts'
import type { Condition, Test } from './condition.ts'
import type { RunContext } from './step-kind.ts'
import { cellFor, isColumnValue, isParameterValue, type Value } from './value.ts'

/** 1 where the row meets the condition, 0 where it does not. Nothing in between. */
export type Mask = Uint8Array

const both = (a: Mask, b: Mask): Mask => {
  for (let i = 0; i < a.length; i++) a[i] = (a[i] as number) & (b[i] as number)
  return a
}
const either = (a: Mask, b: Mask): Mask => {
  for (let i = 0; i < a.length; i++) a[i] = (a[i] as number) | (b[i] as number)
  return a
}
const opposite = (a: Mask): Mask => {
  for (let i = 0; i < a.length; i++) a[i] = (a[i] as number) ^ 1
  return a
}

const textOrder = compareText(false)
const order = (a: Exclude<Cell, null>, b: Exclude<Cell, null>): number =>
  typeof a === 'string' ? textOrder(a, String(b)) : Number(a) - Number(b)

/** The other side of a test: one cell for all rows, or one per row; dates among date-times are put at midnight. */
type Side = {
  readonly constant: Cell
  readonly column: Column | undefined
  readonly scale: number
  /** What the tested column's own numbers are multiplied by. */ readonly own: number
}

/** Date-times against a column of dates are compared as date-times. */
const comparedType = (column: Column, value: Value, table: Table, context: RunContext): ColumnType => {
  const other = isColumnValue(value)
    ? table.named(value.column).type
    : isParameterValue(value)
      ? ownValue(context.parameterTypes, value.parameter)
      : undefined
  return isNumber(column.type) ? 'decimal' : column.type === 'date' && other === 'datetime' ? 'datetime' : column.type
}

const sideOf = (value: Value, tested: Column, table: Table, context: RunContext): Side => {
  const type = comparedType(tested, value, table, context)
  const own = tested.type === 'date' && type === 'datetime' ? dayMs : 1
  if (isColumnValue(value)) {
    const column = table.named(value.column)
    return { constant: null, column, scale: column.type === 'date' && type === 'datetime' ? dayMs : 1, own }
  }
  if (!isParameterValue(value)) return { constant: cellFor(value, type) ?? null, column: undefined, scale: 1, own }
  const cell = ownValue(context.parameters, value.parameter) ?? null
  const other = ownValue(context.parameterTypes, value.parameter)
  return {
    constant: typeof cell === 'number' && other === 'date' && type === 'datetime' ? cell * dayMs : cell,
    column: undefined,
    scale: 1,
    own,
  }
}
const constantSide = (constant: Cell): Side => ({ constant, column: undefined, scale: 1, own: 1 })
const cellOfSide = (side: Side, row: number): Cell => {
  if (!side.column) return side.constant
  const cell = cellAt(side.column, row)
  return typeof cell === 'number' ? cell * side.scale : cell
}

/** How text is seen by a test: as it is, or trimmed and in small letters. */
const seenBy = (test: Test): ((text: string) => string) => {
  const cut = test.trim ? trim : (text: string) => text
  return test.ignoreCase ? (text) => lower(cut(text)) : cut
}

type Compare = (cell: Cell, other: Cell) => boolean
const compares: Readonly<
  Record<'is' | 'greater' | 'at-least' | 'less' | 'at-most' | 'contains' | 'starts-with' | 'ends-with', Compare>
> = {
  is: (a, b) => a === b,
  greater: (a, b) => a !== null && b !== null && order(a, b) > 0,
  'at-least': (a, b) => a !== null && b !== null && order(a, b) >= 0,
  less: (a, b) => a !== null && b !== null && order(a, b) < 0,
  'at-most': (a, b) => a !== null && b !== null && order(a, b) <= 0,
  contains: (a, b) => a !== null && b !== null && String(a).includes(String(b)),
  'starts-with': (a, b) => a !== null && b !== null && String(a).startsWith(String(b)),
  'ends-with': (a, b) => a !== null && b !== null && String(a).endsWith(String(b)),
}

const isNothing = (text: string): Cell => (text === '' ? null : text)

/** One compare over all rows; text against a constant once per distinct word. */
const compareAll = (column: Column, side: Side, compare: Compare, see: (text: string) => string): Mask => {
  const seeCell = (cell: Cell): Cell => (typeof cell === 'string' ? isNothing(see(cell)) : cell)
  if (!side.column) {
    const constant = seeCell(side.constant)
    if (holdsWords(column)) return testText(column, (text) => compare(isNothing(see(text)), constant))
    if (typeof constant === 'number' && column.type !== 'boolean')
      return compareNumbers(column.values, column, constant / side.own, compare)
  }
  const n = lengthOf(column)
  const mask = bytes(n)
  for (let i = 0; i < n; i++) {
    const cell = seeCell(cellAt(column, i))
    mask[i] = compare(typeof cell === 'number' ? cell * side.own : cell, seeCell(cellOfSide(side, i))) ? 1 : 0
  }
  return mask
}

const compareNumbers = (
  values: Float64Array | Int32Array,
  column: Column,
  constant: number,
  compare: Compare,
): Mask => {
  const mask = bytes(values.length)
  const [low, at, high] = [compare(-Infinity, constant), compare(constant, constant), compare(Infinity, constant)].map(
    Number,
  ) as [number, number, number]
  for (let i = 0; i < values.length; i++) {
    const value = values[i] as number
    mask[i] = value < constant ? low : value > constant ? high : at
  }
  const ofEmpty = compare(null, constant) ? 1 : 0
  if (!holdsWords(column) && column.empty)
    for (let i = 0; i < values.length; i++) if (isEmptyAt(column, i)) mask[i] = ofEmpty
  return mask
}

const opposites: Partial<Record<Test['op'], keyof typeof compares>> = {
  'is-not': 'is',
  'contains-not': 'contains',
  'starts-not-with': 'starts-with',
}

const pattern = (column: Column, test: Test, source: string): Mask => {
  const compiled = compilePattern(source, test.ignoreCase === true)
  const cut = test.trim ? trim : (text: string) => text
  return holdsWords(column)
    ? testText(column, (text) => cut(text) !== '' && compiled.test(cut(text)))
    : bytes(lengthOf(column))
}

const testMask = (test: Test, table: Table, context: RunContext): Mask => {
  const column = table.named(test.column)
  const see = seenBy(test)
  const against = (value: Value, op: keyof typeof compares): Mask =>
    compareAll(column, sideOf(value, column, table, context), compares[op], see)
  switch (test.op) {
    case 'is-empty':
    case 'is-filled': {
      const empty = compareAll(column, constantSide(null), compares.is, see)
      return test.op === 'is-empty' ? empty : opposite(empty)
    }
    case 'is-one-of':
    case 'is-none-of': {
      const any = test.values.reduce<Mask>((mask, value) => either(mask, against(value, 'is')), bytes(table.rowCount))
      return test.op === 'is-one-of' ? any : opposite(any)
    }
    case 'between':
      return both(against(test.from, 'at-least'), against(test.to, 'at-most'))
    case 'matches':
      return pattern(column, test, String(test.value))
    case 'is-not':
    case 'contains-not':
    case 'starts-not-with':
      return opposite(against(test.value, opposites[test.op] ?? 'is'))
    default:
      return against(test.value, test.op)
  }
}

export const conditionMask = (condition: Condition, table: Table, context: RunContext): Mask => {
  if ('all' in condition) return condition.all.map((one) => conditionMask(one, table, context)).reduce(both)
  if ('any' in condition) return condition.any.map((one) => conditionMask(one, table, context)).reduce(either)
  if ('not' in condition) return opposite(conditionMask(condition.not, table, context))
  if (!('formula' in condition)) return testMask(condition, table, context)
  const checked = checkFormula(condition.formula, table.schema, context.parameterTypes)
  if ('problem' in checked) throw new Error(checked.problem.sentence)
  const { column } = evaluateFormula(checked.formula, 'boolean', table, context)
  return compareAll(column, constantSide(true), compares.is, (text) => text)
}

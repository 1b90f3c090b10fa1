import { ownValue } from '../../table/own.ts'
import { FormulaError } from '../../formula/problems.ts'
import { checkFormula } from '../../formula/check.ts'
import { evaluateFormula } from '../../formula/evaluate.ts'
import { compilePattern } from '../../codegen/regex/engine.ts'
import {
  cellAt,
  isTextColumn,
  isNumber,
  lengthOf,
  type Cell,
  type Column,
  type ColumnType,
  type DictionaryText,
  type FloatColumn,
  type IntColumn,
} from '../../table/column.ts'
import { dayMs } from '../../table/calendar.ts'
import { testText } from '../../table/gather.ts'
import { kernels } from '../../kernels/kernels.ts'
import { fillSet, uint8s } from '../../kernels/memory.ts'
import { compareText } from '../../table/text-ranks.ts'
import { Table } from '../../table/table.ts'
import { searchBytes, type TextSearch } from '../../table/text-search.ts'
import { lower, trim } from '../../table/text.ts'
import { isTest, partsOf, valuesOfTest, type Condition, type Test } from './condition.ts'
import type { RunContext } from './step-kind.ts'
import { cellFor, isColumnValue, isParameterValue, type ParameterOrValue } from './value.ts'

/** 1 where the row meets the condition, 0 where it does not. Nothing in between. */
export type PredicateResult = Uint8Array

const both = (a: PredicateResult, b: PredicateResult): PredicateResult => {
  for (let i = 0; i < a.length; i++) a[i] = a[i]! & b[i]!
  return a
}
const either = (a: PredicateResult, b: PredicateResult): PredicateResult => {
  for (let i = 0; i < a.length; i++) a[i] = a[i]! | b[i]!
  return a
}
const opposite = (a: PredicateResult): PredicateResult => {
  for (let i = 0; i < a.length; i++) a[i] = a[i]! ^ 1
  return a
}

const textOrder = compareText(false)
const order = (a: Exclude<Cell, null>, b: Exclude<Cell, null>): number =>
  typeof a === 'string' ? textOrder(a, String(b)) : Number(a) - Number(b)

/** The other side of a test: one cell for all rows, or one per row; dates among date-times are put at midnight. */
type Operand = {
  readonly constant: Cell
  readonly column: Column | undefined
  readonly scale: number
  /** What the tested column's own numbers are multiplied by. */ readonly own: number
}

/** Date-times against a column of dates are compared as date-times. */
const comparedType = (column: Column, value: ParameterOrValue, table: Table, context: RunContext): ColumnType => {
  const chooseOther = () => {
    if (isColumnValue(value)) return table.named(value.column).type
    if (isParameterValue(value)) return ownValue(context.parameterTypes, value.parameter)
    return undefined
  }
  const other = chooseOther()
  if (isNumber(column.type)) return 'decimal'
  if (column.type === 'date' && other === 'datetime') return 'datetime'
  return column.type
}

const sideOf = (value: ParameterOrValue, tested: Column, table: Table, context: RunContext): Operand => {
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
const constantSide = (constant: Cell): Operand => ({ constant, column: undefined, scale: 1, own: 1 })
const cellOfSide = (side: Operand, row: number): Cell => {
  if (!side.column) return side.constant
  const cell = cellAt(side.column, row)
  return typeof cell === 'number' ? cell * side.scale : cell
}

/** How text is seen by a test: as it is, or trimmed and in small letters. */
export const seenBy = (test: Pick<Test, 'ignoreCase' | 'trim'>): ((text: string) => string) => {
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
const compareAll = (
  column: Column,
  side: Operand,
  compare: Compare,
  see: (text: string) => string,
): PredicateResult => {
  const seeCell = (cell: Cell): Cell => (typeof cell === 'string' ? isNothing(see(cell)) : cell)
  if (!side.column) {
    const constant = seeCell(side.constant)
    if (isTextColumn(column)) return testText(column, (text) => compare(isNothing(see(text)), constant))
    if (typeof constant === 'number' && column.type !== 'boolean')
      return compareNumbers(column, constant / side.own, compare)
  }
  const n = lengthOf(column)
  const mask = uint8s(n)
  for (let i = 0; i < n; i++) {
    const cell = seeCell(cellAt(column, i))
    mask[i] = compare(typeof cell === 'number' ? cell * side.own : cell, seeCell(cellOfSide(side, i))) ? 1 : 0
  }
  return mask
}

const searches = new Set<string>(['is', 'contains', 'starts-with', 'ends-with'] satisfies TextSearch[])
/** Texts that are bytes against one as it is; undefined where a test is of another sort. */
const inBytes = (column: Column, side: Operand, op: string, test: Test): PredicateResult | undefined => {
  const { constant } = side
  if (side.column || typeof constant !== 'string' || !searches.has(op)) return undefined
  if (('ignoreCase' in test && test.ignoreCase) || ('trim' in test && test.trim)) return undefined
  return searchBytes(column, op as TextSearch, constant)
}

const compareNumbers = (
  { values, nulls }: FloatColumn | IntColumn,
  constant: number,
  compare: Compare,
): PredicateResult => {
  const [below, at, above] = [-Infinity, constant, Infinity].map((value) => compare(value, constant)) as [
    boolean,
    boolean,
    boolean,
  ]
  const floats = values instanceof Float64Array ? values : new Float64Array(values)
  const mask = kernels().compareFloats(floats, constant, { below, at, above })
  const ofEmpty = compare(null, constant) ? 1 : 0
  if (nulls) fillSet(mask, nulls, ofEmpty)
  return mask
}

const opposites: Partial<Record<Test['op'], keyof typeof compares>> = {
  'is-not': 'is',
  'contains-not': 'contains',
  'starts-not-with': 'starts-with',
}

const pattern = (column: Column, test: Test, source: string): PredicateResult => {
  const compiled = compilePattern(source, test.ignoreCase === true)
  const cut = test.trim ? trim : (text: string) => text
  return isTextColumn(column)
    ? testText(column, (text) => cut(text) !== '' && compiled.test(cut(text)))
    : uint8s(lengthOf(column))
}

const evaluateTest = (test: Test, table: Table, context: RunContext): PredicateResult => {
  const column = table.named(test.column)
  const see = seenBy(test)
  const against = (value: ParameterOrValue, op: keyof typeof compares): PredicateResult => {
    const side = sideOf(value, column, table, context)
    return inBytes(column, side, op, test) ?? compareAll(column, side, compares[op], see)
  }
  switch (test.op) {
    case 'is-empty':
    case 'is-filled': {
      const empty = compareAll(column, constantSide(null), compares.is, see)
      return test.op === 'is-empty' ? empty : opposite(empty)
    }
    case 'is-one-of':
    case 'is-none-of': {
      const any = test.values.reduce<PredicateResult>(
        (mask, value) => either(mask, against(value, 'is')),
        uint8s(table.rowCount),
      )
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

/** Which rows a condition holds for; O(rows) a test, once a distinct value for text. */
export const evaluateCondition = (condition: Condition, table: Table, context: RunContext): PredicateResult => {
  if ('all' in condition) return condition.all.map((one) => evaluateCondition(one, table, context)).reduce(both)
  if ('any' in condition) return condition.any.map((one) => evaluateCondition(one, table, context)).reduce(either)
  if ('not' in condition) return opposite(evaluateCondition(condition.not, table, context))
  if (!('formula' in condition)) return evaluateTest(condition, table, context)
  const checked = checkFormula(condition.formula, table.schema, context.parameterTypes)
  if ('problem' in checked) throw new FormulaError(checked.problem)
  const { column } = evaluateFormula(checked.formula, 'boolean', table, context)
  return compareAll(column, constantSide(true), compares.is, (text) => text)
}

/** The one column whose cells alone decide a condition; undefined where there are several, or a formula. */
const decidingColumn = (condition: Condition): string | undefined => {
  if (isTest(condition)) return valuesOfTest(condition).some(isColumnValue) ? undefined : condition.column
  if ('formula' in condition) return undefined
  const columns = new Set(partsOf(condition).map(decidingColumn))
  return columns.size === 1 ? [...columns][0] : undefined
}

const isCoded = (column: Column): column is DictionaryText => isTextColumn(column) && column.form === 'dictionary'

/** The rows for which a condition holds, or does not; asked once for each word where it is about one column of few. */
export const rowsMeeting = (condition: Condition, table: Table, context: RunContext, holds: boolean): Int32Array => {
  const wanted = holds ? 1 : 0
  const name = decidingColumn(condition)
  const column = name === undefined ? undefined : table.named(name)
  if (name === undefined || !column || !isCoded(column) || column.dictionary.length > table.rowCount)
    return kernels().chosenRows(evaluateCondition(condition, table, context), wanted)
  const indices = Uint32Array.from(column.dictionary, (_, code) => code)
  const words = Table.of([name], [{ ...column, indices }])
  return kernels().rowsOfCodes(column.indices, evaluateCondition(condition, words, context), wanted)
}

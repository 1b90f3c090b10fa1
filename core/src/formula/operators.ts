import { code, py, sql, sqlHelper, pyHelper } from '../codegen/tag.ts'
import { civilRange, dayMs, dayOf } from '../table/calendar.ts'
import type { Cell, Column } from '../table/column.ts'
import { kernels } from '../kernels/kernels.ts'
import type { Numbers, Operation } from '../kernels/table-kernels.ts'
import { bitmap, float64s, isSet, IntList, set, type Bitmap } from '../kernels/memory.ts'
import { maxInteger } from '../table/number.ts'
import type { Bounds } from '../table/ranges.ts'
import { compareText } from '../table/text-ranks.ts'
import { failed, type FormulaFunction, type CallResult, type FormulaType, type ResultBounds } from './function-kind.ts'
import { define } from './functions/define.ts'
import type { Comparison } from './parse.ts'

type Arithmetic = '+' | '-' | '*' | '/' | '^'
const names = {
  '+': 'plus',
  '-': 'minus',
  '*': 'times',
  '/': 'divide',
  '^': 'power',
} as const satisfies Readonly<Record<Arithmetic, string>>

const compute = (op: Arithmetic, a: number, b: number): number => {
  if (op === '+') return a + b
  if (op === '-') return a - b
  if (op === '*') return a * b
  if (op === '/') {
    if (b === 0) return NaN
    return a / b
  }
  return a ** b
}

/** A number per row: the column's values, or one value for all. */
type Operand = {
  readonly values: Float64Array | undefined
  readonly constant: number
  readonly empty: Bitmap | undefined
}
const operand = (part: Column | Cell): Operand | undefined => {
  if (typeof part === 'number') return { values: undefined, constant: part, empty: undefined }
  if (part === null || typeof part !== 'object') return undefined
  return part.type === 'integer' || part.type === 'decimal'
    ? { values: part.values, constant: 0, empty: part.nulls }
    : undefined
}

/** Rows that are empty on either side. */
export const emptyOf = (a: Bitmap | undefined, b: Bitmap | undefined): Bitmap | undefined => {
  if (!a || !b) return (a ?? b)?.slice()
  const empty = a.slice()
  for (let i = 0; i < empty.length; i++) empty[i] = empty[i]! | b[i]!
  return empty
}

/** Marks rows that are out of range as empty; which of them were not empty before, and so have failed. */
const settle = (
  values: Float64Array,
  given: Bitmap | undefined,
  wrong: Int32Array,
): { empty: Bitmap | undefined; failures: Int32Array } => {
  const failures = given ? wrong.filter((row) => !isSet(given, row)) : wrong
  const empty = failures.length > 0 ? (given ?? bitmap(values.length)) : given
  for (const row of wrong) values[row] = 0
  if (empty) for (const row of failures) set(empty, row)
  return { empty, failures }
}

/** The bounds of sums, differences, products or quotients: each of these grows or falls with either number, also rounded. */
const boundsOfResults = (op: Arithmetic, [a, b]: readonly Bounds[], limit: number): ResultBounds | undefined => {
  if (!a || !b || op === '^') return undefined
  const byZero = op === '/' && b.low <= 0 && b.high >= 0
  const corners = [a.low, a.high].flatMap((left) =>
    (byZero ? [-b.least, b.least] : [b.low, b.high]).map((right) => compute(op, left, right)),
  )
  const low = Math.min(...corners)
  const high = Math.max(...corners)
  return low >= -limit && high <= limit ? { low, high, ...(byZero ? { failsAtZero: 1 } : {}) } : undefined
}

/** Powers have no kernel of their own. */
const powers = (a: Numbers, b: Numbers, to: Float64Array, limit: number): Int32Array => {
  const wrong = new IntList()
  for (let i = 0; i < to.length; i++) {
    to[i] = (typeof a === 'number' ? a : a[i]!) ** (typeof b === 'number' ? b : b[i]!) + 0
    if (!(Math.abs(to[i]!) <= limit)) wrong.push(i)
  }
  return wrong.done()
}

/** Numbers with numbers. Integers stay integers but for `/` and `^`. */
export const arithmetic = (op: Arithmetic, whole: boolean): FormulaFunction => {
  const result = whole && op !== '/' && op !== '^' ? 'integer' : 'decimal'
  const limit = result === 'integer' ? maxInteger : Number.MAX_VALUE
  return define({
    name: `op_${names[op]}`,
    group: 'operator',
    about: '',
    args: 'a:number b:number',
    result,
    call: ([a, b]): CallResult => {
      const value = compute(op, a as number, b as number)
      if (Math.abs(value) <= limit) {
        if (value === 0) return 0
        return value
      }
      return failed
    },
    vector: ([a = null, b = null], _types, rowCount, spare) => {
      const left = operand(a)
      const right = operand(b)
      if (!left || !right || (!left.values && !right.values)) return undefined
      const values = spare ?? float64s(rowCount)
      const [x, y] = [left.values ?? left.constant, right.values ?? right.constant]
      const wrong = op === '^' ? powers(x, y, values, limit) : kernels().arithmetic(op, x, y, values, limit)
      const { empty, failures } = settle(values, emptyOf(left.empty, right.empty), wrong)
      return { column: { type: result, values, nulls: empty }, failures }
    },
    bounds: (args) => boundsOfResults(op, args, limit),
    numbers: ([left = 0, right = 0]) => ({ operation: op as Operation, left, right }),
    scripts: {
      sql: ([a = code(''), b = code('')]) => {
        if (result === 'integer') {
          if (op === '*') return sql`${sqlHelper('whole')}(${a}::numeric * ${b})`
          return sql`${sqlHelper('whole')}(${a} ${code(op)} ${b})`
        }
        return sql`${sqlHelper(`op_${names[op]}`)}(${a}, ${b})`
      },
      python: ([a = code(''), b = code('')]) => py`${pyHelper(`op_${names[op]}`)}(${a}, ${b})`,
      // of what is divided by, one out of range must be empty, not infinite
      pandas: ([a = code(''), b = code('')]) => {
        if (result === 'integer' || op === '^') return undefined
        return op === '/' && b.text.startsWith('(') ? py`${a} / ${pyHelper('finite')}${b}` : py`${a} ${code(op)} ${b}`
      },
    },
    examples: [],
  })
}

/** Minus in front of a number. */
export const negate = (whole: boolean): FormulaFunction =>
  define({
    name: 'op_negate',
    group: 'operator',
    about: '',
    args: 'a:number',
    result: whole ? 'integer' : 'decimal',
    fails: 'never',
    call: ([a]) => 0 - (a as number),
    bounds: ([a]) => a && { low: 0 - a.high, high: 0 - a.low, least: a.least },
    numbers: ([right = 0]) => ({ operation: '-', left: 0, right }),
    scripts: {
      sql: ([a = code('')]) => sql`(0 - ${a})`,
      python: ([a = code('')]) => py`${pyHelper('op_minus')}(0, ${a})`,
    },
    examples: [],
  })

/** A number with % behind it. */
export const percent: FormulaFunction = define({
  name: 'op_percent',
  group: 'operator',
  about: '',
  args: 'a:number',
  result: 'decimal',
  call: ([a]) => (a as number) / 100,
  bounds: ([a]) => a && { low: a.low / 100, high: a.high / 100 },
  numbers: ([left = 0]) => ({ operation: '/', left, right: 100 }),
  scripts: {
    sql: ([a = code('')]) => sql`${sqlHelper('op_divide')}(${a}, 100)`,
    python: ([a = code('')]) => py`${pyHelper('op_divide')}(${a}, 100)`,
  },
  examples: [],
})

const millis = (cell: Cell | undefined, type: FormulaType | undefined): number =>
  type === 'datetime' ? (cell as number) : (cell as number) * dayMs

/** Date minus date in whole days; with a time on either side in days as a decimal. */
export const momentDifference = (result: 'integer' | 'decimal'): FormulaFunction =>
  define({
    name: 'op_between',
    group: 'operator',
    about: '',
    args: 'a:moment b:moment',
    result,
    call: ([a, b], [x, y]) => (millis(a, x) - millis(b, y)) / dayMs,
    scripts: {
      sql: ([a = code(''), b = code('')]) =>
        result === 'integer' ? sql`(${a} - ${b})::bigint` : sql`${sqlHelper('op_between')}(${a}, ${b})`,
      python: ([a = code(''), b = code('')]) => py`${pyHelper('op_between')}(${a}, ${b})`,
    },
    examples: [],
  })

/** A moment so many days later or earlier; a date goes by whole days. */
export const momentShift = (sign: 1 | -1, type: 'date' | 'datetime'): FormulaFunction =>
  define({
    name: 'op_later',
    group: 'operator',
    about: '',
    args: 'a:moment n:number',
    result: type,
    call: ([a, n]) => {
      const days = (n as number) * sign
      const next = type === 'date' ? (a as number) + Math.floor(days) : (a as number) + Math.round(days * dayMs)
      return civilRange(type === 'date' ? next : dayOf(next)) ? next : failed
    },
    scripts: {
      sql: ([a = code(''), n = code('')]) => sql`${sqlHelper('op_later')}(${a}, ${sign === 1 ? n : sql`-${n}`})`,
      python: ([a = code(''), n = code('')]) =>
        py`${pyHelper('op_later')}(${a}, ${sign === 1 ? n : py`${pyHelper('op_minus')}(0, ${n})`})`,
    },
    examples: [],
  })

const words = {
  '=': 'equal',
  '<>': 'unequal',
  '<': 'less',
  '<=': 'at_most',
  '>': 'more',
  '>=': 'at_least',
} as const satisfies Readonly<Record<Comparison, string>>
const textOrder = compareText(false)

const compareCells = (a: Cell, b: Cell): number =>
  typeof a === 'string' ? textOrder(a, b as string) : Number(a) - Number(b)

const holds = (op: Comparison, order: number): boolean => {
  if (op === '=') return order === 0
  if (op === '<>') return order !== 0
  if (op === '<') return order < 0
  if (op === '<=') return order <= 0
  if (op === '>') return order > 0
  return order >= 0
}

/** Both of one type by now. Equality sees empty; the orders give empty with an empty side. */
export const comparison = (op: Comparison, type: FormulaType): FormulaFunction => {
  const equality = op === '=' || op === '<>'
  return define({
    name: `op_${words[op]}`,
    group: 'operator',
    about: '',
    args: 'a:any b:any',
    result: 'boolean',
    fails: 'never',
    total: true,
    ...(equality ? { seesEmpty: true as const } : {}),
    call: ([a = null, b = null]) => {
      if (equality) return (a === b) === (op === '=')
      return holds(op, compareCells(a, b))
    },
    scripts: {
      sql: ([a = code(''), b = code('')]) => {
        if (equality) return sql`(${a} ${code(op === '=' ? 'is not distinct from' : 'is distinct from')} ${b})`
        return type === 'text'
          ? sql`(${sqlHelper('text_order')}(${a}, ${b}) ${code(op)} 0)`
          : sql`(${a} ${code(op)} ${b})`
      },
      python: ([a = code(''), b = code('')]) => py`${pyHelper(`op_${words[op]}`)}(${a}, ${b})`,
    },
    examples: [],
  })
}

/** Changes of type that lose nothing: an integer among decimals, a date among date-times. */
export const widening = (to: 'decimal' | 'datetime'): FormulaFunction =>
  define({
    name: `as_${to}`,
    group: 'operator',
    about: '',
    args: 'a:any',
    result: to,
    fails: 'never',
    total: true,
    call: ([a]) => (to === 'datetime' ? (a as number) * dayMs : (a as number)),
    bounds: ([a]) => (a && to === 'decimal' ? { low: a.low, high: a.high, least: a.least } : undefined),
    numbers: ([a = 0]) => a,
    vector: ([a = null]) =>
      typeof a === 'object' && a?.type === 'integer' && to === 'decimal'
        ? { column: { ...a, type: to }, failures: new Int32Array(0) }
        : undefined,
    scripts: {
      sql: ([a = code('')]) => sql`${a}::${code(to === 'decimal' ? 'float8' : 'timestamp')}`,
      python: ([a = code('')]) => py`${pyHelper(`as_${to}`)}(${a})`,
    },
    examples: [],
  })

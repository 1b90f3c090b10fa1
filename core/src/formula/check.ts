import { ownValue } from '../table/own.ts'
import { isNumber, type Cell, type ColumnType } from '../table/column.ts'
import { maybeIsoDate, maybeIsoDateTime, maybeIsoTime } from '../table/calendar.ts'
import type { Schema } from '../table/table.ts'
import { nearest } from '../messages/words.ts'
import type { Argument, FormulaFunction, ArgumentType, FormulaType } from './function-kind.ts'
import { functionNamed, functionNames, shorthandNamed } from './functions/index.ts'
import { FormulaError, type FormulaProblem, type Span } from './problems.ts'
import { arithmetic, comparison, momentDifference, momentShift, negate, percent, widening } from './operators.ts'
import { parseFormula, type Comparison, type FormulaNode, type Operator } from './parse.ts'

/** A checked formula: every part has its type, every operator its function. */
export type TypedNode = Span & { readonly type: FormulaType } & (
    | { readonly kind: 'constant'; readonly value: Cell }
    | { readonly kind: 'column'; readonly name: string }
    | { readonly kind: 'parameter'; readonly name: string }
    | { readonly kind: 'call'; readonly fn: FormulaFunction; readonly args: readonly TypedNode[] }
  )

/** The types of the recipe’s parameters, by name. */
export type ParameterTypes = Readonly<Record<string, ColumnType>>
/** A typed AST with its result type and the columns it reads, or what is wrong with it. */
export type CheckedFormula =
  | { readonly formula: TypedNode; readonly type: ColumnType; readonly columns: readonly string[] }
  | { readonly problem: FormulaProblem }

const fits: Readonly<Record<ArgumentType, readonly FormulaType[]>> = {
  number: ['integer', 'decimal'],
  text: ['text'],
  boolean: ['boolean'],
  moment: ['date', 'datetime'],
  clock: ['datetime', 'time'],
  list: ['list'],
  written: ['integer', 'decimal', 'date', 'datetime', 'time'],
  any: ['text', 'integer', 'decimal', 'boolean', 'date', 'datetime', 'time', 'list'],
}
const serves = (type: FormulaType, need: ArgumentType): boolean => type === 'empty' || fits[need].includes(type)

/** A problem without its place. */
type UnplacedProblem = FormulaProblem extends infer P
  ? P extends FormulaProblem
    ? Omit<P, 'from' | 'to'>
    : never
  : never

/** @throws FormulaError for a part of the formula. */
const fail = (at: Span, problem: UnplacedProblem): never => {
  throw new FormulaError({ ...problem, from: at.from, to: at.to } as FormulaProblem)
}

class Checker {
  readonly columns = new Set<string>()
  private readonly schema: Schema
  private readonly parameters: ParameterTypes
  private readonly source: string
  constructor(schema: Schema, parameters: ParameterTypes, source: string) {
    this.schema = schema
    this.parameters = parameters
    this.source = source
  }

  private text(at: Span): string {
    return this.source.slice(at.from, at.to)
  }

  check(node: FormulaNode): TypedNode {
    const { from, to } = node
    switch (node.kind) {
      case 'number':
        return { kind: 'constant', value: node.value, type: node.whole ? 'integer' : 'decimal', from, to }
      case 'text':
        return { kind: 'constant', value: node.value, type: 'text', from, to }
      case 'boolean':
        return { kind: 'constant', value: node.value, type: 'boolean', from, to }
      case 'empty':
        return { kind: 'constant', value: null, type: 'empty', from, to }
      case 'column':
        return this.column(node.name, node)
      case 'parameter':
        return this.parameter(node.name, node)
      case 'unary':
        return this.unary(node.op, node.arg, node)
      case 'binary':
        return this.binary(node.op, node.left, node.right, node)
      case 'call':
        return this.call(node.name, node.args, node)
    }
  }

  private column(name: string, at: Span): TypedNode {
    const field = this.schema.find((one) => one.name === name)
    if (!field) {
      const names = this.schema.map((one) => one.name)
      return fail(at, { code: 'missing-column', column: name, nearest: nearest(name, names) })
    }
    this.columns.add(name)
    return { kind: 'column', name, type: field.type, from: at.from, to: at.to }
  }

  private parameter(name: string, at: Span): TypedNode {
    const type = ownValue(this.parameters, name)
    if (!type) {
      const names = Object.keys(this.parameters)
      return fail(at, { code: 'missing-parameter', parameter: name, nearest: nearest(name, names) })
    }
    return { kind: 'parameter', name, type, from: at.from, to: at.to }
  }

  private apply(fn: FormulaFunction, args: readonly TypedNode[], type: FormulaType, at: Span): TypedNode {
    return { kind: 'call', fn, args, type, from: at.from, to: at.to }
  }

  /** "" as a value is empty; only a text argument takes it as text of no length. */
  private value(part: TypedNode): TypedNode {
    return part.kind === 'constant' && part.value === '' ? { ...part, value: null, type: 'empty' } : part
  }

  private number(part: TypedNode, operator: string): TypedNode {
    if (!serves(part.type, 'number'))
      fail(part, { code: 'not-a-number', part: this.text(part), type: part.type, operator })
    return part
  }

  private unary(op: '-' | '+' | '%', arg: FormulaNode, at: Span): TypedNode {
    const inner = this.number(this.value(this.check(arg)), op)
    if (inner.kind === 'constant' && op === '-' && typeof inner.value === 'number')
      return { ...inner, value: 0 - inner.value, from: at.from }
    if (op === '+') return inner
    return op === '%'
      ? this.apply(percent, [inner], 'decimal', at)
      : this.apply(negate(inner.type === 'integer'), [inner], inner.type === 'integer' ? 'integer' : 'decimal', at)
  }

  // eslint-disable-next-line complexity -- one branch for each pair of operand types
  private binary(op: Operator, leftNode: FormulaNode, rightNode: FormulaNode, at: Span): TypedNode {
    const left = this.value(this.check(leftNode))
    const right = this.value(this.check(rightNode))
    if (op === '&') return this.apply(functionNamed('CONCAT') as FormulaFunction, [left, right], 'text', at)
    if (op === '=' || op === '<>' || op === '<' || op === '<=' || op === '>' || op === '>=')
      return this.comparison(op, left, right, at)
    const moments = serves(left.type, 'moment') && left.type !== 'empty'
    if (op === '-' && moments && serves(right.type, 'moment') && right.type !== 'empty') {
      const result = left.type === 'date' && right.type === 'date' ? 'integer' : 'decimal'
      return this.apply(momentDifference(result), [left, right], result, at)
    }
    if (op === '+' && left.type === 'date' && right.type === 'time') return this.dateWithTime(left, right, at)
    if (op === '+' && left.type === 'time' && right.type === 'date') return this.dateWithTime(right, left, at)
    if ((op === '+' || op === '-') && moments)
      return this.shift(op === '+' ? 1 : -1, left, this.number(right, `${op} after a date`), at)
    if (op === '+' && serves(right.type, 'moment') && right.type !== 'empty')
      return this.shift(1, right, this.number(left, '+ before a date'), at)
    this.number(left, op)
    this.number(right, op)
    const fn = arithmetic(op, left.type !== 'decimal' && right.type !== 'decimal')
    return this.apply(fn, [left, right], fn.result as FormulaType, at)
  }

  private dateWithTime(date: TypedNode, time: TypedNode, at: Span): TypedNode {
    return this.apply(functionNamed('DATETIME') as FormulaFunction, [date, time], 'datetime', at)
  }

  private shift(sign: 1 | -1, moment: TypedNode, days: TypedNode, at: Span): TypedNode {
    const type = moment.type as 'date' | 'datetime'
    return this.apply(momentShift(sign, type), [moment, days], type, at)
  }

  /** A constant text in ISO form is read as what it is compared with. */
  private readConstant(part: TypedNode, other: FormulaType): TypedNode {
    if (part.kind !== 'constant' || typeof part.value !== 'string') return part
    const days = maybeIsoDate(part.value)
    if (other === 'date' && days !== null) return { ...part, type: 'date', value: days }
    const moment = maybeIsoDateTime(part.value)
    if ((other === 'date' || other === 'datetime') && moment !== null)
      return { ...part, type: 'datetime', value: moment }
    if (other === 'datetime' && days !== null) return { ...part, type: 'date', value: days }
    const time = maybeIsoTime(part.value)
    return other === 'time' && time !== null ? { ...part, type: 'time', value: time } : part
  }

  private comparison(op: Comparison, a: TypedNode, b: TypedNode, at: Span): TypedNode {
    const left = this.readConstant(a, b.type)
    const right = this.readConstant(b, a.type)
    const type = unify([left.type, right.type])
    if (!type)
      return fail(right, {
        code: 'not-alike',
        left: this.text(left),
        leftType: left.type,
        right: this.text(right),
        rightType: right.type,
      })
    return this.apply(comparison(op, type), [this.widen(left, type), this.widen(right, type)], 'boolean', at)
  }

  private widen(part: TypedNode, type: FormulaType): TypedNode {
    if (part.type === type || part.type === 'empty') return part
    return type === 'decimal' || type === 'datetime' ? this.apply(widening(type), [part], type, part) : part
  }

  private call(name: string, nodes: readonly FormulaNode[], at: Span): TypedNode {
    const shorthand = shorthandNamed(name)
    if (shorthand)
      return this.check(
        shorthand.expand(nodes, at) ??
          fail(at, { code: 'wrong-form', name: shorthand.name, needs: shorthand.needs, count: nodes.length }),
      )
    const fn = functionNamed(name)
    if (!fn) {
      const word = { from: at.from, to: at.from + name.length }
      return fail(word, { code: 'missing-function', name, nearest: nearest(name, functionNames) })
    }
    const places = this.places(fn, nodes.length, at)
    const given: TypedNode[] = []
    for (const [i, node] of nodes.entries())
      given.push(
        this.argument(
          fn,
          places[i] as Argument,
          this.check(node),
          given.map((part) => part.type),
        ),
      )
    if (fn.gathers) return this.gathered(fn, given, at)
    if (fn.result !== 'same')
      return this.apply(
        fn,
        given,
        typeof fn.result === 'string' ? fn.result : fn.result(given.map(({ type }) => type)),
        at,
      )
    const alike = given.slice(fn.sameFrom ?? 0)
    const type = unify(alike.map((part) => part.type))
    if (!type) return fail(at, { code: 'result-types', name: fn.name, types: alike.map((part) => part.type) })
    return this.apply(
      fn,
      given.map((part, i) => (i >= (fn.sameFrom ?? 0) ? this.widen(part, type) : part)),
      type,
      at,
    )
  }

  /** Items of one list. */
  private gathered(fn: FormulaFunction, given: readonly TypedNode[], at: Span): TypedNode {
    const type = unify(given.map((part) => part.type))
    if (!type) return fail(at, { code: 'item-types', name: fn.name, types: given.map((part) => part.type) })
    const inner = given.find((part) => part.type === 'list')
    if (inner) return fail(inner, { code: 'list-of-lists', part: this.text(inner) })
    return this.apply(
      fn,
      given.map((part) => this.widen(part, type)),
      'list',
      at,
    )
  }

  private places(fn: FormulaFunction, count: number, at: Span): readonly Argument[] {
    const least = fn.args.filter((arg) => !arg.optional).length
    const last = fn.args.at(-1)
    const most = last?.rest ? Infinity : fn.args.length
    if (count < least || count > most) fail(at, { code: 'wrong-count', name: fn.name, takes: { least, most }, count })
    return Array.from({ length: count }, (_, i) => fn.args[i] ?? (last as Argument))
  }

  private argument(fn: FormulaFunction, place: Argument, part: TypedNode, before: readonly FormulaType[]): TypedNode {
    const given = place.need === 'text' ? part : this.value(part)
    if (!serves(given.type, place.need))
      fail(part, { code: 'wrong-argument', part: this.text(part), type: part.type, name: fn.name, needs: place.need })
    if (place.constant) {
      if (given.kind !== 'constant') return fail(part, { code: 'not-constant', argument: place.name, name: fn.name })
      const reason = place.constant(given.value, before)
      if (reason) fail(part, { code: 'wrong-constant', reason })
    }
    return given
  }
}

/** The one type that holds all of these; undefined where there is none. */
const unify = (types: readonly FormulaType[]): FormulaType | undefined => {
  const known = [...new Set(types.filter((type) => type !== 'empty'))]
  const [first = 'empty', ...others] = known
  if (others.length === 0) return first
  if (known.every(isNumber)) return 'decimal'
  return known.every((type) => type === 'date' || type === 'datetime') ? 'datetime' : undefined
}

/** A column of nothing but EMPTY is text. */
const columnType = (type: FormulaType): ColumnType => (type === 'empty' ? 'text' : type)

/** A formula typed against a schema, before anything runs. */
export const checkFormula = (source: string, schema: Schema, parameters: ParameterTypes): CheckedFormula => {
  try {
    const checker = new Checker(schema, parameters, source)
    const formula = checker.check(parseFormula(source))
    return { formula, type: columnType(formula.type), columns: [...checker.columns] }
  } catch (error) {
    if (error instanceof FormulaError) return { problem: error.problem }
    throw error
  }
}

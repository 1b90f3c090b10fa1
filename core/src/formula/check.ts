import { ownValue } from '../table/own.ts'
import { isNumber, type Cell, type ColumnType } from '../table/column.ts'
import { maybeIsoDate, maybeIsoDateTime, maybeIsoTime } from '../table/calendar.ts'
import type { Schema } from '../table/table.ts'
import { counted, listed, nearest, quoted } from '../messages/words.ts'
import type { Argument, FormulaFunction, ArgumentType, FormulaType } from './function-kind.ts'
import { functionNamed, functionNames, shorthandNamed } from './functions/index.ts'
import { FormulaError, type FormulaProblem, type Span } from './lex.ts'
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

const says: Readonly<Record<FormulaType, string>> = {
  text: 'text',
  integer: 'a number',
  decimal: 'a number',
  boolean: 'true or false',
  date: 'a date',
  datetime: 'a date and time',
  time: 'a time',
  list: 'a list',
  empty: 'empty',
}
const needs: Readonly<Record<ArgumentType, string>> = {
  number: 'numbers',
  text: 'text',
  boolean: 'a condition',
  moment: 'a date',
  clock: 'a time',
  list: 'a list',
  written: 'a number, a date or a time',
  any: 'any value',
}
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

const fail = (at: Span, sentence: string): never => {
  throw new FormulaError({ from: at.from, to: at.to, sentence })
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
      const near = nearest(
        name,
        this.schema.map((one) => one.name),
      )
      throw new FormulaError({
        from: at.from,
        to: at.to,
        sentence: `There is no column ${quoted(name)} here.${near.length > 0 ? ` Did you mean ${listed(near.map(quoted), 'or')}?` : ''}`,
        missing: { column: name, nearest: near },
      })
    }
    this.columns.add(name)
    return { kind: 'column', name, type: field.type, from: at.from, to: at.to }
  }

  private parameter(name: string, at: Span): TypedNode {
    const type = ownValue(this.parameters, name)
    if (!type) {
      const near = nearest(name, Object.keys(this.parameters))
      return fail(
        at,
        `The recipe has no parameter ${quoted(name)}.${near.length > 0 ? ` Did you mean ${listed(near.map(quoted), 'or')}?` : ''}`,
      )
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
      fail(
        part,
        `${this.text(part)} is ${says[part.type]}; ${operator} needs numbers.${part.type === 'text' ? ' VALUE reads a text as a number.' : ''}`,
      )
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
    if ((op === '+' || op === '-') && moments)
      return this.shift(op === '+' ? 1 : -1, left, this.number(right, `${op} after a date`), at)
    if (op === '+' && serves(right.type, 'moment') && right.type !== 'empty')
      return this.shift(1, right, this.number(left, '+ before a date'), at)
    this.number(left, op)
    this.number(right, op)
    const fn = arithmetic(op, left.type !== 'decimal' && right.type !== 'decimal')
    return this.apply(fn, [left, right], fn.result as FormulaType, at)
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
      return fail(
        right,
        `${this.text(left)} is ${says[left.type]} and ${this.text(right)} is ${says[right.type]}; only like can be compared with like.`,
      )
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
          fail(at, `${shorthand.name} takes ${shorthand.needs}; it has ${counted(nodes.length, 'argument')}.`),
      )
    const fn = functionNamed(name)
    if (!fn) {
      const near = nearest(name, functionNames)
      return fail(
        { from: at.from, to: at.from + name.length },
        `There is no function ${name}.${near.length > 0 ? ` Did you mean ${listed(near, 'or')}?` : ''}`,
      )
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
    if (!type)
      return fail(
        at,
        `${fn.name} would give ${listed([...new Set(alike.map((part) => says[part.type]))], 'or')}; its values must be of one type.`,
      )
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
    if (!type)
      return fail(
        at,
        `${fn.name} would hold ${listed([...new Set(given.map((part) => says[part.type]))], 'and')}; the items of a list must be of one type.`,
      )
    const inner = given.find((part) => part.type === 'list')
    if (inner) return fail(inner, `${this.text(inner)} is a list, and a list cannot hold lists.`)
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
    const expected = () => {
      if (least === most) return counted(least, 'argument')
      if (most === Infinity) return `at least ${counted(least, 'argument')}`
      return `${least} to ${most} arguments`
    }
    if (count < least || count > most) fail(at, `${fn.name} takes ${expected()}, and has ${count}.`)
    return Array.from({ length: count }, (_, i) => fn.args[i] ?? (last as Argument))
  }

  /** How a value becomes text. */
  private asText(part: TypedNode): string {
    const choosePattern = () => {
      if (part.type === 'integer') return '0'
      if (part.type === 'decimal') return '0.##'
      if (part.type === 'date') return 'yyyy-MM-dd'
      if (part.type === 'datetime') return 'yyyy-MM-dd HH:mm'
      if (part.type === 'time') return 'HH:mm'
      return undefined
    }
    const pattern = choosePattern()
    return pattern === undefined
      ? ` ${this.text(part)} & "" is its text.`
      : ` TEXT(${this.text(part)}; "${pattern}") is its text.`
  }

  private argument(fn: FormulaFunction, place: Argument, part: TypedNode, before: readonly FormulaType[]): TypedNode {
    const given = place.need === 'text' ? part : this.value(part)
    if (!serves(given.type, place.need))
      fail(
        part,
        `${this.text(part)} is ${says[part.type]}; ${fn.name} needs ${needs[place.need]} here.${place.need === 'number' && part.type === 'text' ? ' VALUE reads a text as a number.' : ''}${place.need === 'text' ? this.asText(part) : ''}`,
      )
    if (place.constant) {
      if (given.kind !== 'constant')
        return fail(part, `The ${place.name} of ${fn.name} must be written out, not taken from a column.`)
      const wrong = place.constant(given.value, before)
      if (wrong) fail(part, wrong)
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

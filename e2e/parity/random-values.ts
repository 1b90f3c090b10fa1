import { writeColumn, type ColumnType, type Schema } from '@fabula/core'
import { signatures } from '@fabula/core/testing'

/** Choices read off a list of numbers, so that a failing case shrinks to small numbers and few steps; 0 once they are used up. */
export class Dice {
  private at = 0
  private readonly numbers: readonly number[]
  constructor(numbers: readonly number[]) {
    this.numbers = numbers
  }
  upTo(n: number): number {
    return (this.numbers[this.at++] ?? 0) % Math.max(1, n)
  }
  of<T>(list: readonly T[]): T {
    return list[this.upTo(list.length)] as T
  }
  some<T>(list: readonly T[]): T[] {
    const picked = list.filter(() => this.upTo(2) === 1)
    return picked.length > 0 || list.length === 0 ? picked : [this.of(list)]
  }
  maybe(): boolean {
    return this.upTo(2) === 1
  }
}

/** Texts with what scripts may get wrong. */
export const texts = [
  'Oxbow',
  'oxbow ',
  '',
  'Tarn  End',
  'a;b;c',
  'a;;b',
  '12',
  '-3.5',
  '£ 1,200.50',
  '2031-05-02',
  'Größe',
  '😀 x',
  'two\nlines',
  '"q"',
  '=1',
  'NaN',
  'true',
  '007',
  "it's",
  ' ',
  'x-1',
  'x-2-y',
]
/** A value of a type, as a recipe has it. */
export const literal = (dice: Dice, type: ColumnType): string | number | boolean =>
  type === 'integer'
    ? dice.of([0, 1, 2, -7, 3])
    : type === 'decimal'
      ? dice.of([0, 0.5, -1.25, 100])
      : type === 'boolean'
        ? dice.maybe()
        : type === 'date'
          ? dice.of(['2031-05-01', '2032-02-29'])
          : type === 'datetime'
            ? '2031-05-01T08:30:00'
            : type === 'time'
              ? '08:30:00'
              : dice.of(texts.filter((text) => text !== ''))
const needs: Readonly<Record<string, readonly ColumnType[]>> = {
  number: ['integer', 'decimal'],
  text: ['text'],
  boolean: ['boolean'],
  moment: ['date', 'datetime'],
  clock: ['datetime', 'time'],
  list: ['list'],
  written: ['integer', 'decimal', 'date', 'datetime'],
  any: ['text', 'integer', 'decimal', 'boolean', 'date'],
}
const constants = [
  '"day"',
  '"month"',
  '"year"',
  '"y"',
  '"d"',
  '"0.00"',
  '"yyyy-MM-dd"',
  '"[a-z]+"',
  '"a"',
  '";"',
  '1',
  '2',
  '0',
  '" "',
  'TRUE',
]
const functions = signatures.filter(({ name, group }) => group !== 'operator' && !['TODAY', 'NOW'].includes(name))

const formulaText = (value: unknown): string =>
  typeof value === 'string'
    ? `"${value.replaceAll('"', '""')}"`
    : typeof value === 'boolean'
      ? value
        ? 'TRUE'
        : 'FALSE'
      : String(value)
/** A formula that gives something of this need, more or less; the plan decides whether it holds. */
export const formula = (dice: Dice, schema: Schema, need: string, depth: number): string => {
  const fitting = schema.filter(({ type }) => (needs[need] ?? []).includes(type))
  const way = dice.upTo(depth > 0 ? 5 : 2)
  if (way === 0 && fitting.length > 0) return writeColumn(dice.of(fitting).name)
  if (way <= 1)
    return need === 'moment'
      ? 'DATE(2031; 5; 1)'
      : need === 'list'
        ? 'LIST(1; 2)'
        : formulaText(literal(dice, dice.of(needs[need] ?? ['text'])))
  if (way === 2 && (need === 'number' || need === 'written'))
    return `(${formula(dice, schema, 'number', depth - 1)} ${dice.of(['+', '-', '*', '/'])} ${formula(dice, schema, 'number', depth - 1)})`
  if (way === 2 && need === 'text')
    return `(${formula(dice, schema, 'any', depth - 1)} & ${formula(dice, schema, 'text', depth - 1)})`
  if (way === 2 && need === 'boolean') {
    const side = dice.of(['number', 'text', 'moment'])
    return `(${formula(dice, schema, side, depth - 1)} ${dice.of(['=', '<>', '<', '>='])} ${formula(dice, schema, side, depth - 1)})`
  }
  const { name, args } = dice.of(functions)
  const given = args.flatMap((arg) => {
    if (arg.optional && dice.maybe()) return []
    const one = (): string => (arg.constant ? dice.of(constants) : formula(dice, schema, arg.need, depth - 1))
    return arg.rest ? [one(), ...(dice.maybe() ? [one()] : [])] : [one()]
  })
  return `${name}(${given.join('; ')})`
}

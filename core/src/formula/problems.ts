import { counted, listed, offerOf, quoted } from '../messages/words.ts'
import type { ArgumentType, FormulaType } from './function-kind.ts'

/** Positions in the formula, from inclusive, to exclusive, in UTF-16 units. */
export type Span = { readonly from: number; readonly to: number }

/** How many arguments a function takes; `most` is Infinity where there is no end. */
type ArgumentCount = { readonly least: number; readonly most: number }

/** What can be wrong with a formula: data, worded in the table of sentences below. `part` is its text in the formula. */
type FormulaProblemData = {
  'unclosed-text': object
  'unclosed-column': object
  'unclosed-comment': object
  'unclosed-bracket': object
  'unknown-sign': { readonly sign: string }
  'expected-operator': { readonly found: string }
  'expected-operand': { readonly found: string }
  'stops-early': object
  'too-deep': object
  'too-long': { readonly most: number }
  'too-many-parts': { readonly most: number }
  'number-too-large': object
  'missing-column': { readonly column: string; readonly nearest: readonly string[] }
  'missing-parameter': { readonly parameter: string; readonly nearest: readonly string[] }
  'missing-function': { readonly name: string; readonly nearest: readonly string[] }
  'not-a-number': { readonly part: string; readonly type: FormulaType; readonly operator: string }
  'not-alike': {
    readonly left: string
    readonly leftType: FormulaType
    readonly right: string
    readonly rightType: FormulaType
  }
  'wrong-form': { readonly name: string; readonly needs: string; readonly count: number }
  'wrong-count': { readonly name: string; readonly takes: ArgumentCount; readonly count: number }
  'wrong-argument': {
    readonly part: string
    readonly type: FormulaType
    readonly name: string
    readonly needs: ArgumentType
  }
  'not-constant': { readonly argument: string; readonly name: string }
  'wrong-constant': { readonly reason: string }
  'result-types': { readonly name: string; readonly types: readonly FormulaType[] }
  'item-types': { readonly name: string; readonly types: readonly FormulaType[] }
  'list-of-lists': { readonly part: string }
  'not-a-condition': object
}
/** The code of what is wrong with a formula. */
export type FormulaProblemCode = keyof FormulaProblemData
/** What is wrong with a formula, and where. */
export type FormulaProblem = {
  [C in FormulaProblemCode]: Span & { readonly code: C } & Readonly<FormulaProblemData[C]>
}[FormulaProblemCode]

const typeWords: Readonly<Record<FormulaType, string>> = {
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
const needWords: Readonly<Record<ArgumentType, string>> = {
  number: 'numbers',
  text: 'text',
  boolean: 'a condition',
  moment: 'a date',
  clock: 'a time',
  list: 'a list',
  written: 'a number, a date or a time',
  any: 'any value',
}
/** The usual pattern of a type as text; none where the type has no pattern. */
const textPatterns: Readonly<Partial<Record<FormulaType, string>>> = {
  integer: '0',
  decimal: '0.##',
  date: 'yyyy-MM-dd',
  datetime: 'yyyy-MM-dd HH:mm',
  time: 'HH:mm',
}

const differentTypes = (types: readonly FormulaType[], and: 'and' | 'or'): string =>
  listed([...new Set(types.map((type) => typeWords[type]))], and)

const argumentsWords = ({ least, most }: ArgumentCount): string => {
  if (least === most) return counted(least, 'argument')
  return most === Infinity ? `at least ${counted(least, 'argument')}` : `${least} to ${most} arguments`
}

/** How a value that is needed as a number or as text becomes one. */
const conversion = (part: string, type: FormulaType, need: ArgumentType): string => {
  if (need === 'number') return type === 'text' ? ' VALUE reads a text as a number.' : ''
  if (need !== 'text') return ''
  const pattern = textPatterns[type]
  return pattern === undefined ? ` ${part} & "" is its text.` : ` TEXT(${part}; "${pattern}") is its text.`
}

const sentences: { readonly [C in FormulaProblemCode]: (data: FormulaProblemData[C]) => string } = {
  'unclosed-text': () => 'This text is not closed: a " is missing.',
  'unclosed-column': () => "This column name is not closed: a ' is missing.",
  'unclosed-comment': () => 'This comment is not closed: */ is missing.',
  'unclosed-bracket': () => 'A closing bracket ) is missing.',
  'unknown-sign': ({ sign }) => `${sign} has no meaning here.`,
  'expected-operator': ({ found }) => `An operator or the end was expected here, not ${found}.`,
  'expected-operand': ({ found }) => `A column, a value or a function was expected here, not ${found}.`,
  'stops-early': () => 'The formula stops too early: a column, a value or a function is expected.',
  'too-deep': () => 'This formula nests too deeply. Part it into several columns.',
  'too-long': ({ most }) =>
    `A formula has at most ${most.toLocaleString('en-GB')} characters. Part it into several columns.`,
  'too-many-parts': ({ most }) =>
    `A formula joins at most ${most.toLocaleString('en-GB')} parts with operators or brackets. Part it into several columns.`,
  'number-too-large': () => 'This number is too large.',
  'missing-column': ({ column, nearest }) => `There is no column ${quoted(column)} here.${offerOf(nearest)}`,
  'missing-parameter': ({ parameter, nearest }) =>
    `The recipe has no parameter ${quoted(parameter)}.${offerOf(nearest)}`,
  'missing-function': ({ name, nearest }) =>
    `There is no function ${name}.${nearest.length > 0 ? ` Did you mean ${listed(nearest, 'or')}?` : ''}`,
  'not-a-number': ({ part, type, operator }) =>
    `${part} is ${typeWords[type]}; ${operator} needs numbers.${conversion(part, type, 'number')}`,
  'not-alike': ({ left, leftType, right, rightType }) =>
    `${left} is ${typeWords[leftType]} and ${right} is ${typeWords[rightType]}; only like can be compared with like.`,
  'wrong-form': ({ name, needs, count }) => `${name} takes ${needs}; it has ${counted(count, 'argument')}.`,
  'wrong-count': ({ name, takes, count }) => `${name} takes ${argumentsWords(takes)}, and has ${count}.`,
  'wrong-argument': ({ part, type, name, needs }) =>
    `${part} is ${typeWords[type]}; ${name} needs ${needWords[needs]} here.${conversion(part, type, needs)}`,
  'not-constant': ({ argument, name }) => `The ${argument} of ${name} must be written out, not taken from a column.`,
  'wrong-constant': ({ reason }) => reason,
  'result-types': ({ name, types }) =>
    `${name} would give ${differentTypes(types, 'or')}; its values must be of one type.`,
  'item-types': ({ name, types }) =>
    `${name} would hold ${differentTypes(types, 'and')}; the items of a list must be of one type.`,
  'list-of-lists': ({ part }) => `${part} is a list, and a list cannot hold lists.`,
  'not-a-condition': () => 'This formula gives a value, not true or false. Compare it with something.',
}

/** What is wrong with a formula, and what to do. */
export const formulaSentence = (problem: FormulaProblem): string =>
  // the type of the problem pairs each code with its data
  (sentences[problem.code] as (data: unknown) => string)(problem)

/** The column that a problem says is not there. */
export const missingColumn = (problem: FormulaProblem): string | undefined =>
  problem.code === 'missing-column' ? problem.column : undefined

/** Thrown where a formula cannot be read. */
export class FormulaError extends Error {
  readonly problem: FormulaProblem
  constructor(problem: FormulaProblem) {
    super(formulaSentence(problem))
    this.problem = problem
  }
}

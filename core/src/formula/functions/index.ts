import type { FormulaFunction } from '../function-kind.ts'
import { date } from './date.ts'
import { dateMore } from './date-more.ts'
import { list } from './list.ts'
import { logic } from './logic.ts'
import { number } from './number.ts'
import { numberMore } from './number-more.ts'
import { shorthands, type Shorthand } from './pairs.ts'
import { text } from './text.ts'
import { textMore } from './text-more.ts'
import { written } from './written.ts'

/** Every function that a formula can name; the help page and the parity tests are made from this list. */
export const functions: readonly FormulaFunction[] = [
  ...logic,
  ...number,
  ...numberMore,
  ...text,
  ...textMore,
  ...written,
  ...date,
  ...dateMore,
  ...list,
]
const byName = new Map(functions.map((one) => [one.name, one]))
byName.set('CONCATENATE', byName.get('CONCAT') as FormulaFunction)
/** The function of a name in capitals; `CONCATENATE` is `CONCAT`. */
export const functionNamed = (name: string): FormulaFunction | undefined => byName.get(name)
/** The shorthand of a name in capitals. */
export const shorthandNamed = (name: string): Shorthand | undefined => shorthands.find((one) => one.name === name)
/** The names of all functions and shorthands, for suggestions. */
export const functionNames = [...byName.keys(), ...shorthands.map(({ name }) => name)]

/** All that can be named in a formula, with what the help and the tests need of it. */
export const everyFunction: readonly (Pick<Shorthand, 'name' | 'about' | 'args' | 'examples'> &
  Pick<FormulaFunction, 'group'>)[] = [...functions, ...shorthands]

import type { FormulaFunction } from '../function-kind.ts'
import { date } from './date.ts'
import { logic } from './logic.ts'
import { number } from './number.ts'
import { text } from './text.ts'

/** Every function that a formula can name; the help page and the parity tests are made from this list. */
export const functions: readonly FormulaFunction[] = [...logic, ...number, ...text, ...date]
const byName = new Map(functions.map((one) => [one.name, one]))
byName.set('CONCATENATE', byName.get('CONCAT') as FormulaFunction)
export const functionNamed = (name: string): FormulaFunction | undefined => byName.get(name)
export const functionNames = [...byName.keys()]

import { setOwnValue, ownValue } from '../table/own.ts'
import { cellFor } from '../steps/shared/value.ts'
import { textOfCell } from '../table/cell-text.ts'
import type { Cell, ColumnType } from '../table/column.ts'
import { textReader } from '../reading/convert.ts'
import { listed, nearest, quoted, typeWords } from '../messages/words.ts'
import type { Recipe } from './recipe.ts'

/** Why a parameter has no usable value. */
export type ParameterFault = { readonly parameter: string; readonly sentence: string }

/** A whole number is asked for as one: 1.5 is not rounded. */
const isOf = (cell: Cell, type: ColumnType): boolean => type !== 'integer' || cell === null || Number.isInteger(cell)

/** The cell that a text stands for; undefined where it does not read as the type. */
const read = (text: string, type: ColumnType): Cell | undefined => {
  if (text === '') return null
  const exact = textReader({ type: type === 'integer' ? 'decimal' : type })(text)
  return exact === null || !isOf(exact, type) ? undefined : exact
}

/** The value of every parameter: as given in words, else as the recipe has it. */
export const parameterCells = (
  recipe: Recipe,
  given: Readonly<Record<string, string>>,
): { readonly cells: Readonly<Record<string, Cell>>; readonly faults: readonly ParameterFault[] } => {
  const parameters = recipe.parameters ?? []
  const names = parameters.map(({ name }) => name)
  const faults: ParameterFault[] = Object.keys(given)
    .filter((name) => !names.includes(name))
    .map((name) => ({
      parameter: name,
      sentence: `The recipe has no parameter ${quoted(name)}.${names.length > 0 ? ` It has ${listed((nearest(name, names).length > 0 ? nearest(name, names) : names).map(quoted))}.` : ''}`,
    }))
  const cells: Record<string, Cell> = {}
  for (const { name, type, value } of parameters) {
    const text = ownValue(given, name)
    if (text !== undefined) {
      const cell = read(text, type)
      if (cell === undefined)
        faults.push({
          parameter: name,
          sentence: `The parameter ${quoted(name)} cannot be ${quoted(text)}: it must be ${typeWords[type]}.`,
        })
      setOwnValue(cells, name, cell ?? null)
    } else if (value === undefined)
      faults.push({
        parameter: name,
        sentence: `The parameter ${quoted(name)} needs a value; it is ${typeWords[type]}.`,
      })
    else {
      const cell = cellFor(value, type)
      if (cell === undefined || !isOf(cell, type))
        faults.push({
          parameter: name,
          sentence: `The parameter ${quoted(name)} is ${typeWords[type]}, but the recipe gives it ${quoted(String(value))}.`,
        })
      setOwnValue(cells, name, cell ?? null)
    }
  }
  return { cells, faults }
}

/** The values of parameters as accounts have them: numbers and booleans as they are, the rest as text, null for none. */
export const parameterTexts = (
  recipe: Recipe,
  cells: Readonly<Record<string, Cell>>,
): Readonly<Record<string, string | number | boolean | null>> =>
  Object.fromEntries(
    (recipe.parameters ?? []).map(({ name, type }) => {
      const cell = ownValue(cells, name) ?? null
      const plain = cell === null || typeof cell === 'boolean' || type === 'integer' || type === 'decimal'
      return [name, plain ? cell : textOfCell(type, cell)]
    }),
  )

import type { EnteredCell } from '../steps/enter/index.ts'
import { columnTypes, type ColumnType } from '../table/column.ts'
import type { Recipe, RecipeTable, Step } from '../recipe/recipe.ts'
import { type StepExample } from '../steps/shared/example.ts'

const fieldOf = (header: string): { name: string; type: ColumnType } => {
  const at = header.lastIndexOf(':')
  const type = header.slice(at + 1) as ColumnType
  return at > 0 && columnTypes.includes(type) ? { name: header.slice(0, at), type } : { name: header, type: 'text' }
}

/** A small table as a typed one; cells hold no commas or quotes. */
const enteredTable = (id: string, csv: string): RecipeTable => {
  const [header = '', ...rest] = csv.trimEnd().split('\n')
  const columns = header.split(',').map(fieldOf)
  const valueOf = (cell: string, type: ColumnType): EnteredCell => {
    if (cell === '') return null
    if (type === 'integer' || type === 'decimal') return Number(cell)
    if (type === 'boolean') return cell === 'true'
    return cell
  }
  const rows = rest.map((line) => line.split(',').map((cell, i) => valueOf(cell, columns[i]?.type ?? 'text')))
  return {
    id,
    name: `${id[0]?.toUpperCase() ?? ''}${id.slice(1)}`,
    steps: [{ id: `${id}-1`, kind: 'enter', columns, rows }],
  }
}

/** The input's file as it would be on disk, and a recipe that opens it and does the one step. */
export const recipeOf = (
  { input, step, parameters, others = {} }: Pick<StepExample, 'input' | 'step' | 'parameters' | 'others'>,
  kind: string,
): { recipe: Recipe; file: string } => {
  const [header = '', ...rest] = input.split('\n')
  const columns = header.split(',').map(fieldOf)
  const types = Object.fromEntries(columns.map(({ name, type }) => [name, { type }]))
  const start: Step =
    kind === 'enter' || kind === 'start-from'
      ? ({ id: 's1', kind, ...step } as Step)
      : { id: 's1', kind: 'open', input: 'rows', read: { encoding: 'utf-8', delimiter: ',', types } }
  const steps: Step[] = [
    start,
    ...(kind === 'open' || kind === 'enter' || kind === 'start-from' ? [] : [{ id: 's2', kind, ...step } as Step]),
  ]
  return {
    recipe: {
      fabula: 1,
      name: 'Example',
      ...(parameters ? { parameters } : {}),
      inputs: [{ id: 'rows', name: 'Rows', columns }],
      tables: [
        ...Object.entries(others).map(([id, csv]) => enteredTable(id, csv)),
        { id: 'result', name: 'Result', steps },
      ],
    },
    file: [columns.map(({ name }) => name).join(','), ...rest].join('\n'),
  }
}

import { columnTypes, type ColumnType } from '../table/column.ts'
import type { Recipe, RecipeTable, Step } from '../recipe/schema.ts'

/**
 * One example of a step: what goes in, what the step is told, what comes out. Tables are CSV; a header
 * `Fee:decimal` gives the type of an input column (text where none is said). It is run by the engine, by the
 * SQL script and by the Python script, and each must give `gives` to the letter.
 */
export type StepExample = {
  readonly name: string
  readonly input: string
  readonly step: Readonly<Record<string, unknown>>
  readonly gives: string
  /** Figures that the account must show. */
  readonly account?: Readonly<Record<string, unknown>>
  readonly parameters?: Recipe['parameters']
  /** Other tables by id, typed as the input is. */
  readonly others?: Readonly<Record<string, string>>
}
export type BrokenExample = {
  readonly name: string
  readonly input: string
  readonly others?: Readonly<Record<string, string>>
  readonly step: Readonly<Record<string, unknown>>
  /** A part of the sentence. */ readonly says: string
}
export type KindExamples = {
  readonly kind: string
  readonly examples: readonly StepExample[]
  readonly broken?: readonly BrokenExample[]
}

/** A table as lines of text, cut of their common indentation. */
export const table = (strings: TemplateStringsArray): string => {
  const lines = (strings.raw[0] ?? '')
    .replaceAll('\\n', '\n')
    .split('\n')
    .map((line) => line.replace(/^ +/, ''))
  return `${lines.slice(lines[0] === '' ? 1 : 0, lines.at(-1) === '' ? -1 : undefined).join('\n')}\n`
}

const fieldOf = (header: string): { name: string; type: ColumnType } => {
  const at = header.lastIndexOf(':')
  const type = header.slice(at + 1) as ColumnType
  return at > 0 && columnTypes.includes(type) ? { name: header.slice(0, at), type } : { name: header, type: 'text' }
}

/** A small table as a typed one; cells hold no commas or quotes. */
const enteredTable = (id: string, csv: string): RecipeTable => {
  const [header = '', ...rest] = csv.trimEnd().split('\n')
  const columns = header.split(',').map(fieldOf)
  const valueOf = (cell: string, type: ColumnType): unknown =>
    cell === ''
      ? null
      : type === 'integer' || type === 'decimal'
        ? Number(cell)
        : type === 'boolean'
          ? cell === 'true'
          : cell
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
      ? { id: 's1', kind, ...step }
      : { id: 's1', kind: 'open', input: 'rows', read: { delimiter: ',', types } }
  const steps: Step[] = [
    start,
    ...(kind === 'open' || kind === 'enter' || kind === 'start-from' ? [] : [{ id: 's2', kind, ...step }]),
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

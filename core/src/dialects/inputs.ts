import { listed } from '../messages/words.ts'
import type { Format } from '../reading/read-options.ts'
import { fileColumns, formatOf, type ReadOptions } from '../reading/read-options.ts'
import { takenTables } from '../recipe/used-tables.ts'
import type { Recipe, Step } from '../recipe/recipe.ts'
import { columnAliases } from '../recipe/column-aliases.ts'
import type { Schema } from '../table/table.ts'
import { kindOf, openedInputs } from '../recipe/step-access.ts'

/** How an input is read: what its `open` step says. */
export const readOf = (recipe: Recipe, input: string): ReadOptions =>
  openedInputs(recipe).find((opened) => opened.input === input)?.read ?? {}

/** The format of an input’s files: what the recipe says, else what its file pattern ends with, else CSV. */
export const inputFormat = (recipe: Recipe, input: string): Format =>
  formatOf(readOf(recipe, input), recipe.inputs.find(({ id }) => id === input)?.files)

/** How an input comes into a script: the `columns` it opens with, its format, and other names its columns may come by. */
export const scriptSource = (recipe: Recipe, input: string, columns: Schema) => ({
  columns,
  format: inputFormat(recipe, input),
  known: columnAliases(recipe.inputs.find(({ id }) => id === input)),
})

/** The columns that an SQL script finds in an input's CSV, in the order in which it asks for them; what is no text file is first written as CSV with all of them. */
export const csvColumns = (recipe: Recipe, input: string): readonly string[] => {
  const columns = recipe.inputs.find(({ id }) => id === input)?.columns ?? []
  const inFile = inputFormat(recipe, input) === 'csv' ? fileColumns(columns, readOf(recipe, input)) : columns
  return inFile.map(({ name }) => name)
}

/** What stands at a script's top where inputs must first be written as CSV. */
export const csvFirst = (recipe: Recipe, formats: readonly Format[]): string[] => {
  const ids = recipe.inputs.map(({ id }) => id).filter((id) => formats.includes(inputFormat(recipe, id)))
  if (ids.length === 0) return []
  return [
    `First write ${listed(ids)} as CSV, and give this script ${listed(ids.map((id) => `DIR/${id}.csv`))}:`,
    `  npx fabula csv RECIPE ${ids.map((id) => `--input ${id}=FILE `).join('')}--to DIR`,
  ]
}

/** The tables whose rows a step takes; none where it brings rows of its own. */
export const tablesRead = (step: Step, table: string): readonly string[] => [
  ...(kindOf(step).start ? [] : [table]),
  ...takenTables(step),
]

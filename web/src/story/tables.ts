import { branchAt, usedTables, type Output, type Recipe, type RecipeTable, openedInputs } from '@fabula/core'
import { freeTableName, idOf } from './names.ts'

/** The tables that a table uses, and those that are made from it. */
export const feedersOf = (table: RecipeTable | undefined): string[] => [...new Set(table?.steps.flatMap(usedTables))]
export const fedBy = ({ tables }: Recipe, id: string): RecipeTable[] =>
  tables.filter((table) => feedersOf(table).includes(id))

const newTable = (recipe: Recipe, stem: string, name: string): { id: string; name: string } => ({
  id: idOf(
    stem,
    [...recipe.tables, ...recipe.inputs].map(({ id }) => id),
  ),
  name: freeTableName(recipe, name),
})

/** A new table that continues from a sentence of another. */
export const branched = (recipe: Recipe, table: RecipeTable, step: string): { recipe: Recipe; id: string } => {
  const next = newTable(recipe, table.id, `${table.name}, continued`)
  const shared = newTable(recipe, `${table.id}-first-part`, `${table.name}, first part`)
  return { recipe: branchAt(recipe, table.id, step, next, shared), id: next.id }
}

export const renamedTableTo = (recipe: Recipe, id: string, name: string): Recipe => ({
  ...recipe,
  tables: recipe.tables.map((table) => (table.id === id ? { ...table, name } : table)),
})

const outputOf = (id: string): Output => ({ table: id, format: 'csv', file: `${id}-tidy.csv` })
/** What a replay writes: the recipe's outputs, or its last table. */
export const outputsOf = ({ outputs = [], tables }: Recipe): readonly Output[] =>
  outputs.length > 0 ? outputs : tables.slice(-1).map(({ id }) => outputOf(id))
/** Whether a replay writes the table. */
export const isWritten = (recipe: Recipe, id: string): boolean => outputsOf(recipe).some(({ table }) => table === id)
export const withWritten = (recipe: Recipe, id: string, written: boolean): Recipe => {
  const outputs = outputsOf(recipe)
  return { ...recipe, outputs: written ? [...outputs, outputOf(id)] : outputs.filter(({ table }) => table !== id) }
}

/** The recipe without a table that no other uses: its output and the inputs that only it opened go with it. */
export const withoutTable = (recipe: Recipe, id: string): Recipe => {
  const tables = recipe.tables.filter((table) => table.id !== id)
  const opened = new Set(openedInputs({ ...recipe, tables }).map(({ input }) => input))
  const { outputs, ...rest } = recipe
  return {
    ...rest,
    tables,
    inputs: recipe.inputs.filter((input) => opened.has(input.id)),
    ...(outputs ? { outputs: outputs.filter(({ table }) => table !== id) } : {}),
  }
}

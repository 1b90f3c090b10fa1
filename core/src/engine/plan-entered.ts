import type { Cell } from '../table/column.ts'
import { openedBy, tablesNeeded } from '../recipe/step-access.ts'
import type { Recipe } from '../recipe/recipe.ts'
import { needsData, planRecipe, writtenSchemas, type Plan } from './plan.ts'
import { runRecipe } from './run.ts'

/**
 * The plan of a recipe where no file is at hand. Tables that read none, neither themselves nor through others, are run: their rows
 * stand in the recipe, and tell the columns that only data can tell.
 */
export const planWithEntered = (recipe: Recipe, parameters: Readonly<Record<string, Cell>>): Plan => {
  const byId = new Map(recipe.tables.map((table) => [table.id, table]))
  const readsFile = (id: string): boolean =>
    tablesNeeded(recipe, id).some((needed) => byId.get(needed)?.steps.some((step) => !step.off && openedBy(step)))
  const entered = recipe.tables.filter(({ id }) => !readsFile(id))
  if (entered.length === 0 || !needsData(recipe)) return planRecipe(recipe)
  const { plan } = runRecipe(
    { ...recipe, tables: entered, outputs: [] },
    {
      parameters,
      now: 0,
      sources: (input) => {
        throw new Error(`${input} is opened by a table that opens no file`)
      },
    },
  )
  const told = plan.tables.flatMap(({ steps }) =>
    steps.flatMap(({ step, state, output }) => (state === 'fine' ? [[step.id, output] as const] : [])),
  )
  return planRecipe(recipe, writtenSchemas(recipe), Object.fromEntries(told))
}

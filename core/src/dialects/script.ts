import type { StepCode } from '../codegen/dialect.ts'
import type { Plan, PlannedStep, PlannedTable } from '../engine/plan.ts'
import type { Recipe, RecipeTable } from '../recipe/recipe.ts'
import { inOrder } from '../recipe/step-access.ts'
import { Code } from '../codegen/tag.ts'

/** Why no script can be made of a recipe, as a sentence for its author. */
export class ScriptError extends Error {}

/** A step's own block and what stands after it. */
export const stepCode = (written: StepCode): { readonly body: Code; readonly after?: Code } =>
  written instanceof Code ? { body: written } : written

/** A table as the recipe has it and as it is planned, and the steps of it that a script carries out. */
type TableToWrite = {
  readonly own: RecipeTable
  readonly table: PlannedTable
  readonly steps: readonly PlannedStep[]
}
const stepsToWrite = ({ steps }: PlannedTable): readonly PlannedStep[] => {
  const on = steps.filter(({ state }) => state !== 'off')
  const broken = on.find(({ state, problems }) => state !== 'fine' || problems.length > 0)
  if (broken) throw new ScriptError(`Step ${broken.step.id} is broken; mend it before making a script.`)
  return on
}
/** The tables of a script, in the order in which they are made. @throws ScriptError where a step is broken */
export const tablesToWrite = (recipe: Recipe, plan: Plan): readonly TableToWrite[] =>
  inOrder(recipe).flatMap((own) => {
    const table = plan.tables.find(({ id }) => id === own.id)
    return table ? [{ own, table, steps: stepsToWrite(table) }] : []
  })

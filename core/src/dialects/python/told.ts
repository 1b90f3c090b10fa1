import { planRecipe, type Plan, type PlannedStep, type PlannedTable } from '../../engine/plan.ts'
import { fileColumns, type ReadOptions } from '../../reading/read-options.ts'
import { inOrder, kindOf, openedBy, paramsOf } from '../../recipe/step-access.ts'
import { takenTables, usedTables } from '../../recipe/used-tables.ts'
import type { Recipe } from '../../recipe/recipe.ts'
import { columnTypes, type ColumnType } from '../../table/column.ts'
import type { Schema } from '../../table/table.ts'

/** Whether an input's columns that the recipe knows are read as the types it names, so that no file changes them. */
const readAsNamed = (recipe: Recipe, input: string, read: ReadOptions): boolean => {
  const columns = recipe.inputs.find(({ id }) => id === input)?.columns
  if (!columns || columns.length === 0) return false
  const { types } = read
  if (types === 'text') return true
  return typeof types === 'object' && fileColumns(columns, read).every(({ name }) => Object.hasOwn(types, name))
}

const leavesTypesToData = ({ step, input }: PlannedStep): boolean =>
  kindOf(step).dynamicColumns?.(paramsOf(step), input) !== undefined || kindOf(step).dynamicTypes !== undefined

/** The steps before which no file changes the type of a column that the recipe knows. */
export function toldSteps(recipe: Recipe, plan: Plan): ReadonlySet<string> {
  const told = new Set<string>()
  const tables = new Set<string>()
  for (const { id } of inOrder(recipe)) {
    const steps = plan.tables.find((table) => table.id === id)?.steps ?? []
    let certain = true
    for (const planned of steps.filter(({ state }) => state !== 'off')) {
      const opened = openedBy(planned.step)
      certain &&= takenTables(planned.step).every((other) => tables.has(other))
      if (opened) certain = readAsNamed(recipe, opened.input, opened.read)
      if (certain) told.add(planned.step.id)
      certain &&= !leavesTypesToData(planned)
    }
    if (certain) tables.add(id)
  }
  return told
}

/** Stands for a column that a file has more than the recipe lists; no column is called so. */
export const newcomer = '\u0001'

/** Whether a column that a file has more reaches a step, by its table or another that it takes. */
const isReached = (plan: Plan, { step, input }: PlannedStep): boolean =>
  hasNewcomer(input) ||
  usedTables(step).some((other) => hasNewcomer(plan.tables.find(({ id }) => id === other)?.output ?? []))

/** Whether a column that a file has more reaches a step that takes it in, or stays to the table's end. */
const takesNewcomer = (table: PlannedTable): boolean =>
  table.steps.some(
    ({ step, input, state }) =>
      state !== 'off' && hasNewcomer(input) && kindOf(step).absorbs?.(paramsOf(step), newcomer, input) === true,
  ) || hasNewcomer(table.output ?? [])
const hasNewcomer = (schema: Schema): boolean => schema.some(({ name }) => name === newcomer)

/** The recipe, of which the file of an input has a column more of some type. */
const withNewcomer = (recipe: Recipe, input: string, type: ColumnType): Recipe => {
  const inputs = recipe.inputs.map((one) =>
    one.id === input ? { ...one, columns: [...(one.columns ?? []), { name: newcomer, type }] } : one,
  )
  return { ...recipe, inputs }
}

/** The inputs of which a new column, by its type, can make a difference to any table, and the steps that one reaches. */
export function newcomers(recipe: Recipe): {
  readonly inputs: ReadonlySet<string>
  readonly steps: ReadonlySet<string>
} {
  const plans = recipe.inputs.flatMap(({ id }) =>
    columnTypes.map((type) => ({ id, plan: planRecipe(withNewcomer(recipe, id, type)) })),
  )
  const opened = plans.filter(({ plan }) => plan.tables.some(takesNewcomer)).map(({ id }) => id)
  const reached = plans.flatMap(({ plan }) =>
    plan.tables.flatMap(({ steps }) => steps.filter((step) => isReached(plan, step)).map(({ step }) => step.id)),
  )
  return { inputs: new Set(opened), steps: new Set(reached) }
}

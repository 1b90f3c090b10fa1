import { columnLineageOf } from '../engine/lineage.ts'
import { brokenSteps, planRecipe, type SeenSchemas } from '../engine/plan.ts'
import { type Recipe, type Step } from '../recipe/recipe.ts'
import { tablesNeeded } from '../recipe/step-access.ts'
import { columnOfProblem } from '../steps/shared/problems.ts'
import { ownValue } from '../table/own.ts'
import { type Schema } from '../table/table.ts'
import { quickFixesFor } from './quick-fixes.ts'

/** A step with the columns that go in and come out. */
export type StepColumns = { readonly step: Step; readonly input: Schema; readonly output: Schema }

/** Columns that a new wording, or a new step, gives another name: the old name to the new one. */
export const renamesBetween = (old: StepColumns | undefined, next: StepColumns): Readonly<Record<string, string>> => {
  const there = new Set(next.output.map(({ name }) => name))
  const now = new Map(
    Object.entries(columnLineageOf(next.step, next.input, next.output)).map(([to, from]) => [from, to]),
  )
  const pairs: (readonly [string, string | undefined])[] = []
  if (!old) pairs.push(...now)
  else {
    const columnLineage = columnLineageOf(old.step, old.input, old.output)
    for (const [was, from] of Object.entries(columnLineage)) pairs.push([was, now.get(from)])
    const kept = new Set(now.values())
    const made = old.output.filter(({ name }) => ownValue(columnLineage, name) === undefined)
    const makes = next.output.filter(({ name }) => !kept.has(name))
    if (made.length === makes.length) made.forEach(({ name }, i) => pairs.push([name, makes[i]?.name]))
  }
  return Object.fromEntries(
    pairs.flatMap(([was, name]) => (name !== undefined && name !== was && !there.has(was) ? [[was, name]] : [])),
  )
}

type RenamedColumns = Readonly<Record<string, string>>

const called = (schema: Schema | undefined, renames: RenamedColumns): Schema | undefined =>
  schema?.map((field) => ({ ...field, name: ownValue(renames, field.name) ?? field.name }))

/**
 * Steps that named a column by its old name, and only for that hold no more, name it by its new one; in every table that
 * uses this one. `seen`: what came out of steps when the recipe was last run as it was before; `from`: the step that
 * gives the new names and what comes out of it now; what was seen after it is called so.
 */
export const followRenames = (
  before: Recipe,
  after: Recipe,
  renames: RenamedColumns,
  seen: SeenSchemas = {},
  from?: { readonly id: string; readonly columns: Schema },
): Recipe => {
  if (Object.keys(renames).length === 0) return after
  const ids = after.tables.find(({ steps }) => steps.some(({ id }) => id === from?.id))?.steps.map(({ id }) => id) ?? []
  const later = new Set(ids.slice(ids.indexOf(from?.id ?? '') + 1))
  const now: SeenSchemas = {
    ...Object.fromEntries(
      Object.entries(seen).map(([id, schema]) => [id, later.has(id) ? called(schema, renames) : schema]),
    ),
    ...(from ? { [from.id]: from.columns } : {}),
  }
  const wrong = new Set(brokenSteps(planRecipe(before, undefined, seen)).map(({ step }) => step.id))
  const quickFix = (recipe: Recipe): Recipe | undefined => {
    for (const { step, problem } of brokenSteps(planRecipe(recipe, undefined, now))) {
      const missing = columnOfProblem(problem)
      const name = missing === undefined ? undefined : ownValue(renames, missing)
      if (wrong.has(step.id) || name === undefined) continue
      const renamed = () => {
        if (problem.code === 'formula' && problem.problem.code === 'missing-column')
          return { ...problem, problem: { ...problem.problem, nearest: [name] } }
        if ('nearest' in problem) return { ...problem, nearest: [name] }
        return problem
      }
      const [mended] = quickFixesFor(step, renamed())
      if (mended && JSON.stringify(mended.step) !== JSON.stringify(step))
        return {
          ...recipe,
          tables: recipe.tables.map((table) => ({
            ...table,
            steps: table.steps.map((one) => (one.id === step.id ? mended.step : one)),
          })),
        }
    }
    return undefined
  }
  let recipe = after
  for (let next = quickFix(recipe), turns = 0; next && turns < 2000; next = quickFix(recipe), turns++) recipe = next
  return recipe
}

/** What of a picture are names of columns of its table. */
type ChartColumns = {
  readonly table: string
  readonly label: string
  readonly series?: string | undefined
  readonly column?: string | undefined
}

/** Pictures of a table, or of one that uses it, that showed a column by a name it no longer has show it by its new one. */
export const followPictures = <T extends ChartColumns>(
  pictures: readonly T[],
  after: Recipe,
  table: string,
  renames: RenamedColumns,
): readonly T[] => {
  const plan = planRecipe(after)
  return pictures.map((picture) => {
    if (!tablesNeeded(after, picture.table).includes(table)) return picture
    const columns = plan.tables.find(({ id }) => id === picture.table)?.output
    const name = (old: string): string =>
      columns === undefined || columns.some((field) => field.name === old) ? old : (ownValue(renames, old) ?? old)
    return {
      ...picture,
      label: name(picture.label),
      ...(picture.series === undefined ? {} : { series: name(picture.series) }),
      ...(picture.column === undefined ? {} : { column: name(picture.column) }),
    }
  })
}

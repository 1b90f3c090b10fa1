import { ownValue } from '../table/own.ts'
import { maybeTokens } from '../formula/lex.ts'
import { writeParameter } from '../formula/parse.ts'
import type { Schema } from '../table/table.ts'
import { carriedColumns } from '../engine/statistics.ts'
import { mendsFor } from '../replay/quick-fixes.ts'
import { brokenSteps, planRecipe, tablesNeeded, type SeenSchemas } from '../engine/plan.ts'
import type { Recipe, Step } from './schema.ts'

/** An id no step of the recipe has, nor had: the next number after the largest, or one of those behind it. */
export const nextStepId = (recipe: Recipe, further = 0): string => {
  const numbers = recipe.tables.flatMap(({ steps }) => steps.map(({ id }) => Number(/(\d+)$/.exec(id)?.[1] ?? 0)))
  return `s${Math.max(0, ...numbers) + 1 + further}`
}

type NewTable = { readonly id: string; readonly name: string }

/**
 * A new table that goes on from a sentence of another. From the last sentence it starts from the finished table; from one
 * amid the story what both share becomes a table of its own (`shared`), from which the old one goes on under its own id.
 */
export const branchAt = (recipe: Recipe, table: string, step: string, next: NewTable, shared: NewTable): Recipe => ({
  ...recipe,
  tables: [
    ...recipe.tables.flatMap((one) => {
      const at = one.id === table ? one.steps.findIndex(({ id }) => id === step) : -1
      if (at < 0 || at === one.steps.length - 1) return [one]
      return [
        { ...shared, steps: one.steps.slice(0, at + 1) },
        {
          ...one,
          steps: [{ id: nextStepId(recipe, 1), kind: 'start-from', table: shared.id }, ...one.steps.slice(at + 1)],
        },
      ]
    }),
    {
      ...next,
      steps: [
        {
          id: nextStepId(recipe),
          kind: 'start-from',
          table: recipe.tables.find(({ id }) => id === table)?.steps.at(-1)?.id === step ? table : shared.id,
        },
      ],
    },
  ],
})

/** A step with the columns that go in and come out. */
export type StepColumns = { readonly step: Step; readonly input: Schema; readonly output: Schema }

/** Columns that a new wording, or a new step, gives another name: the old name to the new one. */
export const renamesBetween = (old: StepColumns | undefined, next: StepColumns): Readonly<Record<string, string>> => {
  const there = new Set(next.output.map(({ name }) => name))
  const now = new Map(
    Object.entries(carriedColumns(next.step, next.input, next.output)).map(([to, from]) => [from, to]),
  )
  const pairs: (readonly [string, string | undefined])[] = []
  if (!old) pairs.push(...now)
  else {
    const carried = carriedColumns(old.step, old.input, old.output)
    for (const [was, from] of Object.entries(carried)) pairs.push([was, now.get(from)])
    const kept = new Set(now.values())
    const made = old.output.filter(({ name }) => ownValue(carried, name) === undefined)
    const makes = next.output.filter(({ name }) => !kept.has(name))
    if (made.length === makes.length) made.forEach(({ name }, i) => pairs.push([name, makes[i]?.name]))
  }
  return Object.fromEntries(
    pairs.flatMap(([was, name]) => (name !== undefined && name !== was && !there.has(was) ? [[was, name]] : [])),
  )
}

type Renames = Readonly<Record<string, string>>
const called = (schema: Schema | undefined, renames: Renames): Schema | undefined =>
  schema?.map((field) => ({ ...field, name: ownValue(renames, field.name) ?? field.name }))

/**
 * Steps that named a column by its old name, and only for that hold no more, name it by its new one; in every table that
 * uses this one. `seen`: what came out of steps when the recipe was last run as it was before; `from`: the step that
 * gives the new names and what comes out of it now; what was seen after it is called so.
 */
export const followRenames = (
  before: Recipe,
  after: Recipe,
  renames: Renames,
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
  const mend = (recipe: Recipe): Recipe | undefined => {
    for (const { step, problem } of brokenSteps(planRecipe(recipe, undefined, now))) {
      const missing =
        problem.code === 'formula' ? problem.missing?.column : 'column' in problem ? problem.column : undefined
      const name = missing === undefined ? undefined : ownValue(renames, missing)
      if (wrong.has(step.id) || name === undefined) continue
      const [mended] = mendsFor(
        step,
        problem.code === 'formula' && problem.missing
          ? { ...problem, missing: { ...problem.missing, nearest: [name] } }
          : 'nearest' in problem
            ? { ...problem, nearest: [name] }
            : problem,
      )
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
  for (let next = mend(recipe), turns = 0; next && turns < 2000; next = mend(recipe), turns++) recipe = next
  return recipe
}

/** What of a picture are names of columns of its table. */
type Drawn = {
  readonly table: string
  readonly label: string
  readonly series?: string | undefined
  readonly column?: string | undefined
}
/** Pictures of a table, or of one that uses it, that showed a column by a name it no longer has show it by its new one. */
export const followPictures = <T extends Drawn>(
  pictures: readonly T[],
  after: Recipe,
  table: string,
  renames: Renames,
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

/** A step that knows a value asked at replay by another name, in its values and formulas. */
const withParameter = (step: Step, old: string, name: string): Step => {
  const inFormula = (source: string): string =>
    maybeTokens(source)
      .filter((token) => token.kind === 'parameter' && token.value === old)
      .reduceRight((text, { from, to }) => text.slice(0, from) + writeParameter(name) + text.slice(to), source)
  const walk = (value: unknown, key?: string): unknown => {
    if (typeof value === 'string') return key === 'formula' ? inFormula(value) : value
    if (Array.isArray(value)) return value.map((one) => walk(one))
    if (typeof value !== 'object' || value === null) return value
    const entries = Object.entries(value)
    if (entries.length === 1 && entries[0]?.[0] === 'parameter' && entries[0][1] === old) return { parameter: name }
    return Object.fromEntries(entries.map(([inner, one]) => [inner, walk(one, inner)]))
  }
  return walk(step) as Step
}
/** A value that is asked at replay under another name, in every sentence and formula that uses it. */
export const renameParameter = (recipe: Recipe, old: string, name: string): Recipe => ({
  ...recipe,
  parameters: (recipe.parameters ?? []).map((one) => (one.name === old ? { ...one, name } : one)),
  tables: recipe.tables.map((table) => ({
    ...table,
    steps: table.steps.map((step) => withParameter(step, old, name)),
  })),
})
/** The sentences that use a value asked at replay. */
export const parameterUsers = (recipe: Recipe, name: string): Step[] =>
  recipe.tables.flatMap(({ steps }) =>
    steps.filter((step) => JSON.stringify(withParameter(step, name, `${name}?`)) !== JSON.stringify(step)),
  )

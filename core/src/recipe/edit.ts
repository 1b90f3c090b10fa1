import { maybeTokens } from '../formula/lex.ts'
import { writeParameter } from '../formula/parse.ts'
import type { Recipe, RecipeTable, Step } from './recipe.ts'

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
    ...recipe.tables.flatMap((one): RecipeTable[] => {
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

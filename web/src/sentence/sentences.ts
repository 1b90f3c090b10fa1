import {
  brokenSteps,
  planRecipe,
  sentenceOf,
  sentenceText,
  tableNames,
  type Recipe,
  type RecipeTable,
  type Step,
  type NewStep,
} from '@fabula/core'

const withSteps = (recipe: Recipe, table: string, steps: readonly Step[]): Recipe => ({
  ...recipe,
  tables: recipe.tables.map((one) => (one.id === table ? { ...one, steps } : one)),
})
/** Steps that are broken, or wait for one that is. */
const fallen = (recipe: Recipe, table: string): Set<string> =>
  new Set(
    planRecipe(recipe)
      .tables.find(({ id }) => id === table)
      ?.steps.flatMap(({ step, state }) => (state === 'broken' || state === 'waiting' ? [step.id] : [])),
  )

/** A sentence at another place; `to` counts without it. */
export const moved = (steps: readonly Step[], id: string, to: number): Step[] => {
  const step = steps.find((one) => one.id === id)
  const rest = steps.filter((one) => one.id !== id)
  return step ? [...rest.slice(0, to), step, ...rest.slice(to)] : [...steps]
}

/** Why the sentences of a table would not hold in this order; undefined where they would. What was broken before is no reason. */
export const whyNot = (recipe: Recipe, table: RecipeTable, steps: readonly Step[]): string | undefined => {
  const next = withSteps(recipe, table.id, steps)
  const before = fallen(recipe, table.id)
  const [first] = brokenSteps(planRecipe(next)).filter((one) => one.table === table.id && !before.has(one.step.id))
  return first
    ? `“${sentenceText(first.step, tableNames(recipe)).replace(/\.$/, '')}” would not hold there: ${sentenceOf(first.problem)}`
    : undefined
}

/** The sentences after one that could not stand without it, one after the other taken out. */
export const neededBy = (recipe: Recipe, table: RecipeTable, id: string): string[] => {
  const gone = [id]
  for (;;) {
    const next = withSteps(
      recipe,
      table.id,
      table.steps.filter((step) => !gone.includes(step.id)),
    )
    const before = fallen(recipe, table.id)
    const [first] = brokenSteps(planRecipe(next)).filter((one) => one.table === table.id && !before.has(one.step.id))
    if (!first) return gone.slice(1)
    gone.push(first.step.id)
  }
}

/** A note whose first line stands in “ ” tells the sentence in the analyst's own words; what follows is the note. */
export const reportedAs = ({ note }: Step): { own?: string; note?: string } => {
  const m = /^“([^\n]+)”(?:\n([\s\S]*))?$/.exec(note ?? '')
  if (!m) return note ? { note } : {}
  return { own: m[1] ?? '', ...(m[2] ? { note: m[2] } : {}) }
}
export const withWords = (step: Step, own: string, note: string): Step => {
  const text = [own.trim() === '' ? '' : `“${own.trim().replace(/\n/g, ' ')}”`, note.trim()]
    .filter((part) => part !== '')
    .join('\n')
  const { note: _note, ...rest } = step
  return (text === '' ? rest : { ...rest, note: text }) as Step
}

const key = 'fabula-copied-sentence'
/** The sentence that was copied last, in this browser: it can be put into any story. */
export const copied = (): NewStep | undefined => {
  try {
    return (JSON.parse(localStorage.getItem(key) ?? 'null') as NewStep | null) ?? undefined
  } catch {
    return undefined
  }
}
export const copy = ({ id: _id, ...params }: Step): void => localStorage.setItem(key, JSON.stringify(params))

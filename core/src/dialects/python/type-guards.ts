import { lines, py, pyHelper, type Code } from '../../codegen/tag.ts'
import { brokenSteps, planRecipe, type BrokenStep, type Plan } from '../../engine/plan.ts'
import { cannotRun } from '../../messages/words.ts'
import type { Recipe, Step } from '../../recipe/recipe.ts'
import { pairs } from './parts.ts'
import { newcomer } from './told.ts'
import { sentenceOf } from '../../steps/shared/problems.ts'
import type { ColumnType } from '../../table/column.ts'
import type { Schema } from '../../table/table.ts'

const newTypes: readonly ColumnType[] = ['text', 'decimal', 'boolean', 'date', 'datetime', 'time']

const stepsOf = (plan: Plan, id: string) => plan.tables.find((table) => table.id === id)?.steps ?? []
const sentenceFor = (plan: Plan, { table, step, problem }: BrokenStep): string => {
  const own = plan.tables.find(({ id }) => id === table)
  const at = own?.steps.findIndex((one) => one.step === step) ?? 0
  return cannotRun(`${own?.name ?? table} ${at + 1}`, sentenceOf(problem))
}

/** What a step cannot run with: columns that are now of another type than was planned, or new ones of a type. */
type Refused =
  | { readonly name: string; readonly type: ColumnType; readonly sentence: string }
  | { readonly known: readonly string[]; readonly type: ColumnType; readonly sentence: string }
const refusedIn = (planned: Schema, now: Schema, type: ColumnType, sentence: string): Refused[] => {
  const before = new Map(planned.map((field) => [field.name, field.type]))
  const changed = now.filter((field) => before.has(field.name) && before.get(field.name) !== field.type)
  if (changed.length > 0) return changed.map((field) => ({ name: field.name, type: field.type, sentence }))
  const isNew = now.some((field) => field.name === newcomer)
  return isNew ? [{ known: planned.map((field) => field.name), type, sentence }] : []
}

const guardCode = (frame: Code, refused: readonly Refused[]): Code => {
  const changed = refused.flatMap((one) =>
    'name' in one ? [py`${pyHelper('refuse_type')}(${frame}, ${one.name}, ${one.type}, ${one.sentence})`] : [],
  )
  const fresh = refused.filter((one) => 'known' in one)
  const sentences = fresh.map(({ type, sentence }): readonly [string, Code] => {
    const [start = '', end = ''] = sentence.split(newcomer)
    return [type, py`(${start}, ${end})`]
  })
  const known = fresh[0]?.known
  return lines(...changed, known && py`${pyHelper('refuse_new')}(${frame}, ${known}, ${pairs(sentences)})`)
}

/**
 * Where a file has a column more that a rule takes in (all but…, like…) and a step cannot run with it, the script stops before that
 * step with the engine's sentence. Which steps these are is found by planning the recipe with a new column of each type in every input.
 */
export const typeGuards = (recipe: Recipe): ((step: Step, frame: Code) => Code | undefined) => {
  const planned = planRecipe(recipe)
  const guards = new Map<Step, Map<string, Refused>>()
  for (const type of newTypes) {
    const inputs = recipe.inputs.map((input) => ({
      ...input,
      ...(input.columns ? { columns: [...input.columns, { name: newcomer, type }] } : {}),
    }))
    const plan = planRecipe({ ...recipe, inputs })
    for (const broken of brokenSteps(plan)) {
      const before = stepsOf(planned, broken.table).find(({ step }) => step === broken.step)
      const now = stepsOf(plan, broken.table).find(({ step }) => step === broken.step)
      if (!before || !now || before.problems.length > 0) continue
      const own = guards.get(broken.step) ?? new Map<string, Refused>()
      guards.set(broken.step, own)
      for (const refused of refusedIn(before.input, now.input, type, sentenceFor(plan, broken)))
        own.set('name' in refused ? `${refused.name}\n${refused.type}` : refused.type, refused)
    }
  }
  return (step, frame) => {
    const refused = [...(guards.get(step)?.values() ?? [])]
    return refused.length === 0 ? undefined : guardCode(frame, refused)
  }
}

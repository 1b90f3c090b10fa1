import type { Cursor } from '../api/queries.ts'
import type { Story } from '../story/use-story.ts'

/** The story as it stands before a sentence, that one and those after it left out: what a bench works on does not change while the sentence does. */
export const cursorBefore = (story: Story, stepId: string): Cursor => {
  const { recipe, table } = story
  const at = table?.steps.findIndex(({ id }) => id === stepId) ?? -1
  const steps = table?.steps.slice(0, Math.max(1, at)) ?? []
  return {
    recipe: { ...recipe, tables: recipe.tables.map((one) => (one.id === table?.id ? { ...one, steps } : one)) },
    table: table?.id ?? '',
    step: steps.at(-1)?.id ?? '',
  }
}

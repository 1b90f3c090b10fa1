import { followPictures, followRenames, renamesBetween, type Recipe, type Schema, type Step } from '@fabula/core'
import type { Picture } from '@fabula/core/api'
import { withDraft, type Draft } from './story-state.ts'

/** A step as the server reports it: its state, and its columns where it ran. */
type ReportedStep = { readonly id: string; readonly state: string; readonly columns: Schema }

const schemasAround = (reported: readonly ReportedStep[], id: string): { input: Schema; output: Schema } => {
  const at = reported.findIndex((one) => one.id === id)
  return { input: reported[at - 1]?.columns ?? [], output: reported[at]?.columns ?? [] }
}

/**
 * What is saved when a draft is kept: the recipe, in which later steps follow the columns that the draft renames,
 * and the charts that do the same; `pictures` is absent where none changes.
 * @param saved the steps of the draft's table as the saved recipe runs
 * @param drafted the same with the draft in its place
 */
export const keptDraft = (
  flow: { readonly recipe: Recipe; readonly pictures: readonly Picture[] },
  draft: Draft,
  saved: readonly ReportedStep[],
  drafted: readonly ReportedStep[],
): { readonly recipe: Recipe; readonly pictures?: readonly Picture[] } => {
  const table = flow.recipe.tables.find(({ id }) => id === draft.table)
  const before: Step | undefined = draft.isNew ? undefined : table?.steps.find(({ id }) => id === draft.step.id)
  const after = { step: draft.step, ...schemasAround(drafted, draft.step.id) }
  const renames = renamesBetween(before && { step: before, ...schemasAround(saved, before.id) }, after)
  const schemas = Object.fromEntries(
    saved.filter(({ state }) => state === 'fine').map(({ id, columns }) => [id, columns]),
  )
  const recipe = followRenames(flow.recipe, withDraft(flow.recipe, draft), renames, schemas, {
    id: draft.step.id,
    columns: after.output,
  })
  if (Object.keys(renames).length === 0 || flow.pictures.length === 0) return { recipe }
  return { recipe, pictures: followPictures(flow.pictures, recipe, draft.table, renames) }
}

import { parameterCells, runRecipe, tablesNeeded, type Recipe, type Table } from '@fabula/core'
import { openAll, type InputFiles, type WorkerContext } from '../worker-context.ts'
import { Refusal } from '../../refusal.ts'

/** A story with its files; `now` is the clock of the run in milliseconds, `parameters` what was asked at replay. */
export type StoryFiles = {
  readonly recipe: Recipe
  readonly files: InputFiles
  readonly parameters?: Readonly<Record<string, string>>
  readonly now: number
}
/** A sentence of a table. */
export type TablePosition = { readonly table: string; readonly step: string }

/** Values asked at replay as cells. @throws Refusal naming each that does not read. */
export const cellsFor = (recipe: Recipe, given: Readonly<Record<string, string>>) => {
  const { cells, faults } = parameterCells(recipe, given)
  if (faults.length > 0)
    throw new Refusal('bad-parameter', { reason: faults.map(({ sentence }) => sentence).join(' ') })
  return cells
}

/** Runs a story up to a sentence, and only the tables it needs. `engineMs`: time of the run without reading files. */
export const runTo = async (
  { recipe, files, parameters = {}, now }: StoryFiles,
  { table, step }: TablePosition,
  context: WorkerContext,
  drafts: readonly string[] = [],
) => {
  const needed = tablesNeeded(recipe, table)
  const only: Recipe = { ...recipe, tables: recipe.tables.filter(({ id }) => needed.includes(id)) }
  const { sources } = await openAll(only, files, context)
  const began = performance.now()
  const { tables, plan } = runRecipe(only, {
    sources,
    parameters: cellsFor(recipe, parameters),
    now,
    cache: context.inputs.steps,
    until: { table, step },
    drafts,
    shouldStop: context.shouldStop,
  })
  const ran = tables.find(({ id }) => id === table)
  if (!ran) throw new Refusal('no-table')
  return { ran, plan, engineMs: performance.now() - began }
}

/** The table after a sentence; undefined where the story breaks before. */
export const tableAfter = async (
  story: StoryFiles,
  { table, step }: TablePosition,
  context: WorkerContext,
): Promise<Table | undefined> =>
  (await runTo(story, { table, step }, context)).ran.steps.find((one) => one.step.id === step)?.table

/** A table run up to a sentence, its last without one. @throws Refusal where the story breaks before. */
export const ranTo = async (story: StoryFiles, table: string, step: string | undefined, context: WorkerContext) => {
  const one = story.recipe.tables.find(({ id }) => id === table)
  const last = step ?? one?.steps.at(-1)?.id ?? ''
  const { ran } = await runTo(story, { table, step: last }, context)
  const done = ran.steps.find((reported) => reported.step.id === last)
  if (!one || !done || done.state === 'broken' || done.state === 'waiting')
    throw new Refusal('unfinished-table', { name: one?.name ?? table })
  return { ran, table: done.table }
}

/** A table of the story after its last sentence, or after another one. @throws Refusal where the story breaks before. */
export const tableOf = async (
  story: StoryFiles,
  table: string,
  step: string | undefined,
  context: WorkerContext,
): Promise<Table> => (await ranTo(story, table, step, context)).table

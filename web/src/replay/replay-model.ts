import { counted, ownValue, type Recipe } from '@fabula/core'
import type { FileRef, RunReply, RunsReply } from '@fabula/core/api'

/** The files given for each input, by its id. */
export type ChosenFiles = Readonly<Record<string, readonly FileRef[]>>
/** Columns of new files by the input they belong to, and the columns of the story that they are read as. */
export type AnsweredRenames = Readonly<Record<string, Readonly<Record<string, string>>>>

export const withRename = (renames: AnsweredRenames, input: string, from: string, to: string): AnsweredRenames => ({
  ...renames,
  [input]: { ...ownValue(renames, input), [from]: to },
})
export const withoutRename = (renames: AnsweredRenames, input: string, from: string): AnsweredRenames => ({
  ...renames,
  [input]: Object.fromEntries(Object.entries(ownValue(renames, input) ?? {}).filter(([key]) => key !== from)),
})

/** Whether every input has files: new ones, or those of the flow. */
export const isComplete = ({ inputs }: Pick<Recipe, 'inputs'>, given: ChosenFiles, kept: ChosenFiles): boolean =>
  inputs.every(({ id }) => (ownValue(given, id) ?? ownValue(kept, id) ?? []).length > 0)

/** What is said of the files of an input: the new ones and their rows, else those of last time, else what it waits for. */
export const filesWords = (
  input: Recipe['inputs'][number],
  given: ChosenFiles,
  kept: ChosenFiles,
  rows: number | undefined,
): string => {
  const names = (files: readonly FileRef[]): string => files.map(({ name }) => name).join(', ')
  const fresh = ownValue(given, input.id)
  if (fresh) return `${names(fresh)}${rows === undefined ? '' : ` · ${counted(rows, 'row')}`}`
  const before = ownValue(kept, input.id)
  return before ? `${names(before)} · kept from last time` : `waits for ${input.files ?? 'a file'}`
}

/** The run to show: the chosen one, else one that is still running. */
export const shownRun = (runs: RunsReply['runs'], chosen: string): string =>
  chosen === '' ? (runs.find(({ state }) => state === 'running')?.id ?? '') : chosen

/** The last run that was done before another began; `now` stands for one that is not listed yet. */
export const runBefore = (runs: RunsReply['runs'], id: string, now: string): string | undefined => {
  const began = runs.find((run) => run.id === id)?.startedAt ?? now
  return runs.find((run) => run.state === 'done' && run.id !== id && run.startedAt < began)?.id
}

/** What a run is held against. */
export type RunTables = Pick<RunReply, 'tables'>

import { ownValue, type Recipe } from '@fabula/core'
import type { RunReply } from '@fabula/core/api'
import type { ChosenFiles } from './replay-model.ts'

/** What a replay on the cluster reads, by input, and the folder it writes to. */
export type ClusterPlaces = NonNullable<RunReply['cluster']>
type Inputs = Recipe['inputs']

/** The paths written for each input, one a line; an input without any is left out. */
export const pathsGiven = (
  inputs: Inputs,
  written: Readonly<Record<string, string>>,
): Record<string, readonly string[]> => {
  const lines = (id: string): string[] =>
    (ownValue(written, id) ?? '')
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '')
  return Object.fromEntries(inputs.map(({ id }) => [id, lines(id)] as const).filter(([, paths]) => paths.length > 0))
}

/** The files given for inputs that no path is written for, without samples of larger ones, which cannot stand for the data. */
export const wholeFiles = (files: ChosenFiles, paths: ClusterPlaces['paths']): ClusterPlaces['files'] =>
  Object.fromEntries(
    Object.entries(files)
      .filter(([id]) => !ownValue(paths, id))
      .map(([id, refs]) => [id, refs.filter(({ sample }) => sample === undefined)] as const)
      .filter(([, refs]) => refs.length > 0),
  )

/** What a replay on the cluster waits for, in a sentence; undefined where it can begin. */
export const reasonToWait = (inputs: Inputs, { paths, files, folder }: ClusterPlaces): string | undefined => {
  const lacking = inputs.filter(({ id }) => !ownValue(paths, id) && !ownValue(files, id))
  if (lacking.length > 0) return `It waits for ${lacking.map(({ name }) => name).join(', ')}.`
  return folder.trim() === '' ? 'It waits for the folder to write to.' : undefined
}

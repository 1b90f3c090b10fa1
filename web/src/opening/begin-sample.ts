import { nextStepId, type Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import type { Sample } from './samples.ts'
import { ask } from '../api/client.ts'
import { guessedRead, lookAt, newRecipe, openFile, withTable } from './open-file.ts'

/** A file that ships with the product, as if it had been sent. */
export const sampleFile = (name: string): Promise<api.FileRef> =>
  ask(api.fileRef, 'POST', `/api/samples/${encodeURIComponent(name)}`)

const openedSample = async (name: string) => {
  const file = await sampleFile(name)
  const read = guessedRead(await lookAt(file, {}))
  return { file, read, opened: await openFile([file], read, crypto.randomUUID()) }
}

/** A story on the files of a sample, each opened as it seems to be written; its task is what the story is about. */
export const beginSample = async ({ name, task, files: [first, ...others] }: Sample): Promise<{ id: string }> => {
  const { file, read, opened } = await openedSample(first)
  const begun = newRecipe([file], opened, read, [])
  let recipe: Recipe = { ...begun.recipe, name, about: task }
  const files: [input: string, files: api.FileRef[]][] = [[begun.id, [file]]]
  for (const other of others) {
    const more = await openedSample(other)
    const made = withTable(recipe, [more.file], more.opened, more.read, [], Number(nextStepId(recipe).slice(1)))
    recipe = made.recipe
    files.push([made.id, [more.file]])
  }
  return ask(api.createReply, 'POST', '/api/flows', { recipe, files: Object.fromEntries(files) })
}

import { createReadStream, existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseRecipe } from '@fabula/core'
import type { FileStore } from './store/files.ts'
import type { Flows } from './store/flows.ts'
import type { Shelf } from './store/shelf.ts'

/** On the first start the demo is put in: its files, and the finished flow on May's exports. */
export const loadDemo = async (
  { flows, files, shelf }: { readonly flows: Flows; readonly files: FileStore; readonly shelf: Shelf },
  folder: string,
): Promise<void> => {
  if ((await flows.list()).length > 0 || !existsSync(folder)) return
  const read = parseRecipe(readFileSync(join(folder, 'monthly-takings.fabula.json'), 'utf8'))
  if ('faults' in read) throw new Error(read.faults.map(({ sentence, where }) => `${sentence} at ${where}`).join(' '))
  const bring = async (name: string, input: string) => {
    const columns = (read.recipe.inputs.find(({ id }) => id === input)?.columns ?? []).map((column) => column.name)
    const ref = { name, ...(await files.add(createReadStream(join(folder, name)))) }
    await shelf.add(ref)
    await shelf.note([ref], columns)
    return ref
  }
  await flows.create(
    read.recipe,
    { visits: [await bring('visits-2031-05.csv', 'visits')], targets: [await bring('targets-2031.csv', 'targets')] },
    { demo: true },
  )
}

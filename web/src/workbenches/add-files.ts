import { nextStepId, openedBy, ownValue, type ReadOptions, type Recipe } from '@fabula/core'
import type { FileRef } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import type { QueryClient } from '@tanstack/react-query'
import { ask, upload } from '../api/client.ts'
import { flowQuery, type Endpoint } from '../api/queries.ts'
import { guessedRead, lookAt, openFile, withTable } from '../opening/open-file.ts'
import type { Story } from '../story/use-story.ts'

type FilePart = { readonly ref: FileRef; readonly read: ReadOptions; readonly name: string }
/** A file or sheet that a table of the story opens already. */
export type Twin = FilePart & { readonly table: string }

/** Each file, and each visible sheet of a workbook, by itself. */
const partsOf = async (ref: FileRef): Promise<FilePart[]> => {
  const look = await lookAt(ref, {})
  const sheets = look.sheets.filter(({ hidden, rows }) => !hidden && rows > 0)
  const stem = ref.name.replace(/\.[^.]*$/, '')
  if (sheets.length < 2) return [{ ref, read: guessedRead(look), name: stem }]
  const parts: FilePart[] = []
  for (const { name } of sheets) {
    const { sheets: _all, ...read } = guessedRead(await lookAt(ref, {}, name))
    parts.push({ ref, read: { ...read, sheets: [name] }, name })
  }
  return parts
}

const sheetOf = (read: ReadOptions): string | undefined =>
  Array.isArray(read.sheets) ? (read.sheets as readonly string[])[0] : undefined
const tableOpening = (
  recipe: Recipe,
  files: Readonly<Record<string, readonly FileRef[]>>,
  { ref, read }: FilePart,
): string | undefined =>
  recipe.tables.find(({ steps }) => {
    const opened = steps[0] && openedBy(steps[0])
    return (
      opened !== undefined &&
      (ownValue(files, opened.input) ?? []).some(({ hash }) => hash === ref.hash) &&
      sheetOf(opened.read) === sheetOf(read)
    )
  })?.id

/** What was sent: parts that are new to the story, and those that a table opens already. */
const sendParts = async (
  files: readonly File[],
  recipe: Recipe,
  known: Readonly<Record<string, readonly FileRef[]>>,
  reported: (words: string) => void,
): Promise<{ fresh: FilePart[]; twins: Twin[] }> => {
  const fresh: FilePart[] = []
  const twins: Twin[] = []
  for (const file of files) {
    reported(`Sending ${file.name}`)
    for (const part of await partsOf(await upload(file, () => undefined))) {
      const table = tableOpening(recipe, known, part)
      if (table === undefined) fresh.push(part)
      else twins.push({ ...part, table })
    }
  }
  return { fresh, twins }
}

/** A table of its own for each part: the recipe with them, and their ids. The files are laid with their inputs. Sentences are numbered after those of `drafted`. */
const tablesFor = async (
  parts: readonly FilePart[],
  start: Recipe,
  drafted: Recipe,
  endpoint: Endpoint,
  reported: (words: string) => void,
): Promise<{ recipe: Recipe; ids: string[] }> => {
  let recipe = start
  const ids: string[] = []
  for (const [i, { ref, read, name }] of parts.entries()) {
    reported(`Reading ${name}`)
    const opened = await openFile([ref], read, '')
    const made = withTable(recipe, [ref], opened, read, [], Number(nextStepId(drafted, i).slice(1)), name)
    await ask(api.flowReply, 'PUT', `${endpoint.base}/files`, { [made.id]: [ref] })
    recipe = made.recipe
    ids.push(made.id)
  }
  return { recipe, ids }
}

/** Parts become tables of the story at once; their ids. */
export const keepParts = async (
  story: Story,
  client: QueryClient,
  parts: readonly FilePart[],
  reported: (words: string) => void,
): Promise<string[]> => {
  if (parts.length === 0) return []
  const { recipe, ids } = await tablesFor(parts, story.flow.recipe, story.recipe, story.endpoint, reported)
  await story.save(recipe, 'tables from files')
  await client.invalidateQueries({ queryKey: flowQuery(story.endpoint).queryKey })
  return ids
}

/** Files, and the sheets of workbooks, as tables of the story: those that are new, those it has already and may use, and those that it would take twice. */
export const tablesOfFiles = async (
  story: Story,
  client: QueryClient,
  files: readonly File[],
  usable: (table: string) => boolean,
  reported: (words: string) => void,
): Promise<{ ids: string[]; doubled: Twin[] }> => {
  const { fresh, twins } = await sendParts(files, story.flow.recipe, story.flow.files, reported)
  const made = await keepParts(story, client, fresh, reported)
  return {
    ids: [...made, ...twins.flatMap(({ table }) => (usable(table) ? [table] : []))],
    doubled: twins.filter(({ table }) => !usable(table)),
  }
}

import { parseRecipe, wildcard, type Read, type Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import type { FileRef, FlowReply, OpenReply } from '@fabula/core/api'
import { ask, ServerError, upload } from '../api/client.ts'

/** visits-2031-05.csv -> visits-*.csv: digits, dots and dashes at the end of a name change from month to month. */
export const patternOf = (file: string): string => {
  const dot = file.lastIndexOf('.')
  const [stem, ending] = dot > 0 ? [file.slice(0, dot), file.slice(dot)] : [file, '']
  const open = stem.replace(/[-_ .]*\d[\d\-_ .]*$/, (run) => `${/^[-_ ]/.test(run) ? run[0] : ''}*`)
  return `${open}${ending}`
}

export const idOf = (name: string, taken: readonly string[]): string => {
  const stem = name.toLowerCase().replace(/\.[^.]*$/, '').replace(/[-_ .]*\d[\d\-_ .]*$/, '').replace(/[^a-z0-9]+/g, '-').replace(/^[^a-z]+|-+$/g, '') || 'table'
  let id = stem
  for (let n = 2; taken.includes(id); n++) id = `${stem}-${n}`
  return id
}
const titleOf = (id: string): string => `${id[0]?.toUpperCase() ?? ''}${id.slice(1).replaceAll('-', ' ')}`

export const openFile = (files: readonly FileRef[], read: Read): Promise<OpenReply> => ask(api.openReply, 'POST', '/api/open', { files, read })
export const lookAt = (file: FileRef, read: Read) => ask(api.lookReply, 'POST', '/api/look', { hash: file.hash, name: file.name, read })

/** What was detected is written down, so that a replay reads alike. */
const settled = (opened: OpenReply, read: Read): Read => ({ ...read, types: Object.fromEntries(opened.columns.filter(({ name }) => name !== read.origin?.file).map(({ name, type }) => [name, { type }])) })

/** A new flow from one file: how it is written and where its names stand is found out, and can be changed. */
export const flowFromFile = async (file: File, progress: (share: number) => void): Promise<FlowReply> => {
  if (/\.(xlsx|xlsm|xls|ods|parquet)$/i.test(file.name)) throw new ServerError('format', `${file.name} is not a text file. Save it as CSV and drop that; workbooks come later.`)
  if (/\.json$/i.test(file.name)) return flowFromRecipe(file)
  const ref = await upload(file, undefined, progress)
  const look = await lookAt(ref, {})
  const read: Read = { encoding: look.encoding, delimiter: look.delimiter, ...(look.header > 1 ? { header: look.header } : {}) }
  const opened = await openFile([ref], read)
  const id = idOf(file.name, [])
  const recipe: Recipe = {
    fabula: 1,
    name: titleOf(id),
    inputs: [{ id, name: titleOf(id), files: patternOf(file.name), columns: [...opened.columns] }],
    tables: [{ id, name: titleOf(id), steps: [{ id: 's1', kind: 'open', input: id, read: settled(opened, read) }] }],
    outputs: [{ table: id, format: 'csv', file: `${id}-tidy.csv` }],
  }
  return ask(api.flowReply, 'POST', '/api/flows', { recipe, files: { [id]: [ref] } })
}

const flowFromRecipe = async (file: File): Promise<FlowReply> => {
  const read = parseRecipe(await file.text())
  if ('faults' in read) throw new ServerError('invalid-recipe', `${file.name} is not a recipe that can be used: ${read.faults.map(({ sentence, where }) => `${sentence} (at ${where})`).join(' ')}`)
  return ask(api.flowReply, 'POST', '/api/flows', { recipe: read.recipe })
}

/** The recipe with an input opened another way: its columns and types as they come out now. */
export const reopened = async (recipe: Recipe, input: string, files: readonly FileRef[], read: Read): Promise<Recipe> => {
  const plain: Read = { ...read, types: 'detect' }
  const opened = await openFile(files, plain)
  return {
    ...recipe,
    inputs: recipe.inputs.map((one) => (one.id === input ? { ...one, columns: [...opened.columns] } : one)),
    tables: recipe.tables.map((table) => ({ ...table, steps: table.steps.map((step) => (step.kind === 'open' && step.input === input ? { ...step, read: settled(opened, plain) } : step)) })),
  }
}

/** Dropped files laid with the inputs they are for: by name pattern first; one file and one input find each other. */
export const assignFiles = (recipe: Recipe, files: readonly FileRef[]): { given: Record<string, FileRef[]>; homeless: FileRef[] } => {
  const given: Record<string, FileRef[]> = {}
  const homeless: FileRef[] = []
  for (const file of files) {
    const input = recipe.inputs.find(({ files: pattern }) => pattern !== undefined && wildcard(pattern).test(file.name)) ?? (recipe.inputs.length === 1 ? recipe.inputs[0] : undefined)
    if (input) (given[input.id] ??= []).push(file)
    else homeless.push(file)
  }
  return { given, homeless }
}


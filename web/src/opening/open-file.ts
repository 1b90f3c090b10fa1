import {
  fileColumns,
  headerRows,
  openedBy,
  parseRecipe,
  wildcard,
  withRead,
  type NewStep,
  type ReadOptions,
  type Recipe,
  type Step,
} from '@fabula/core'
import type { FileRef, LookReply, OpenReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { ask, ServerError } from '../api/client.ts'
import { freeTableName, idOf, patternOf, titleOfFile } from '../story/names.ts'

export const openFile = (
  files: readonly FileRef[],
  read: ReadOptions,
  job: string,
  signal?: AbortSignal,
): Promise<OpenReply> => ask(api.openReply, 'POST', '/api/open', { files, read, job }, signal)
export const lookAt = (file: FileRef, read: ReadOptions, sheet?: string): Promise<LookReply> =>
  ask(api.lookReply, 'POST', '/api/look', {
    hash: file.hash,
    name: file.name,
    read,
    ...(sheet === undefined ? {} : { sheet }),
  })

/** What was detected is written down, so that a replay reads alike. */
const settled = (opened: OpenReply, read: ReadOptions): ReadOptions => ({
  ...read,
  types: Object.fromEntries(fileColumns(opened.columns, read).map(({ name, type }) => [name, { type }])),
})

/** Sheets with the same names of columns as most have: by what their own names share, or one by one. */
const sheetsOf = (look: LookReply): Pick<ReadOptions, 'sheets'> => {
  const shown = look.sheets.filter(({ hidden, rows }) => !hidden && rows > 1)
  const [first] = shown
  if (!first || shown.length < 2) return {}
  const alike = shown.filter(
    ({ names }) =>
      names.filter((name) => first.names.includes(name)).length * 2 > Math.max(names.length, first.names.length),
  )
  if (alike.length < 2) return {}
  const [one = '', ...others] = alike.map(({ name }) => name)
  let prefix = one
  for (const other of others) while (!other.startsWith(prefix)) prefix = prefix.slice(0, -1)
  prefix = prefix.replace(/\d$/, (digit) => (/\d{4}$/.test(prefix) ? digit : ''))
  const like = `${prefix}*`
  const caught = look.sheets.filter(({ name }) => wildcard(like).test(name))
  return prefix.length >= 2 && caught.length === alike.length ? { sheets: { like } } : { sheets: [one, ...others] }
}

/** How a file seems to be written: a start that the opening page lets one change. */
export const guessedRead = (look: LookReply): ReadOptions => ({
  ...(look.format === 'csv' ? { encoding: look.encoding, delimiter: look.delimiter } : {}),
  ...(look.path === undefined ? {} : { path: look.path }),
  ...(look.format === 'xlsx' || look.format === 'ods' ? sheetsOf(look) : {}),
  ...(headerRows({ header: look.header }).join() === '1' ? {} : { header: look.header }),
  ...(look.footer > 0 ? { footer: look.footer } : {}),
})

export const flowFromRecipe = async (file: File): Promise<{ id: string }> => {
  const read = parseRecipe(await file.text())
  if ('faults' in read)
    throw new ServerError(
      'invalid-recipe',
      `${file.name} is not a recipe that can be used: ${read.faults.map(({ sentence, where }) => `${sentence} (at ${where})`).join(' ')}`,
    )
  return ask(api.createReply, 'POST', '/api/flows', { recipe: read.recipe })
}

const extraSteps = (extras: readonly NewStep[], from: number): Step[] =>
  extras.map((extra, i) => ({ ...extra, id: `s${from + i}` }) as Step)

/** A story of its own from what the opening page decided. */
export const newRecipe = (
  files: readonly FileRef[],
  opened: OpenReply,
  read: ReadOptions,
  extras: readonly NewStep[],
): { recipe: Recipe; id: string } => {
  const file = files[0]?.name ?? 'table'
  const id = idOf(file, [])
  const name = titleOfFile(file)
  return {
    id,
    recipe: {
      fabula: 1,
      name,
      inputs: [{ id, name, files: patternOf(file), columns: [...opened.columns] }],
      tables: [
        {
          id,
          name,
          steps: [{ id: 's1', kind: 'open', input: id, read: settled(opened, read) }, ...extraSteps(extras, 2)],
        },
      ],
      outputs: [{ table: id, format: 'csv', file: `${id}-tidy.csv` }],
    },
  }
}

/** One more table in a story, from files of its own; `called`: as a sheet is, where it is one of several. */
export const withTable = (
  recipe: Recipe,
  files: readonly FileRef[],
  opened: OpenReply,
  read: ReadOptions,
  extras: readonly NewStep[],
  nextStep: number,
  called?: string,
): { recipe: Recipe; id: string } => {
  const file = files[0]?.name ?? 'table'
  const id = idOf(
    file,
    [...recipe.inputs, ...recipe.tables].map((one) => one.id),
  )
  const name = freeTableName(recipe, called ?? titleOfFile(file))
  const steps = [
    { id: `s${nextStep}`, kind: 'open', input: id, read: settled(opened, read) },
    ...extraSteps(extras, nextStep + 1),
  ] as Step[]
  return {
    id,
    recipe: {
      ...recipe,
      inputs: [...recipe.inputs, { id, name, files: patternOf(file), columns: [...opened.columns] }],
      tables: [...recipe.tables, { id, name, steps }],
    },
  }
}

/** The recipe with an input opened another way: its columns and types as they come out now. */
export const reopened = (
  recipe: Recipe,
  input: string,
  opened: OpenReply,
  read: ReadOptions,
  extras: readonly NewStep[],
  nextStep: number,
): Recipe => ({
  ...recipe,
  inputs: recipe.inputs.map((one) => (one.id === input ? { ...one, columns: [...opened.columns] } : one)),
  tables: recipe.tables.map((table) => ({
    ...table,
    steps: table.steps.flatMap((step) =>
      openedBy(step)?.input === input
        ? [withRead(step, settled(opened, read)), ...extraSteps(extras, nextStep)]
        : [step],
    ),
  })),
})

import { readFileSync } from 'node:fs'
import { basename } from 'node:path'
import { FileProblem, fileFromPath, openInput, type OpenedFiles, type TracedInput } from '@fabula/formats'
import {
  openedBy,
  openedInputs,
  setOwnValue,
  ownValue,
  brokenSteps,
  columnAliases,
  nearest,
  maybeIsoDate,
  maybeIsoDateTime,
  parameterCells,
  parseRecipe,
  planRecipe,
  quoted,
  tablesNeeded,
  type Cell,
  type ReadOptions,
  type Recipe,
  type ColumnAliases,
  type OpenSource,
} from '@fabula/core'
import { Fault, fault } from './fault.ts'

/** Why a file cannot be read, as the end of a sentence. */
export const reasonOf = (error: unknown): string => {
  const { code } = error as NodeJS.ErrnoException
  if (code === 'ENOENT') return 'there is no such file'
  if (code === 'EISDIR') return 'it is a folder'
  if (code === 'EACCES') return 'it may not be read'
  return String((error as Error).message)
}

export const loadRecipe = (path: string): Recipe => {
  let text: string
  try {
    text = readFileSync(path, 'utf8')
  } catch (error) {
    throw fault(6, 'unreadable-file', `The recipe ${path} cannot be read: ${reasonOf(error)}.`, path)
  }
  const read = parseRecipe(text)
  if ('faults' in read)
    throw new Fault(
      3,
      read.faults.map(({ where, sentence }) => ({
        code: 'invalid-recipe',
        sentence: `${sentence} (at ${where})`,
        where,
      })),
    )
  return read.recipe
}

/** Steps that are broken by the recipe itself, whatever the files. Inputs whose columns it does not list cannot be judged. */
export const checkRecipe = (recipe: Recipe): void => {
  const known = (id: string): boolean =>
    recipe.tables
      .find((table) => table.id === id)
      ?.steps.every((step) => {
        const opened = openedBy(step)
        return !opened || (recipe.inputs.find(({ id }) => id === opened.input)?.columns?.length ?? 0) > 0
      }) ?? false
  const judged = { ...recipe, tables: recipe.tables.filter(({ id }) => tablesNeeded(recipe, id).every(known)) }
  const broken = brokenSteps(planRecipe(judged))
  if (broken.length > 0)
    throw new Fault(
      3,
      broken.map(({ sentence, where, step }) => ({
        code: 'broken-step',
        sentence,
        where: where.replace(
          /^\$\.tables\[\d+\]/,
          `$.tables[${recipe.tables.findIndex((table) => table.steps.includes(step))}]`,
        ),
      })),
    )
}

/** `id=path` words as a list of pairs; what is not one, or names nothing known, is refused. */
export const pairs = (
  words: readonly string[],
  option: string,
  known: readonly string[],
  kind: string,
): [string, string][] =>
  words.map((word) => {
    const at = word.indexOf('=')
    if (at <= 0) throw fault(2, 'bad-option', `${option} ${word} is not understood: write ${option} NAME=VALUE.`)
    const name = word.slice(0, at)
    if (!known.includes(name)) {
      const near = nearest(name, known)
      throw fault(
        2,
        `unknown-${kind}`,
        `The recipe has no ${kind} ${quoted(name)}. ${known.length > 0 ? `It has ${(near.length > 0 ? near : known).map(quoted).join(', ')}.` : `It has none.`}`,
      )
    }
    return [name, word.slice(at + 1)]
  })

export const loadParameters = (recipe: Recipe, words: readonly string[]): Readonly<Record<string, Cell>> => {
  const given = Object.fromEntries(
    pairs(
      words,
      '--param',
      (recipe.parameters ?? []).map(({ name }) => name),
      'parameter',
    ),
  )
  const { cells, faults } = parameterCells(recipe, given)
  if (faults.length > 0)
    throw new Fault(
      2,
      faults.map(({ sentence, parameter }) => ({ code: 'bad-parameter', sentence, where: parameter })),
    )
  return cells
}

/** The wall clock here, or the moment that was given. */
export const momentOf = (text: string | undefined): number => {
  if (text === undefined) {
    const now = new Date()
    return Math.floor((now.getTime() - now.getTimezoneOffset() * 60_000) / 1000) * 1000
  }
  const days = maybeIsoDate(text)
  const moment = maybeIsoDateTime(text) ?? (days === null ? null : days * 86_400_000)
  if (moment === null) throw fault(2, 'bad-option', `--now ${text} is not a date and time such as 2031-06-30T08:00:00.`)
  return moment
}

export type Opened = {
  readonly sources: OpenSource
  readonly inputs: Readonly<Record<string, OpenedFiles>>
  /** The files of each input as they were given, with how each is read. */
  readonly traced: Readonly<Record<string, TracedInput>>
}

const openFiles = async (
  paths: readonly string[],
  read: ReadOptions,
  known: ColumnAliases,
): Promise<{ readonly opened: OpenedFiles; readonly traced: TracedInput }> => {
  const files = paths.map((path) => {
    try {
      return { ...fileFromPath(path), label: path }
    } catch (error) {
      throw fault(6, 'unreadable-file', `The file ${path} cannot be read: ${reasonOf(error)}.`, path)
    }
  })
  try {
    const opened = await openInput(files, read, known)
    const traced = files.map(({ label, ...file }) => ({ name: file.name, label, load: () => file }))
    return { opened, traced: { files: traced, parts: opened.parts, read, known } }
  } catch (error) {
    if (error instanceof FileProblem)
      throw fault(6, 'unreadable-file', error.message, paths.map((path) => basename(path)).join(', '))
    throw error
  }
}

/** Every input of the recipe with its files; an input without one is refused. */
export const loadInputs = async (recipe: Recipe, words: readonly string[]): Promise<Opened> => {
  const given = pairs(
    words,
    '--input',
    recipe.inputs.map(({ id }) => id),
    'input',
  )
  const needed = new Map(openedInputs(recipe).map(({ input, read }) => [input, read]))
  const missing = [...needed.keys()].filter((id) => !given.some(([name]) => name === id))
  if (missing.length > 0)
    throw new Fault(
      2,
      missing.map((id) => ({
        code: 'missing-input',
        sentence: `Say which file is ${quoted(id)}: --input ${id}=FILE.`,
        where: id,
      })),
    )
  const inputs: Record<string, OpenedFiles> = {}
  const traced: Record<string, TracedInput> = {}
  for (const [id, read] of needed) {
    const one = await openFiles(
      given.filter(([name]) => name === id).map(([, path]) => path),
      read,
      columnAliases(recipe.inputs.find((input) => input.id === id)),
    )
    setOwnValue(inputs, id, one.opened)
    setOwnValue(traced, id, one.traced)
  }
  const sources: OpenSource = (input) => {
    const opened = ownValue(inputs, input)
    if (!opened) throw new Error(`input ${input} was not opened`)
    return { ...opened, key: opened.files.map(({ sha256 }) => sha256).join() }
  }
  return { sources, inputs, traced }
}

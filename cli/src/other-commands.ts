import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import {
  parameterCells,
  planRecipe,
  planWithEntered,
  dialects,
  listed,
  type Dialect,
  runRecipe,
  ScriptError,
  sentenceText,
  tableNames,
  writeCsv,
  type Plan,
  type Recipe,
} from '@fabula/core'
import { fault } from './fault.ts'
import { checkRecipe, loadInputs, loadRecipe, type Opened } from './load.ts'

/** The story run on the files as they are, with the parameters as the recipe has them. */
const ranOn = (recipe: Recipe, { sources }: Opened) =>
  runRecipe(recipe, { sources, parameters: parameterCells(recipe, {}).cells, now: 0 })

const made = (recipe: Recipe, { assemble }: Dialect, plan: Plan, trace: boolean): string => {
  try {
    return assemble(recipe, plan, { trace }).text
  } catch (error) {
    if (error instanceof ScriptError) throw fault(3, 'no-script', error.message)
    throw error
  }
}

/** Columns that only data can tell are pinned to those of the files, where they are given, and of what is typed in. */
export const script = async (
  path: string,
  words: { to: string; input: string[]; output?: string; trace?: boolean },
): Promise<void> => {
  const dialect = Object.values(dialects).find(({ name }) => name === words.to)
  if (!dialect)
    throw fault(
      2,
      'bad-option',
      `--to ${words.to} is not a language here: choose ${listed(Object.keys(dialects), 'or')}.`,
    )
  const recipe = loadRecipe(path)
  checkRecipe(recipe)
  const text = made(
    recipe,
    dialect,
    words.input.length > 0
      ? ranOn(recipe, await loadInputs(recipe, words.input)).plan
      : planWithEntered(recipe, parameterCells(recipe, {}).cells),
    words.trace ?? false,
  )
  if (!words.output || words.output === '-') {
    process.stdout.write(text)
    return
  }
  try {
    writeFileSync(words.output, text)
  } catch (error) {
    throw fault(6, 'unwritable-file', `The script cannot be written: ${(error as Error).message}.`)
  }
}

export const report = (path: string): void => {
  const recipe = loadRecipe(path)
  for (const { name, steps } of planRecipe(recipe).tables) {
    if (recipe.tables.length > 1) process.stdout.write(`${name}\n`)
    for (const { step } of steps)
      process.stdout.write(`${sentenceText(step, tableNames(recipe))}${step.off ? ' (off)' : ''}\n`)
  }
}

export const validate = (path: string): void => {
  checkRecipe(loadRecipe(path))
  process.stdout.write('The recipe is valid.\n')
}

export const csv = async (path: string, words: { input: string[]; to: string }): Promise<void> => {
  const { inputs } = await loadInputs(loadRecipe(path), words.input)
  try {
    mkdirSync(words.to, { recursive: true })
    for (const [id, { table }] of Object.entries(inputs)) writeFileSync(join(words.to, `${id}.csv`), writeCsv(table))
  } catch (error) {
    throw fault(6, 'unwritable-file', `The files cannot be written: ${(error as Error).message}.`)
  }
}

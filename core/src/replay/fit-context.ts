import { brokenSteps, planRecipe, type BrokenStep, type InputSchemas, type Plan } from '../engine/plan.ts'
import type { TableRun } from '../engine/run.ts'
import { stepKeys } from '../engine/step-keys.ts'
import type { Recipe, Step } from '../recipe/recipe.ts'
import { openedBy } from '../recipe/step-access.ts'
import { columnOfProblem } from '../steps/shared/problems.ts'
import type { Cell } from '../table/column.ts'
import { ownValue } from '../table/own.ts'
import type { Schema, Table } from '../table/table.ts'
import { stepAccounts, type Accounts, type FileAccount, type SheetAccount, type StepAccount } from './accounts.ts'

/** A file or sheet that was taken in, with the columns that another one has and it lacks. */
export type CheckedPart = {
  readonly file: string
  readonly sheet?: string
  readonly rows: number
  readonly schema: Schema
  readonly lacks: readonly string[]
  readonly hidden?: true
}
/** A new export as it was opened. */
export type CheckedInput = {
  readonly table: Table
  readonly files?: readonly { readonly name: string; readonly sha256: string; readonly rows: number }[]
  readonly parts?: readonly CheckedPart[]
  /** Sheets that were not taken in. */
  readonly otherSheets?: readonly (Omit<CheckedPart, 'lacks' | 'sheet'> & { readonly sheet: string })[]
  readonly missingSheets?: readonly string[]
  /** Columns that came by another name, by that name. */
  readonly renamed?: Readonly<Record<string, string>>
  /** The cells that did not read, with texts of the first. */
  readonly unreadable?: readonly { readonly column: string; readonly texts?: readonly string[] }[]
  /** What was opened last time, where it is at hand. */
  readonly before?: Table | undefined
  /** SHA-256 of files that are kept from an earlier run. */
  readonly kept?: readonly string[]
}

/** What a run on the new data did. */
export type TrialRun = { readonly plan: Plan; readonly tables: readonly TableRun[] }

/** What findings are made from. */
export type FitContext = {
  readonly recipe: Recipe
  readonly inputs: Readonly<Record<string, CheckedInput>>
  readonly schemas: InputSchemas
  readonly plan: Plan
  readonly tables: readonly TableRun[]
  readonly broken: readonly BrokenStep[]
  readonly parameters: Readonly<Record<string, Cell>>
  readonly last: Accounts | undefined
  readonly keys: ReadonlyMap<string, string>
  readonly steps: Accounts['tables']
  /** Which step needs a column of an input, as far as it was asked. */
  readonly needed: Map<string, { readonly step: Step | undefined }>
}

/** What new files are held against beside the recipe. */
export type FitOptions = {
  readonly ran?: TrialRun | undefined
  readonly last?: Accounts | undefined
  readonly parameters?: Readonly<Record<string, Cell>> | undefined
  /** The recipe before answers for one run changed it: by its steps the last run is compared. */
  readonly unanswered?: Recipe | undefined
  /** What the run's steps did, where it is worked out already. */
  readonly steps?: Accounts['tables'] | undefined
}

/** The context of all findings of a recipe on opened inputs. */
export const fitContext = (
  recipe: Recipe,
  inputs: Readonly<Record<string, CheckedInput>>,
  { ran, last, parameters = {}, unanswered = recipe, steps }: FitOptions,
): FitContext => {
  const schemas: InputSchemas = Object.fromEntries(Object.entries(inputs).map(([id, { table }]) => [id, table.schema]))
  const keys = stepKeys(unanswered)
  const plan = ran?.plan ?? planRecipe(recipe, schemas)
  return {
    recipe,
    inputs,
    schemas,
    plan,
    tables: ran?.tables ?? [],
    broken: brokenSteps(plan),
    parameters,
    last,
    keys,
    steps: steps ?? stepAccounts(keys, ran?.tables ?? []),
    needed: new Map(),
  }
}

/** A step as the page names it: its table and its number in it. */
export const stepPlace = (recipe: Recipe, id: string): string => {
  for (const { name, steps } of recipe.tables) {
    const at = steps.findIndex((step) => step.id === id)
    if (at >= 0) return `${name} ${at + 1}`
  }
  return id
}

/** The id of the first input that a table of the recipe opens, itself or through the tables it uses first; undefined where it opens none. */
export const inputOfStep = (recipe: Recipe, id: string): string | undefined =>
  recipe.tables
    .find(({ steps }) => steps.some((step) => step.id === id))
    ?.steps.flatMap((step) => openedBy(step)?.input ?? [])[0]

/** The step that cannot run where an input lacks a column that the recipe lists; all others that are missing taken as there. */
export const neededBy = (context: FitContext, input: string, column: string): Step | undefined => {
  const key = JSON.stringify([input, column])
  const known = context.needed.get(key)
  if (known) return known.step
  const step = stepWithout(context, input, column)
  context.needed.set(key, { step })
  return step
}

const stepWithout = ({ recipe, schemas }: FitContext, input: string, column: string): Step | undefined => {
  const now = ownValue(schemas, input) ?? []
  const written = recipe.inputs.find(({ id }) => id === input)?.columns ?? []
  const there = [...now, ...written.filter((field) => !now.some(({ name }) => name === field.name))].filter(
    ({ name }) => name !== column,
  )
  const plan = planRecipe(recipe, { ...schemas, [input]: there })
  return brokenSteps(plan).find(({ problem }) => columnOfProblem(problem) === column)?.step
}

/** A file's name with its digits set aside: visits-05.csv and visits-06.csv are one. */
export const withoutDigits = (name: string): string => name.replace(/\p{Nd}+/gu, '#')

/** The files that an input had in the last accepted run. */
export const lastFiles = ({ last }: FitContext, input: string): readonly FileAccount[] =>
  last?.inputs.find(({ id }) => id === input)?.files ?? []

/** The last run's sheets of the file of this name, else of those that are called so but for digits. */
export const lastSheets = (context: FitContext, input: string, file: string): readonly SheetAccount[] => {
  const alike = lastFiles(context, input).filter(({ name }) => withoutDigits(name) === withoutDigits(file))
  const same = alike.filter(({ name }) => name === file)
  return (same.length > 0 ? same : alike).flatMap(({ sheets = [] }) => sheets)
}

/** What a step did last time; undefined where it, or what it depends on, was another then. */
export const lastStep = ({ last, keys }: FitContext, id: string): StepAccount | undefined => {
  const account = last?.tables.flatMap(({ steps }) => steps).find((step) => step.id === id)
  return account?.key !== undefined && account.key === keys.get(id) ? account : undefined
}

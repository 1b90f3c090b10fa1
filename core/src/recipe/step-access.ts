import type { ReadOptions } from '../reading/read-options.ts'
import type { StepKindName } from '../steps/index.ts'
import { kindNamed } from '../steps/index.ts'
import { type Sentence, type StepKind, type TableNames } from '../steps/shared/step-kind.ts'
import { type Recipe, type RecipeTable, type Step } from './recipe.ts'
import { usedTables } from './used-tables.ts'

/** A table or input by id and name. */
export type NamedPart = { readonly id: string; readonly name: string }

/** The kind of a step. @throws Error for a kind that is none. */
export const kindOf = (step: Step): StepKind<unknown> => {
  const kind = kindNamed(step.kind)
  if (!kind) throw new Error(`no step kind ${step.kind}`)
  return kind
}

/** The step's own params, without what every step may carry. */
export const paramsOf = ({ id: _id, kind: _kind, note: _note, off: _off, ...params }: Step): unknown => params

/** A step’s sentence with its open words. */
export const sentenceFor = (step: Step, names: TableNames): Sentence => kindOf(step).sentence(paramsOf(step), names)

/** A step’s sentence as text. */
export const sentenceText = (step: Step, names: TableNames): string =>
  sentenceFor(step, names)
    .map((part) => (typeof part === 'string' ? part : part.text))
    .join('')

/** The types of a recipe’s parameters, by name. */
export const parameterTypes = (recipe: Recipe) =>
  Object.fromEntries((recipe.parameters ?? []).map(({ name, type }) => [name, type]))

/** Whether a step is of a kind; its params are those of the kind then. */
export const isKind = <K extends StepKindName>(step: Step, kind: K): step is Extract<Step, { readonly kind: K }> =>
  step.kind === kind

/** What a start step opens; undefined for steps that open no input. */
export const openedBy = (step: Step): { readonly input: string; readonly read: ReadOptions } | undefined =>
  kindOf(step).opens?.(paramsOf(step))

/** A start that reads its input another way. */
export const withRead = (step: Step, read: ReadOptions): Step => ({ ...step, read }) as Step

/** The inputs that a recipe opens, each with how it is read. */
export const openedInputs = (recipe: Recipe): { readonly input: string; readonly read: ReadOptions }[] =>
  recipe.tables.flatMap(({ steps }) => steps.flatMap((step) => openedBy(step) ?? []))

/** Tables so that each comes after those it uses; of a circle those beyond it. */
export const inOrder = (recipe: Recipe): RecipeTable[] => {
  const done: RecipeTable[] = []
  const visit = (table: RecipeTable, above: readonly string[]): void => {
    if (done.includes(table) || above.includes(table.id)) return
    for (const id of table.steps.flatMap(usedTables)) {
      const other = recipe.tables.find((one) => one.id === id)
      if (other) visit(other, [...above, table.id])
    }
    done.push(table)
  }
  for (const table of recipe.tables) visit(table, [])
  return done
}

/** A table and all that its steps use, directly or through others; `usedBy` gives the tables that a step uses. */
export const tablesNeeded = (recipe: Recipe, table: string, usedBy = usedTables): string[] => {
  const needed: string[] = []
  const visit = (id: string): void => {
    if (needed.includes(id)) return
    needed.push(id)
    for (const other of recipe.tables.find((one) => one.id === id)?.steps.flatMap(usedBy) ?? []) visit(other)
  }
  visit(table)
  return needed
}

/** What the tables and the inputs of a recipe are called; the table "" is `own`. */
export const tableNames =
  (
    { tables, inputs }: { readonly tables: readonly NamedPart[]; readonly inputs: readonly NamedPart[] },
    own?: { readonly name: string },
  ): TableNames =>
  (id, of = 'table') => {
    const named = () => {
      if (of === 'input') return inputs.find((input) => input.id === id)
      if (id === '') return own
      return tables.find((table) => table.id === id)
    }
    return named()?.name ?? id
  }

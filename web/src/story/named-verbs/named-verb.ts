import { freeName, writeColumn, type DraftContext, type NewStep, type Schema, type Selection } from '@fabula/core'
import type { BuilderAnswers } from '../builder.ts'
import { verbsFor, type Verb } from '../verbs.ts'

/** The table that is shown and what is selected in it. */
export type VerbContext = DraftContext & { readonly selection: Selection }
/** What a named verb does to the present selection, or why it cannot. */
export type Act = Omit<Verb, 'name' | 'words'>
/** A verb as people ask for it: by its name or by other words for it, with what it does to the present selection. */
export type NamedVerb = {
  readonly name: string
  readonly words: readonly string[]
  readonly act: (context: VerbContext) => Act
}

type Type = Schema[number]['type']
const nouns: Readonly<Record<string, string>> = {
  text: 'text',
  number: 'numbers',
  date: 'dates',
  time: 'times',
  list: 'lists',
  any: 'any kind',
}
const typesOf: Readonly<Record<string, readonly Type[]>> = {
  text: ['text'],
  number: ['integer', 'decimal'],
  date: ['date', 'datetime'],
  time: ['time'],
  list: ['list'],
}
/** The sort of column that a verb needs. */
export type ColumnSort = 'text' | 'number' | 'date' | 'time' | 'list' | 'any'
const isOf = (sort: ColumnSort, type: Type): boolean => sort === 'any' || (typesOf[sort] ?? []).includes(type)

/** The columns of a selection; none where the whole table is selected. */
export const selectedColumns = ({ selection, schema }: VerbContext): readonly string[] => {
  if (selection.kind === 'table') return []
  const wanted = selection.kind === 'columns' ? selection.columns : [selection.column]
  return wanted.filter((name) => schema.some((field) => field.name === name))
}

/** Those of the selected columns, or of all where none is selected, that are of a sort. */
export const columnsOf = (context: VerbContext, sort: ColumnSort): readonly string[] => {
  const selected = selectedColumns(context)
  return context.schema
    .filter(({ name, type }) => (selected.length === 0 || selected.includes(name)) && isOf(sort, type))
    .map(({ name }) => name)
}

/** With nothing selected the sort that is likely meant, where there is such a column; any sort of a column that was selected. */
export const anyOr = (sort: ColumnSort, context: VerbContext): ColumnSort =>
  selectedColumns(context).length === 0 && columnsOf(context, sort).length > 0 ? sort : 'any'

/** What is done with the first column of a sort; why nothing can be done where there is none. */
export const withColumn = (
  context: VerbContext,
  sort: ColumnSort,
  act: (column: string, all: readonly string[]) => Act,
): Act => {
  const columns = columnsOf(context, sort)
  // with nothing selected a number with decimals is likelier meant than one that counts or names
  const likely = columns.find((name) => context.schema.some((field) => field.name === name && field.type === 'decimal'))
  const first = selectedColumns(context).length === 0 && sort === 'number' ? (likely ?? columns[0]) : columns[0]
  if (first !== undefined) return act(first, columns)
  const [selected] = selectedColumns(context)
  return {
    needs:
      selected === undefined
        ? `There is no column of ${nouns[sort] ?? sort} here.`
        : `“${selected}” is no column of ${nouns[sort] ?? sort}. Select one that is.`,
  }
}

/** One sentence, or several that belong together. */
export const writes = (...steps: readonly NewStep[]): Act =>
  steps.length === 1 && steps[0] ? { step: steps[0] } : { steps, ...(steps[0] ? { step: steps[0] } : {}) }

/** A builder opened with an answer given. */
export const asks = (id: string, columns: readonly string[], answers: BuilderAnswers = {}): Act => ({
  builder: { id, columns, answers },
})

/** The verb of the card with this kind of step, of the selection or else of the whole table. */
export const ofKind = (context: VerbContext, kind: NewStep['kind'], change?: (step: NewStep) => NewStep): Act => {
  const found =
    verbsFor(context.selection, context).find(({ step }) => step?.kind === kind) ??
    verbsFor({ kind: 'table' }, context).find(({ step }) => step?.kind === kind)
  if (!found) return { needs: 'It needs something to be selected first.' }
  const { name: _name, words: _words, key: _key, ...act } = found
  return act.step && change ? { ...act, step: change(act.step) } : act
}

/** A column computed beside another, by a formula over its name. */
export const computed = (
  { schema }: VerbContext,
  column: string,
  as: string,
  formula: (column: string) => string,
): Act =>
  writes({
    kind: 'derive',
    as: freeName(
      as,
      schema.map(({ name }) => name),
    ),
    formula: formula(writeColumn(column)),
    after: column,
  })

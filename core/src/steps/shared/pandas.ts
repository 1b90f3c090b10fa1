import type { Field } from '../../table/table.ts'
import { pythonKeywords } from '../../codegen/python/keywords.ts'
import { code, py, pyHelper, type Code } from '../../codegen/tag.ts'
import type { ColumnType } from '../../table/column.ts'
import type { Measure } from './measures.ts'
import type { SortKeyParams } from './sort-keys.ts'

type Figures = { readonly [How in Measure['how']]?: Code }
/** How pandas' `agg` and `transform` make figures of any column that they are made of. */
const figuresOfAll: Figures = {
  count: py`${'size'}`,
  filled: py`${'count'}`,
  distinct: py`${'nunique'}`,
  mean: pyHelper('exact_mean'),
}
const figuresOfNumbers: Figures = { min: py`${'min'}`, max: py`${'max'}`, median: py`${'median'}` }
/** What `agg` or `transform` is called with for a figure of a column; undefined where none gives what the engine does. */
export const pandasFigure = (how: Measure['how'], type: ColumnType | undefined): Code | undefined => {
  const sum = type === 'decimal' ? pyHelper('exact_sum') : pyHelper('integer_sum')
  if (type === 'decimal' || type === 'integer')
    return how === 'sum' ? sum : (figuresOfAll[how] ?? figuresOfNumbers[how])
  return figuresOfAll[how]
}
const figuresOfTimes: Figures = {
  min: code('lambda x: min(x.dropna(), default=None)'),
  max: code('lambda x: max(x.dropna(), default=None)'),
}
const figuresByPlace: Figures = { first: code('lambda x: x.iloc[0]'), last: code('lambda x: x.iloc[-1]') }
/** Types of which `agg`, and an index of groups, makes others: moments become time stamps, lists plain texts. */
const changedByAgg: readonly (ColumnType | undefined)[] = ['datetime', 'list']
/** Whether keys of groups are the same as columns again. */
export const keepsKeys = (keys: readonly Field[]): boolean => keys.every(({ type }) => !changedByAgg.includes(type))
/** The same for `agg`, which makes figures that are no numbers as well. */
export const pandasAggregate = (how: Measure['how'], type: ColumnType | undefined): Code | undefined => {
  const figure = pandasFigure(how, type)
  if (figure || changedByAgg.includes(type)) return figure
  return figuresByPlace[how] ?? (type === 'date' || type === 'time' ? figuresOfTimes[how] : undefined)
}
/** What `agg` is called with for the one value of a cell. */
export const onlyValue = (type: ColumnType | undefined): Code | undefined =>
  changedByAgg.includes(type) ? undefined : pyHelper('only_value')

/** The name of the type that pandas has for a column; columns of all other types are objects. */
export const pandasTypes: { readonly [T in ColumnType]?: string } = {
  integer: 'Int64',
  decimal: 'float64',
  boolean: 'boolean',
}

/** An argument of any name. */
export const namedArgument = (name: string, value: Code): Code =>
  /^[A-Za-z][A-Za-z0-9_]*$/.test(name) && !pythonKeywords.has(name)
    ? py`${code(name)}=${value}`
    : py`**{${name}: ${value}}`

/** Whether `sort_values` sorts by these keys as the engine does. */
export const sortsAlike = (by: readonly SortKeyParams[]): boolean => by.every(({ natural }) => !natural)
/** A frame sorted stably by keys that `sortsAlike`; `more` are further arguments. */
export const sortedByValues = (frame: Code, by: readonly SortKeyParams[], more = code('')): Code => {
  const ascending = by.some((key) => key.descending) ? py`, ascending=${by.map((key) => !key.descending)}` : code('')
  return py`${frame}.sort_values(${by.map(({ column }) => column)}${ascending}, key=${pyHelper('text_order')}, kind="stable"${more})`
}

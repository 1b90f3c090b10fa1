import { pythonKeywords } from '../../codegen/python/keywords.ts'
import { code, py, pyHelper, type Code } from '../../codegen/tag.ts'
import type { ColumnType } from '../../table/column.ts'
import type { Measure } from './measures.ts'
import type { SortKeyParams } from './sort-keys.ts'

/** How pandas' `agg` and `transform` make figures of any column that they are made of, and those of decimals. */
const figuresOfAll: { readonly [How in Measure['how']]?: Code } = {
  count: py`${'size'}`,
  filled: py`${'count'}`,
  distinct: py`${'nunique'}`,
  mean: pyHelper('exact_mean'),
}
const figuresOfDecimals: { readonly [How in Measure['how']]?: Code } = {
  sum: pyHelper('exact_sum'),
  min: py`${'min'}`,
  max: py`${'max'}`,
  median: py`${'median'}`,
}
/** What `agg` or `transform` is called with for a figure of a column; undefined where none gives what the engine does. */
export const pandasFigure = (how: Measure['how'], type: ColumnType | undefined): Code | undefined =>
  figuresOfAll[how] ?? (type === 'decimal' ? figuresOfDecimals[how] : undefined)

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

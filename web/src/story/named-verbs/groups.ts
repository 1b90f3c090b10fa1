import { countAndTotals, type Aggregate, type NewStep } from '@fabula/core'
import {
  asks,
  columnsOf,
  ofKind,
  selectedColumns,
  withColumn,
  writes,
  type NamedVerb,
  type VerbContext,
} from './named-verb.ts'

/** The columns to group by: those selected that are no numbers, else the first text. */
const groupKeys = (context: VerbContext): string[] => {
  const { schema } = context
  const selected = selectedColumns(context)
  const numbers = columnsOf({ ...context, selection: { kind: 'table' } }, 'number')
  const keys = selected.filter((name) => !numbers.includes(name))
  const first = schema.find(({ type }) => type === 'text') ?? schema.find(({ name }) => !numbers.includes(name))
  return keys.length > 0 || !first ? keys : [first.name]
}

const measured = (name: string, words: readonly string[], how: Aggregate, as: string): NamedVerb => ({
  name,
  words,
  act: (context) => {
    const by = groupKeys(context)
    const numbers = columnsOf(context, 'number')
    const all = numbers.length > 0 ? numbers : columnsOf({ ...context, selection: { kind: 'table' } }, 'number')
    const [column] =
      how === 'distinct'
        ? columnsOf({ ...context, selection: { kind: 'table' } }, 'any').filter((one) => !by.includes(one))
        : all
    if (column === undefined) return { needs: 'There is no column of numbers here.' }
    return writes({ kind: 'summarise', by, measures: [{ how, column, as: `${as} ${column}` }] })
  },
})
/** A figure of the group; ranks are by the first number, the largest first. */
const beside = (name: string, words: readonly string[], how: string): NamedVerb => ({
  name,
  words,
  act: (context) =>
    withColumn(context, 'any', (column) => {
      const selected = selectedColumns(context)
      const [number] = columnsOf({ ...context, selection: { kind: 'table' } }, 'number')
      return asks('beside', selected.length > 0 ? selected : groupKeys(context).concat(column).slice(0, 1), {
        how,
        ...(how === 'rank' && number !== undefined ? { order: number, way: 'down' } : {}),
      })
    }),
})
const spanned = (name: string, words: readonly string[], span: string): NamedVerb => ({
  name,
  words,
  act: (context) =>
    withColumn(context, 'date', (date) => {
      const selected = selectedColumns(context)
      return asks('period', selected.length > 0 ? selected : [date], { span })
    }),
})

/** Verbs that summarise, and that put a figure of the group beside every row. */
export const groupVerbs: readonly NamedVerb[] = [
  {
    name: 'Summarise',
    words: ['group by', 'group', 'aggregate', 'summarize', 'subtotal', 'summary'],
    act: (context) => {
      const by = groupKeys(context)
      return writes({
        kind: 'summarise',
        by,
        measures: countAndTotals(
          selectedColumns(context).filter((one) => !by.includes(one)),
          by,
        ),
      })
    },
  },
  {
    name: 'Count the rows of each',
    words: ['count', 'count rows', 'how many', 'frequency', 'countif', 'value counts', 'tally'],
    act: (context) => writes({ kind: 'summarise', by: groupKeys(context), measures: [{ how: 'count', as: 'Rows' }] }),
  },
  measured('Add up for each', ['sum', 'total', 'sum by', 'add up', 'sumif', 'totals'], 'sum', 'Total'),
  measured('Take the mean of each', ['average', 'mean', 'average by', 'avg', 'averageif'], 'mean', 'Mean'),
  measured('Take the median of each', ['median', 'middle value'], 'median', 'Median'),
  measured('Take the least of each', ['minimum', 'min', 'least', 'smallest'], 'min', 'Least'),
  measured('Take the greatest of each', ['maximum', 'max', 'greatest', 'largest'], 'max', 'Greatest'),
  measured(
    'Count the different values of each',
    ['count distinct', 'distinct count', 'count unique', 'how many different'],
    'distinct',
    'Different',
  ),
  spanned('Summarise by day', ['by day', 'daily', 'per day'], 'day'),
  spanned('Summarise by week', ['by week', 'weekly', 'per week'], 'week'),
  spanned('Summarise by month', ['by month', 'monthly', 'per month', 'time series'], 'month'),
  spanned('Summarise by quarter', ['by quarter', 'quarterly', 'per quarter'], 'quarter'),
  spanned('Summarise by year', ['by year', 'yearly', 'per year', 'annual'], 'year'),
  {
    name: 'Summarise with a grand total row…',
    words: ['grand total', 'total row', 'rollup', 'totals at the end'],
    act: (context) => asks('with-total', [...groupKeys(context).slice(0, 1), ...columnsOf(context, 'number')]),
  },
  {
    name: 'Collect its values for each…',
    words: ['collect', 'list of values', 'group concat', 'string agg', 'rows to list', 'join rows', 'concatenate rows'],
    act: (context) => withColumn(context, 'text', (column) => asks('collect', [column])),
  },
  beside(
    'Put the running total beside every row',
    ['running total', 'cumulative', 'cumulative sum', 'running sum', 'year to date'],
    'running-sum',
  ),
  beside('Put its rank beside every row', ['rank', 'ranking', 'position', 'place'], 'rank'),
  beside(
    'Put the value before it beside every row',
    ['previous row', 'previous', 'lag', 'prior value', 'row above', 'last month value'],
    'previous',
  ),
  beside('Put the value after it beside every row', ['next row', 'next', 'lead', 'row below'], 'next'),
  beside(
    'Put its share beside every row',
    ['share of total', 'percent of total', 'share', 'percentage', 'proportion', '% of total'],
    'share',
  ),
  beside(
    'Put the total of its group beside every row',
    ['group total', 'total of group', 'window', 'over partition', 'sum of group'],
    'sum',
  ),
  beside('Put the mean of its group beside every row', ['group average', 'average of group', 'group mean'], 'mean'),
  beside('Put the first of its group beside every row', ['first of group', 'first visit', 'first value'], 'first'),
  beside('Put the latest of its group beside every row', ['last of group', 'latest visit', 'last value'], 'last'),
]

/** Verbs that turn a table round. */
export const shapeVerbs: readonly NamedVerb[] = [
  {
    name: 'Turn columns into rows',
    words: ['unpivot', 'melt', 'columns to rows', 'wide to long', 'gather', 'stack columns', 'tidy', 'long format'],
    act: (context) => ofKind(context, 'unpivot'),
  },
  {
    name: 'Turn rows into columns…',
    words: [
      'pivot',
      'rows to columns',
      'long to wide',
      'spread',
      'crosstab',
      'cross table',
      'pivot table',
      'wide format',
      'matrix',
    ],
    act: (context) => ofKind(context, 'pivot'),
  },
  {
    name: 'Swap rows and columns',
    words: ['transpose', 'swap', 'flip', 'rotate', 'turn round'],
    act: (context) => ofKind(context, 'transpose'),
  },
  {
    name: 'Make a row of each item',
    words: ['explode', 'unroll', 'unnest', 'expand list', 'list to rows', 'flatten'],
    act: (context) => withColumn(context, 'list', (column) => writes({ kind: 'unroll', column } as NewStep)),
  },
]

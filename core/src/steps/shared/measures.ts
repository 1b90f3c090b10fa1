import { z } from 'zod'
import { code, joined, py, sql, type Code, sqlHelper } from '../../codegen/tag.ts'
import {
  aggregate,
  aggregates,
  totalled,
  totalsOf,
  type Aggregate,
  type AggregateResult,
  type ChosenColumn,
} from '../../table/aggregate.ts'
import { isNumber, type ColumnType } from '../../table/column.ts'
import { areFew } from '../../table/lazy-column.ts'
import type { Groups } from '../../kernels/table-kernels.ts'
import type { Field, Schema, Table } from '../../table/table.ts'
import { quoted } from '../../messages/words.ts'
import { checkColumn, freeName, typeIn } from './columns.ts'
import { name } from '../../reading/name-schema.ts'
import { checkSortKeys, orderOf, sortKeysSchema, sortPython, sortSql, type SortKeyParams } from './sort-keys.ts'
import type { CheckContext, ParamPath } from './step-kind.ts'

/** A figure of a group of rows, as `summarise`, `pivot` and `window` have it. */
export type Measure = {
  readonly how: Aggregate
  readonly column?: string | undefined
  readonly as: string
  readonly separator?: string | undefined
  readonly order?: readonly SortKeyParams[] | undefined
}

/** A count of the rows and the total of each number column, by names that neither the keys nor each other have. */
export const countAndTotals = (numbers: readonly string[], keys: readonly string[]): Measure[] =>
  [
    { how: 'count' as const, as: 'Rows' },
    ...numbers.map((column) => ({ how: 'sum' as const, column, as: `Total ${column}` })),
  ].reduce<Measure[]>(
    (made, measure) => [...made, { ...measure, as: freeName(measure.as, [...keys, ...made.map(({ as }) => as)]) }],
    [],
  )

const needsColumn = ({ how, column }: { how: string; column?: string | undefined }): boolean =>
  how === 'count' || column !== undefined
/** Schema of a measure. */
export const measureSchema = z
  .strictObject({
    how: z.enum(aggregates),
    column: name.optional(),
    as: name,
    separator: z.string().optional(),
    order: sortKeysSchema.optional(),
  })
  .refine(needsColumn, { message: 'this measure needs a column', path: ['column'] })

const wholes: readonly Aggregate[] = ['count', 'filled', 'distinct']
const decimals: readonly Aggregate[] = ['mean', 'median', 'deviation', 'share']
/** Whether an aggregate takes numbers only. */
export const needsNumbers = (how: string): boolean =>
  ['sum', 'mean', 'median', 'deviation', 'share', 'running-sum'].includes(how)

/** The type of a figure over a column of a type. */
export const measureType = (how: Aggregate, type: ColumnType): ColumnType => {
  if (wholes.includes(how)) return 'integer'
  if (decimals.includes(how)) return 'decimal'
  if (how === 'sum') {
    if (type === 'integer') return 'integer'
    return 'decimal'
  }
  if (how === 'list') return 'list'
  if (how === 'join') return 'text'
  if (how === 'any' || how === 'every') return 'boolean'
  return type
}

/** Fields of the made columns; a name that clashes gives way. */
export const measureFields = (measures: readonly Measure[], keys: readonly Field[], input: Schema): Field[] => {
  const taken = keys.map((field) => field.name)
  return measures.map(({ how, column, as }) => {
    const free = freeName(as, taken)
    taken.push(free)
    return { name: free, type: measureType(how, typeIn(input, column) ?? 'integer') }
  })
}

/** Reports a column that is not there, or of a type that the figure cannot be made of. */
export const checkMeasure = (
  { how, column, order }: { how: string; column?: string | undefined; order?: readonly SortKeyParams[] | undefined },
  schema: Schema,
  context: CheckContext,
  ...path: ParamPath
): void => {
  const field = column === undefined ? undefined : checkColumn(column, schema, context, ...path, 'column')
  const chooseNeeds = () => {
    if (!field) return undefined
    if (needsNumbers(how) && !isNumber(field.type)) return 'numbers'
    if ((how === 'any' || how === 'every') && field.type !== 'boolean') return 'yes or no'
    if (how === 'list' && field.type === 'list') return 'single values'
    return undefined
  }
  const needs = chooseNeeds()
  if (field && needs)
    context.report({ code: 'wrong-type', column: field.name, type: field.type, needs }, ...path, 'column')
  if (order) checkSortKeys(order, schema, context, ...path, 'order')
}

/** Each aggregate as it stands in a sentence. */
export const howWords: Readonly<Record<Aggregate, string>> = {
  count: 'the count of rows',
  filled: 'the count of filled',
  distinct: 'the different values of',
  sum: 'the sum of',
  mean: 'the mean of',
  median: 'the median of',
  min: 'the least',
  max: 'the greatest',
  deviation: 'the standard deviation of',
  first: 'the first',
  last: 'the last',
  list: 'the list of',
  join: 'the joined',
  any: 'whether any is',
  every: 'whether every is',
  share: 'the share of all',
}
/** A measure as it stands in a sentence. */
export const measureWords = ({ how, column, as, separator, order }: Measure): string =>
  `${howWords[how]}${how === 'count' ? '' : ` ${column ?? ''}`}${how === 'join' ? ` with ${separator === '' ? 'nothing' : quoted(separator ?? ', ')} between` : ''}${order ? ` by ${order.map((key) => `${key.column}${key.descending ? ' from high to low' : ''}`).join(', then ')}` : ''} as ${as}`

/** Figures that are made of the sums of numbers. */
const ofTotals = ['sum', 'mean', 'share'] as const
type OfTotals = (typeof ofTotals)[number]
const isOfTotals = (how: Aggregate): how is OfTotals => (ofTotals as readonly Aggregate[]).includes(how)

/** A column whose numbers are added up: of the rows that are left without gathering them, but of few of many. */
const summedColumn = (table: Table, column: string): ChosenColumn => {
  const chosen = table.beforeChoice([table.positionOf(column)])
  return chosen?.rows && !areFew(chosen.rows, chosen.table.rowCount)
    ? { of: chosen.table, rows: chosen.rows }
    : { of: table.select([table.positionOf(column)]), rows: undefined }
}

/** Measures computed for each group, of these types; sums are made of all columns at once. */
export const runMeasures = (
  measures: readonly Omit<Measure, 'as'>[],
  table: Table,
  groups: Groups,
  types: readonly ColumnType[],
): AggregateResult[] => {
  const summed = new Map<string, ChosenColumn>()
  for (const { how, column } of measures)
    if (column !== undefined && isOfTotals(how) && !summed.has(column)) summed.set(column, summedColumn(table, column))
  const totals = totalsOf([...summed.values()], groups)
  return measures.map(({ how, column, separator, order }, i) => {
    const type = types[i]!
    const added = column === undefined ? undefined : summed.get(column)
    if (added && isOfTotals(how)) return totalled(how, totals.get(added)!, type)
    return aggregate(
      { how, separator, order: order ? orderOf(order, table) : undefined },
      column === undefined || how === 'count' ? undefined : table.named(column),
      groups,
      type,
    )
  })
}
/** A measure computed for each group. */
export const runMeasure = (
  measure: Omit<Measure, 'as'>,
  table: Table,
  groups: Groups,
  type: ColumnType,
): AggregateResult => runMeasures([measure], table, groups, [type])[0]!

const extremeOrder = (type: ColumnType, cell: Code, way: string): Code =>
  type === 'text' || type === 'list'
    ? sql`${sqlHelper('lower_of')}(${cell}) collate "C" ${code(way)}, ${cell} collate "C" ${code(way)}`
    : sql`${cell} ${code(way)}`
/** An item of a list as JSON. */
const itemSql = (type: ColumnType, cell: Code): Code =>
  isNumber(type) || type === 'boolean'
    ? sql`${sqlHelper('shown')}(${cell})`
    : sql`to_json(${sqlHelper('shown')}(${cell}))::text`

/** Which rows each group was made of; a group has the number of its first row. */
export const groupRowsSql = (keys: Schema, from: Code, column: (name: string) => Code): Code =>
  sql`select min("¶") over (${keys.length > 0 ? sql`partition by ${keys.map((field) => column(field.name))}` : code('')}) as "¶", "¶" as was from ${from}`

/** One aggregate; `where` narrows the rows it sees. */
export const measureSql = (
  { how, column: wanted, separator = ', ', order }: Omit<Measure, 'as'>,
  input: Schema,
  column: (name: string) => Code,
  where?: Code,
  // eslint-disable-next-line complexity -- one case for each aggregate
): Code => {
  const type = typeIn(input, wanted) ?? 'integer'
  const cell = wanted === undefined ? code('*') : column(wanted)
  const filter = where ? sql` filter (where ${where})` : code('')
  const filled = sql` filter (where ${where ? sql`${where} and ` : code('')}${cell} is not null)`
  const rows = order ? sql`${sortSql(order, input, column)}, "¶"` : code('"¶"')
  const total = (part: Code): Code =>
    type === 'integer' ? sql`sum(${part})${filter}` : sql`${sqlHelper('exact_sum')}(${part} order by "¶")${filter}`
  switch (how) {
    case 'count':
      return sql`count(*)${filter}`
    case 'filled':
      return sql`count(${cell})${filter}`
    case 'distinct':
      return sql`count(distinct ${cell})${filter}`
    case 'sum':
      return type === 'integer' ? sql`${sqlHelper('whole')}(${total(cell)})` : total(cell)
    case 'mean':
      return sql`(${total(cell)} / nullif(count(${cell})${filter}, 0))::float8`
    case 'deviation':
      return sql`${sqlHelper('deviation_of')}(array_agg(${cell}::float8 order by "¶")${filled})`
    case 'share':
      return type === 'integer'
        ? sql`${sqlHelper('op_divide')}((${total(cell)})::float8, (sum(sum(${cell})) over ())::float8)`
        : sql`${sqlHelper('op_divide')}(${total(cell)}, ${sqlHelper('exact_sum')}(${sqlHelper('exact_sum')}(${cell} order by "¶")) over ())`
    case 'median':
      return sql`percentile_cont(0.5) within group (order by ${cell}::float8)${filter}`
    case 'min':
    case 'max':
      return sql`(array_agg(${cell} order by ${extremeOrder(type, cell, how === 'min' ? 'asc' : 'desc')})${filled})[1]`
    case 'first':
      return sql`(array_agg(${cell} order by ${rows})${filter})[1]`
    case 'last':
      return sql`(array_agg(${cell} order by ${rows})${filter})[(count(*)${filter})::int]`
    case 'list':
      return sql`${sqlHelper('list_of')}(array_agg(${itemSql(type, cell)} order by ${rows})${filled})`
    case 'join':
      return sql`nullif(string_agg(${sqlHelper('shown')}(${cell}), ${separator} order by ${rows})${filter}, '')`
    case 'any':
      return sql`bool_or(${cell})${filter}`
    case 'every':
      return sql`bool_and(${cell})${filter}`
  }
}

/** How, column, name, type and what else there is, as the runtime's measures take them. */
export const measurePython = (
  { how, column, separator, order }: Omit<Measure, 'as'>,
  as: string,
  type: ColumnType,
): Code =>
  py`(${how}, ${how === 'count' ? null : (column ?? null)}, ${as}, ${type}${joined(
    [
      ...(separator === undefined ? [] : [py`"separator": ${separator}`]),
      ...(order ? [py`"order": ${sortPython(order)}`] : []),
    ].map((part, i) => (i === 0 ? py`, {${part}` : py`, ${part}`)),
    '',
  )}${separator !== undefined || order ? code('}') : code('')})`

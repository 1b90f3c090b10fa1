import { z } from 'zod'
import { code, joined, py, sql, type Code } from '../generate/tag.ts'
import { isNumber, type ColumnType } from '../table/column.ts'
import { groupBy, type Groups } from '../table/group.ts'
import { aggregate, hows, type How } from '../table/aggregate.ts'
import type { Field, Schema } from '../table/table.ts'
import { Table } from '../table/table.ts'
import { listed } from '../words.ts'
import { checkColumn, checkSelector, freeName, selected, selectorPython, selectorSchema, selectorWords, type Selector } from './check-columns.ts'
import { name } from './names.ts'
import { defineStep, slot } from './step-kind.ts'

type Measure = { readonly how: How; readonly column?: string | undefined; readonly as: string }
type Summarise = { readonly by: Selector | readonly []; readonly measures: readonly Measure[] }

const bySelector = ({ by }: Summarise): Selector => by
const keysOf = (params: Summarise, input: Schema): Field[] => (params.by instanceof Array && params.by.length === 0 ? [] : [...new Set(selected(bySelector(params), input))])

const typeOf = (how: How, type: ColumnType): ColumnType =>
  how === 'count' || how === 'filled' || how === 'distinct' ? 'integer' : how === 'mean' || how === 'median' ? 'decimal' : how === 'sum' ? (type === 'integer' ? 'integer' : 'decimal') : type

const measureFields = (measures: readonly Measure[], keys: readonly Field[], input: Schema): Field[] => {
  const taken = keys.map((field) => field.name)
  return measures.map(({ how, column, as }) => {
    const free = freeName(as, taken)
    taken.push(free)
    return { name: free, type: typeOf(how, input.find((field) => field.name === column)?.type ?? 'integer') }
  })
}

const howWords: Readonly<Record<How, string>> = { count: 'the count of rows', filled: 'the filled cells of', distinct: 'the different values of', sum: 'the sum of', mean: 'the mean of', median: 'the median of', min: 'the least', max: 'the greatest', first: 'the first', last: 'the last' }
const measureWords = ({ how, column, as }: Measure): string => `${howWords[how]}${how === 'count' ? '' : ` ${column ?? ''}`} as ${as}`

const orderOf = (type: ColumnType, column: Code, way: string): Code => (type === 'text' ? sql`lower_of(${column}) collate "C" ${code(way)}, ${column} collate "C" ${code(way)}` : sql`${column} ${code(way)}`)

const measureSql = ({ how }: Measure, type: ColumnType, cell: Code): Code => {
  switch (how) {
    case 'count':
      return sql`count(*)`
    case 'filled':
      return sql`count(${cell})`
    case 'distinct':
      return sql`count(distinct ${cell})`
    case 'sum':
      return type === 'integer' ? sql`whole(sum(${cell}))` : sql`exact_sum(${cell} order by "¶")`
    case 'mean':
      return type === 'integer' ? sql`(sum(${cell}) / nullif(count(${cell}), 0))::float8` : sql`exact_sum(${cell} order by "¶") / nullif(count(${cell}), 0)`
    case 'median':
      return sql`percentile_cont(0.5) within group (order by ${cell}::float8)`
    case 'min':
    case 'max':
      return sql`(array_agg(${cell} order by ${orderOf(type, cell, how === 'min' ? 'asc' : 'desc')}) filter (where ${cell} is not null))[1]`
    case 'first':
    case 'last':
      return sql`(array_agg(${cell} order by "¶"${code(how === 'last' ? ' desc' : '')}))[1]`
  }
}

export const summarise = defineStep<Summarise>({
  kind: 'summarise',
  verb: 'Summarise',
  words: ['summarise', 'summarize', 'group', 'aggregate', 'total', 'sum', 'count', 'average', 'mean', 'group by', 'pivot', 'subtotal'],
  acts: ['columns', 'table'],
  params: z.strictObject({
    by: z.union([selectorSchema, z.tuple([])]),
    measures: z.array(z.strictObject({ how: z.enum(hows), column: name.optional(), as: name }).refine(({ how, column }) => how === 'count' || column !== undefined, { message: 'this measure needs a column', path: ['column'] })),
  }),
  sentence: (params) => {
    const by = bySelector(params)
    const measures = slot(listed(params.measures.map(measureWords)) || 'nothing else', 'measures', ['measures'])
    return keysWords(by) === '' ? ['Summarise ', slot('all rows', 'columns', ['by']), ': ', measures, '.'] : ['Summarise by ', slot(keysWords(by), 'columns', ['by']), ': ', measures, '.']
  },
  output: (params, input, context) => {
    if (!(params.by instanceof Array && params.by.length === 0)) checkSelector(bySelector(params), input, context, 'by')
    params.measures.forEach(({ how, column }, i) => {
      const field = column === undefined ? undefined : checkColumn(column, input, context, 'measures', i, 'column')
      if (field && (how === 'sum' || how === 'mean' || how === 'median') && !isNumber(field.type)) context.report({ code: 'wrong-type', column: field.name, type: field.type, needs: 'numbers' }, 'measures', i, 'column')
    })
    const keys = keysOf(params, input)
    if (keys.length + params.measures.length === 0) context.report({ code: 'no-columns-left' }, 'measures')
    return [...keys, ...measureFields(params.measures, keys, input)]
  },
  run: (params, table) => {
    const keys = keysOf(params, table.schema)
    const fields = measureFields(params.measures, keys, table.schema)
    const groups: Groups = groupBy(keys.map((field) => table.named(field.name)), table.rowCount)
    const count = keys.length === 0 ? 1 : groups.count
    const keyTable = table.select(keys.map((field) => table.indexOf(field.name))).rows(groups.first)
    const measures = params.measures.map(({ how, column }, i) => aggregate(how, column === undefined || how === 'count' ? undefined : table.named(column), { ...groups, count }, (fields[i] as Field).type))
    const unreadable = measures.flatMap(({ failures }, i) => (failures.length > 0 ? [{ column: (fields[i] as Field).name, rows: failures }] : []))
    return {
      table: Table.of([...keyTable.names, ...fields.map((field) => field.name)], [...keys.map((_, i) => keyTable.column(i)), ...measures.map(({ column }) => column)], count),
      origin: { kind: 'groups', ids: groups.ids },
      unreadable,
      notes: { groups: count },
    }
  },
  carries: (params, input) => Object.fromEntries(keysOf(params, input).map((field) => [field.name, field.name])),
  sql: (params, { from, input, column }) => {
    const keys = keysOf(params, input).map((field) => column(field.name))
    const made = measureFields(params.measures, keysOf(params, input), input)
    const measures = params.measures.map((measure, i) => {
      const type = input.find((field) => field.name === measure.column)?.type ?? 'integer'
      return sql`${measureSql(measure, type, measure.column === undefined ? code('*') : column(measure.column))} as ${column((made[i] as Field).name)}`
    })
    return sql`select coalesce(min("¶"), 1) as "¶", ${joined([...keys, ...measures], ', ')}\nfrom ${from}${keys.length > 0 ? sql`\ngroup by ${keys}` : code('')}`
  },
  python: (params, { frame, input }) => {
    const fields = measureFields(params.measures, keysOf(params, input), input)
    const measures = params.measures.map(({ how, column, as }, i) => py`(${how}, ${how === 'count' ? null : (column ?? null)}, ${as}, ${(fields[i] as Field).type})`)
    return py`${frame} = summarise(${frame}, by=${keysWords(bySelector(params)) === '' ? py`[]${code('')}` : selectorPython(bySelector(params), frame)}, measures=[${joined(measures, ', ')}])`
  },
  takesIn: (params, column, input) => keysOf(params, input).some((field) => field.name === column),
})

const keysWords = (by: Selector): string => (Array.isArray(by) && by.length === 0 ? '' : selectorWords(by))

import { measureSources } from '../shared/trace-measures.ts'
import { orderOf } from '../shared/sort-keys.ts'
import { z } from 'zod'
import { code, joined, lines, py, sql, pyHelper, type Code } from '../../codegen/tag.ts'
import { groupRows } from '../../table/group.ts'
import { Table, type Field, type Schema } from '../../table/table.ts'
import { listed } from '../../messages/words.ts'
import { bySchema, byWords, checkBy, keysOf, selectorPython, type GroupKeys } from '../shared/columns.ts'
import {
  checkMeasure,
  countAndTotals,
  measureFields,
  measurePython,
  measureSchema,
  groupRowsSql,
  measureSql,
  measureWords,
  runMeasures,
  type Measure,
} from '../shared/measures.ts'
import { keepsKeys, namedArgument, pandasAggregate, pandasTypes } from '../shared/pandas.ts'
import { defineStep, slot } from '../shared/step-kind.ts'
import { measuresOf } from '../shared/draft-values.ts'

type Summarise = { readonly by: GroupKeys; readonly measures: readonly Measure[] }

const layout = ({ by, measures }: Summarise, input: Schema): { keys: Field[]; made: Field[] } => {
  const keys = keysOf(by, input)
  return { keys, made: measureFields(measures, keys, input) }
}

/** Names that `agg` takes as its own. */
const namesOfAgg = new Set(['func', 'engine', 'engine_kwargs'])
/** Each figure as pandas' `agg` takes it: the column and what becomes of it; fewer than there are where it would not give the same. */
const pandasFigures = (measures: readonly Measure[], input: Schema, key: Field): Code[] =>
  measures.flatMap(({ how, column, as, order }) => {
    const type = input.find((field) => field.name === column)?.type
    const way = pandasAggregate(how, type)
    return order || namesOfAgg.has(as) || !way ? [] : [py`(${how === 'count' ? key.name : (column ?? null)}, ${way})`]
  })
/** Figures as columns of their types. */
const wholeColumns = (frame: Code, made: readonly Field[]): Code => {
  const typed = made.flatMap(({ name, type }) => (pandasTypes[type] ? [py`${name}: ${pandasTypes[type]}`] : []))
  const rows = py`${frame} = ${frame}.reset_index()${typed.length > 0 ? py`.astype({${joined(typed, ', ')}})` : code('')}`
  const objects = made.filter(({ type }) => !pandasTypes[type]).map(({ name }) => name)
  return lines(rows, objects.length > 0 ? py`${frame} = ${pyHelper('as_objects')}(${frame}, ${objects})` : undefined)
}

/** A row a group, with measures. */
export const summarise = defineStep<Summarise>({
  reshapes: true,
  dropsUnnamed: true,
  groupsByNone: true,
  kind: 'summarise',
  verb: 'Summarise',
  words: [
    'summarise',
    'summarize',
    'group',
    'aggregate',
    'total',
    'sum',
    'count',
    'average',
    'mean',
    'group by',
    'subtotal',
    'collect',
    'list of',
  ],
  params: z.strictObject({ by: bySchema, measures: z.array(measureSchema) }),
  drafts: {
    table: ({ schema }) => {
      const all = schema.map(({ name }) => name)
      const numbers = measuresOf(all, schema)
      const by = all.filter((name) => !numbers.includes(name)).slice(0, 1)
      return [{ rank: 30, params: { by, measures: [{ how: 'count', as: 'Rows' }] } }]
    },
    columns: ({ columns, schema }) => {
      const numbers = measuresOf(columns, schema)
      const keys = columns.filter((name) => !numbers.includes(name))
      if (keys.length > 0)
        return [
          {
            rank: 280,
            verb: `Summarise by ${columns.length === 1 ? 'this column' : 'these columns'}`,
            params: { by: keys, measures: countAndTotals(numbers, keys) },
          },
        ]
      const totals = numbers.map((column) => ({ how: 'sum' as const, column, as: `Total ${column}` }))
      return [{ rank: 280, verb: 'Total', params: { by: [], measures: totals } }]
    },
  },
  sentence: ({ by, measures }) => {
    const reported = slot(listed(measures.map(measureWords)) || 'nothing else', 'measures', ['measures'])
    return byWords(by) === ''
      ? ['Summarise ', slot('all rows', 'columns', ['by']), ': ', reported, '.']
      : ['Summarise by ', slot(byWords(by), 'columns', ['by']), ': ', reported, '.']
  },
  output: (params, input, context) => {
    checkBy(params.by, input, context, 'by')
    params.measures.forEach((measure, i) => checkMeasure(measure, input, context, 'measures', i))
    const { keys, made } = layout(params, input)
    if (keys.length + made.length === 0) context.report({ code: 'no-columns-left' }, 'measures')
    return [...keys, ...made]
  },
  run: (params, table) => {
    const { keys, made } = layout(params, table.schema)
    const found = groupRows(
      table,
      keys.map(({ name }) => name),
    )
    // of no rows too there is a row of all
    const groups = keys.length === 0 ? { ...found, count: 1 } : found
    const types = made.map(({ type }) => type)
    // before anybody asks for the groups, which are counted with their totals
    const measures = runMeasures(params.measures, table, groups, types)
    const { count } = groups
    const keyTable = table.select(keys.map((field) => table.positionOf(field.name))).rows(groups.first)
    const unreadable = measures.flatMap(({ failures }, i) =>
      failures.length > 0 ? [{ column: (made[i] as Field).name, rows: failures }] : [],
    )
    return {
      table: Table.of(
        [...keyTable.names, ...made.map((field) => field.name)],
        [...keys.map((_, i) => keyTable.column(i)), ...measures.map(({ column }) => column)],
        count,
      ),
      lineage: { kind: 'groups', groups },
      unreadable,
      notes: { groups: count },
    }
  },
  trace: {
    cells: (params, { before, lineage }, column, rows) => {
      const { keys, made } = layout(params, before.schema)
      const measure = params.measures[made.findIndex((field) => field.name === column)]
      if (lineage.kind !== 'groups' || keys.some((field) => field.name === column) || !measure) return undefined
      const order = measure.order ? orderOf(measure.order, before) : undefined
      return measureSources(before, measure, rows, lineage.groups.ids, order)
    },
  },
  columnLineage: (params, input) =>
    Object.fromEntries(keysOf(params.by, input).map((field) => [field.name, field.name])),
  scripts: {
    sql: (params, { from, input, column }) => {
      const { keys, made } = layout(params, input)
      const names = keys.map((field) => column(field.name))
      const measures = params.measures.map(
        (measure, i) => sql`${measureSql(measure, input, column)} as ${column((made[i] as Field).name)}`,
      )
      return sql`select coalesce(min("¶"), 1) as "¶", ${joined([...names, ...measures], ', ')}\nfrom ${from}${names.length > 0 ? sql`\ngroup by ${names}` : code('')}`
    },
    sqlRows: ({ by }, { from, input, column }) => [{ rows: groupRowsSql(keysOf(by, input), from, column) }],
    spark: 'table',
    python: (params, { frame, input, plain }) => {
      const { keys, made } = layout(params, input)
      const figures =
        plain && Array.isArray(params.by) && keys.length > 0 && keepsKeys(keys)
          ? pandasFigures(params.measures, input, keys[0] as Field)
          : []
      if (figures.length === made.length && made.length > 0)
        return lines(
          py`${frame} = ${frame}.groupby(${keys.map(({ name }) => name)}, sort=False, dropna=False).agg(`,
          ...figures.map((figure, i) => py`    ${namedArgument((made[i] as Field).name, figure)},`),
          code(')'),
          wholeColumns(frame, made),
        )
      const measures = params.measures.map((measure, i) => measurePython(measure, measure.as, (made[i] as Field).type))
      return py`${frame} = ${pyHelper('summarise')}(${frame}, by=${byWords(params.by) === '' ? py`[]${code('')}` : selectorPython(params.by, frame)}, measures=[${joined(measures, ', ')}])`
    },
  },
  absorbs: ({ by }, column, input) => keysOf(by, input).some((field) => field.name === column),
})

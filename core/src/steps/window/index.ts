import { windowSources } from './trace.ts'
import { z } from 'zod'
import { code, joined, py, sql, type Code, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { kernels } from '../../kernels/kernels.ts'

import { columnWriter, isNullAt, type Column, type ColumnType, type FloatColumn } from '../../table/column.ts'
import { gather, layOut, sliceRows } from '../../table/gather.ts'
import { groupRows } from '../../table/group.ts'
import type { Groups } from '../../kernels/table-kernels.ts'
import { bitmap, isSet, set, float64s, IntList, int32s } from '../../kernels/memory.ts'
import { maxInteger } from '../../table/number.ts'
import type { Field, Table } from '../../table/table.ts'
import { listed } from '../../messages/words.ts'
import {
  bySchema,
  byWords,
  checkBy,
  checkPlace,
  keysOf,
  placePython,
  placeSchema,
  positionFor,
  selectColumns,
  selectorPython,
} from '../shared/columns.ts'
import { checkMeasure, howWords, measureSql, runMeasure } from '../shared/measures.ts'
import { name } from '../../reading/name-schema.ts'
import {
  checkSortKeys,
  orderOf,
  sortKeysSchema,
  sortPython,
  sortSql,
  sortWords,
  type SortKeyParams,
} from '../shared/sort-keys.ts'
import { defineStep, slot } from '../shared/step-kind.ts'
import { byOf, fieldsOf, needsNone, windowHows, type Window, type WindowHow, type WindowMeasure } from './layout.ts'
import { plainWindow } from './plain-python.ts'

const windowWords: Readonly<Record<WindowHow, string>> = {
  ...howWords,
  share: 'the share in its group of',
  'running-sum': 'the running sum of',
  rank: 'the rank',
  'dense-rank': 'the rank without gaps',
  'row-number': 'the number of the row',
  previous: 'the previous',
  next: 'the next',
}
type Walk = {
  readonly groups: Groups
  /** Rows in order; groups are taken one row at a time as they come. */ readonly order: Int32Array
  /** Rows equal in all keys share a number. */ readonly ties: Uint32Array | undefined
}

/** The groups and the order of rows that the measures go by. */
const walkOf = (params: Window, table: Table): Walk => {
  const groups = groupRows(
    table,
    keysOf(byOf(params), table.schema).map(({ name }) => name),
  )
  const order = params.order ? orderOf(params.order, table) : sliceRows(table.rowCount)
  const ties = params.order
    ? groupRows(
        table,
        params.order.map(({ column }) => column),
      ).ids
    : undefined
  return { groups, order, ties }
}

/** What the rows of a measure are found by. */
const walkedFor = ({ how, offset = 1 }: WindowMeasure, walk: Walk) => {
  const isNeighbour = how === 'previous' || how === 'next'
  return { ...walk, neighbours: isNeighbour ? neighbours(walk, how === 'previous' ? offset : -offset) : undefined }
}

/** 1 1 3 for ties, or 1 1 2 without gaps. */
const ranks = ({ groups, order, ties }: Walk, dense: boolean): Column => {
  const values = float64s(order.length)
  const seen = int32s(groups.count)
  const last = int32s(groups.count).fill(-1)
  const rank = int32s(groups.count)
  const { ids } = groups
  for (let k = 0, n = order.length; k < n; k++) {
    const row = order[k]!
    const g = ids[row]!
    seen[g] = seen[g]! + 1
    const tie = ties ? ties[row]! : 0
    if (last[g] !== tie || seen[g] === 1) rank[g] = dense ? rank[g]! + 1 : seen[g]!
    last[g] = tie
    values[row] = rank[g]!
  }
  return { type: 'integer', values, nulls: undefined }
}
const numbers = ({ groups, order }: Walk): Column => {
  const values = float64s(order.length)
  const seen = int32s(groups.count)
  const { ids } = groups
  for (let k = 0, n = order.length; k < n; k++) {
    const row = order[k]!
    const g = ids[row]!
    seen[g] = seen[g]! + 1
    values[row] = seen[g]!
  }
  return { type: 'integer', values, nulls: undefined }
}

/** The row that stands so many places before (or, negative, after) each within its group; -1 where none does. */
const neighbours = ({ groups, order }: Walk, offset: number): Int32Array => {
  const lists: number[][] = Array.from({ length: groups.count }, () => [])
  for (const row of order) lists[groups.ids[row]!]?.push(row)
  const index = int32s(order.length).fill(-1)
  for (const rows of lists) for (let k = 0; k < rows.length; k++) index[rows[k]!] = rows[k - offset] ?? -1
  return index
}

/** Row by row in the order, empties passed over; compensated as sums are. */
const running = (
  column: FloatColumn,
  { groups, order }: Walk,
  type: ColumnType,
): { column: Column; failures: Int32Array } => {
  const sum = float64s(groups.count)
  const lost = float64s(groups.count)
  const begun = int32s(groups.count)
  const values = float64s(order.length)
  const empty = bitmap(order.length)
  const failures = new IntList()
  const limit = type === 'integer' ? maxInteger : Number.MAX_VALUE
  const { ids } = groups
  let anyEmpty = false
  for (let k = 0, n = order.length; k < n; k++) {
    const row = order[k]!
    const g = ids[row]!
    if (!isSet(column.nulls, row)) {
      const x = column.values[row]!
      const s = sum[g]!
      const t = s + x
      lost[g] = lost[g]! + (Math.abs(s) >= Math.abs(x) ? s - t + x : x - t + s)
      sum[g] = t
      begun[g] = 1
    }
    const value = sum[g]! + lost[g]!
    if (begun[g] === 1 && Math.abs(value) <= limit) {
      values[row] = value === 0 ? 0 : value
      continue
    }
    anyEmpty = true
    set(empty, row)
    if (begun[g] === 1) failures.push(row)
  }
  return {
    column: { type: type === 'integer' ? type : 'decimal', values, nulls: anyEmpty ? empty : undefined },
    failures: failures.done().sort(),
  }
}

/** Each row's value over the sum of its group. */
const shares = (column: FloatColumn, { ids, count }: Groups): { column: Column; failures: Int32Array } => {
  const totals = kernels().groupTotals([column], ids, count)[0]!.sums
  const writer = columnWriter('decimal', ids.length)
  const failures = new IntList()
  for (let i = 0; i < ids.length; i++) {
    if (isNullAt(column, i)) continue
    const total = totals[ids[i]!]!
    if (total === 0) failures.push(i)
    else writer.set(i, column.values[i]! / total)
  }
  return { column: writer.done(), failures: failures.done() }
}

const figureFor = (
  measure: WindowMeasure,
  table: Table,
  walk: Walk,
  order: readonly SortKeyParams[] | undefined,
  type: ColumnType,
): { column: Column; failures: Int32Array } => {
  const { how, column, offset = 1 } = measure
  const whole = (made: Column): { column: Column; failures: Int32Array } => ({ column: made, failures: int32s(0) })
  if (how === 'rank' || how === 'dense-rank') return whole(ranks(walk, how === 'dense-rank'))
  if (how === 'row-number') return whole(numbers(walk))
  const from = column === undefined ? undefined : table.named(column)
  if (how === 'previous' || how === 'next')
    return whole(gather(from as Column, neighbours(walk, how === 'previous' ? offset : -offset)))
  if (how === 'running-sum') return running(from as FloatColumn, walk, type)
  if (how === 'share') return shares(from as FloatColumn, walk.groups)
  const { column: perGroup, failures } = runMeasure(
    { how, column, separator: measure.separator, ...((how === 'first' || how === 'last') && order ? { order } : {}) },
    table,
    walk.groups,
    type,
  )
  const bad = new Set(failures)
  return {
    column: layOut(perGroup, walk.groups.ids),
    failures:
      bad.size === 0
        ? failures
        : Int32Array.from(walk.groups.ids.keys()).filter((row) => bad.has(walk.groups.ids[row]!)),
  }
}

const measureText = ({ how, column, as, offset = 1 }: WindowMeasure): string =>
  `${offset === 1 || !(how === 'previous' || how === 'next') ? windowWords[how] : `${windowWords[how]}, ${offset} away,`}${column === undefined || needsNone(how) ? '' : ` ${column}`} as ${as}`

/** Measures of a row’s group beside each row. */
export const window = defineStep<Window>({
  groupsByNone: true,
  kind: 'window',
  verb: 'Put a figure of its group beside every row…',
  words: [
    'window',
    'running total',
    'cumulative',
    'rank',
    'previous',
    'next',
    'lag',
    'lead',
    'share of total',
    'percent of total',
    'group total',
    'beside',
    'partition',
    'over',
    'first',
    'latest',
  ],
  params: z.strictObject({
    by: bySchema.optional(),
    order: sortKeysSchema.optional(),
    measures: z
      .array(
        z
          .strictObject({
            how: z.enum(windowHows),
            column: name.optional(),
            as: name,
            offset: z.number().int().min(1).optional(),
            separator: z.string().optional(),
          })
          .refine(({ how, column }) => needsNone(how) || column !== undefined, {
            message: 'this measure needs a column',
            path: ['column'],
          }),
      )
      .min(1),
    ...placeSchema,
  }),
  drafts: {
    table: ({ schema }) => {
      const key = schema.find(({ type }) => type !== 'integer' && type !== 'decimal')
      return [{ rank: 130, params: { by: key ? [key.name] : [], measures: [{ how: 'count', as: 'Rows of it' }] } }]
    },
  },
  sentence: ({ by = [], order, measures }) => [
    'Beside every row put ',
    slot(listed(measures.map(measureText)), 'windowMeasures', ['measures']),
    ', ',
    ...(byWords(by) === ''
      ? ['over ', slot('all rows', 'columns', ['by'])]
      : ['for each ', slot(byWords(by), 'columns', ['by'])]),
    ...(order ? [', by ', slot(sortWords(order), 'sortKeys', ['order'])] : []),
    '.',
  ],
  output: (params, input, context) => {
    checkBy(byOf(params), input, context, 'by')
    if (params.order) checkSortKeys(params.order, input, context, 'order')
    params.measures.forEach((measure, i) => checkMeasure(measure, input, context, 'measures', i))
    checkPlace(params, input, context)
    const at = positionFor(
      params,
      input.map((field) => field.name),
    )
    return [...input.slice(0, at), ...fieldsOf(params, input), ...input.slice(at)]
  },
  run: (params, table) => {
    const fields = fieldsOf(params, table.schema)
    const walk = walkOf(params, table)
    const { groups } = walk
    const at = positionFor(params, table.names)
    let result = table
    const unreadable: { column: string; rows: Int32Array }[] = []
    params.measures.forEach((measure, i) => {
      const field = fields[i] as Field
      const { column, failures } = figureFor(measure, table, walk, params.order, field.type)
      result = result.with(at + i, field.name, column)
      if (failures.length > 0) unreadable.push({ column: field.name, rows: failures })
    })
    return { table: result, lineage: { kind: 'same' }, unreadable, notes: { groups: groups.count } }
  },
  trace: {
    cells: (params, { before }, column, rows) => {
      const measure = params.measures[fieldsOf(params, before.schema).findIndex(({ name: made }) => made === column)]
      return measure ? windowSources(measure, before, walkedFor(measure, walkOf(params, before)), rows) : undefined
    },
  },
  scripts: {
    sql: (params, context) => {
      const { from, input, column } = context
      const keys = keysOf(byOf(params), input).map((field) => column(field.name))
      const fields = fieldsOf(params, input)
      const by = params.order ? sql`${sortSql(params.order, input, column)}, ` : code('')
      const rows = sql`(partition by "¶g" order by ${by}"¶" rows unbounded preceding)`
      const ties = sql`(partition by "¶g"${params.order ? sql` order by ${sortSql(params.order, input, column)}` : code('')})`
      const grouped: Code[] = []
      // eslint-disable-next-line complexity -- one case for each window function
      const parts = params.measures.map((measure, i): Code => {
        const { how, column: wanted, offset = 1, separator } = measure
        const cell = wanted === undefined ? code('') : column(wanted)
        const type = input.find((field) => field.name === wanted)?.type
        const figure = (inner: Code): Code => {
          grouped.push(sql`${inner} as ${code(`"¶m${i}"`)}`)
          return code(`g."¶m${i}"`)
        }
        if (how === 'rank' || how === 'dense-rank')
          return sql`${code(how === 'rank' ? 'rank' : 'dense_rank')}() over ${ties}`
        if (how === 'row-number') return sql`row_number() over ${rows}`
        if (how === 'previous' || how === 'next')
          return sql`${code(how === 'previous' ? 'lag' : 'lead')}(${cell}, ${offset}) over (partition by "¶g" order by ${by}"¶")`
        if (how === 'running-sum')
          return type === 'integer'
            ? sql`${sqlHelper('whole')}(sum(${cell}) over ${rows})`
            : sql`${sqlHelper('exact_sum')}(${cell}) over ${rows}`
        if (how === 'share')
          return sql`${sqlHelper('op_divide')}(${cell}::float8, (${figure(type === 'integer' ? sql`sum(${cell})` : sql`${sqlHelper('exact_sum')}(${cell} order by "¶")`)})::float8)`
        return figure(
          measureSql(
            {
              how,
              column: wanted,
              separator,
              ...((how === 'first' || how === 'last') && params.order ? { order: params.order } : {}),
            },
            input,
            column,
          ),
        )
      })
      const made = Object.fromEntries(fields.map((field, i) => [field.name, parts[i] as Code]))
      const numbered = sql`with rows_of as (select *, ${keys.length > 0 ? sql`dense_rank() over (order by ${keys})` : code('1')} as "¶g" from ${from})`
      const source =
        grouped.length > 0
          ? sql`rows_of t join (select "¶g", ${grouped} from rows_of group by "¶g") g using ("¶g")`
          : code('rows_of t')
      return sql`${numbered}\n${selectColumns({ ...context, from: source }, made)}`
    },
    spark: 'table',
    python: (params, context) => {
      const { frame, input } = context
      const fields = fieldsOf(params, input)
      const plain = plainWindow(params, fields, context)
      if (plain) return plain
      const measures = params.measures.map(({ how, column, as, offset, separator }, i) => {
        const more = [
          ...(offset === undefined ? [] : [py`"offset": ${offset}`]),
          ...(separator === undefined ? [] : [py`"separator": ${separator}`]),
        ]
        return py`(${how}, ${needsNone(how) ? null : (column ?? null)}, ${as}, ${(fields[i] as Field).type}, {${joined(more, ', ')}})`
      })
      return py`${frame} = ${pyHelper('window')}(${frame}, ${byWords(byOf(params)) === '' ? code('[]') : selectorPython(byOf(params), frame)}, ${params.order ? sortPython(params.order) : code('None')}, [${joined(measures, ', ')}]${placePython(params)})`
    },
  },
  absorbs: (params, column, input) => keysOf(byOf(params), input).some((field) => field.name === column),
})

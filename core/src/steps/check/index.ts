import { figure } from '../../messages/words.ts'
import { plainFigure } from '../shared/statistics.ts'
import { z } from 'zod'
import { code, joined, psql, py, sql, type Code, sqlHelper, pyHelper, sparkHelper } from '../../codegen/tag.ts'
import { kernels } from '../../kernels/kernels.ts'
import { isNumber } from '../../table/column.ts'
import { groupRows } from '../../table/group.ts'
import { IntList, uint32s } from '../../kernels/memory.ts'
import { formatDecimal } from '../../table/number.ts'
import type { Schema, Table } from '../../table/table.ts'
import {
  typeIn,
  checkColumn,
  checkSelector,
  inTable,
  selectColumns,
  selected,
  selectorPython,
  selectorSchema,
  selectorWords,
  type Selector,
} from '../shared/columns.ts'
import { checkCondition, conditionSchema, conditionWords, type Condition } from '../shared/condition.ts'
import { conditionPython, conditionSql } from '../shared/condition-code.ts'
import { evaluateCondition } from '../shared/condition-run.ts'
import { name } from '../../reading/name-schema.ts'
import {
  defineStep,
  slot,
  type CheckContext,
  type CheckResult,
  type PythonContext,
  type RunContext,
  type TableNames,
} from '../shared/step-kind.ts'
import { numbersOf, valueOfText } from '../shared/draft-values.ts'

type Limits = { readonly 'at-least'?: number | undefined; readonly 'at-most'?: number | undefined }
type TotalAsked = {
  readonly column: string
  readonly equals: number | { readonly table: string; readonly column: string }
  readonly within?: number | undefined
}
type Assertion =
  | { readonly every: Condition }
  | { readonly unique: Selector }
  | { readonly rows: Limits }
  | { readonly total: TotalAsked }
  | { readonly share: { readonly where: Condition } & Limits }
type Check = Assertion & { readonly else: 'warn' | 'stop'; readonly say: string }

const within = (value: number, limits: Limits): boolean =>
  value >= (limits['at-least'] ?? -Infinity) && value <= (limits['at-most'] ?? Infinity)
const limitWords = (limits: Limits, show: (n: number) => string = String): string => {
  const [least, most] = [limits['at-least'], limits['at-most']]
  if (least !== undefined && most !== undefined)
    return least === most ? show(least) : `between ${show(least)} and ${show(most)}`
  if (least !== undefined) return `at least ${show(least)}`
  if (most !== undefined) return `at most ${show(most)}`
  return 'any number'
}
const percent = (share: number): string => `${formatDecimal(share * 100)} %`

const askedWords = (asked: Assertion, names: TableNames): string => {
  if ('every' in asked) return `every row meets: ${conditionWords(asked.every)}`
  if ('unique' in asked) return `no two rows are alike in ${selectorWords(asked.unique)}`
  if ('rows' in asked) return `the number of rows is ${limitWords(asked.rows)}`
  if ('total' in asked)
    return `the total of ${asked.total.column} is ${typeof asked.total.equals === 'number' ? formatDecimal(asked.total.equals) : `that of ${asked.total.equals.column} in ${names(asked.total.equals.table)}`}`
  return `the share of rows where ${conditionWords(asked.share.where)} is ${limitWords(asked.share, percent)}`
}

const totalOf = (table: Table, column: string): number => {
  const from = table.named(column)
  if (from.type !== 'integer' && from.type !== 'decimal') throw new Error(`total of ${from.type}`)
  return kernels().groupTotals([from], uint32s(table.rowCount), 1)[0]?.sums[0] ?? 0
}

const rowsWhere = (mask: Uint8Array, value: 0 | 1): Int32Array => {
  const rows = new IntList()
  for (let i = 0; i < mask.length; i++) if (mask[i] === value) rows.push(i)
  return rows.done()
}

/** The figure that is reported, whether it will do, and the rows against it. */
const evaluateCheck = (
  asked: Assertion,
  table: Table,
  context: RunContext,
): Pick<CheckResult, 'passed' | 'figure' | 'against'> => {
  if ('every' in asked) {
    const against = rowsWhere(evaluateCondition(asked.every, table, context), 0)
    return { passed: against.length === 0, figure: against.length, against }
  }
  if ('unique' in asked) {
    const { ids, count } = groupRows(
      table,
      selected(asked.unique, table.schema).map(({ name }) => name),
    )
    const held = new Uint32Array(count)
    for (const id of ids) held[id] = held[id]! + 1
    const against = rowsWhere(
      Uint8Array.from(ids, (id) => (held[id]! > 1 ? 1 : 0)),
      1,
    )
    return { passed: against.length === 0, figure: against.length, against }
  }
  if ('rows' in asked) return { passed: within(table.rowCount, asked.rows), figure: table.rowCount }
  if ('total' in asked) {
    const { column, equals, within: reach = 0.005 } = asked.total
    const figure = totalOf(table, column)
    const wanted =
      typeof equals === 'number'
        ? equals
        : totalOf(equals.table === context.own ? table : context.table(equals.table), equals.column)
    return { passed: Math.abs(figure - wanted) <= reach, figure }
  }
  const mask = evaluateCondition(asked.share.where, table, context)
  const share = table.rowCount === 0 ? 0 : mask.reduce((sum, one) => sum + one, 0) / table.rowCount
  return { passed: within(share, asked.share), figure: share, against: rowsWhere(mask, 1) }
}

const checkNumber = (column: string, schema: Schema, context: CheckContext, ...path: (string | number)[]): void => {
  const field = checkColumn(column, schema, context, ...path)
  if (field && !isNumber(field.type))
    context.report({ code: 'wrong-type', column, type: field.type, needs: 'numbers' }, ...path)
}

const limits = { 'at-least': z.number().optional(), 'at-most': z.number().optional() }
const common = { else: z.enum(['warn', 'stop']), say: z.string() }

/** SQL that gives passed and figure in one row. */
const checkSql = (
  asked: Assertion,
  rows: Code,
  input: Schema,
  {
    column,
    table,
    conditionOf,
    own,
  }: {
    column: (name: string) => Code
    table: (id: string) => { rows: Code; columns: Schema }
    conditionOf: (condition: Condition) => Code
    own: string
  },
): Code => {
  const bounds = (figure: Code, { 'at-least': least, 'at-most': most }: Limits): Code =>
    joined(
      [
        ...(least === undefined ? [] : [sql`${figure} >= ${least}`]),
        ...(most === undefined ? [] : [sql`${figure} <= ${most}`]),
        code('true'),
      ],
      ' and ',
    )
  if ('every' in asked)
    return sql`select count(*) = 0 as passed, count(*)::float8 as figure from ${rows} where not (${conditionOf(asked.every)})`
  if ('unique' in asked)
    return sql`select coalesce(sum(n), 0) = 0 as passed, coalesce(sum(n), 0)::float8 as figure from (select count(*) as n from ${rows} group by ${selected(asked.unique, input).map((field) => column(field.name))} having count(*) > 1) g`
  if ('rows' in asked)
    return sql`select ${bounds(code('count(*)'), asked.rows)} as passed, count(*)::float8 as figure from ${rows}`
  if ('total' in asked) {
    const { column: wanted, equals, within: reach = 0.005 } = asked.total
    const total = (from: Code, schema: Schema, one: string): Code =>
      schema.find((field) => field.name === one)?.type === 'integer'
        ? sql`(select coalesce(sum(${column(one)}), 0)::float8 from ${from})`
        : sql`(select coalesce(${sqlHelper('exact_sum')}(${column(one)} order by "¶"), 0) from ${from})`
    const mine = total(rows, input, wanted)
    const chooseOther = () => {
      if (typeof equals === 'number') return sql`${equals}::float8`
      if (equals.table === own) return total(rows, input, equals.column)
      return total(table(equals.table).rows, table(equals.table).columns, equals.column)
    }
    const other = chooseOther()
    return sql`select abs(${mine} - ${other}) <= ${reach} as passed, ${mine} as figure`
  }
  const share = sql`coalesce((count(*) filter (where ${conditionOf(asked.share.where)}))::float8 / nullif(count(*), 0), 0)`
  return sql`select ${bounds(share, asked.share)} as passed, ${share} as figure from ${rows}`
}

/** A draft warns, in words that are not written yet. */
const warning = { else: 'warn' as const, say: '' }

const boundsPython = (limits: Limits): Code[] => [
  ...(limits['at-least'] === undefined ? [] : [py`at_least=${limits['at-least']}`]),
  ...(limits['at-most'] === undefined ? [] : [py`at_most=${limits['at-most']}`]),
]

/** A total, and its bounds: that of another column or a number, give or take. */
const totalsPython = (
  { column, equals, within: reach = 0.005 }: TotalAsked,
  frame: Code,
  own: string,
  table: (id: string) => { readonly frame: Code },
): Code[] => {
  const other =
    typeof equals === 'number'
      ? py`${equals}`
      : py`${pyHelper('total_of')}(${equals.table === own ? frame : table(equals.table).frame}, ${equals.column})`
  return [
    py`${pyHelper('total_of')}(${frame}, ${column})`,
    py`at_least=${other} - ${reach}`,
    py`at_most=${other} + ${reach}`,
  ]
}

/** How rows are counted: all of them, those for which a condition holds, those that share their values with another. */
type PythonCounts = {
  readonly rows: Code
  readonly where: (condition: Condition) => Code
  readonly repeated: (names: Code) => Code
}
/** A check as a call of Python, by the way in which rows are counted. */
const checkPython = (params: Check, context: PythonContext, { rows, where, repeated }: PythonCounts): Code => {
  const { frame, table, own, names } = context
  const say = py`${params.say || askedWords(params, names)}`
  const call = (...args: Code[]): Code =>
    py`${pyHelper('check_rows')}(${joined([say, ...args, py`stop_here=${params.else === 'stop'}`], ', ')})`
  if ('every' in params) return call(where({ not: params.every }), py`at_most=0`)
  if ('unique' in params) return call(repeated(selectorPython(params.unique, frame)), py`at_most=0`)
  if ('rows' in params) return call(rows, ...boundsPython(params.rows))
  if ('share' in params) return call(py`${where(params.share.where)} / max(1, ${rows})`, ...boundsPython(params.share))
  return call(...totalsPython(params.total, frame, own, table))
}

/** Holds rows against an expectation; warns, or stops the run. */
export const check = defineStep<Check>({
  figures: ({ check: result, notes }) => {
    if (!result) return []
    if (result.passed) return [{ text: '✓ holds', tone: 'added', only: 'all' }]
    return [
      { text: '✗ does not hold', tone: 'removed', only: notes.against ? 'against' : 'all' },
      ...(result.figure === null ? [] : [plainFigure(figure(Number(result.figure.toPrecision(6))))]),
    ]
  },
  kind: 'check',
  verb: 'Check that…',
  words: ['check', 'test', 'assert', 'validate', 'quality', 'unique', 'must', 'rule', 'reconcile', 'control total'],
  params: z.union([
    z.strictObject({ every: conditionSchema, ...common }),
    z.strictObject({ unique: selectorSchema, ...common }),
    z.strictObject({ rows: z.strictObject(limits), ...common }),
    z.strictObject({
      total: z.strictObject({
        column: name,
        equals: z.union([z.number(), z.strictObject({ table: z.string().min(1), column: name })]),
        within: z.number().min(0).optional(),
      }),
      ...common,
    }),
    z.strictObject({ share: z.strictObject({ where: conditionSchema, ...limits }), ...common }),
  ]),
  drafts: {
    table: () => [{ rank: 140, params: { rows: { 'at-least': 1 }, ...warning } }],
    columns: ({ columns, schema }) => {
      const [first = '', ...more] = columns
      const [number] = numbersOf(columns, schema)
      return [
        {
          rank: 220,
          verb: more.length === 0 ? 'Check that no value repeats' : 'Check that no combination repeats',
          params: { unique: columns, ...warning },
        },
        ...(more.length === 0
          ? [
              {
                rank: 230,
                verb: 'Check that it is always filled',
                params: { every: { column: first, op: 'is-filled' as const }, ...warning },
              },
            ]
          : []),
        ...(number === undefined
          ? []
          : [{ rank: 240, verb: 'Check its total', params: { total: { column: number, equals: 0 }, ...warning } }]),
      ]
    },
    cell: ({ column, value, schema }) => {
      const type = typeIn(schema, column)
      if (value === null || type === 'list') return []
      const every = { column, op: 'is-not' as const, value: valueOfText(value, type) }
      return [{ rank: 7, verb: 'Check that no row holds it', params: { every, ...warning } }]
    },
  },
  sentence: (params, names) => [
    'Check that ',
    slot(askedWords(params, names), 'check', []),
    ', else ',
    slot(
      params.else === 'stop' ? 'stop' : 'warn',
      'choice',
      ['else'],
      [
        ['warn', 'warn'],
        ['stop', 'stop'],
      ],
    ),
    ...(params.say === '' ? ['.'] : [': ', slot(params.say, 'text', ['say']), '.']),
  ],
  uses: (params) => ('total' in params && typeof params.total.equals === 'object' ? [params.total.equals.table] : []),
  output: (params, input, context) => {
    if ('every' in params) checkCondition(params.every, input, context, 'every')
    else if ('unique' in params) checkSelector(params.unique, input, context, 'unique')
    else if ('share' in params) checkCondition(params.share.where, input, context, 'share', 'where')
    else if ('total' in params) {
      checkNumber(params.total.column, input, context, 'total', 'column')
      const { equals } = params.total
      if (typeof equals === 'object')
        checkNumber(
          equals.column,
          context.tableColumns(equals.table),
          inTable(context, equals.table),
          'total',
          'equals',
          'column',
        )
    }
    return input
  },
  run: (params, table, context) => {
    const judged = evaluateCheck(params, table, context)
    return {
      table,
      lineage: { kind: 'same' },
      check: { ...judged, stop: params.else === 'stop', say: params.say || askedWords(params, context.names) },
      notes: { against: judged.against?.length ?? 0 },
    }
  },
  scripts: {
    sql: (params, context) => {
      const judged = checkSql(params, context.from, context.input, {
        column: context.column,
        table: context.table,
        own: context.own,
        conditionOf: (condition) => conditionSql(condition, context),
      })
      const after = sql`select ${sqlHelper('check_holds')}(passed, figure, ${params.say || askedWords(params, context.names)}, ${params.else === 'stop'}) as ignored from (${judged}) judged ${psql('gset')}\n`
      return { body: selectColumns(context), after }
    },
    spark: (params, context) =>
      checkPython(params, context, {
        rows: py`${sparkHelper('row_count')}(${context.frame})`,
        where: (condition) =>
          py`${sparkHelper('rows_where')}(${context.frame}, lambda ${context.frame}: ${conditionPython(condition, context)})`,
        repeated: (names) => py`${sparkHelper('repeated_rows')}(${context.frame}, ${names})`,
      }),
    python: (params, context) =>
      checkPython(params, context, {
        rows: py`len(${context.frame})`,
        where: (condition) => py`(${conditionPython(condition, context)}).sum()`,
        repeated: (names) => py`${context.frame}.duplicated(subset=${names}, keep=False).sum()`,
      }),
  },
})

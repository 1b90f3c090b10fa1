import { sourcesIn } from '../shared/trace.ts'
import { columnsOfCondition } from '../shared/trace-conditions.ts'
import { ownValue } from '../../table/own.ts'
import { z } from 'zod'
import { joined, py, sql, type Code, pyHelper } from '../../codegen/tag.ts'
import {
  cellAt,
  columnWriter,
  isNumber,
  lengthOf,
  type Cell,
  type Column,
  type ColumnType,
} from '../../table/column.ts'
import { dayMs } from '../../table/calendar.ts'
import type { Schema } from '../../table/table.ts'
import { counted } from '../../messages/words.ts'
import {
  typeIn,
  checkPlace,
  placePython,
  placeSchema,
  positionFor,
  selectColumns,
  withField,
  type ColumnPlacement,
} from '../shared/columns.ts'
import { checkCondition, columnsOfValue, conditionSchema, conditionWords, type Condition } from '../shared/condition.ts'
import { conditionPython, conditionSql } from '../shared/condition-code.ts'
import { decidingColumns } from '../shared/condition-values.ts'
import { evaluateCondition } from '../shared/condition-run.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot, type CheckContext, type RunContext } from '../shared/step-kind.ts'
import {
  cellFor,
  checkAssigned,
  isColumnValue,
  isParameterValue,
  literalPython,
  literalSql,
  valueSchema,
  valueWords,
  type ParameterOrValue,
} from '../shared/value.ts'
import { newName, valueOfText } from '../shared/draft-values.ts'

type Case = { readonly when: Condition; readonly then: ParameterOrValue }
type Cases = ColumnPlacement & {
  readonly as: string
  readonly cases: readonly Case[]
  readonly otherwise?: ParameterOrValue | undefined
}
type Types = Readonly<Record<string, ColumnType>>

const valuesOf = ({ cases: all, otherwise = null }: Cases): ParameterOrValue[] => [
  ...all.map(({ then }) => then),
  otherwise,
]

/** What a written value is by itself: text that looks like a date is text, unless it stands beside dates. */
const ownType = (value: ParameterOrValue): ColumnType | undefined => {
  if (typeof value === 'boolean') return 'boolean'
  if (typeof value === 'number') {
    if (Number.isInteger(value)) return 'integer'
    return 'decimal'
  }
  if (typeof value === 'string' && value !== '') return 'text'
  return undefined
}

const together = (types: readonly ColumnType[]): ColumnType => {
  const all = [...new Set(types)]
  const [first = 'text'] = all
  if (all.length <= 1) return first
  if (all.every(isNumber)) return 'decimal'
  if (all.every((type) => type === 'date' || type === 'datetime')) return 'datetime'
  return first
}

/** The type of the made column: that of columns and parameters among the values, else of the column it replaces where all fit it, else of what is written. */
const typeOf = (params: Cases, input: Schema, parameters: Types): ColumnType => {
  const values = valuesOf(params)
  const given = values.flatMap((value): ColumnType[] => {
    const chooseType = () => {
      if (isColumnValue(value)) return input.find((field) => field.name === value.column)?.type
      if (isParameterValue(value)) return ownValue(parameters, value.parameter)
      if (typeof value === 'number') return ownType(value)
      return undefined
    }
    const type = chooseType()
    return type ? [type] : []
  })
  if (given.length > 0) return together(given)
  const replaced = input.find((field) => field.name === params.as)?.type
  if (
    replaced &&
    values.every((value) => typeof value === 'object' || cellFor(value, replaced) !== undefined) &&
    values.some((value) => value !== null && value !== '')
  )
    return replaced
  return together(values.flatMap((value) => ownType(value) ?? []))
}

const check = (params: Cases, input: Schema, context: CheckContext): ColumnType => {
  params.cases.forEach(({ when }, i) => checkCondition(when, input, context, 'cases', i, 'when'))
  const type = typeOf(params, input, context.parameters)
  const paths = [...params.cases.map((_, i) => ['cases', i, 'then']), ['otherwise']]
  valuesOf(params).forEach((value, i) => checkAssigned(value, params.as, type, input, context, ...(paths[i] ?? [])))
  return type
}

/** A value for each row, in the type of the made column. */
const reader = (
  value: ParameterOrValue,
  type: ColumnType,
  column: (name: string) => Column,
  context: RunContext,
): ((row: number) => Cell) => {
  const scaled = (cell: Cell, from: ColumnType | undefined): Cell =>
    type === 'datetime' && from === 'date' && typeof cell === 'number' ? cell * dayMs : cell
  if (isColumnValue(value)) {
    const from = column(value.column)
    return (row) => scaled(cellAt(from, row), from.type)
  }
  const constant = isParameterValue(value)
    ? scaled(ownValue(context.parameters, value.parameter) ?? null, ownValue(context.parameterTypes, value.parameter))
    : (cellFor(value, type) ?? null)
  return () => constant
}

const caseWords = ({ when, then }: Case): string => `${valueWords(then)} where ${conditionWords(when)}`

/** A column of values by conditions, the first that holds. */
export const cases = defineStep<Cases>({
  kind: 'cases',
  verb: 'Write a value by cases…',
  words: [
    'cases',
    'if',
    'then',
    'else',
    'conditional',
    'band',
    'bucket',
    'bin',
    'category',
    'flag',
    'ladder',
    'when',
    'classify',
  ],
  params: z.strictObject({
    as: name,
    cases: z.array(z.strictObject({ when: conditionSchema, then: valueSchema })).min(1),
    otherwise: valueSchema.optional(),
    ...placeSchema,
  }),
  drafts: {
    table: ({ schema }) => [
      {
        rank: 80,
        params: {
          as: newName('Kind', schema),
          cases: [{ when: { column: schema[0]?.name ?? '', op: 'is-filled' }, then: 'yes' }],
          otherwise: 'no',
        },
      },
    ],
    columns: ({ columns, schema }) => [
      {
        rank: 110,
        params: {
          as: newName(columns.length === 1 ? `${columns[0] ?? ''} kind` : 'Kind', schema),
          cases: [{ when: { column: columns[0] ?? '', op: 'is-filled' }, then: 'yes' }],
          otherwise: 'no',
          after: columns.at(-1),
        },
      },
    ],
    values: ({ column, values, schema }) => {
      const type = typeIn(schema, column)
      const when = { column, op: 'is-one-of' as const, values: values.map((value) => valueOfText(value, type)) }
      return [
        {
          rank: 50,
          verb: 'A yes-or-no column for them',
          params: {
            as: newName(`${column} kind`, schema),
            cases: [{ when, then: true }],
            otherwise: false,
            after: column,
          },
        },
      ]
    },
  },
  decides: ({ cases: all }, input) =>
    all.flatMap(({ when }) => decidingColumns(when, input, { fails: 'stays', passes: 'stays' })),
  sentence: (params) => {
    const { as, cases: all, otherwise = null } = params
    const shown =
      all.length > 3
        ? `${all.slice(0, 2).map(caseWords).join(', ')} and ${counted(all.length - 2, 'more case')}`
        : all.map(caseWords).join(', ')
    return [
      'Write ',
      slot(as, 'name', ['as']),
      ' as ',
      slot(`${shown}; else ${otherwise === null || otherwise === '' ? 'nothing' : valueWords(otherwise)}`, 'cases', []),
      '.',
    ]
  },
  output: (params, input, context) => {
    checkPlace(params, input, context)
    const field = { name: params.as, type: check(params, input, context) }
    return input.some(({ name: one }) => one === params.as)
      ? input.map((one) => (one.name === params.as ? field : one))
      : withField(input, field, params)
  },
  run: (params, table, context) => {
    const type = typeOf(params, table.schema, context.parameterTypes)
    const masks = params.cases.map(({ when }) => evaluateCondition(when, table, context))
    const readers = valuesOf(params).map((value) => reader(value, type, (one) => table.named(one), context))
    const writer = columnWriter(type, table.rowCount)
    const met = readers.map(() => 0)
    for (let row = 0; row < table.rowCount; row++) {
      const found = masks.findIndex((mask) => mask[row] === 1)
      const branch = found < 0 ? masks.length : found
      met[branch] = (met[branch] ?? 0) + 1
      writer.set(row, readers[branch]?.(row) ?? null)
    }
    const made = writer.done()
    const at = table.positionOf(params.as)
    const notes = Object.fromEntries(met.map((n, i) => [i === masks.length ? 'otherwise' : `case${i + 1}`, n]))
    if (at < 0)
      return { table: table.with(positionFor(params, table.names), params.as, made), lineage: { kind: 'same' }, notes }
    const before = table.column(at)
    let cellsChanged = 0
    for (let i = 0, n = lengthOf(made); i < n; i++) if (cellAt(before, i) !== cellAt(made, i)) cellsChanged++
    return { table: table.with(at, params.as, made, true), lineage: { kind: 'same' }, cellsChanged, notes }
  },
  trace: {
    cells: (params, { before, context }, column, rows) =>
      column === params.as
        ? sourcesIn(
            [
              ...params.cases.flatMap(({ when }) => columnsOfCondition(when, before, context)),
              ...valuesOf(params).flatMap(columnsOfValue),
            ],
            rows,
          )
        : undefined,
  },
  scripts: {
    sql: (params, context) => {
      const type = typeOf(params, context.input, context.parameters)
      const value = (one: ParameterOrValue): Code => {
        const choosePart = () => {
          if (isColumnValue(one)) return context.column(one.column)
          if (isParameterValue(one)) return context.parameter(one.parameter)
          return literalSql(one, type)
        }
        const part = choosePart()
        if (type === 'decimal') return sql`${part}::float8`
        if (type === 'datetime') return sql`${part}::timestamp`
        if (type === 'text' && one === null) return sql`null::text`
        return part
      }
      const whens = params.cases.map(({ when, then }) => sql`when ${conditionSql(when, context)} then ${value(then)}`)
      return selectColumns(context, {
        [params.as]: sql`case ${joined(whens, ' ')} else ${value(params.otherwise ?? null)} end`,
      })
    },
    python: (params, context) => {
      const { frame } = context
      const type = typeOf(params, context.input, context.parameters)
      const value = (one: ParameterOrValue): Code => {
        if (isColumnValue(one)) return py`${frame}[${one.column}]`
        if (isParameterValue(one)) return context.parameter(one.parameter)
        return literalPython(one, type)
      }
      const branches = params.cases.map(({ when, then }) => py`(${conditionPython(when, context)}, ${value(then)})`)
      return py`${frame} = ${pyHelper('put')}(${frame}, ${params.as}, ${pyHelper('by_cases')}([${joined(branches, ', ')}], ${value(params.otherwise ?? null)}, ${type}), ${type}${placePython(params)})`
    },
  },
})

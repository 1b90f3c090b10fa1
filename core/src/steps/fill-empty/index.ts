import { rowsWhere } from '../../table/row-set.ts'
import { ownValue } from '../../table/own.ts'
import { z } from 'zod'
import { lines, py, sql, type Code, pyHelper } from '../../codegen/tag.ts'
import { cellAt, type Cell, type ColumnType } from '../../table/column.ts'
import { withFilled } from '../../table/fill-empty.ts'
import { convert } from '../../reading/convert.ts'
import type { Table } from '../../table/table.ts'
import {
  typeIn,
  checkSelector,
  columnsSlot,
  selectColumns,
  selected,
  selectedNames,
  eachColumnPython,
  selectorSchema,
  type Selector,
} from '../shared/columns.ts'
import { defineStep, slot, type RunContext } from '../shared/step-kind.ts'
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

type FillEmpty = { readonly columns: Selector; readonly with: ParameterOrValue }

/** The value for each row, as a cell of the column's type. */
const valueAt = (
  value: ParameterOrValue,
  type: ColumnType,
  table: Table,
  context: RunContext,
): ((row: number) => Cell) => {
  if (isColumnValue(value)) {
    const other = convert(table.named(value.column), { type }).column
    return (row) => cellAt(other, row)
  }
  const cell = isParameterValue(value)
    ? (ownValue(context.parameters, value.parameter) ?? null)
    : (cellFor(value, type) ?? null)
  const moved =
    isParameterValue(value) &&
    ownValue(context.parameterTypes, value.parameter) === 'date' &&
    type === 'datetime' &&
    typeof cell === 'number'
      ? cell * 86_400_000
      : cell
  return () => moved
}

const widened = (part: Code, type: ColumnType): Code => {
  if (type === 'decimal') return sql`${part}::float8`
  if (type === 'datetime') return sql`${part}::timestamp`
  return part
}

/** What empty cells are filled with at first: of moments the earliest there is, until another is given; a list has no such value. */
const firstFilling = (type: ColumnType, least: string | undefined): string | number | boolean | undefined => {
  if (type === 'text') return 'unknown'
  if (type === 'integer' || type === 'decimal') return 0
  if (type === 'boolean') return false
  if (type === 'time') return least ?? '00:00:00'
  const today = new Date().toISOString().slice(0, 10)
  if (type === 'date') return least ?? today
  return type === 'datetime' ? (least ?? `${today}T00:00:00`) : undefined
}

/** Whether pandas' own filling gives a column of this type the value. */
const isPlainFill = (type: ColumnType, value: unknown): boolean => {
  if (type === 'text') return typeof value === 'string' && value !== ''
  return type === 'decimal' ? typeof value === 'number' : type === 'integer' && Number.isSafeInteger(value)
}

/** Fills empty cells with a value. */
export const fillEmpty = defineStep<FillEmpty>({
  kind: 'fill-empty',
  verb: 'Fill empty cells with a value',
  words: ['fill empty', 'default', 'missing', 'null', 'coalesce', 'replace empty', 'blank'],
  params: z.strictObject({ columns: selectorSchema, with: valueSchema }),
  drafts: {
    columns: ({ columns, schema, sample }) => {
      const type = typeIn(schema, columns[0])
      const value = type && firstFilling(type, sample?.(columns[0] ?? '')?.least)
      // one value can only fill columns of one type
      const alike = columns.filter((name) => typeIn(schema, name) === type)
      return value === undefined ? [] : [{ rank: 80, params: { columns: alike, with: value } }]
    },
  },
  sentence: ({ columns, with: value }) => [
    'Where ',
    columnsSlot(columns, 'columns'),
    Array.isArray(columns) && columns.length === 1 ? ' is empty, put ' : ' are empty, put ',
    slot(valueWords(value), 'value', ['with']),
    '.',
  ],
  output: ({ columns, with: value }, input, context) => {
    for (const field of checkSelector(columns, input, context, 'columns'))
      checkAssigned(value, field.name, field.type, input, context, 'with')
    return input
  },
  run: ({ columns, with: value }, table, context) => {
    let result = table
    let cellsChanged = 0
    for (const name of selectedNames(columns, table.schema)) {
      const at = table.positionOf(name)
      const column = table.column(at)
      const made = withFilled(column, valueAt(value, column.type, table, context))
      cellsChanged += made.filled
      result = result.with(at, name, made.column, true)
    }
    return { table: result, lineage: { kind: 'same' }, cellsChanged }
  },
  trace: {
    cells: ({ columns, with: value }, { before }, column, rows) => {
      if (!selectedNames(columns, before.schema).includes(column)) return undefined
      const at = before.positionOf(column)
      const empty = rowsWhere(rows, (row) => before.isNull(at, row))
      const filled = rowsWhere(rows, (row) => !before.isNull(at, row))
      return [
        { column, rows: filled },
        { ...(isColumnValue(value) ? { column: value.column } : {}), rows: empty },
      ].filter((source) => source.rows.rows.length > 0)
    },
  },
  scripts: {
    sql: ({ columns, with: value }, context) => {
      const part = (type: ColumnType): Code => {
        if (isColumnValue(value)) return widened(context.column(value.column), type)
        if (isParameterValue(value)) return widened(context.parameter(value.parameter), type)
        return literalSql(value, type)
      }
      return selectColumns(
        context,
        Object.fromEntries(
          selected(columns, context.input).map((field) => [
            field.name,
            sql`coalesce(${context.column(field.name)}, ${part(field.type)})`,
          ]),
        ),
      )
    },
    python: ({ columns, with: value }, { frame, input, parameter, plain }) => {
      const [first] = selected(columns, input)
      if (plain && Array.isArray(columns) && selected(columns, input).every(({ type }) => isPlainFill(type, value)))
        return eachColumnPython(
          columns,
          frame,
          (name) =>
            py`${frame}[${name}] = ${frame}[${name}].fillna(${literalPython(value as string | number, first?.type ?? 'text')})`,
        )
      const choosePut = () => {
        if (isColumnValue(value)) return py`filled_from[${value.column}]`
        if (isParameterValue(value)) return parameter(value.parameter)
        return literalPython(value, first?.type ?? 'text')
      }
      const put = choosePut()
      const filling = eachColumnPython(
        columns,
        frame,
        (name) =>
          py`${frame} = ${pyHelper('put')}(${frame}, ${name}, ${pyHelper('fill_empty')}(${frame}[${name}], ${put}), ${pyHelper('type_of')}(${frame}[${name}]))`,
      )
      // the column that is taken from may be among those that are filled
      return isColumnValue(value) ? lines(py`filled_from = ${frame}`, filling) : filling
    },
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column),
})

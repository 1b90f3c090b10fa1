import { ownValue } from '../../table/own.ts'
import { z } from 'zod'
import { code, py, type Code } from '../../codegen/tag.ts'
import { pythonCell, sqlCell } from '../../codegen/literals.ts'
import { isNumber, type Cell, type ColumnType } from '../../table/column.ts'
import { listText, type ListItem } from '../../table/list.ts'
import { maybeIsoDate, maybeIsoDateTime, maybeIsoTime } from '../../table/calendar.ts'
import type { Schema } from '../../table/table.ts'
import { groupedNumber, nearest, quoted } from '../../messages/words.ts'
import { missingColumn } from './columns.ts'
import type { CheckContext, ParamPath } from './step-kind.ts'

/** A value in a step: written out, of another column, or of a parameter. */
export type ParameterOrValue =
  string | number | boolean | null | { readonly column: string } | { readonly parameter: string }
/** Schema of a value, a column or a parameter. */
export const valueSchema: z.ZodType<ParameterOrValue> = z
  .union([
    z.string(),
    z.number(),
    z.boolean(),
    z.null(),
    z.strictObject({ column: z.string().min(1) }),
    z.strictObject({ parameter: z.string().min(1) }),
  ])
  .meta({ id: 'Value' })

/** Whether a value is taken from a column. */
export const isColumnValue = (value: ParameterOrValue): value is { readonly column: string } =>
  typeof value === 'object' && value !== null && 'column' in value
/** Whether a value is a parameter. */
export const isParameterValue = (value: ParameterOrValue): value is { readonly parameter: string } =>
  typeof value === 'object' && value !== null && 'parameter' in value

/** A written value as a cell of a type; undefined where it cannot be one. "" is empty. */
export const cellFor = (value: string | number | boolean | null, type: ColumnType): Cell | undefined => {
  if (value === null || value === '') return null
  if (typeof value === 'boolean') return type === 'boolean' ? value : undefined
  if (typeof value === 'number')
    return type === 'decimal' || (type === 'integer' && Number.isFinite(value)) ? value : undefined
  if (type === 'text') return value
  if (type === 'list') return listCell(value)
  const chooseRead = () => {
    if (type === 'date') return maybeIsoDate(value)
    if (type === 'datetime') return maybeIsoDateTime(value) ?? atMidnight(value)
    if (type === 'time') return maybeIsoTime(value)
    return null
  }
  const read = chooseRead()
  return read ?? undefined
}
/** A JSON array of plain items as lists are written; undefined for all else. */
const listCell = (text: string): string | undefined => {
  try {
    const items: unknown = JSON.parse(text)
    const plain = Array.isArray(items) && items.every((item) => item === null || typeof item !== 'object')
    return plain ? listText(items as ListItem[]) : undefined
  } catch {
    return undefined
  }
}
const atMidnight = (text: string): number | null => {
  const days = maybeIsoDate(text)
  return days === null ? null : days * 86_400_000
}

/** Whether two types can stand on either side of a comparison. */
export const comparable = (a: ColumnType, b: ColumnType): boolean =>
  a === b || (isNumber(a) && isNumber(b)) || ((a === 'date' || a === 'datetime') && (b === 'date' || b === 'datetime'))

/** Reports a value that cannot be compared with, or put into, a column of this type. */
export const checkValue = (
  value: ParameterOrValue,
  column: string,
  type: ColumnType,
  schema: Schema,
  context: CheckContext,
  ...path: ParamPath
): void => {
  if (isColumnValue(value)) {
    const other = schema.find((field) => field.name === value.column)
    if (!other) context.report(missingColumn(value.column, schema), ...path, 'column')
    else if (!comparable(type, other.type))
      context.report({ code: 'wrong-value', value: value.column, column, type }, ...path)
  } else if (isParameterValue(value)) {
    const other = ownValue(context.parameters, value.parameter)
    if (!other)
      context.report(
        {
          code: 'unknown-parameter',
          parameter: value.parameter,
          nearest: nearest(value.parameter, Object.keys(context.parameters)),
        },
        ...path,
      )
    else if (!comparable(type, other))
      context.report({ code: 'wrong-value', value: value.parameter, column, type }, ...path)
  } else if (cellFor(value, type) === undefined)
    context.report({ code: 'wrong-value', value: String(value), column, type }, ...path)
}

/** What may be put into a column of a type: the same type, or one that it holds without loss. */
const assignable = (from: ColumnType, to: ColumnType): boolean =>
  from === to || (from === 'integer' && to === 'decimal') || (from === 'date' && to === 'datetime')
/** Reports a value that cannot be put into a column of this type. */
export const checkAssigned = (
  value: ParameterOrValue,
  column: string,
  type: ColumnType,
  schema: Schema,
  context: CheckContext,
  ...path: ParamPath
): void => {
  const chooseFrom = () => {
    if (isColumnValue(value)) return schema.find((field) => field.name === value.column)?.type
    if (isParameterValue(value)) return ownValue(context.parameters, value.parameter)
    return undefined
  }
  const from = chooseFrom()
  if (from !== undefined && !assignable(from, type))
    context.report({ code: 'wrong-value', value: plainWords(value), column, type }, ...path)
  else checkValue(value, column, type, schema, context, ...path)
}

const plainWords = (value: ParameterOrValue): string => {
  if (isColumnValue(value)) return value.column
  if (isParameterValue(value)) return value.parameter
  return value === null || value === '' ? 'empty' : String(value)
}

/** A date, a time or both, which nobody takes for a column or a word. */
const momentForm = /^\d{4}-\d\d-\d\d(?:[T ]\d\d:\d\d(?::\d\d(?:\.\d+)?)?)?$|^\d\d:\d\d(?::\d\d(?:\.\d+)?)?$/

/** A value as it stands in a sentence: “text” in quotes, ‹As of› for what is asked at replay, columns, numbers (12,045.5) and moments bare. */
export const valueWords = (value: ParameterOrValue): string => {
  const words = plainWords(value)
  if (isParameterValue(value)) return `‹${words}›`
  if (typeof value === 'number') return groupedNumber(words)
  return typeof value === 'string' && value !== '' && !momentForm.test(value) ? quoted(words) : words
}

/** A written value as a literal for a column of that type; null where it is empty. */
export const literalSql = (value: string | number | boolean | null, type: ColumnType): Code => {
  const cell = cellFor(value, type) ?? null
  return cell === null ? code('null') : sqlCell(type === 'integer' && !Number.isInteger(cell) ? 'decimal' : type, cell)
}
/** A value as a Python literal of a type. */
export const literalPython = (value: string | number | boolean | null, type: ColumnType): Code => {
  const cell = cellFor(value, type) ?? null
  return cell === null
    ? py`${null}`
    : pythonCell(type === 'integer' && !Number.isInteger(cell) ? 'decimal' : type, cell)
}

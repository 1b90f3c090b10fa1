import { isNumber, type ColumnType } from '../../table/column.ts'
import type { Schema } from '../../table/table.ts'
import { freeName, typeIn } from './columns.ts'

/** Those of the columns that hold numbers. */
export const numbersOf = (columns: readonly string[], schema: Schema): readonly string[] =>
  columns.filter((name) => {
    const type = typeIn(schema, name)
    return type !== undefined && isNumber(type)
  })

/** Those of the columns that hold text. */
export const textsOf = (columns: readonly string[], schema: Schema): readonly string[] =>
  columns.filter((name) => typeIn(schema, name) === 'text')

/** A name that no column has. */
export const newName = (name: string, schema: Schema): string =>
  freeName(
    name,
    schema.map((field) => field.name),
  )

/** A cell's text as a value of its column's type, as the params of a step hold it. */
export const valueOfText = (text: string, type: ColumnType | undefined): string | number | boolean => {
  if (type === 'integer' || type === 'decimal') return Number(text)
  if (type === 'boolean') return text === 'true'
  return text
}

/** A text short enough for a verb. */
export const shortened = (text: string): string => (text.length > 18 ? `${text.slice(0, 16)}…` : text)

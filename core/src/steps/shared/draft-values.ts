import { isNumber, type ColumnType } from '../../table/column.ts'
import type { Schema } from '../../table/table.ts'
import { freeName, typeIn } from './columns.ts'

/** Those of the columns that hold numbers. */
export const numbersOf = (columns: readonly string[], schema: Schema): readonly string[] =>
  columns.filter((name) => {
    const type = typeIn(schema, name)
    return type !== undefined && isNumber(type)
  })

/** Names of columns whose whole numbers name something: years, months, ids, codes. */
const naming = /(?:^|\b|_)(?:year|quarter|month|week|day|id|code|no|nr|number|ref|key|zip|postcode)$/i
/** Those of the columns whose numbers are added up: years and ids, whole numbers that name something, are not. */
export const measuresOf = (columns: readonly string[], schema: Schema): readonly string[] =>
  numbersOf(columns, schema).filter((name) => typeIn(schema, name) === 'decimal' || !naming.test(name))

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

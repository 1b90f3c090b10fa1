import { freeName, writeColumn, writeParameter, type NewStep, type Schema } from '@fabula/core'
import { type ColumnFacts } from '@fabula/core/api'
import { type AnyValue } from './values.ts'

/** What a builder asks: one of a few, a number, a text, a column, or a value of any source. */
export type Ask =
  | {
      readonly key: string
      readonly words: string
      readonly kind: 'choice'
      readonly of: readonly (readonly [string, string])[]
    }
  | { readonly key: string; readonly words: string; readonly kind: 'number' | 'text' | 'list' }
  | {
      readonly key: string
      readonly words: string
      readonly kind: 'column'
      readonly types: readonly Schema[number]['type'][]
    }
  | { readonly key: string; readonly words: string; readonly kind: 'value'; readonly date: boolean }

export type BuilderAnswers = Readonly<Record<string, unknown>>

type Params = NewStep

/** A builder asks a few plain things and writes the sentence that says them. */
export type Builder = {
  readonly id: string
  readonly verb: string
  readonly words: readonly string[]
  readonly fits: (columns: readonly string[], schema: Schema) => boolean
  readonly asks: (answers: BuilderAnswers, columns: readonly string[], schema: Schema) => readonly Ask[]
  readonly start: (columns: readonly string[], schema: Schema, facts: ColumnFacts | undefined) => BuilderAnswers
  readonly write: (
    answers: BuilderAnswers,
    columns: readonly string[],
    schema: Schema,
    facts: ColumnFacts | undefined,
  ) => readonly Params[]
  /** What the answers mean, in a sentence. */
  readonly says?: (answers: BuilderAnswers, columns: readonly string[]) => string
}

export const typeOf = (name: string | undefined, schema: Schema) => schema.find((field) => field.name === name)?.type

export const isDate = (type: Schema[number]['type'] | undefined): boolean => type === 'date' || type === 'datetime'

export const isNumber = (type: Schema[number]['type'] | undefined): boolean => type === 'integer' || type === 'decimal'

/** A name no column has: what is computed takes no column's place unawares. */
export const fresh = (name: string, schema: Schema, ...taken: readonly string[]): string =>
  freeName(name, [...schema.map((field) => field.name), ...taken])

export const quote = (text: string): string => `"${text.replaceAll('"', '""')}"`

/** A value as a formula writes it. */
export const formulaOf = (value: AnyValue, date: boolean): string => {
  if (typeof value === 'object' && value !== null)
    return 'column' in value ? writeColumn(value.column) : writeParameter(value.parameter)
  if (typeof value === 'number') return String(value)
  const m = date && typeof value === 'string' ? /^(\d{4})-(\d{2})-(\d{2})$/.exec(value) : null
  if (m) return `DATE(${Number(m[1])}; ${Number(m[2])}; ${Number(m[3])})`
  return value === null || value === '' ? 'EMPTY' : quote(String(value))
}

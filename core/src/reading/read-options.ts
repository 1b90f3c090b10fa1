import { z } from 'zod'
import { columnTypes, type ColumnType } from '../table/column.ts'
import { type NumberLocale } from '../table/number.ts'
import { type Schema } from '../table/table.ts'
import { name } from './name-schema.ts'
import { rangePattern } from './sheet-range.ts'

/** Schema of a decimal sign and a thousands sign. */
export const localeSchema = z.strictObject({ decimal: z.string().length(1), group: z.string().max(1) })

/** What a file can be. */
export const formats = ['csv', 'xlsx', 'ods', 'json', 'parquet'] as const

/** What a file can be. */
export type Format = (typeof formats)[number]
/** What a file of each format is called, in a sentence and in a list. */
export const formatInfo: Readonly<Record<Format, { readonly words: string; readonly short: string }>> = {
  csv: { words: 'a text file', short: 'text file' },
  xlsx: { words: 'an XLSX workbook', short: 'workbook' },
  ods: { words: 'an ODS workbook', short: 'workbook' },
  json: { words: 'JSON', short: 'JSON records' },
  parquet: { words: 'Parquet', short: 'Parquet' },
}

/** A column read as a type, by date patterns tried in order. */
export type ColumnReading = { readonly type: ColumnType; readonly formats?: readonly string[] | undefined }

/** Which sheets of a workbook: by name in this order, those whose name fits, or the first that is not hidden. */
export type SheetSelection =
  readonly string[] | { readonly like: string; readonly unlike?: string | undefined } | 'first'

/** How a file becomes a table. Rows are counted as seen in the file, blank ones included. */
export type ReadOptions = {
  readonly format?: Format | undefined
  /** JSON: where the list of records stands, such as data.items. */
  readonly path?: string | undefined
  readonly sheets?: SheetSelection | undefined
  /** Such as B3:K90; without the last number it goes to the last row. */
  readonly range?: string | undefined
  readonly encoding?: string | undefined
  readonly delimiter?: string | undefined
  readonly quote?: string | undefined
  /** The row of names; several rows in a list are joined to one name a column. */
  readonly header?: number | readonly number[] | 'none' | undefined
  readonly skip?: number | undefined
  readonly footer?: number | undefined
  readonly types?: 'detect' | 'text' | Readonly<Record<string, ColumnReading>> | undefined
  readonly locale?: NumberLocale | undefined
  readonly origin?: { readonly file?: string | undefined; readonly sheet?: string | undefined } | undefined
}

/** Schema of `read` in a recipe. */
export const readSchema: z.ZodType<ReadOptions> = z
  .strictObject({
    format: z.enum(formats).optional(),
    path: z.string().min(1).optional(),
    sheets: z
      .union([
        z.array(name).min(1),
        z.strictObject({ like: z.string().min(1), unlike: z.string().min(1).optional() }),
        z.literal('first'),
      ])
      .optional(),
    range: z.string().regex(rangePattern, 'a range is written like B3:K90').optional(),
    encoding: z.string().min(1).optional(),
    delimiter: z.string().length(1).optional(),
    quote: z.string().length(1).optional(),
    header: z.union([z.number().int().min(1), z.array(z.number().int().min(1)).min(1), z.literal('none')]).optional(),
    skip: z.number().int().min(0).optional(),
    footer: z.number().int().min(0).optional(),
    types: z
      .union([
        z.enum(['detect', 'text']),
        z.record(name, z.strictObject({ type: z.enum(columnTypes), formats: z.array(z.string().min(1)).optional() })),
      ])
      .optional(),
    locale: localeSchema.optional(),
    origin: z.strictObject({ file: name.optional(), sheet: name.optional() }).optional(),
  })
  .meta({ id: 'Read' })

/** What a file is, as far as a recipe tells: said, or by the ending that its name pattern has. */
export const formatOf = (read: ReadOptions, files: string | undefined): Format => {
  if (read.format) return read.format
  if (read.path !== undefined) return 'json'
  const ending = /\.([a-z]+)$/i.exec(files ?? '')?.[1]?.toLowerCase()
  return ending === 'xlsm' ? 'xlsx' : (formats.find((format) => format === ending) ?? 'csv')
}

/** Whether a format has sheets. */
export const isWorkbook = (format: Format): boolean => format === 'xlsx' || format === 'ods'

/** The columns that come from the file itself, not from how it was opened. */
export const fileColumns = (columns: Schema, read: ReadOptions | undefined): Schema =>
  columns.filter((field) => field.name !== read?.origin?.file && field.name !== read?.origin?.sheet)

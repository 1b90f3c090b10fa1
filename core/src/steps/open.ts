import { z } from 'zod'
import { pythonPatterns } from '../generate/patterns.ts'
import { code, joined, py, sql, type Code } from '../generate/tag.ts'
import { columnTypes, type ColumnType } from '../table/column.ts'
import type { NumberLocale } from '../table/number.ts'
import type { Schema } from '../table/table.ts'
import { counted } from '../words.ts'
import { checkFormats, localeSchema, readSql } from './cast.ts'
import { name } from './names.ts'
import { defineStep, slot, type Sentence } from './step-kind.ts'

export type OpenType = { readonly type: ColumnType; readonly formats?: readonly string[] | undefined }
/** How a file becomes a table. Rows are counted as seen in the file, blank ones included. */
export type Read = {
  readonly format?: 'csv' | undefined
  readonly encoding?: string | undefined
  readonly delimiter?: string | undefined
  readonly quote?: string | undefined
  readonly header?: number | 'none' | undefined
  readonly skip?: number | undefined
  readonly footer?: number | undefined
  readonly types?: 'detect' | 'text' | Readonly<Record<string, OpenType>> | undefined
  readonly locale?: NumberLocale | undefined
  readonly origin?: { readonly file?: string | undefined } | undefined
}
type Open = { readonly input: string; readonly read?: Read | undefined }

export const encodings = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252'] as const

export const readSchema: z.ZodType<Read> = z
  .strictObject({
    format: z.literal('csv').optional(),
    encoding: z.string().min(1).optional(),
    delimiter: z.string().length(1).optional(),
    quote: z.string().length(1).optional(),
    header: z.union([z.number().int().min(1), z.literal('none')]).optional(),
    skip: z.number().int().min(0).optional(),
    footer: z.number().int().min(0).optional(),
    types: z.union([z.enum(['detect', 'text']), z.record(name, z.strictObject({ type: z.enum(columnTypes), formats: z.array(z.string().min(1)).optional() }))]).optional(),
    locale: localeSchema.optional(),
    origin: z.strictObject({ file: name.optional() }).optional(),
  })
  .meta({ id: 'Read' })

const delimiterWords: Readonly<Record<string, string>> = { ',': 'commas', ';': 'semicolons', '\t': 'tabs', '|': 'bars', ' ': 'blanks' }
const encodingWords: Readonly<Record<string, string>> = { 'utf-16le': 'UTF-16', 'utf-16be': 'UTF-16', 'windows-1252': 'Windows-1252' }

const sentence = ({ input, read = {} }: Open): Sentence => [
  'Open ',
  slot(input, 'open', ['input']),
  ...(read.header === 'none' ? [', which has ', slot('no row of names', 'open', ['read', 'header'])] : (read.header ?? 1) > 1 ? [', column names from ', slot(`row ${read.header ?? 1}`, 'open', ['read', 'header'])] : []),
  ...(read.delimiter && read.delimiter !== ',' ? [', parted by ', slot(delimiterWords[read.delimiter] ?? read.delimiter, 'open', ['read', 'delimiter'])] : []),
  ...(read.encoding && encodingWords[read.encoding.toLowerCase()] ? [', written in ', slot(encodingWords[read.encoding.toLowerCase()] as string, 'open', ['read', 'encoding'])] : []),
  ...(read.skip ? [', leaving out ', slot(`${counted(read.skip, 'row')} below the names`, 'open', ['read', 'skip'])] : []),
  ...(read.footer ? [', leaving out ', slot(`${counted(read.footer, 'row')} at the foot`, 'open', ['read', 'footer'])] : []),
  ...(read.origin?.file ? [', noting the file of each row as ', slot(read.origin.file, 'open', ['read', 'origin'])] : []),
  '.',
]

const typeFor = (read: Read, column: string, type: ColumnType): OpenType => {
  const given = typeof read.types === 'object' ? read.types[column] : undefined
  return given ?? { type }
}

const pythonTypes = (types: Read['types']): Code =>
  typeof types !== 'object'
    ? py`${types ?? 'detect'}`
    : py`{${joined(Object.entries(types).map(([column, { type, formats = [] }]) => (formats.length > 0 ? py`${column}: (${type}, ${pythonPatterns(formats)})` : py`${column}: ${type}`)), ', ')}}`

export const open = defineStep<Open>({
  kind: 'open',
  verb: 'Open a file',
  words: ['open', 'import', 'load', 'read', 'csv', 'file', 'upload'],
  acts: [],
  start: true,
  params: z.strictObject({ input: name, read: readSchema.optional() }),
  sentence,
  output: ({ input, read }, _schema, context) => {
    const columns = context.inputColumns(input)
    if (!columns) context.report({ code: 'unknown-input', input }, 'input')
    if (typeof read?.types === 'object') for (const [column, { formats }] of Object.entries(read.types)) checkFormats(formats, context, 'read', 'types', column, 'formats')
    return columns ?? []
  },
  run: ({ input, read = {} }, _table, context) => {
    const { table, notes, unreadable } = context.opened(input, read)
    return { table, origin: { kind: 'source' }, notes, unreadable }
  },
  sql: ({ input, read = {} }, { source, column }) => {
    const { rows, columns } = source(input)
    const cells = columns.map((field) => {
      if (field.name === read.origin?.file) return sql`r.file_name as ${column(field.name)}`
      const cell = sql`r.cells[array_position(r.names, ${field.name})]`
      return sql`${readSql(sql`nullif(${cell}, '')`, { ...typeFor(read, field.name, field.type), locale: read.locale })} as ${column(field.name)}`
    })
    return sql`select r."¶", ${joined(cells, ',\n  ')}\nfrom sheet_rows(${rows}, ${read.header === 'none' ? 0 : (read.header ?? 1)}, ${read.skip ?? 0}, ${read.footer ?? 0}) r`
  },
  python: ({ input, read = {} }, { frame, source }) => {
    const { files } = source(input)
    const options = [
      ...(read.encoding ? [py`encoding=${read.encoding}`] : []),
      ...(read.delimiter ? [py`delimiter=${read.delimiter}`] : []),
      ...(read.quote && read.quote !== '"' ? [py`quote=${read.quote}`] : []),
      ...(read.header && read.header !== 1 ? [read.header === 'none' ? py`header=None` : py`header=${read.header}`] : []),
      ...(read.skip ? [py`skip=${read.skip}`] : []),
      ...(read.footer ? [py`footer=${read.footer}`] : []),
      ...(read.types === undefined || read.types === 'detect' ? [] : [py`types=${pythonTypes(read.types)}`]),
      ...(read.locale && (read.locale.decimal !== '.' || read.locale.group !== ',') ? [py`decimal=${read.locale.decimal}, group=${read.locale.group}`] : []),
      ...(read.origin?.file ? [py`file_column=${read.origin.file}`] : []),
    ]
    return py`${frame} = open_csv(${files}${options.length > 0 ? py`, ${joined(options, ', ')}` : code('')})`
  },
})

/** The columns that come from the file itself, not from how it was opened. */
export const fileColumns = (columns: Schema, read: Read | undefined): Schema => columns.filter((field) => field.name !== read?.origin?.file)

import { z } from 'zod'
import { name } from '../reading/name-schema.ts'
import { quoted } from '../messages/words.ts'

/** The formats of output files. */
export const outputFormats = ['csv', 'xlsx', 'json', 'parquet'] as const
/** One of the formats of output files. */
export type OutputFormat = (typeof outputFormats)[number]
/** What each format is called, and the media type of its files (IANA). */
export const outputFormatInfo: Readonly<Record<OutputFormat, { readonly words: string; readonly mediaType: string }>> =
  {
    csv: { words: 'a text file (CSV)', mediaType: 'text/csv' },
    xlsx: {
      words: 'a workbook (XLSX)',
      mediaType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    },
    json: { words: 'JSON records', mediaType: 'application/json' },
    parquet: { words: 'Parquet', mediaType: 'application/vnd.apache.parquet' },
  }

const table = z.string().regex(/^[a-z][a-z0-9-]*$/)
const fileName = z
  .string()
  .min(1)
  .refine((file) => !/^(?:[/\\]|[A-Za-z]:)|(?:^|[/\\])\.\.(?:[/\\]|$)/.test(file), 'a file name stays below its folder')

const fileOutput = z.strictObject({
  table,
  format: z.enum(outputFormats),
  file: fileName,
  options: z.strictObject({ guard: z.boolean().optional() }).optional(),
})
/** The types of PostgreSQL that a column may be given there. */
export const databaseTypes = [
  'text',
  'smallint',
  'integer',
  'bigint',
  'numeric',
  'real',
  'double precision',
  'boolean',
  'date',
  'timestamp',
  'timestamptz',
  'time',
  'jsonb',
] as const
/** A type of PostgreSQL that a column may be given. */
export type DatabaseType = (typeof databaseTypes)[number]

const databaseOutput = z
  .strictObject({
    table,
    format: z.literal('postgresql'),
    connection: z.string().min(1),
    schema: z.string().min(1).optional(),
    name: z.string().min(1),
    mode: z.enum(['replace', 'append', 'upsert']),
    keys: z.array(name).min(1).optional(),
    names: z.enum(['as-is', 'snake_case']).optional(),
    /** Columns that get another type there than the usual one. */ types: z
      .record(name, z.enum(databaseTypes))
      .optional(),
  })
  .refine(({ mode, keys }) => mode !== 'upsert' || keys !== undefined, {
    message: 'an upsert needs the keys that tell rows apart',
    path: ['keys'],
  })

/** Where a table goes: a file, or a table of a database that is named, its secrets elsewhere. */
export const outputSchema = z.discriminatedUnion('format', [fileOutput, databaseOutput])
/** A table written as a file. */
export type FileOutput = z.infer<typeof fileOutput>
/** A table written into a table of a database. */
export type DatabaseOutput = z.infer<typeof databaseOutput>
/** Where a table goes. */
export type Output = z.infer<typeof outputSchema>

/** Whether an output is a file. */
export const isFile = (output: Output): output is FileOutput => output.format !== 'postgresql'
/** A file's name without the ending of an output format. */
export const withoutEnding = (file: string): string => {
  const format = outputFormats.find((one) => file.toLowerCase().endsWith(`.${one}`))
  return format ? file.slice(0, -format.length - 1) : file
}
/** What a path's ending says; CSV without one. */
export const formatOfPath = (path: string): OutputFormat =>
  outputFormats.find((format) => path.toLowerCase().endsWith(`.${format}`)) ?? 'csv'

type WrittenFile = { readonly table: string; readonly path: string; readonly format: OutputFormat }
/** Outputs by the file they go to: a workbook takes several tables, a sheet each; no other file does. */
export const byFile = <T extends WrittenFile>(outputs: readonly T[]): T[][] => {
  const files = new Map<string, T[]>()
  for (const output of outputs) files.set(output.path, [...(files.get(output.path) ?? []), output])
  return [...files.values()]
}

/** Files that two outputs would write over each other. */
export const fileClashes = (outputs: readonly Output[]): { readonly at: number; readonly sentence: string }[] =>
  outputs.flatMap((output, at) => {
    if (!isFile(output)) return []
    const before = outputs
      .slice(0, at)
      .find((other): other is FileOutput => isFile(other) && other.file === output.file)
    if (!before || (before.format === 'xlsx' && output.format === 'xlsx' && before.table !== output.table)) return []
    return [{ at, sentence: `${quoted(output.file)} is written twice; only a workbook (xlsx) holds several tables.` }]
  })

/** What a script writes: each table once, as CSV. */
export const scriptOutputs = ({
  outputs = [],
  tables,
}: {
  readonly outputs?: readonly Output[] | undefined
  readonly tables: readonly { readonly id: string }[]
}): { readonly table: string; readonly file: string }[] => {
  const wanted =
    outputs.length > 0
      ? outputs
      : tables.slice(-1).map(({ id }): Output => ({ table: id, format: 'csv', file: `${id}.csv` }))
  const csv = (output: Output): string => (isFile(output) ? `${withoutEnding(output.file)}.csv` : `${output.table}.csv`)
  return wanted.flatMap((output, i) =>
    wanted.findIndex((other) => other.table === output.table) === i
      ? [
          {
            table: output.table,
            file: csv(wanted.find((other) => other.table === output.table && other.format === 'csv') ?? output),
          },
        ]
      : [],
  )
}

/** The tables that a recipe writes, each once. */
export const writtenTables = ({
  outputs = [],
}: {
  readonly outputs?: readonly Output[] | undefined
}): readonly string[] => [...new Set(outputs.map(({ table }) => table))]

import { ownValue } from '../../table/own.ts'
import { z } from 'zod'
import { pythonPatterns } from '../../codegen/patterns.ts'
import { code, joined, py, pyHelper, sql, sqlHelper, type Code } from '../../codegen/tag.ts'
import { type ColumnType } from '../../table/column.ts'
import { counted, listed, quoted } from '../../messages/words.ts'
import { checkFormats, formatWords, readSql, unreadSql } from '../cast/index.ts'
import { isPlain, localeWords } from '../../reading/number-locales.ts'
import { moreDatePatterns, otherNumberSigns } from '../shared/reading-fixes.ts'
import { name } from '../../reading/name-schema.ts'
import { headerRows } from '../../reading/row-filter.ts'
import { plainPython } from './plain-python.ts'
import { defineStep, slot, type Sentence, type SqlContext, type TableNames } from '../shared/step-kind.ts'
import {
  type ColumnReading,
  type SheetSelection,
  type ReadOptions,
  readSchema,
  isWorkbook,
} from '../../reading/read-options.ts'

type Open = { readonly input: string; readonly read?: ReadOptions | undefined }

const delimiterWords: Readonly<Record<string, string>> = {
  ',': 'commas',
  ';': 'semicolons',
  '\t': 'tabs',
  '|': 'bars',
  ' ': 'blanks',
}
const encodingWords: Readonly<Record<string, string>> = {
  'utf-16le': 'UTF-16',
  'utf-16be': 'UTF-16',
  'windows-1252': 'Windows-1252',
}

/** What a pattern or list of sheets is called in a sentence. */
const sheetWords = (sheets: Exclude<SheetSelection, 'first'>): string =>
  'like' in sheets
    ? `every sheet named like ${quoted(sheets.like)}${sheets.unlike ? ` but not ${quoted(sheets.unlike)}` : ''}`
    : `the ${sheets.length === 1 ? 'sheet' : 'sheets'} ${listed(sheets.map(quoted))}`
const headerWords = (header: Exclude<ReadOptions['header'], 'none' | undefined>): string =>
  typeof header === 'number' ? `row ${header}` : `${header.length === 1 ? 'row' : 'rows'} ${listed(header.map(String))}`
const originWords = ({ file, sheet }: NonNullable<ReadOptions['origin']>): string =>
  listed([
    ...(file ? [`the file of each row as ${file}`] : []),
    ...(sheet ? [`the sheet${file ? '' : ' of each row'} as ${sheet}`] : []),
  ])

// eslint-disable-next-line complexity -- one line for each reading option, absent where it is the default
const sentence = ({ input, read = {} }: Open, names: TableNames): Sentence => {
  const headerPart = () => {
    if (read.header === 'none') return [', which has ', slot('no row of names', 'open', ['read', 'header'])]
    if (read.header !== undefined && read.header !== 1)
      return [', column names from ', slot(headerWords(read.header), 'open', ['read', 'header'])]
    return []
  }
  return [
    'Open ',
    slot(names(input, 'input'), 'open', ['input']),
    ...(read.path ? [', the list at ', slot(read.path, 'open', ['read', 'path'])] : []),
    ...(read.sheets && read.sheets !== 'first'
      ? [', ', slot(sheetWords(read.sheets), 'open', ['read', 'sheets'])]
      : []),
    ...(read.range ? [', cells ', slot(read.range, 'open', ['read', 'range'])] : []),
    ...headerPart(),
    ...(read.delimiter && read.delimiter !== ','
      ? [
          ', separated by ',
          slot(ownValue(delimiterWords, read.delimiter) ?? read.delimiter, 'open', ['read', 'delimiter']),
        ]
      : []),
    ...(read.encoding && ownValue(encodingWords, read.encoding.toLowerCase())
      ? [
          ', written in ',
          slot(ownValue(encodingWords, read.encoding.toLowerCase()) as string, 'open', ['read', 'encoding']),
        ]
      : []),
    ...(read.skip
      ? [', leaving out ', slot(`${counted(read.skip, 'row')} below the names`, 'open', ['read', 'skip'])]
      : []),
    ...(read.footer
      ? [', leaving out ', slot(`${counted(read.footer, 'row')} at the foot`, 'open', ['read', 'footer'])]
      : []),
    ...(read.locale && !isPlain(read.locale)
      ? [', numbers with ', slot(localeWords(read.locale), 'open', ['read', 'locale'])]
      : []),
    ...(read.origin?.file || read.origin?.sheet
      ? [', noting ', slot(originWords(read.origin), 'open', ['read', 'origin'])]
      : []),
    '.',
  ]
}

const typeFor = (read: ReadOptions, column: string, type: ColumnType): ColumnReading => {
  const given = typeof read.types === 'object' ? ownValue(read.types, column) : undefined
  return given ?? { type }
}

const pythonTypes = (types: ReadOptions['types']): Code =>
  typeof types !== 'object'
    ? py`${types ?? 'detect'}`
    : py`{${joined(
        Object.entries(types).map(([column, { type, formats = [] }]) =>
          formats.length > 0 ? py`${column}: (${type}, ${pythonPatterns(formats)})` : py`${column}: ${type}`,
        ),
        ', ',
      )}}`

/** The rows of an input’s files, each with its place in them. */
export const sheetRowsSql = ({ input, read: given = {} }: Open, source: SqlContext['source']): Code => {
  const { rows, format } = source(input)
  const read = format === 'csv' ? given : asCsv
  return sql`${sqlHelper('sheet_rows')}(${rows}, ${headerSql(read)}, ${read.skip ?? 0}, ${read.footer ?? 0}) r`
}

/** Opens files as a table. */
export const open = defineStep<Open>({
  kind: 'open',
  verb: 'Open a file',
  words: ['open', 'import', 'load', 'read', 'csv', 'file', 'upload'],
  start: true,
  opens: ({ input, read = {} }) => ({ input, read }),
  params: z.strictObject({ input: name, read: readSchema.optional() }),
  sentence,
  readingFixes: ({ read = {} }, column, texts) => {
    const given = typeof read.types === 'object' ? ownValue(read.types, column) : undefined
    if (!given) return []
    const dates = moreDatePatterns(given, texts)
    const numbers = otherNumberSigns(given.type, read.locale, texts)
    if (numbers)
      return [
        {
          params: { read: { ...read, locale: numbers.locale } },
          words: `numbers with ${localeWords(numbers.locale)}`,
          reads: numbers.reads,
        },
      ]
    if (!dates) return []
    const types = { ...(read.types as object), [column]: { ...given, formats: dates.formats } }
    return [
      { params: { read: { ...read, types } }, words: listed(dates.added.map(formatWords), 'or'), reads: dates.reads },
    ]
  },
  output: ({ input, read }, _schema, context) => {
    const columns = context.inputColumns(input)
    if (!columns) context.report({ code: 'unknown-input', input }, 'input')
    if (typeof read?.types === 'object')
      for (const [column, { formats }] of Object.entries(read.types))
        checkFormats(formats, context, 'read', 'types', column, 'formats')
    return columns ?? []
  },
  run: ({ input, read = {} }, _table, context) => {
    const { table, notes, unreadable } = context.opened(input, read)
    return { table, lineage: { kind: 'source' }, notes, unreadable }
  },
  scripts: {
    sql: ({ input, read: given = {} }, context) => {
      const { source, column } = context
      const { columns, format, inFile } = source(input)
      const read = format === 'csv' ? given : asCsv
      const parsed = sheetRowsSql({ input, read: given }, source)
      const cells = columns.map((field) => {
        const noted = (part: Code) => ({ name: field.name, kind: 'text' as const, text: part, read: part })
        if (format === 'csv' && field.name === read.origin?.file) return noted(sql`r.file_name`)
        if (format === 'csv' && field.name === read.origin?.sheet) return noted(sql`null::text`)
        const text = sql`nullif(r.cells[r.at[${inFile.indexOf(field.name) + 1}]], '')`
        const typed = typeFor(read, field.name, field.type)
        return { name: field.name, kind: typed.type, text, read: readSql(text, { ...typed, locale: read.locale }) }
      })
      const named = cells.map((cell) => sql`${cell.read} as ${column(cell.name)}`)
      return {
        body: sql`select r."¶", ${joined(named, ',\n  ')}\nfrom ${parsed}`,
        after: unreadSql(cells, parsed, context),
      }
    },
    spark: 'table',
    // eslint-disable-next-line complexity -- one line for each reading option, absent where it is the default
    python: ({ input, read: given = {} }, context) => {
      const { frame, source } = context
      const { files, format, known } = source(input)
      const plain = format === 'csv' && Object.keys(known).length === 0 ? plainPython(given, input, context) : undefined
      if (plain) return plain
      const read = format === 'parquet' ? { ...asCsv, types: given.types } : given
      const options = [
        ...(format === 'json' && read.path ? [py`path=${read.path}`] : []),
        ...(read.encoding ? [py`encoding=${read.encoding}`] : []),
        ...(read.delimiter ? [py`delimiter=${read.delimiter}`] : []),
        ...(read.quote && read.quote !== '"' ? [py`quote=${read.quote}`] : []),
        ...(isWorkbook(format) && read.sheets && read.sheets !== 'first'
          ? [py`sheets=${pythonSheets(read.sheets)}`]
          : []),
        ...(format === 'json'
          ? []
          : [
              ...(read.range ? [py`area=${read.range}`] : []),
              ...headerPython(read),
              ...(read.skip ? [py`skip=${read.skip}`] : []),
              ...(read.footer ? [py`footer=${read.footer}`] : []),
            ]),
        ...(read.types === undefined || read.types === 'detect' ? [] : [py`types=${pythonTypes(read.types)}`]),
        ...(read.locale && (read.locale.decimal !== '.' || read.locale.group !== ',')
          ? [py`decimal=${read.locale.decimal}, group=${read.locale.group}`]
          : []),
        ...(read.origin?.file ? [py`file_column=${read.origin.file}`] : []),
        ...(read.origin?.sheet ? [py`sheet_column=${read.origin.sheet}`] : []),
        ...(Object.keys(known).length > 0
          ? [
              py`known={${joined(
                Object.entries(known).map(([from, to]) => py`${from}: ${to}`),
                ', ',
              )}}`,
            ]
          : []),
      ]
      const openerName = () => {
        if (isWorkbook(format)) return 'open_workbook'
        if (format === 'json') return 'open_json'
        return 'open_csv'
      }
      const opener = pyHelper(openerName())
      return py`${frame} = ${opener}(${files}${options.length > 0 ? py`, ${joined(options, ', ')}` : code('')})`
    },
  },
})
/** How a script reads what is no text file: as the CSV that the command line makes of it. */
export const asCsv: ReadOptions = { encoding: 'utf-8', delimiter: ',' }
/** The header rows as an SQL array, empty where there is none. */
export const headerSql = (read: ReadOptions): Code => sql`array[${headerRows(read)}]::int[]`
const headerPython = ({ header }: ReadOptions): Code[] =>
  header === undefined || header === 1 ? [] : [header === 'none' ? py`header=None` : py`header=${header}`]
const pythonSheets = (sheets: Exclude<SheetSelection, 'first'>): Code => {
  if ('like' in sheets) {
    if (sheets.unlike === undefined) return py`{"like": ${sheets.like}}`
    return py`{"like": ${sheets.like}, "unlike": ${sheets.unlike}}`
  }
  return py`${sheets}`
}

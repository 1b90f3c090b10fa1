import {
  setOwnValue,
  ownValue,
  CellTableBuilder,
  columnOf,
  concat,
  convert,
  emptyColumn,
  keptTexts,
  readWith,
  storyNames,
  Table,
  TooLarge,
  typeTogether,
  wildcard,
  type Column,
  type ColumnType,
  type Format,
  type BuiltTable,
  type OpenedInput,
  type ReadOptions,
  type Schema,
  type ColumnAliases,
  type UnreadableCells,
} from '@fabula/core'
import type { FileContent } from './file-content.ts'
import type { YieldControl } from './yield-control.ts'
import { openCsvFile } from './csv/open-csv.ts'
import { formatOfFile, openWorkbook } from './format.ts'
import { openJson } from './json/open-json.ts'
import { FileProblem } from './problem.ts'
import { openParquet } from './parquet/open-parquet.ts'
import type { SheetInfo, Workbook } from './sheet/workbook.ts'

/** A file to open: its name, its bytes, its SHA-256. */
export type InputFile = {
  readonly name: string
  readonly content: FileContent
  /** SHA-256 of the bytes, in hex. */ readonly hash: string
  /** Other names of columns in this file alone, to the names of the story. */
  readonly aliases?: ColumnAliases | undefined
  /** Sheets of it that are not taken in, whatever is asked for. */
  readonly withoutSheets?: readonly string[] | undefined
}
/** A file that was opened, with its rows. */
export type OpenedFile = { readonly name: string; readonly sha256: string; readonly rows: number }
/** A file, or a sheet of one, that was taken in; `lacks` are columns that another one has. */
export type OpenedPart = {
  readonly file: string
  readonly sheet?: string
  readonly rows: number
  /** Its columns as the story names them, with the types of the whole input. */
  readonly schema: Schema
  readonly lacks: readonly string[]
  /** A hidden sheet of a workbook. */
  readonly hidden?: true
}
/** A sheet of a workbook that was not taken in, as it would be read; `rows` of those that were looked at. */
export type OtherSheet = {
  readonly file: string
  readonly sheet: string
  readonly rows: number
  readonly schema: Schema
  readonly hidden?: true
}
/** Files opened as one table, with what each part had or lacked. */
export type OpenedFiles = OpenedInput & {
  readonly files: readonly OpenedFile[]
  readonly parts: readonly OpenedPart[]
  readonly otherSheets: readonly OtherSheet[]
  /** Sheets asked for by name that no file has. */ readonly missingSheets: readonly string[]
  /** Columns that came by another name, by that name. */ readonly renamed: ColumnAliases
}

type ReadPart = {
  readonly file: InputFile
  readonly sheet?: string
  readonly hidden?: true
  readonly format: Format
  readonly built: BuiltTable
  readonly renamed: ColumnAliases
}

/** A part with its columns by the names the story knows. */
const named = (part: Omit<ReadPart, 'renamed'>, ofInput: ColumnAliases): ReadPart => {
  const known = { ...ofInput, ...part.file.aliases }
  const { table, blank, blankAt, unreadable, notes } = part.built
  const names = storyNames(table.names, known)
  const renamed = Object.fromEntries(
    table.names.flatMap((name, i) => (names[i] === name ? [] : [[name, names[i] as string]])),
  )
  if (Object.keys(renamed).length === 0) return { ...part, renamed }
  const to = (name: string): string => ownValue(renamed, name) ?? name
  return {
    ...part,
    renamed,
    built: {
      table: table.renamed(names),
      notes,
      blank: new Set([...blank].map(to)),
      blankAt,
      unreadable: unreadable.map((one) => ({ ...one, column: to(one.column) })),
    },
  }
}

/** Text files have no types of their own: a column that is text in one is text in all, to the letter. */
const together = (types: readonly ColumnType[], format: Format): ColumnType => {
  const all = typeTogether(types)
  return format === 'csv' && all === 'datetime' && types.includes('date') ? 'text' : all
}

/** A column without values says nothing of its type while another part has some. */
const typesOf = (parts: readonly ReadPart[], name: string): ColumnType[] => {
  const having = parts.filter(({ built }) => built.table.positionOf(name) >= 0)
  const filled = having.filter(({ built }) => !built.blank.has(name))
  return (filled.length > 0 ? filled : having).map(({ built }) => built.table.named(name).type)
}

const sumNotes = (parts: readonly ReadPart[]): Record<string, number> => {
  const notes: Record<string, number> = {}
  for (const { built } of parts)
    for (const [key, n] of Object.entries(built.notes)) setOwnValue(notes, key, (ownValue(notes, key) ?? 0) + n)
  return notes
}

/** The sheets that a recipe takes in: the first that is not hidden, those named, or those whose name fits. */
export const chosenSheets = (sheets: readonly SheetInfo[], wanted: ReadOptions['sheets']): readonly SheetInfo[] => {
  if (wanted === undefined || wanted === 'first') return sheets.filter(({ hidden }) => !hidden).slice(0, 1)
  if (!('like' in wanted)) return wanted.flatMap((name) => sheets.filter((sheet) => sheet.name === name))
  const like = wildcard(wanted.like)
  const unlike = wanted.unlike === undefined ? undefined : wildcard(wanted.unlike)
  return sheets.filter(({ name }) => like.test(name) && !unlike?.test(name))
}

const openSheet = async (
  book: Workbook,
  sheet: string,
  read: ReadOptions,
  yieldControl: YieldControl,
): Promise<BuiltTable> => {
  const builder = new CellTableBuilder(read)
  for (const share of book.rows(sheet, (cells) => builder.add(cells))) await yieldControl(share, builder.rowCount)
  return builder.done()
}

type FileParts = {
  readonly parts: Omit<ReadPart, 'renamed'>[]
  readonly others: readonly OtherSheet[]
  readonly sheets: readonly string[]
}

/** So many rows of a sheet that is not taken in are looked at for its columns. */
const lookedRows = 200

/** A sheet that is not taken in; one that cannot be read so has no columns. */
const otherSheet = (book: Workbook, { name, hidden }: SheetInfo, file: string, read: ReadOptions): OtherSheet => {
  const builder = new CellTableBuilder(read)
  let seen = 0
  try {
    const rows = book.rows(name, (cells) => {
      if (seen++ < lookedRows) builder.add(cells)
    })
    while (seen < lookedRows && rows.next().done !== true);
    const { table } = builder.done()
    return { file, sheet: name, rows: table.rowCount, schema: table.schema, ...(hidden ? { hidden } : {}) }
  } catch {
    return { file, sheet: name, rows: 0, schema: [], ...(hidden ? { hidden } : {}) }
  }
}

const openFile = async (file: InputFile, read: ReadOptions, yieldControl: YieldControl): Promise<FileParts> => {
  const format = formatOfFile(file.content, file.name, read)
  if (format === 'csv')
    return {
      parts: [{ file, format, built: await openCsvFile(file.content, file.name, read, yieldControl) }],
      others: [],
      sheets: [],
    }
  if (format === 'json')
    return {
      parts: [{ file, format, built: await openJson(file.content.all(), file.name, read, yieldControl) }],
      others: [],
      sheets: [],
    }
  if (format === 'parquet')
    return {
      parts: [{ file, format, built: await openParquet(file.content.all(), file.name, read, yieldControl) }],
      others: [],
      sheets: [],
    }
  const book = openWorkbook(file.content.all(), file.name, format)
  const chosen = chosenSheets(book.sheets, read.sheets).filter(({ name }) => !file.withoutSheets?.includes(name))
  const parts: Omit<ReadPart, 'renamed'>[] = []
  for (const [i, { name: sheet, hidden }] of chosen.entries())
    parts.push({
      file,
      sheet,
      ...(hidden ? { hidden } : {}),
      format,
      built: await openSheet(book, sheet, read, (share, rows) => yieldControl((i + share) / chosen.length, rows)),
    })
  return {
    parts,
    others: book.sheets
      .filter((sheet) => !chosen.includes(sheet))
      .map((sheet) => otherSheet(book, sheet, file.name, read)),
    sheets: book.sheets.map(({ name }) => name),
  }
}

/**
 * One file, or one sheet of it, with every cell as its text and the places of its blank rows: what a row of the input was
 * before types were read.
 */
export const openAsText = async (
  file: InputFile,
  sheet: string | undefined,
  given: ReadOptions,
  known: ColumnAliases,
): Promise<{ readonly table: Table; readonly blankAt: readonly number[]; readonly format: Format } | undefined> => {
  const { origin: _origin, ...rest } = readWith(given, { ...known, ...file.aliases })
  const read: ReadOptions = { ...rest, types: 'text', ...(sheet === undefined ? {} : { sheets: [sheet] }) }
  const { parts } = await openFileOrSay(file, read, () => undefined)
  const part = parts.find((one) => one.sheet === sheet)
  if (!part) return undefined
  const { built, format } = named(part, known)
  return { table: built.table, blankAt: built.blankAt, format }
}

/** What no table can hold is reported with the file's name. */
const openFileOrSay: typeof openFile = async (file, read, yieldControl) => {
  try {
    return await openFile(file, read, yieldControl)
  } catch (error) {
    throw error instanceof TooLarge ? new FileProblem(`${file.name} cannot be opened. ${error.message}`) : error
  }
}

/** A CSV column that is text in one file is read again as text in the others, so that no cell is changed on the way. */
const settleText = async (
  parts: readonly ReadPart[],
  names: readonly string[],
  read: ReadOptions,
  known: ColumnAliases,
): Promise<ReadPart[]> => {
  const mixed = new Set(names.filter((name) => together(typesOf(parts, name), parts[0]?.format ?? 'csv') === 'text'))
  const types = {
    ...(typeof read.types === 'object' ? read.types : {}),
    ...Object.fromEntries([...mixed].map((name) => [name, { type: 'text' as const }])),
  }
  return Promise.all(
    parts.map(async (part) => {
      const again =
        part.format === 'csv' &&
        part.built.table.schema.some(
          ({ name, type }) => mixed.has(name) && type !== 'text' && !part.built.blank.has(name),
        )
      if (!again) return part
      const asText = new Set([
        ...mixed,
        ...Object.keys(part.renamed).filter((name) => mixed.has(ownValue(part.renamed, name) as string)),
      ])
      return named(
        {
          ...part,
          built: await openCsvFile(
            part.file.content,
            part.file.name,
            readWith({ ...read, types }, part.renamed),
            () => undefined,
            asText,
          ),
        },
        known,
      )
    }),
  )
}

/** Where each row came from, as text columns that stand last. */
const withOrigin = (
  table: Table,
  parts: readonly ReadPart[],
  { file, sheet }: NonNullable<ReadOptions['origin']>,
): Table => {
  const noted = (of: (part: ReadPart) => string | undefined): Column =>
    columnOf(
      'text',
      parts.flatMap((part) => Array.from({ length: part.built.table.rowCount }, () => of(part) ?? null)),
    )
  const first = file
    ? table.with(
        table.names.length,
        file,
        noted((part) => part.file.name),
      )
    : table
  return sheet
    ? first.with(
        first.names.length,
        sheet,
        noted((part) => part.sheet),
      )
    : first
}

/**
 * Files and sheets stacked by column name, in order; what each lacks is empty. Types are told from all of them together.
 * `known`: other names by which columns may come.
 */
export const openInput = async (
  files: readonly InputFile[],
  given: ReadOptions,
  known: ColumnAliases = {},
  yieldControl: YieldControl = () => undefined,
): Promise<OpenedFiles> => {
  const read = readWith(given, Object.assign({}, known, ...files.map(({ aliases }) => aliases ?? {})) as ColumnAliases)
  const all: ReadPart[] = []
  const otherSheets: OtherSheet[] = []
  const seen = new Set<string>()
  for (const [i, file] of files.entries()) {
    const { parts, others, sheets } = await openFileOrSay(file, read, (share, rows) =>
      yieldControl((i + share) / files.length, rows),
    )
    all.push(...parts.map((part) => named(part, known)))
    otherSheets.push(...others.map((one) => withStoryNames(one, known)))
    for (const sheet of sheets) seen.add(sheet)
  }
  const names = [...new Set(all.flatMap(({ built }) => built.table.names))]
  const parts = await settleText(all, names, read, known)
  const columns = names.map((name): Column => {
    const type = together(typesOf(parts, name), parts[0]?.format ?? 'csv')
    return concat(
      type,
      parts.map(({ built: { table, blank } }) =>
        table.positionOf(name) < 0 || blank.has(name)
          ? emptyColumn(type, table.rowCount)
          : convert(table.named(name), { type }).column,
      ),
    )
  })
  const table = Table.of(
    names,
    columns,
    parts.reduce((sum, { built }) => sum + built.table.rowCount, 0),
  )
  return {
    table: read.origin ? withOrigin(table, parts, read.origin) : table,
    notes: sumNotes(parts),
    unreadable: stackUnreadable(parts),
    files: files.map((file) => ({
      name: file.name,
      sha256: file.hash,
      rows: parts.reduce((sum, part) => sum + (part.file === file ? part.built.table.rowCount : 0), 0),
    })),
    otherSheets,
    parts: parts.map((part) => partSummary(part, table)),
    missingSheets:
      Array.isArray(read.sheets) && parts.some(({ format }) => format === 'xlsx' || format === 'ods')
        ? (read.sheets as readonly string[]).filter((name) => !seen.has(name))
        : [],
    renamed: Object.assign({}, ...parts.map(({ renamed }) => renamed)) as ColumnAliases,
  }
}

const partSummary = ({ file, sheet, hidden, built }: ReadPart, table: Table): OpenedPart => ({
  file: file.name,
  ...(sheet === undefined ? {} : { sheet }),
  ...(hidden ? { hidden } : {}),
  rows: built.table.rowCount,
  schema: built.table.names.map((name) => ({ name, type: table.named(name).type })),
  lacks: table.names.filter((name) => built.table.positionOf(name) < 0),
})

/** A sheet's columns by the names the story knows. */
const withStoryNames = (sheet: OtherSheet, known: ColumnAliases): OtherSheet => {
  const names = storyNames(
    sheet.schema.map(({ name }) => name),
    known,
  )
  return { ...sheet, schema: sheet.schema.map((field, i) => ({ ...field, name: names[i] ?? field.name })) }
}

const stackUnreadable = (parts: readonly ReadPart[]): UnreadableCells[] => {
  const found = new Map<string, { readonly rows: number[]; readonly texts: string[] }>()
  let before = 0
  for (const { built } of parts) {
    for (const { column, rows, texts = [] } of built.unreadable) {
      const known = found.get(column) ?? { rows: [], texts: [] }
      for (const row of rows) known.rows.push(row + before)
      known.texts.push(...texts.slice(0, keptTexts - known.texts.length))
      found.set(column, known)
    }
    before += built.table.rowCount
  }
  return [...found].map(([column, { rows, texts }]) => ({ column, rows: Int32Array.from(rows), texts }))
}

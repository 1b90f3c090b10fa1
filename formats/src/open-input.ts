import {
  setOwnValue,
  ownValue,
  CellTableBuilder,
  columnOf,
  concat,
  convert,
  emptyColumn,
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
  type ColumnAliases,
  type UnreadableCells,
} from '@fabula/core'
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
  readonly bytes: Buffer
  /** SHA-256 of the bytes, in hex. */ readonly hash: string
}
/** A file that was opened, with its rows. */
export type OpenedFile = { readonly name: string; readonly sha256: string; readonly rows: number }
/** A file, or a sheet of one, that was taken in; `lacks` are columns that another one has. */
export type OpenedPart = {
  readonly file: string
  readonly sheet?: string
  readonly rows: number
  readonly columns: number
  readonly lacks: readonly string[]
}
/** Files opened as one table, with what each part had or lacked. */
export type OpenedFiles = OpenedInput & {
  readonly files: readonly OpenedFile[]
  readonly parts: readonly OpenedPart[]
  /** Sheets asked for by name that no file has. */ readonly missingSheets: readonly string[]
  /** Columns that came by another name, by that name. */ readonly renamed: ColumnAliases
}

type ReadPart = {
  readonly file: InputFile
  readonly sheet?: string
  readonly format: Format
  readonly built: BuiltTable
  readonly renamed: ColumnAliases
}

/** A part with its columns by the names the story knows. */
const named = (part: Omit<ReadPart, 'renamed'>, known: ColumnAliases): ReadPart => {
  const { table, blank, unreadable, notes } = part.built
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

const openFile = async (
  file: InputFile,
  read: ReadOptions,
  yieldControl: YieldControl,
): Promise<{ parts: Omit<ReadPart, 'renamed'>[]; sheets: readonly string[] }> => {
  const format = formatOfFile(file.bytes, file.name, read)
  if (format === 'csv')
    return {
      parts: [{ file, format, built: await openCsvFile(file.bytes, file.name, read, yieldControl) }],
      sheets: [],
    }
  if (format === 'json')
    return { parts: [{ file, format, built: await openJson(file.bytes, file.name, read, yieldControl) }], sheets: [] }
  if (format === 'parquet')
    return {
      parts: [{ file, format, built: await openParquet(file.bytes, file.name, read, yieldControl) }],
      sheets: [],
    }
  const book = openWorkbook(file.bytes, file.name, format)
  const chosen = chosenSheets(book.sheets, read.sheets)
  const parts: Omit<ReadPart, 'renamed'>[] = []
  for (const [i, { name: sheet }] of chosen.entries())
    parts.push({
      file,
      sheet,
      format,
      built: await openSheet(book, sheet, read, (share, rows) => yieldControl((i + share) / chosen.length, rows)),
    })
  return { parts, sheets: book.sheets.map(({ name }) => name) }
}

/** What no table can hold is told with the file's name. */
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
            part.file.bytes,
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
  const read = readWith(given, known)
  const all: ReadPart[] = []
  const seen = new Set<string>()
  for (const [i, file] of files.entries()) {
    const { parts, sheets } = await openFileOrSay(file, read, (share, rows) =>
      yieldControl((i + share) / files.length, rows),
    )
    all.push(...parts.map((part) => named(part, known)))
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
    parts: parts.map(({ file, sheet, built }) => ({
      file: file.name,
      ...(sheet === undefined ? {} : { sheet }),
      rows: built.table.rowCount,
      columns: built.table.names.length,
      lacks: names.filter((name) => built.table.positionOf(name) < 0),
    })),
    missingSheets:
      Array.isArray(read.sheets) && parts.some(({ format }) => format === 'xlsx' || format === 'ods')
        ? (read.sheets as readonly string[]).filter((name) => !seen.has(name))
        : [],
    renamed: Object.assign({}, ...parts.map(({ renamed }) => renamed)) as ColumnAliases,
  }
}

const stackUnreadable = (parts: readonly ReadPart[]): UnreadableCells[] => {
  const rows = new Map<string, number[]>()
  let before = 0
  for (const { built } of parts) {
    for (const { column, rows: here } of built.unreadable) {
      const list = rows.get(column) ?? []
      for (const row of here) list.push(row + before)
      rows.set(column, list)
    }
    before += built.table.rowCount
  }
  return [...rows].map(([column, list]) => ({ column, rows: Int32Array.from(list) }))
}

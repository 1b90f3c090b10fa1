import { rowLayout, type ColumnAliases, type ReadOptions, type Table } from '@fabula/core'
import { csvRows } from '../csv/open-csv.ts'
import { formatOfFile, openWorkbook } from '../format.ts'
import { openAsText, type InputFile } from '../open-input.ts'

/** Why a record of a file is no row of its table. */
export type LeftOut = 'blank' | 'names' | 'above-names' | 'skipped' | 'outside-range' | 'foot'

/** Some records of a file or sheet as they stand there, with how many there are. */
export type SheetRows = {
  readonly total: number
  /** Names of the cells, of records without a place in a sheet (JSON, Parquet). */
  readonly columns?: readonly string[]
  readonly rows: readonly { readonly at: number; readonly cells: readonly string[] }[]
}
/**
 * The rows of a file or sheet as a person counts them: 1 is the first record, with titles, names and blank rows; a cell with
 * line breaks is in one record; of records without a place (JSON, Parquet) the n-th.
 */
export type SourceRows = {
  /** The rows of the table with every cell as its text in the file. */
  readonly texts: Table
  /** The record of a row of the table (from 0). */
  readonly recordOf: (row: number) => number
  /** The row of the table that a record is, or why it is none; undefined where there is no such record. */
  readonly rowOf: (record: number) => { readonly row: number } | { readonly leftOut: LeftOut } | undefined
  /** The cells of any record as text, by the columns of the table; of names and titles too. */
  readonly textsOf: (record: number) => Readonly<Record<string, string>>
  /** Records from one on, as they stand in the file. O(records up to the last of them). */
  readonly recordsFrom: (first: number, count: number) => SheetRows
}

/** How many blank places stand before the k-th row that is not blank. O(log blanks). */
const blanksBefore = (blankAt: readonly number[], row: number): number => {
  let low = 0
  let high = blankAt.length
  while (low < high) {
    const middle = (low + high) >> 1
    if ((blankAt[middle] ?? 0) - middle <= row) low = middle + 1
    else high = middle
  }
  return low
}

/** Every record of a file or sheet, as it stands there; of a text file or a workbook. */
const records = function* (
  file: InputFile,
  sheet: string | undefined,
  read: ReadOptions,
): Generator<readonly unknown[]> {
  const format = formatOfFile(file.content, file.name, read)
  if (format === 'csv') {
    for (const { rows } of csvRows(file.content.all(), file.name, read)) yield* rows
    return
  }
  const book = openWorkbook(file.content.all(), file.name, format === 'ods' ? 'ods' : 'xlsx')
  const found: (readonly unknown[])[] = []
  for (const _ of book.rows(sheet ?? '', (cells) => found.push(cells))) {
    yield* found
    found.length = 0
  }
  yield* found
}

const recordsBetween = (all: Iterable<readonly unknown[]>, first: number, count: number): SheetRows['rows'] => {
  const rows: { at: number; cells: string[] }[] = []
  let at = 0
  for (const cells of all) {
    if (++at < first) continue
    if (rows.length === count) break
    rows.push({ at, cells: cells.map(shown) })
  }
  return rows
}

/** Why a record above the first row of the table is none. */
const aboveWhy = (record: number, { heads, lastHead, above }: ReturnType<typeof rowLayout>): LeftOut => {
  if (record <= above) return 'outside-range'
  if (heads.includes(record)) return 'names'
  return record < lastHead ? 'above-names' : 'skipped'
}

/** A file, or a sheet of one, with its rows as a person counts them. */
export const openSourceRows = async (
  file: InputFile,
  sheet: string | undefined,
  given: ReadOptions,
  known: ColumnAliases = {},
): Promise<SourceRows | undefined> => {
  const opened = await openAsText(file, sheet, given, known)
  if (!opened) return undefined
  const { table: texts, blankAt, format } = opened
  const placed = format === 'csv' || format === 'xlsx' || format === 'ods'
  const read: ReadOptions = placed ? given : { header: 'none' }
  const layout = rowLayout(read)
  const { top } = layout
  const recordOf = (row: number): number => top + row + blanksBefore(blankAt, row) + 1
  let total: number | undefined
  const countRecords = (): number => {
    if (!placed) return texts.rowCount + blankAt.length
    let n = 0
    for (const _ of records(file, sheet, given)) n++
    return n
  }
  const rowOf = (record: number): ReturnType<SourceRows['rowOf']> => {
    if (!Number.isInteger(record) || record < 1) return undefined
    const place = record - top - 1
    const isBody = place >= 0 && place < texts.rowCount + blankAt.length
    if (!isBody && record > (total ??= countRecords())) return undefined
    if (place < 0) return { leftOut: aboveWhy(record, layout) }
    const blanks = blankAt.filter((at) => at <= place)
    if (blanks.at(-1) === place) return { leftOut: 'blank' }
    if (isBody) return { row: place - blanks.length }
    return { leftOut: layout.rectangle && record > layout.rectangle.bottom ? 'outside-range' : footOrBlank(read) }
  }
  const recordsFrom = (first: number, count: number): SheetRows => {
    total ??= countRecords()
    if (placed) return { total, rows: recordsBetween(records(file, sheet, given), first, count) }
    const numbers = Array.from({ length: Math.max(0, Math.min(count, total - first + 1)) }, (_, i) => first + i)
    const cellsOf = (record: number): string[] => {
      const found = rowOf(record)
      if (!found || !('row' in found)) return []
      return texts.names.map((_, c) => String(texts.cell(c, found.row) ?? ''))
    }
    return { total, columns: texts.names, rows: numbers.map((at) => ({ at, cells: cellsOf(at) })) }
  }
  return {
    texts,
    recordOf,
    recordsFrom,
    rowOf,
    textsOf: (record) =>
      textsOf(record, { texts, rowOf, file, sheet, read: given, left: (layout.rectangle?.left ?? 1) - 1, placed }),
  }
}

/** Below the last row of the table stand its foot, or rows without a value. */
const footOrBlank = ({ footer = 0 }: ReadOptions): LeftOut => (footer > 0 ? 'foot' : 'blank')

/** The filled cells of a row of a table, by column. */
const filledTexts = (table: Table, row: number): Record<string, string> =>
  Object.fromEntries(
    table.names.flatMap((name, c) => {
      const cell = table.cell(c, row)
      return cell === null ? [] : [[name, String(cell)]]
    }),
  )

/** A cell of a workbook or of a text file as text. */
const shown = (cell: unknown): string => {
  if (cell === null || cell === undefined) return ''
  if (typeof cell !== 'object') return String(cell)
  return 'value' in cell ? String(cell.value) : String(Object.values(cell)[0])
}

const textsOf = (
  record: number,
  {
    texts,
    rowOf,
    file,
    sheet,
    read,
    left,
    placed,
  }: Pick<SourceRows, 'texts' | 'rowOf'> & {
    readonly file: InputFile
    readonly sheet: string | undefined
    readonly read: ReadOptions
    readonly left: number
    readonly placed: boolean
  },
): Readonly<Record<string, string>> => {
  const found = rowOf(record)
  if (!found) return {}
  if ('row' in found) return filledTexts(texts, found.row)
  // a record without a place of its own is blank
  if (!placed) return {}
  let n = 0
  for (const cells of records(file, sheet, read)) {
    if (++n < record) continue
    return Object.fromEntries(
      texts.names.flatMap((name, c) => {
        const text = shown(cells[c + left])
        return text === '' ? [] : [[name, text]]
      }),
    )
  }
  return {}
}

import { headerRows, textOfCell, type Format, type RawCell, type ReadOptions } from '@fabula/core'
import { detectEncoding, encodingSamples, textPieces } from './csv/decode.ts'
import { csvRows } from './csv/open-csv.ts'
import { checkWidth } from './csv/parsed-rows.ts'
import { sniffDelimiter } from './csv/sniff.ts'
import { formatOfFile, openWorkbook } from './format.ts'
import { listsIn, parseJson } from './json/open-json.ts'
import { OpenQuote } from './problem.ts'
import { guessTable } from './sniff-table.ts'
import type { InputFile } from './open-input.ts'
import type { Merge } from './sheet/workbook.ts'

/** A sheet with its size and the names in its header. */
export type SheetLook = {
  readonly name: string
  readonly hidden: boolean
  readonly rows: number
  readonly columns: number
  readonly names: readonly string[]
}
/** A file as it stands: its first and last rows, each with its number, and how it seems to be written. */
export type RawLook = {
  readonly format: Format
  readonly sheet?: string
  /** Where the list of records of a JSON file seems to stand. */
  readonly path?: string
  readonly sheets: readonly SheetLook[]
  readonly rows: readonly { readonly at: number; readonly cells: readonly string[] }[]
  readonly total: number
  readonly encoding: string
  readonly delimiter: string
  readonly header: number | readonly number[]
  readonly footer: number
  readonly samples: readonly { readonly encoding: string; readonly text: string }[]
  readonly merges: readonly Merge[]
}

const mostRows = 60
const tailRows = 8

const shown = (cell: RawCell): string => {
  if (cell === null || cell === undefined) return ''
  if (typeof cell === 'object') {
    if ('error' in cell) return cell.error
    if ('list' in cell) return cell.list
    return textOfCell(cell.type, cell.value)
  }
  return textOfCell(typeof cell === 'number' ? 'decimal' : 'text', cell)
}

/** First and last rows as they go by. */
class Ends {
  readonly first: string[][] = []
  private last: { at: number; cells: string[] }[] = []
  total = 0
  width = 0
  private blank = 0
  private readonly sheet: boolean
  /** Below a sheet's last filled row there is nothing; a text file's blank lines are there to the end. */
  constructor(sheet: boolean) {
    this.sheet = sheet
  }
  add(cells: string[]): void {
    if (this.sheet && cells.every((cell) => cell === '')) {
      this.blank++
      return
    }
    for (; this.blank > 0; this.blank--) this.put([])
    this.put(cells)
    let width = cells.length
    while (width > 0 && cells[width - 1] === '') width--
    this.width = Math.max(this.width, width)
  }
  private put(cells: string[]): void {
    this.total++
    if (this.first.length < mostRows) this.first.push(cells)
    this.last.push({ at: this.total, cells })
    if (this.last.length > tailRows) this.last.shift()
  }
  /** The rest was not looked at: neither foot nor count is known. */
  cut(): void {
    this.last = []
    this.total = 0
  }
  get rows(): RawLook['rows'] {
    return [
      ...this.first.map((cells, i) => ({ at: i + 1, cells })),
      ...this.last.filter(({ at }) => at > this.first.length),
    ]
  }
  get tail(): string[][] {
    return this.last.map(({ cells }) => cells)
  }
}

const lookAtCsv = ({ content, name }: InputFile, read: ReadOptions): RawLook => {
  const encoding = read.encoding ?? detectEncoding(content)
  // a large file is looked at from its first piece only: its foot is not known then
  const large = content.size > 8 << 20
  const start = large ? content.part(0, (2 << 20) + 1) : content.all()
  const lines = start.lastIndexOf(10) + 1
  const bytes = large ? start.subarray(0, Math.max(2, encoding.startsWith('utf-16') ? lines & ~1 : lines)) : start
  const quote = read.quote ?? '"'
  const [piece] = textPieces(bytes, name, encoding)
  const delimiter = read.delimiter ?? sniffDelimiter(piece?.text ?? '', quote)
  const walk = (partial: boolean): Ends => {
    const ends = new Ends(false)
    for (const { rows } of csvRows(bytes, name, { ...read, encoding, delimiter }, partial)) {
      checkWidth(rows, name)
      for (const row of rows) ends.add([...row])
    }
    return ends
  }
  let ends: Ends
  try {
    ends = walk(large)
  } catch (error) {
    if (!(error instanceof OpenQuote)) throw error
    ends = walk(true)
  }
  if (large) ends.cut()
  const { header, footer } = guessTable(ends.first, ends.tail)
  return {
    format: 'csv',
    sheets: [],
    rows: ends.rows,
    total: ends.total,
    encoding,
    delimiter,
    header,
    footer,
    samples: encodingSamples(bytes),
    merges: [],
  }
}

/** The first lines, set out for reading, and the first list of records in it. */
const lookAtJson = (
  { content, name }: InputFile,
  read: ReadOptions,
): Pick<RawLook, 'rows' | 'total'> & { path?: string } => {
  const document = parseJson(content.all(), name, read.encoding)
  const [path = ''] = listsIn(document)
  const text = JSON.stringify(
    document,
    (_key, value: unknown) => (Array.isArray(value) ? (value.slice(0, 20) as unknown[]) : value),
    2,
  )
  const rows = text.split('\n', 200).map((line, i) => ({ at: i + 1, cells: [line] }))
  return { rows, total: 0, ...(path === '' ? {} : { path }) }
}

/** What stands in the file, before anything is made of it. `sheet` says which sheet's rows are wanted. */
export const lookAtFile = (file: InputFile, read: ReadOptions, sheet?: string): RawLook => {
  const format = formatOfFile(file.content, file.name, read)
  const plain = {
    format,
    sheets: [],
    rows: [],
    total: 0,
    encoding: 'utf-8',
    delimiter: ',',
    header: 1,
    footer: 0,
    samples: [],
    merges: [],
  } as const
  if (format === 'csv') return lookAtCsv(file, read)
  if (format === 'json') return { ...plain, ...lookAtJson(file, read) }
  if (format === 'parquet') return plain
  const book = openWorkbook(file.content.all(), file.name, format)
  const wanted = sheet ?? book.sheets.find(({ hidden }) => !hidden)?.name ?? book.sheets[0]?.name
  let look: Ends | undefined
  const sheets = book.sheets.map((info): SheetLook => {
    const ends = new Ends(true)
    let whole = true
    for (const share of book.rows(info.name, (cells) => ends.add(cells.map(shown)))) {
      // a very large sheet is looked at from its beginning only
      whole = share >= 0.1 || ends.first.length < mostRows
      if (!whole) break
    }
    if (!whole) ends.cut()
    if (info.name === wanted) look = ends
    const heads = headerRows({ header: guessTable(ends.first, []).header })
    return {
      ...info,
      rows: ends.total,
      columns: ends.width,
      names: (ends.first[(heads.at(-1) ?? 1) - 1] ?? []).filter((cell) => cell !== ''),
    }
  })
  if (wanted === undefined || !look) return plain
  const { header, footer } = guessTable(look.first, look.tail)
  return {
    ...plain,
    sheet: wanted,
    sheets,
    rows: look.rows,
    total: look.total,
    header,
    footer,
    merges: book.merges(wanted),
  }
}

import { figure } from '../messages/words.ts'
import { textOfCell } from '../table/cell-text.ts'
import { columnWriter, emptyColumn, typeTogether, type Cell, type Column, type ColumnType } from '../table/column.ts'
import { TooLarge } from '../table/limits.ts'
import { uint8s, float64s, IntList } from '../kernels/memory.ts'
import { plainLocale } from '../table/number.ts'
import { ownValue } from '../table/own.ts'
import { Table } from '../table/table.ts'
import { ColumnNames } from './column-names.ts'
import { convertCell, textReader, type ConversionTarget } from './convert.ts'
import type { ReadOptions } from './read-options.ts'
import { joinedNames, RowFilter } from './row-filter.ts'
import { keptTexts, type BuiltTable, type UnreadableCells } from './table-builder.ts'
import { detectText, widen, type Detected } from './type-detection.ts'

/** What a workbook's or a record's cell holds; `error` is a cell that shows an error instead of a value. */
export type RawCell =
  | string
  | number
  | boolean
  | null
  | { readonly type: 'date' | 'datetime' | 'time'; readonly value: number }
  | { readonly list: string }
  | { readonly error: string }

const kinds = ['text', 'integer', 'decimal', 'boolean', 'date', 'datetime', 'time', 'list'] as const
const listKind = kinds.indexOf('list') + 1
const errorKind = kinds.length + 1
const maxWhole = Number.MAX_SAFE_INTEGER

/** Blank cells for which buffers are made: a few values at the far end of a sheet would otherwise fill any memory. */
const mostPadded = 50_000_000
const paddedAFilled = 100

/** A column of cells of any type, until all are known: a tag and a number, or a text, for each row. */
class CellBuilder {
  private tags = uint8s(256)
  private numbers = float64s(256)
  private texts: (string | undefined)[] = []
  length = 0
  add(cell: RawCell): void {
    if (this.length === this.tags.length) this.grow()
    const at = this.length++
    if (cell === null || cell === '') return
    if (typeof cell === 'string') {
      this.tags[at] = 1
      this.texts[at] = cell
    } else if (typeof cell === 'number') {
      this.tags[at] = Number.isInteger(cell) && Math.abs(cell) <= maxWhole ? 2 : 3
      this.numbers[at] = cell
    } else if (typeof cell === 'boolean') {
      this.tags[at] = 4
      this.numbers[at] = cell ? 1 : 0
    } else if ('list' in cell) {
      this.tags[at] = listKind
      this.texts[at] = cell.list
    } else if ('error' in cell) {
      this.tags[at] = errorKind
      this.texts[at] = cell.error
    } else {
      this.tags[at] = kinds.indexOf(cell.type) + 1
      this.numbers[at] = cell.value
    }
  }
  private grow(): void {
    const tags = uint8s(this.tags.length * 2)
    tags.set(this.tags)
    this.tags = tags
    const numbers = float64s(this.numbers.length * 2)
    numbers.set(this.numbers)
    this.numbers = numbers
  }
  /** The types of the filled cells. */
  get types(): Set<ColumnType> {
    const met = new Set<number>(this.tags.subarray(0, this.length))
    return new Set(kinds.filter((_, i) => met.has(i + 1)))
  }
  /** The type of text as it reads, for records, which have no types of their own for dates. */
  detected(detect: (text: string) => ColumnType): ColumnType {
    let type: Detected = 'nothing'
    for (const text of new Set(this.texts)) if (text !== undefined) type = widen(type, detect(text))
    return type === 'nothing' ? 'text' : type
  }
  private cellAt(row: number, tag: number): Exclude<Cell, null> {
    if (tag === 1 || tag === listKind) return this.texts[row] as string
    if (tag === 4) return this.numbers[row] === 1
    return this.numbers[row]!
  }
  /** Each cell by its own type as one type: text is read, all else converted; what cannot be is unreadable. */
  column(to: ConversionTarget): { column: Column; unreadable: Int32Array; texts: string[] } {
    const writer = columnWriter(to.type, this.length)
    const read = textReader(to)
    const convert = kinds.map((from) =>
      from === 'text' && to.type !== 'text'
        ? (cell: Exclude<Cell, null>) => read(cell as string)
        : convertCell(from, to, read),
    )
    const bad = new IntList()
    const texts: string[] = []
    for (let row = 0; row < this.length; row++) {
      const tag = this.tags[row]!
      if (tag === 0) continue
      const cell =
        tag === errorKind ? null : (convert[tag - 1] as (cell: Exclude<Cell, null>) => Cell)(this.cellAt(row, tag))
      if (cell === null) {
        bad.push(row)
        if (texts.length < keptTexts) texts.push(this.texts[row] ?? String(this.numbers[row]))
      } else writer.set(row, cell)
    }
    return { column: writer.done(), unreadable: bad.done(), texts }
  }
}

const nameOf = (cell: RawCell): string => {
  if (cell === null) return ''
  if (typeof cell === 'object') {
    if ('error' in cell) return cell.error
    if ('list' in cell) return cell.list
    return textOfCell(cell.type, cell.value)
  }
  const typeOfCell = () => {
    if (typeof cell === 'number') {
      if (Number.isInteger(cell)) return 'integer'
      return 'decimal'
    }
    return 'text'
  }
  return textOfCell(typeOfCell(), cell)
}

const widthOf = (row: readonly RawCell[]): number => {
  let width = row.length
  while (width > 0 && (row[width - 1] === null || row[width - 1] === '' || row[width - 1] === undefined)) width--
  return width
}

/**
 * Builds typed columns from rows of typed cells, as workbooks and records have them. Cells keep their type; a column of
 * mixed cells is text, each written as CSV would. `detects`: columns of nothing but text are read as CSV's would be.
 */
export class CellTableBuilder {
  private readonly read: ReadOptions
  private readonly detects: boolean
  private readonly gate: RowFilter<RawCell>
  private readonly names = new ColumnNames()
  private readonly builders: CellBuilder[] = []
  private blanks = 0
  private readonly blankAt: number[] = []
  private rows = 0
  private filled = 0
  private padded = 0
  constructor(read: ReadOptions, detects = false) {
    this.read = read
    this.detects = detects
    this.gate = new RowFilter(read)
  }
  get rowCount(): number {
    return this.rows
  }
  /** The next row of the sheet; blank ones count, but for those below the last that is not. */
  add(row: readonly RawCell[]): void {
    if (widthOf(row) === 0) {
      this.blanks++
      return
    }
    for (; this.blanks > 0; this.blanks--) this.take(this.gate.pass([[]]))
    this.take(this.gate.pass([row]))
  }
  private take({ names, body }: ReturnType<RowFilter<RawCell>['pass']>): void {
    if (names)
      for (const name of joinedNames(names.map((row) => row.slice(0, widthOf(row)).map(nameOf)))) this.names.add(name)
    for (const row of body) {
      const width = widthOf(row)
      if (width === 0) {
        this.blankAt.push(this.rows + this.blankAt.length)
        continue
      }
      while (this.names.all.length < width) this.names.add('')
      for (let c = 0; c < width; c++) this.put(c, row[c] ?? null)
      this.rows++
    }
  }
  /** A column has no buffer until it has a value, however many blank cells stand in it. */
  private put(c: number, cell: RawCell): void {
    if (cell === null || cell === '') return
    this.filled++
    this.builderAt(c).add(cell)
  }
  /** A column's builder, with the rows before it empty. */
  private builderAt(c: number): CellBuilder {
    const builder = (this.builders[c] ??= new CellBuilder())
    this.padded += this.rows - builder.length
    if (this.padded > mostPadded && this.padded > this.filled * paddedAFilled)
      throw new TooLarge(
        `Nearly all of its ${figure(this.names.all.length)} columns and ${figure(this.rows)} rows are empty, far more cells than it holds values. Delete the empty rows and columns around the table.`,
      )
    while (builder.length < this.rows) builder.add(null)
    return builder
  }
  private typeOf(name: string, builder: CellBuilder): ConversionTarget {
    const { types, locale = plainLocale } = this.read
    if (types === 'text') return { type: 'text' }
    const given = typeof types === 'object' ? ownValue(types, name) : undefined
    if (given) return { ...given, locale }
    const met = typeTogether(builder.types)
    return {
      type: met === 'text' && this.detects && builder.types.size === 1 ? builder.detected(detectText(locale)) : met,
      locale,
    }
  }
  /** Blank rows at the end are counted only where they are records: below a sheet's last filled row there is nothing. */
  done(records = false): BuiltTable {
    if (records) for (; this.blanks > 0; this.blanks--) this.blankAt.push(this.rows + this.blankAt.length)
    const blankRows = this.blankAt.length
    const unreadable: UnreadableCells[] = []
    const blank = new Set<string>()
    const blankColumns = new Map<ColumnType, Column>()
    const blankOf = (type: ColumnType): Column => {
      const column = blankColumns.get(type) ?? emptyColumn(type, this.rows)
      blankColumns.set(type, column)
      return column
    }
    const columns = this.names.all.map((name, c) => {
      const builder = this.builders[c] && this.builderAt(c)
      const to = this.typeOf(name, builder ?? new CellBuilder())
      if (!builder || builder.types.size === 0) blank.add(name)
      if (!builder || this.rows === 0) return blankOf(to.type)
      const { column, unreadable: rows, texts } = builder.column(to)
      if (rows.length > 0) unreadable.push({ column: name, rows, texts })
      return column
    })
    return {
      table: Table.of(this.names.all, columns, this.rows),
      notes: blankRows > 0 ? { blankRows } : {},
      unreadable,
      blank,
      blankAt: this.blankAt,
    }
  }
}

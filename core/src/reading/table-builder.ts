import { ownValue } from '../table/own.ts'
import type { ReadOptions } from './read-options.ts'

import { maxCellCharacters, TooLarge } from '../table/limits.ts'
import { figure, quoted } from '../messages/words.ts'
import { rowReader } from '../table/stored-text.ts'
import {
  cellAt,
  emptyColumn,
  isTextColumn,
  lengthOf,
  type Column,
  type ColumnType,
  type TextColumn,
} from '../table/column.ts'
import { kernels } from '../kernels/kernels.ts'
import { firstRoom, NumberBuilder } from './column-builders.ts'
import { TextBuilder } from './text-builder.ts'
import { ColumnNames } from './column-names.ts'
import { longestRow, type ByteSource, type CsvKernel } from '../kernels/csv-kernel.ts'
import { joinedNames, RowFilter } from './row-filter.ts'
import type { ColumnSegment, SegmentStart, TableSegment } from './segments.ts'
import { detectText, widen, type Detected } from './type-detection.ts'
import { plainLocale, type NumberLocale } from '../table/number.ts'
import { convert, type ConversionTarget } from './convert.ts'
import { Table } from '../table/table.ts'

/** The narrowest type of all filled cells, found from distinct texts where there are such. */
const detectColumn = (column: TextColumn, locale: NumberLocale): Detected => {
  const detect = detectText(locale)
  let type: Detected = 'nothing'
  const { dictionary } = column.form === 'dictionary' ? column : { dictionary: undefined }
  const text = column.form === 'dictionary' ? (code: number) => column.dictionary[code] as string : rowReader(column)
  for (let i = 0, n = dictionary?.length ?? lengthOf(column); i < n; i++) {
    if (text(i) === '') continue
    type = widen(type, detect(text(i)))
    if (type === 'text') return type
  }
  return type
}

const looksNumeric = (texts: readonly string[], locale: NumberLocale): boolean => {
  const detect = detectText(locale)
  return texts.length > 0 && texts.every((text) => ['integer', 'decimal'].includes(detect(text)))
}

/** A table with what was left out on the way, counted by name, and the cells that did not read. */
export type BuiltTable = {
  readonly table: Table
  readonly notes: Readonly<Record<string, number>>
  readonly unreadable: readonly UnreadableCells[]
  /** Columns with no value at all. */ readonly blank: ReadonlySet<string>
  /** The places of blank rows among the rows below the names, counted from 0 with the blank ones. */
  readonly blankAt: readonly number[]
}

/**
 * Builds typed columns from rows of text cells, batch by batch. Rows are counted as seen in the file, blank
 * ones included; `header`, `skip` and `footer` are of `Read`. Numbers are read at once on the strength of the
 * first batch; where a later cell is none, `surprises` names the column, and the file has to be read again
 * with that name in `asText`.
 */
export class TableBuilder {
  private readonly read: ReadOptions
  private readonly locale: NumberLocale
  private readonly asText: ReadonlySet<string>
  private readonly header = new ColumnNames()
  private builders: (NumberBuilder | TextBuilder | undefined)[] = []
  private readonly gate: RowFilter<string>
  private rows = 0
  private readonly blankAt: number[] = []
  private raggedRows = 0
  private headerWidth: number | undefined
  private expected = firstRoom
  private room = firstRoom
  /** Columns that are numbers in some rows and text in others. */
  private readonly mixed = new Set<number>()
  constructor(read: ReadOptions, asText: ReadonlySet<string> = new Set()) {
    this.read = read
    this.gate = new RowFilter(read)
    this.locale = read.locale ?? plainLocale
    this.asText = asText
  }

  /** How many rows the file may have, and which part of them this builder may get: buffers are made for so many at once. */
  expect(rows: number, part = 1): void {
    this.expected = Math.max(firstRoom, rows)
    this.room = Math.max(firstRoom, Math.ceil(rows * part))
  }

  /** What the builder of rows further down the file has to know; undefined where too little is known yet. */
  get start(): SegmentStart | undefined {
    const { names, headerWidth: width, expected } = this
    if (width === undefined || names.length === 0) return undefined
    return { names, width, expected, kinds: names.map((_, c) => this.builders[c] && kindOf(this.builders[c])) }
  }
  /** Before any row: this builder reads rows further down a file that begins so, a part of its rows. */
  goOn({ names, width, kinds, expected }: SegmentStart, part: number): void {
    this.expect(expected, part)
    this.setNames(names)
    this.headerWidth = width
    this.builders = kinds.map((kind) => kind && this.builderOf(kind))
  }
  /** All rows as they stand, for the builder of the rows above. */
  segment(source: ByteSource): TableSegment {
    const { rows, raggedRows, blankAt } = this
    return { rows, columns: this.columnSegments(source), raggedRows, blankAt }
  }
  private *columnSegments(source: ByteSource): Generator<ColumnSegment> {
    for (const [c] of this.names.entries()) {
      const builder = this.builders[c]
      this.builders[c] = undefined
      yield builder?.segment(source) ?? { kind: 'blank' }
    }
  }
  /** Rows that another builder read, which stand below all that there are. */
  append({ rows, columns, raggedRows, blankAt }: TableSegment, source: ByteSource): void {
    let c = 0
    for (const column of columns) {
      this.widen(c + 1)
      this.appendColumn(c++, column, rows, source)
    }
    for (; c < this.names.length; c++) this.appendColumn(c, { kind: 'blank' }, rows, source)
    const above = this.rows + this.blankAt.length
    for (const at of blankAt) this.blankAt.push(above + at)
    this.rows += rows
    this.raggedRows += raggedRows
  }
  private appendColumn(c: number, segment: ColumnSegment, rows: number, source: ByteSource): void {
    const kind = segment.kind === 'codes' ? 'texts' : segment.kind
    if (!this.builders[c] && kind === 'blank') return
    const builder = this.builders[c] ?? this.beginAs(c, this.builderOf(kind as 'numbers' | 'texts'))
    builder.append(segment, rows, source)
    if (kind !== 'blank' && kind !== kindOf(builder)) this.mixed.add(c)
  }

  add(batch: readonly (readonly string[])[]): void {
    const { names, body } = this.gate.pass(batch)
    if (names) this.setNames(joinedNames(names))
    this.take(body)
  }

  private setNames(row: readonly string[]): void {
    this.headerWidth = row.length
    for (const name of row) this.addColumn(name)
  }

  private get names(): readonly string[] {
    return this.header.all
  }

  private addColumn(name = ''): void {
    this.header.add(name)
    this.builders.push(undefined)
  }

  private widen(width: number): void {
    while (this.names.length < width) this.addColumn()
  }

  private take(rows: readonly (readonly string[])[]): void {
    const filled: (readonly string[])[] = []
    for (const row of rows) {
      if (row.every((cell) => cell === '')) {
        this.blankAt.push(this.rows + filled.length + this.blankAt.length)
        continue
      }
      this.headerWidth ??= row.length
      if (row.length !== this.headerWidth) this.raggedRows++
      if (row.length > this.names.length) this.widen(row.length)
      filled.push(row)
    }
    for (let c = 0; c < this.names.length; c++) this.fill(c, filled)
    this.rows += filled.length
  }

  private fill(c: number, rows: readonly (readonly string[])[]): void {
    let builder = this.builders[c]
    if (!builder) {
      const first = rows.map((row) => row[c] ?? '').filter((text) => text !== '')
      if (first.length === 0) return
      builder = this.begin(c, first)
    }
    for (let i = 0; i < rows.length; i++) builder.add((rows[i] as readonly string[])[c] ?? '')
  }

  /** A column's first values: what builds it from here on, with the empty rows before them. */
  private begin(c: number, first: readonly string[]): NumberBuilder | TextBuilder {
    return this.beginAs(c, this.builderFor(this.names[c] as string, first))
  }
  private beginAs(c: number, builder: NumberBuilder | TextBuilder): NumberBuilder | TextBuilder {
    for (let i = 0; i < this.rows; i++) builder.add('')
    this.builders[c] = builder
    return builder
  }

  private builderFor(name: string, first: readonly string[]): NumberBuilder | TextBuilder {
    const type = this.typeGiven(name)?.type
    const numeric = type === 'integer' || type === 'decimal' || (type === undefined && this.read.types !== 'text')
    return this.builderOf(numeric && !this.asText.has(name) && looksNumeric(first, this.locale) ? 'numbers' : 'texts')
  }
  private builderOf(kind: 'numbers' | 'texts'): NumberBuilder | TextBuilder {
    const { expected, room } = this
    return kind === 'numbers' ? new NumberBuilder(this.locale, room) : new TextBuilder(expected, room)
  }

  private typeGiven(name: string): ConversionTarget | undefined {
    const given = typeof this.read.types === 'object' ? ownValue(this.read.types, name) : undefined
    return given ? { ...given, locale: this.locale } : undefined
  }

  /**
   * Rows straight from UTF-8 bytes, from a position that begins a row below the names: no string is made of a
   * number, nor of a word met before. Rows are cut in blocks and each block goes column by column; after each the
   * position is yielded. Where the reading ended: the end of the bytes, or a row in which a quote stands as it should not; the
   * caller reads that otherwise.
   */
  *scan(source: ByteSource, from: number, delimiter: number, quote: number): Generator<number, number> {
    const width = Math.max(1, this.names.length)
    const kernel = kernels().csv(source, { delimiter, quote, width })
    for (let at = from; at < source.size;) {
      const rows = kernel.cut(at)
      if (rows > 0) {
        this.takeBlock(source, kernel, rows)
        at = kernel.next
        yield at
        continue
      }
      const next = this.oddRow(source, at, delimiter, quote)
      if (next < 0) return at
      at = next
      if (this.names.length > width) return yield* this.scan(source, at, delimiter, quote)
    }
    return source.size
  }

  /** A block of rows of the same width, none of them blank. */
  private takeBlock(source: ByteSource, kernel: CsvKernel, rows: number): void {
    const width = this.names.length
    this.headerWidth ??= width
    if (width !== this.headerWidth) this.raggedRows += rows
    for (let column = 0; column < width; column++) {
      const builder = this.builders[column] ?? this.beginBlock(kernel, column)
      builder?.addBlock({ kernel, source, column, rows })
    }
    this.rows += rows
  }

  private beginBlock(kernel: CsvKernel, column: number): NumberBuilder | TextBuilder | undefined {
    const row = kernel.firstFilled(column)
    return row < 0 ? undefined : this.begin(column, [kernel.text(column, row)])
  }

  /** A row that is blank, ragged or holds quotes; where the next one begins, or -1 where a quote is out of place. */
  private oddRow(source: ByteSource, from: number, delimiter: number, quote: number): number {
    for (let length = shortRow; ; length *= 8) {
      const bytes = source.block(from, length)
      const row: string[] = []
      const next = cutRow(bytes, source.decoder(bytes), delimiter, quote, row)
      const whole = from + bytes.length === source.size
      // a row that ends where the bytes do may go on behind them
      if (!whole && (next < 0 || next > bytes.length - 2) && length < longestRow) continue
      if (next < 0) return -1
      this.take([row])
      return from + next
    }
  }

  get rowCount(): number {
    return this.rows
  }
  /** Columns begun as numbers in which another thing was met. */
  get surprises(): string[] {
    return this.names.filter((_, c) => {
      const builder = this.builders[c]
      return this.mixed.has(c) || (builder instanceof NumberBuilder && builder.surprised)
    })
  }

  private typed(name: string, column: Column, unreadable: UnreadableCells[]): Column {
    if (isTextColumn(column)) checkTexts(name, column)
    const given = this.typeGiven(name)
    const type: ColumnType =
      given?.type ??
      (this.read.types === 'text' || column.type !== 'text'
        ? column.type
        : textIfNothing(detectColumn(column, this.locale)))
    if (column.type === type) return column
    const converted = convert(column, given ?? { type, locale: this.locale })
    if (converted.unreadable.length > 0)
      unreadable.push({ column: name, rows: converted.unreadable, texts: firstTexts(column, converted.unreadable) })
    return converted.column
  }

  done(): BuiltTable {
    const unreadable: UnreadableCells[] = []
    const blank = new Set<string>()
    const columns = this.names.map((name, c) => {
      const builder = this.builders[c]
      if (builder) return this.typed(name, builder.done(), unreadable)
      blank.add(name)
      return emptyColumn(this.typeGiven(name)?.type ?? 'text', this.rows)
    })
    const notes = {
      ...(this.blankAt.length > 0 ? { blankRows: this.blankAt.length } : {}),
      ...(this.raggedRows > 0 ? { raggedRows: this.raggedRows } : {}),
    }
    return { table: Table.of(this.names, columns, this.rows), notes, unreadable, blank, blankAt: this.blankAt }
  }
}

const kindOf = (builder: NumberBuilder | TextBuilder): 'numbers' | 'texts' =>
  builder instanceof NumberBuilder ? 'numbers' : 'texts'

/** So many bytes are looked at first for a row that is odd. */
const shortRow = 1 << 14

/** The cells of the row that begins with the first byte; where the next one begins, or -1 where a quote is out of place. */
const cutRow = (
  bytes: Uint8Array,
  text: (start: number, end: number) => string,
  delimiter: number,
  quote: number,
  row: string[],
): number => {
  let at = 0
  for (;;) {
    const start = at
    if (bytes[at] === quote) {
      const end = closingQuote(bytes, at + 1, quote)
      if (end < 0) return -1
      const mark = String.fromCharCode(quote)
      row.push(text(start + 1, end).replaceAll(mark + mark, mark))
      at = end + 1
      if (bytes[at] === 13 && bytes[at + 1] === 10) at++
      if (at < bytes.length && bytes[at] !== delimiter && bytes[at] !== 10) return -1
    } else {
      at = nextBreak(bytes, at, delimiter)
      const end = bytes[at] === 10 && at > start && bytes[at - 1] === 13 ? at - 1 : at
      row.push(text(start, end))
    }
    if (at >= bytes.length || bytes[at] === 10) return at + 1
    at++
  }
}
/** The first delimiter or line feed from a place on. */
const nextBreak = (bytes: Uint8Array, from: number, delimiter: number): number => {
  let at = from
  while (at < bytes.length && bytes[at] !== delimiter && bytes[at] !== 10) at++
  return at
}
/** The first quote from a place on that is not doubled; -1 where there is none. */
const closingQuote = (bytes: Uint8Array, from: number, quote: number): number => {
  for (let at = from; at < bytes.length; at++) {
    if (bytes[at] !== quote) continue
    if (bytes[at + 1] !== quote) return at
    at++
  }
  return -1
}

/** Texts that no cell can hold are refused where they come in, with the column's name. */
const checkTexts = (name: string, column: TextColumn): void => {
  // a character is at least a byte
  if (column.form === 'plain' && column.stored?.isWithin(maxCellCharacters)) return
  for (const text of column.form === 'dictionary' ? column.dictionary : column.strings)
    if (text.length > maxCellCharacters)
      throw new TooLarge(
        `A cell of column ${quoted(name)} has ${figure(text.length)} characters, more than the ${figure(maxCellCharacters)} that a cell can hold. A quote may be opened there and never closed.`,
      )
}

const textIfNothing = (type: Detected): ColumnType => (type === 'nothing' ? 'text' : type)

/** So many original texts of unreadable cells of an input are kept. */
export const keptTexts = 200

const firstTexts = (column: Column, rows: Int32Array): string[] =>
  Array.from(rows.subarray(0, keptTexts), (row) => String(cellAt(column, row) ?? ''))

/** Rows of a column whose cells did not read as its type. `texts`: of an input, what its first unreadable cells hold, at most 200. */
export type UnreadableCells = {
  readonly column: string
  readonly rows: Int32Array
  readonly texts?: readonly string[]
}

/** An input as a table, with counts of what was left out and the cells that did not read. */
export type OpenedInput = {
  readonly table: Table
  readonly notes: Readonly<Record<string, number>>
  readonly unreadable: readonly UnreadableCells[]
}

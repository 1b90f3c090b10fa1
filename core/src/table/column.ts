import { TextSize } from './limits.ts'
import { bitmap, uint8s, float64s, isSet, int32s, set, uint32s, type Bitmap } from '../kernels/memory.ts'
import { kernels } from '../kernels/kernels.ts'
import { encodedCodes, rowReader, type PlainText } from './stored-text.ts'

/** Types of a single value; lists come only from where data has them. */
export const scalarTypes = ['text', 'integer', 'decimal', 'boolean', 'date', 'datetime', 'time'] as const
/** The types of a column; `list` holds JSON lists of single values. */
export const columnTypes = [...scalarTypes, 'list'] as const
/** One of the types of a column. */
export type ColumnType = (typeof columnTypes)[number]

/**
 * Text in one of two forms. `dictionary`: indices into a dictionary of distinct texts, in order of first
 * appearance; index 0 is always "", the empty cell. `plain`: the strings themselves, "" is empty. A `list` is kept as
 * the compact JSON that stands for it: what depends on the list alone is then done once per distinct list.
 */
export type DictionaryText = {
  readonly type: 'text' | 'list'
  readonly form: 'dictionary'
  readonly indices: Uint32Array
  readonly dictionary: readonly string[]
}
/** Text or lists, as a dictionary with indices, or plain where nearly all values differ. */
export type TextColumn = DictionaryText | PlainText

/** Numbers; for `datetime` milliseconds since 1970-01-01T00:00 of the wall clock. */
export type FloatColumn = {
  readonly type: 'integer' | 'decimal' | 'datetime'
  readonly values: Float64Array
  readonly nulls: Bitmap | undefined
}
/** `date`: days since 1970-01-01. `time`: milliseconds since midnight. */
export type IntColumn = {
  readonly type: 'date' | 'time'
  readonly values: Int32Array
  readonly nulls: Bitmap | undefined
}
/** One byte a row, 0 or 1. */
export type BooleanColumn = {
  readonly type: 'boolean'
  readonly values: Uint8Array
  readonly nulls: Bitmap | undefined
}
/** A column of numbers, dates or booleans. */
export type ValueColumn = FloatColumn | IntColumn | BooleanColumn
/** An immutable column. `nulls` has a bit set for each empty row; absent where none is empty. */
export type Column = TextColumn | ValueColumn

/** A cell as kernels see it: text, a number (dates as days, times as milliseconds), a boolean, or null for empty. */
export type Cell = string | number | boolean | null

/** Whether a column holds text, or lists in their JSON form. */
export const isTextColumn = (column: Column): column is TextColumn => column.type === 'text' || column.type === 'list'

/** Whether values of a type are numbers. */
export const isNumber = (type: ColumnType): type is 'integer' | 'decimal' => type === 'integer' || type === 'decimal'

/** The one type that holds all of these: numbers and moments widen, all else that differs is text. */
export const typeTogether = (types: Iterable<ColumnType>): ColumnType => {
  const all = [...new Set(types)]
  const [first = 'text'] = all
  if (all.length <= 1) return first
  if (all.every(isNumber)) return 'decimal'
  return all.every((type) => type === 'date' || type === 'datetime') ? 'datetime' : 'text'
}

/** The number of rows. */
export const lengthOf = (column: Column): number => {
  if (!isTextColumn(column)) return column.values.length
  if (column.form === 'dictionary') return column.indices.length
  return (column.stored ?? column.strings).length
}

/** The text of a row; null where it is empty. */
export const textAt = (column: TextColumn, i: number): string => {
  if (column.form === 'dictionary') return column.dictionary[column.indices[i]!] as string
  if (column.stored) return column.stored.at(i)
  return column.strings[i] as string
}

/** Whether a row is empty. */
export const isNullAt = (column: Column, i: number): boolean => {
  if (isTextColumn(column)) {
    if (column.form === 'dictionary') return column.indices[i] === 0
    return column.stored ? column.stored.isEmptyAt(i) : column.strings[i] === ''
  }
  return isSet(column.nulls, i)
}

/** The value of a row; dates in days, date-times and times in milliseconds, null where it is empty. */
export const cellAt = (column: Column, i: number): Cell => {
  if (isTextColumn(column)) return textAt(column, i) || null
  if (isSet(column.nulls, i)) return null
  return column.type === 'boolean' ? column.values[i] === 1 : column.values[i]!
}

/** A buffer fit for the values of a type. */
const bufferFor = (
  type: Exclude<ColumnType, 'text' | 'list'>,
  length: number,
): Float64Array | Int32Array | Uint8Array => {
  if (type === 'boolean') return uint8s(length)
  if (type === 'date' || type === 'time') return int32s(length)
  return float64s(length)
}

/** Writes cells one by one in order of rows; `done` gives the finished column. */
export interface ColumnWriter {
  set(i: number, cell: Cell): void
  done(): Column
}

class TextWriter implements ColumnWriter {
  private readonly indices: Uint32Array
  private readonly dictionary: string[] = ['']
  private readonly seen = new Map<string, number>([['', 0]])
  private readonly size = new TextSize()
  private readonly type: 'text' | 'list'
  constructor(length: number, type: 'text' | 'list' = 'text') {
    this.indices = uint32s(length)
    this.type = type
  }
  get distinct(): number {
    return this.dictionary.length
  }
  set(i: number, cell: Cell): void {
    if (cell === null) return
    const text = cell as string
    let code = this.seen.get(text)
    if (code === undefined) {
      this.size.add(text)
      code = this.dictionary.length
      this.dictionary.push(text)
      this.seen.set(text, code)
    }
    this.indices[i] = code
  }
  done(): Column {
    return { type: this.type, form: 'dictionary', indices: this.indices, dictionary: this.dictionary }
  }
}

class ValueWriter implements ColumnWriter {
  private readonly values: Float64Array | Int32Array | Uint8Array
  private readonly empty: Bitmap
  private anyEmpty = false
  private readonly filled: Bitmap
  private readonly type: Exclude<ColumnType, 'text' | 'list'>
  private readonly length: number
  constructor(type: Exclude<ColumnType, 'text' | 'list'>, length: number) {
    this.type = type
    this.length = length
    this.values = bufferFor(type, length)
    this.empty = bitmap(length)
    this.filled = bitmap(length)
  }
  set(i: number, cell: Cell): void {
    if (cell === null) return
    set(this.filled, i)
    this.values[i] = cell === 0 ? 0 : Number(cell)
  }
  done(): Column {
    for (let i = 0; i < this.length; i++)
      if (!isSet(this.filled, i)) {
        set(this.empty, i)
        this.anyEmpty = true
      }
    return { type: this.type, values: this.values, nulls: this.anyEmpty ? this.empty : undefined } as ValueColumn
  }
}

/** A writer of `length` cells; a cell that is never set is empty. */
export const columnWriter = (type: ColumnType, length: number): ColumnWriter =>
  type === 'text' || type === 'list' ? new TextWriter(length, type) : new ValueWriter(type, length)

/** Distinct texts among so many first ones tell whether a column is written plain. */
const sampleSize = 20_000

/** Texts in order of rows, plain where most of the first differ: a dictionary would cost more than it saves. */
class SampledTextWriter implements ColumnWriter {
  private readonly coded: TextWriter
  private readonly length: number
  private plain: string[] | undefined
  private readonly size = new TextSize()
  constructor(length: number) {
    this.length = length
    this.coded = new TextWriter(length)
  }
  set(i: number, cell: Cell): void {
    if (!this.plain) {
      this.coded.set(i, cell)
      if (i === sampleSize && this.coded.distinct > sampleSize / 2) this.goPlain(i + 1)
    } else if (cell !== null) {
      this.size.add(cell as string)
      this.plain[i] = cell as string
    }
  }
  private goPlain(done: number): void {
    const column = this.coded.done() as DictionaryText
    this.plain = new Array<string>(this.length).fill('')
    for (let i = 0; i < done; i++) this.plain[i] = textAt(column, i)
  }
  done(): Column {
    return this.plain ? { type: 'text', form: 'plain', strings: this.plain } : this.coded.done()
  }
}

/** A writer of `length` cells that are set in order of rows, each at most once; texts that nearly all differ become plain. */
export const rowWriter = (type: ColumnType, length: number): ColumnWriter =>
  type === 'text' && length > 2 * sampleSize ? new SampledTextWriter(length) : columnWriter(type, length)

/** A column of these cells. */
export const columnOf = (type: ColumnType, cells: readonly Cell[]): Column => {
  const writer = columnWriter(type, cells.length)
  cells.forEach((cell, i) => writer.set(i, cell))
  return writer.done()
}

/** A column of `length` empty cells. */
export const emptyColumn = (type: ColumnType, length: number): Column => columnWriter(type, length).done()

/** Dictionary columns of plain ones, each encoded once and remembered. */
const encoded = new WeakMap<PlainText, DictionaryText>()
/** A text column as a dictionary with indices; O(rows) for a plain one. */
export const asDictionary = (column: TextColumn): DictionaryText => {
  if (column.form === 'dictionary') return column
  const coded = encoded.get(column) ?? dictionaryOfBytes(column) ?? dictionaryOfStrings(column)
  encoded.set(column, coded)
  return coded
}
const dictionaryOfStrings = (column: PlainText): DictionaryText => {
  const writer = new TextWriter(column.strings.length, column.type)
  column.strings.forEach((text, i) => writer.set(i, text))
  return writer.done() as DictionaryText
}
const dictionaryOfBytes = (column: PlainText): DictionaryText | undefined => {
  const texts = column.stored?.encoded
  if (!texts) return undefined
  const { codes, bound } = encodedCodes(texts)
  const text = rowReader(column)
  const size = new TextSize()
  const dictionary = new Array<string>(bound).fill('')
  // rows that hold a text first are in order of the codes
  kernels()
    .firstRows({ codes, bound })
    .forEach((row, code) => code > 0 && size.add((dictionary[code] = text(row))))
  return { type: column.type, form: 'dictionary', indices: codes, dictionary }
}

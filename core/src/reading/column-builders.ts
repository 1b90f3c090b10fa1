import { decimalSource, integerSource } from './type-detection.ts'
import { numberFlags, type ByteSource, type CsvKernel } from '../kernels/csv-kernel.ts'
import type { Column } from '../table/column.ts'
import { bitmap, float64s, set } from '../kernels/memory.ts'
import type { NumberLocale } from '../table/number.ts'
import type { ColumnSegment } from './segments.ts'

/** One column of a block of rows of a CSV file. */
export type ColumnBlock = {
  readonly kernel: CsvKernel
  readonly source: ByteSource
  readonly column: number
  readonly rows: number
}

/** A buffer of at least so many values that begins with those of another. */
export const grown = <T extends Float64Array | Uint32Array | Int32Array | Uint8Array>(
  make: (length: number) => T,
  old: T,
  length: number,
): T => {
  const wider = make(Math.max(length, old.length * 2, 1024))
  wider.set(old as never)
  return wider
}

/** Cells for which a builder makes room at first: those of a file's beginning, in which a file is sized up. */
export const firstRoom = 4096

/** The part of a buffer that is used; copied only where much is not. */
export const trimmed = <T extends Float64Array | Uint32Array | Uint8Array>(buffer: T, length: number): T =>
  length > buffer.length * 0.8 ? (buffer.subarray(0, length) as T) : (buffer.slice(0, length) as T)

/** Digits only, up to 15, no leading zero: the number, or NaN. The inner loop of reading numbers. */
const quickInteger = (text: string): number => {
  const n = text.length
  let i = text.charCodeAt(0) === 45 ? 1 : 0
  const digits = n - i
  if (digits < 1 || digits > 15 || (digits > 1 && text.charCodeAt(i) === 48)) return NaN
  const negative = i === 1
  let value = 0
  for (; i < n; i++) {
    const digit = text.charCodeAt(i) - 48
    if (digit < 0 || digit > 9) return NaN
    value = value * 10 + digit
  }
  return negative && value !== 0 ? -value : value
}

/** Numbers as they are read; `surprised` where a cell is none. */
export class NumberBuilder {
  private values: Float64Array
  private emptyRows: number[] = []
  private length = 0
  type: 'integer' | 'decimal' = 'integer'
  surprised = false
  private readonly room: number
  private readonly decimal: RegExp
  private readonly integer = new RegExp(integerSource)
  private readonly mark: number
  private readonly sign: string
  /** `room`: how many cells there may be: the buffer grows to that at once. */
  constructor(locale: NumberLocale, room = firstRoom) {
    this.room = room
    this.values = float64s(Math.min(room, firstRoom))
    this.decimal = new RegExp(decimalSource(locale.decimal))
    this.sign = locale.decimal
    this.mark = locale.decimal === '.' ? 46 : -1
  }
  add(text: string): void {
    const at = this.extend(1)
    if (text === '') {
      this.emptyRows.push(at)
      return
    }
    const quick = quickInteger(text)
    this.values[at] = quick === quick ? quick : this.slow(text)
  }
  /** Room for more; where they begin. */
  private extend(rows: number): number {
    const from = this.length
    this.length += rows
    if (this.length > this.values.length) this.values = grown(float64s, this.values, Math.max(this.length, this.room))
    return from
  }
  /** Cells of a block. Up to 15 digits and a point are exact as whole number over a power of ten; all else goes by its text. */
  addBlock({ kernel, column, rows }: ColumnBlock): void {
    const from = this.extend(rows)
    const found = kernel.numbers(column, this.mark, this.values, from)
    if (found & 2) this.type = 'decimal'
    if ((found & 1) === 0) return
    const { flags } = kernel
    for (let i = 0; i < rows; i++) {
      if (flags[i] === numberFlags.empty) this.emptyRows.push(from + i)
      else if (flags[i] === numberFlags.other) this.values[from + i] = this.slow(kernel.text(column, i))
    }
  }
  private slow(raw: string): number {
    const text = raw.trim()
    if (this.integer.test(text)) return Number(text)
    if (this.decimal.test(text)) {
      const value = Number(this.sign === '.' ? text : text.replace(this.sign, '.'))
      if (Number.isFinite(value)) {
        this.type = 'decimal'
        return value === 0 ? 0 : value
      }
    }
    this.surprised = true
    return 0
  }
  /** The cells as they stand, for the builder of the rows above. */
  segment(): ColumnSegment {
    const { type, surprised } = this
    const values = trimmed(this.values, this.length)
    return { kind: 'numbers', type, values, empty: Int32Array.from(this.emptyRows), surprised }
  }
  /** Cells that another builder read further down the file; `rows` without a number where they are none. */
  append(segment: ColumnSegment, rows: number): void {
    const from = this.extend(rows)
    if (segment.kind !== 'numbers') for (let i = 0; i < rows; i++) this.emptyRows.push(from + i)
    else {
      this.values.set(segment.values, from)
      for (const row of segment.empty) this.emptyRows.push(from + row)
      if (segment.type === 'decimal') this.type = 'decimal'
      this.surprised ||= segment.surprised
    }
  }
  done(): Column {
    const empty = this.emptyRows.length > 0 ? bitmap(this.length) : undefined
    for (const row of this.emptyRows) if (empty) set(empty, row)
    return { type: this.type, values: trimmed(this.values, this.length), nulls: empty }
  }
}

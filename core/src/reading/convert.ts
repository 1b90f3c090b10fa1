import { kernels } from '../kernels/kernels.ts'
import {
  cellAt,
  columnWriter,
  isTextColumn,
  lengthOf,
  rowWriter,
  type Cell,
  type Column,
  type ColumnType,
  type TextColumn,
  type ValueColumn,
} from '../table/column.ts'
import { dayMs, dayOf, maybeIsoDate, maybeIsoDateTime, maybeIsoTime } from '../table/calendar.ts'
import { compileDatePattern, dateReader } from './date-pattern.ts'
import { codesOf } from '../table/codes.ts'
import { layOut } from '../table/gather.ts'
import { IntList, int32s, uint8s } from '../kernels/memory.ts'
import { maxInteger, numberReader, plainLocale, roundTo, type NumberLocale } from '../table/number.ts'
import { rowReader } from '../table/stored-text.ts'
import { lower, trim } from '../table/text.ts'
import { textOfCell } from '../table/cell-text.ts'

/** How the text of a cell becomes a value of a type: the one home of it, for `open`, `cast`, typed values and formulas. */
export type ConversionTarget = {
  readonly type: ColumnType
  readonly formats?: readonly string[] | undefined
  readonly locale?: NumberLocale | undefined
  /** The year of dates whose pattern has none. */ readonly year?: number | undefined
}

/** What reads as true, in lower case. */
export const trueWords = ['true', 'yes', 'y', 't', '1']
/** What reads as false, in lower case. */
export const falseWords = ['false', 'no', 'n', 'f', '0']

const readBoolean = (text: string): boolean | null => {
  const word = lower(trim(text))
  if (trueWords.includes(word)) return true
  if (falseWords.includes(word)) return false
  return null
}

const readPatterns = (
  formats: readonly string[],
  type: 'date' | 'datetime' | 'time',
  year: number | undefined,
): ((text: string) => number | null) => {
  const readers = formats.map((format) => {
    const compiled = compileDatePattern(format)
    if ('problem' in compiled) throw new Error(compiled.problem)
    return dateReader(compiled, type, year)
  })
  return (text) => {
    for (const read of readers) {
      const value = read(text)
      if (value !== null) return value
    }
    return null
  }
}

/** Date-times read as ISO date-times, and as a bare ISO date at midnight. */
const readIsoDateTime = (text: string): number | null => {
  const whole = maybeIsoDateTime(text)
  if (whole !== null) return whole
  const days = maybeIsoDate(text)
  return days === null ? null : days * dayMs
}

/** A JSON list of single values, as it stands; RFC 8259. */
const readList = (text: string): string | null => {
  if (!/^\[[\s\S]*\]$/.test(text)) return null
  try {
    const items: unknown = JSON.parse(text)
    return Array.isArray(items) && items.every((item) => item === null || typeof item !== 'object')
      ? JSON.stringify(items)
      : null
  } catch {
    return null
  }
}

/** A reader of filled text; null where it cannot be read. Spaces at the ends are set aside but for text itself. */
export const textReader = ({ type, formats, locale, year }: ConversionTarget): ((text: string) => Cell) => {
  if (type === 'text') return (text) => text
  if (type === 'list') return readList
  if (type === 'boolean') return readBoolean
  if (type === 'decimal') return numberReader(locale ?? plainLocale)
  if (type === 'integer') {
    const read = numberReader(locale ?? plainLocale)
    return (text) => {
      const value = read(text)
      return value === null ? null : toInteger(value)
    }
  }
  const chooseIso = () => {
    if (type === 'date') return maybeIsoDate
    if (type === 'time') return maybeIsoTime
    return readIsoDateTime
  }
  const iso = chooseIso()
  const read = formats && formats.length > 0 ? readPatterns(formats, type, year) : iso
  return (text) => read(trim(text))
}

/** Half away from zero; null out of range. */
const toInteger = (value: number): number | null => {
  const rounded = roundTo(value, 0)
  return Math.abs(rounded) <= maxInteger ? rounded : null
}

/** A value of one type turned into another; null where there is no way or no value. */
export const convertCell = (
  from: ColumnType,
  to: ConversionTarget,
  read: (text: string) => Cell,
  // eslint-disable-next-line complexity -- a table of conversions, one line a pair of types
): ((cell: Exclude<Cell, null>) => Cell) => {
  const target = to.type
  if (from === target) return (cell) => cell
  if (target === 'text') return (cell) => textOfCell(from, cell)
  if (from === 'text') return (cell) => read(cell as string)
  if (from === 'integer' || from === 'decimal') {
    if (target === 'decimal') return (cell) => cell
    if (target === 'integer') return (cell) => toInteger(cell as number)
    if (target === 'boolean') return (cell) => cell !== 0
  }
  if (from === 'boolean' && (target === 'integer' || target === 'decimal')) return (cell) => (cell ? 1 : 0)
  if (from === 'date' && target === 'datetime') return (cell) => (cell as number) * dayMs
  if (from === 'datetime' && target === 'date') return (cell) => dayOf(cell as number)
  if (from === 'datetime' && target === 'time') return (cell) => (cell as number) - dayOf(cell as number) * dayMs
  return () => null
}

/** Whether values of one type can become another at all. */
export const canConvert = (from: ColumnType, to: ColumnType): boolean =>
  from === to ||
  from === 'text' ||
  to === 'text' ||
  convertCell(from, { type: to }, () => null)(from === 'boolean' ? true : 1) !== null

/** A converted column, the rows that did not read, and how many filled cells hold another value. */
export type ConversionResult = {
  readonly column: Column
  /** Rows whose filled cell could not be read and is now empty. */
  readonly unreadable: Int32Array
  /** How many filled cells hold another value than before. */
  readonly changed: number
}

/** Text worked out once per distinct word, then laid out by code. */
const convertDictionary = (
  source: TextColumn & { form: 'dictionary' },
  to: ConversionTarget,
  read: (text: string) => Cell,
): ConversionResult => {
  const { indices, dictionary } = source
  const writer = columnWriter(to.type, dictionary.length)
  const bad = uint8s(dictionary.length)
  dictionary.forEach((word, code) => {
    if (code === 0) return
    const cell = read(word)
    writer.set(code, cell)
    if (cell === null) bad[code] = 1
  })
  const unreadable = bad.includes(1) ? kernels().rowsOfCodes(indices, bad, 1) : int32s(0)
  const changed = filledCodes(indices) - unreadable.length
  const made = writer.done()
  const allFilled = changed === indices.length
  return {
    column: layOut(allFilled && !isTextColumn(made) ? { ...made, nulls: undefined } : made, indices),
    unreadable,
    changed,
  }
}

/** Columns with fewer rows are written cell by cell. */
const fewRows = 1000

/** Values as text, each different one once; undefined where more than half of the rows have one of their own. */
const writtenByCode = (
  column: ValueColumn,
  step: (cell: Exclude<Cell, null>) => Cell,
): ConversionResult | undefined => {
  const coded = codesOf(column)
  if (coded.bound > coded.codes.length >> 1) return undefined
  const first = kernels().firstRows(coded)
  const writer = columnWriter('text', coded.bound)
  for (let code = 1; code < coded.bound; code++)
    if (first[code]! >= 0) writer.set(code, step(cellAt(column, first[code]!) as Exclude<Cell, null>))
  const perCode = writer.done()
  return { column: layOut(perCode, coded.codes), unreadable: int32s(0), changed: filledCodes(coded.codes) }
}
const filledCodes = (codes: Uint32Array): number => {
  const n = codes.length
  let filled = 0
  for (let i = 0; i < n; i++) if (codes[i] !== 0) filled++
  return filled
}

/** Conversions that change no cell, or the name of the type alone; undefined for all others. */
const relabelled = (column: Column, type: ColumnType): ConversionResult | undefined => {
  const unreadable = int32s(0)
  if (column.type === type) return { column, unreadable, changed: 0 }
  if (column.type === 'list' && type === 'text')
    return { column: { ...column, type }, unreadable, changed: lengthOf(column) }
  if (column.type === 'integer' && type === 'decimal') return { column: { ...column, type }, unreadable, changed: 0 }
  return undefined
}

/** The cells of a column in order; texts that are bytes are decoded some thousand at a time. */
const cellReader = (column: Column): ((row: number) => Cell) => {
  if (!isTextColumn(column) || column.form !== 'plain') return (row) => cellAt(column, row)
  const text = rowReader(column)
  return (row) => text(row) || null
}

/** A column as another type; once for each distinct value of a dictionary, and of values that become text. */
export const convert = (column: Column, to: ConversionTarget): ConversionResult => {
  const same = relabelled(column, to.type)
  if (same) return same
  const read = textReader(to)
  if (column.type === 'text' && column.form === 'dictionary') return convertDictionary(column, to, read)
  const n = lengthOf(column)
  const step = convertCell(column.type, to, read)
  const written = !isTextColumn(column) && to.type === 'text' && n > fewRows ? writtenByCode(column, step) : undefined
  if (written) return written
  const writer = rowWriter(to.type, n)
  const unreadable = new IntList()
  let changed = 0
  const cells = cellReader(column)
  for (let i = 0; i < n; i++) {
    const cell = cells(i)
    if (cell === null) continue
    const next = step(cell)
    writer.set(i, next)
    if (next === null) unreadable.push(i)
    else if (next !== cell) changed++
  }
  return { column: writer.done(), unreadable: unreadable.done(), changed }
}

import {
  columnWriter,
  isTextColumn,
  isNullAt,
  lengthOf,
  type Column,
  type ColumnType,
  type TextColumn,
  type ValueColumn,
} from './column.ts'
import {
  concatEncoded,
  gatherEncoded,
  LazyStrings,
  plainTextFromBytes,
  rowReader,
  type PlainText,
} from './stored-text.ts'
import { kernels } from '../kernels/kernels.ts'
import { pickBits, pickNumbers } from '../kernels/totals-reference.ts'
import { bitmap, copyBits, uint8s, float64s, isSet, int32s, set, uint32s, type Bitmap } from '../kernels/memory.ts'

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

const fillInts = (to: Int32Array, from: Int32Array, index: Int32Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = from[index[i]!]!
}
const fillBytes = (to: Uint8Array, from: Uint8Array, index: Int32Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = from[index[i]!]!
}
const fillIndices = (to: Uint32Array, from: Uint32Array, index: Int32Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = from[index[i]!]!
}
/** Of a missing row the values are 0: what lies behind the end of a buffer is undefined, which an array of numbers holds as NaN. */
const clearMissing = (to: Float64Array, index: Int32Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) if (index[i]! < 0) to[i] = 0
}
const fillNullsOfSome = (to: Bitmap, from: Bitmap, index: Int32Array): void => {
  const n = index.length
  for (let i = 0; i < n; i++) {
    const at = index[i]!
    if (at >= 0 && (from[at >> 3]! & (1 << (at & 7))) !== 0) to[i >> 3] = to[i >> 3]! | (1 << (i & 7))
  }
}
const markMissing = (to: Bitmap, index: Int32Array): void => {
  const n = index.length
  for (let i = 0; i < n; i++) if (index[i]! < 0) to[i >> 3] = to[i >> 3]! | (1 << (i & 7))
}
const hasMissing = (index: Int32Array): boolean => {
  const n = index.length
  for (let i = 0; i < n; i++) if (index[i]! < 0) return true
  return false
}

/** Whether an index names no row somewhere; asked for each column of a table. */
const missing = new WeakMap<Int32Array, boolean>()
/** Says of an index that it names a row everywhere, so that nobody looks. */
export const markComplete = (index: Int32Array): Int32Array => {
  missing.set(index, false)
  return index
}
/** Whether an index is known to name a row everywhere. */
export const isComplete = (index: Int32Array): boolean => missing.get(index) === false
const anyMissing = (index: Int32Array): boolean => {
  let found = missing.get(index)
  if (found === undefined) missing.set(index, (found = hasMissing(index)))
  return found
}

/** Whether values are so few that a kernel may hold them all while it looks rows up, which all have one. */
const isTable = (from: Int32Array | Uint32Array, index: Int32Array): boolean =>
  from.length < index.length >> 2 && !anyMissing(index)

const gatherFloats = (from: Float64Array, index: Int32Array): Float64Array => {
  const to = float64s(index.length)
  pickNumbers(to, from, index)
  if (anyMissing(index)) clearMissing(to, index)
  return to
}
const gatherInts = (from: Int32Array, index: Int32Array): Int32Array => {
  const to = int32s(index.length)
  if (isTable(from, index)) kernels().lookUp(new Uint32Array(index.buffer, index.byteOffset, index.length), from, to)
  else fillInts(to, from, index)
  return to
}
const gatherBytes = (from: Uint8Array, index: Int32Array): Uint8Array => {
  const to = uint8s(index.length)
  fillBytes(to, from, index)
  return to
}
/** Codes at these places; 0 at -1. */
export const gatherIndices = (from: Uint32Array, index: Int32Array): Uint32Array => {
  const to = uint32s(index.length)
  if (isTable(from, index)) kernels().lookUp(new Uint32Array(index.buffer, index.byteOffset, index.length), from, to)
  else fillIndices(to, from, index)
  return to
}
const gatherNulls = (from: Bitmap | undefined, index: Int32Array): Bitmap | undefined => {
  const some = anyMissing(index)
  if (from === undefined && !some) return undefined
  const to = bitmap(index.length)
  if (from && some) fillNullsOfSome(to, from, index)
  else if (from) pickBits(to, from, index)
  if (some) markMissing(to, index)
  return some || hasBits(to) ? to : undefined
}
const hasBits = (bits: Bitmap): boolean => {
  const n = bits.length
  for (let i = 0; i < n; i++) if (bits[i] !== 0) return true
  return false
}
const gatherPlain = (column: PlainText, index: Int32Array): Column => {
  const { type, stored } = column
  if (stored?.encoded) return plainTextFromBytes(type, new LazyStrings(gatherEncoded(stored.encoded, index)))
  const { strings } = column
  return { type, form: 'plain', strings: Array.from(index, (at) => (at < 0 ? '' : (strings[at] as string))) }
}
/** a b c, [2 0 -1] -> c a empty */
export const gather = (column: Column, index: Int32Array): Column => {
  if (isTextColumn(column))
    return column.form === 'dictionary'
      ? { ...column, indices: gatherIndices(column.indices, index) }
      : gatherPlain(column, index)
  const empty = gatherNulls(column.nulls, index)
  if (column.type === 'boolean') return { type: column.type, values: gatherBytes(column.values, index), nulls: empty }
  if (column.type === 'date' || column.type === 'time')
    return { type: column.type, values: gatherInts(column.values, index), nulls: empty }
  return { type: column.type, values: gatherFloats(column.values as Float64Array, index), nulls: empty }
}

/** A column by code as one by row; where its words have the codes for indices, these are shared. */
export const layOut = (perCode: Column, codes: Uint32Array): Column => {
  if (isTextColumn(perCode) && perCode.form === 'dictionary') {
    const { indices } = perCode
    let same = true
    for (let code = 0; same && code < indices.length; code++) same = indices[code] === code
    if (same) return { ...perCode, indices: codes }
  }
  return gather(perCode, markComplete(new Int32Array(codes.buffer, codes.byteOffset, codes.length)))
}

/** 0 1 2 …, `count` of them from `from` on, `step` apart */
export const sliceRows = (count: number, from = 0, step = 1): Int32Array => {
  const index = int32s(count)
  for (let i = 0; i < count; i++) index[i] = from + i * step
  return markComplete(index)
}

const sumLengths = (columns: readonly Column[]): number => columns.reduce((sum, column) => sum + lengthOf(column), 0)

/** The indices of columns behind one another where all have the same dictionary; undefined where they have not. */
const concatIndices = (columns: readonly TextColumn[], total: number): TextColumn | undefined => {
  const [first] = columns
  if (first?.form !== 'dictionary') return undefined
  const indices = uint32s(total)
  let at = 0
  for (const column of columns) {
    if (column.form !== 'dictionary' || column.dictionary !== first.dictionary) return undefined
    indices.set(column.indices, at)
    at += column.indices.length
  }
  return { ...first, indices }
}

/** Plain texts behind one another; bytes stay bytes where all have the same. */
const concatPlain = (type: 'text' | 'list', columns: readonly PlainText[], total: number): Column => {
  const parts = columns.flatMap(({ stored }) => stored?.encoded ?? [])
  const together = parts.length === columns.length ? concatEncoded(parts) : undefined
  if (together) return plainTextFromBytes(type, new LazyStrings(together))
  const strings = new Array<string>(total)
  let at = 0
  for (const column of columns) for (const text of column.strings) strings[at++] = text
  return { type, form: 'plain', strings }
}

/** Text columns behind one another; dictionaries are merged once per word, not once per cell. */
const concatText = (type: 'text' | 'list', columns: readonly TextColumn[], total: number): Column => {
  const shared = concatIndices(columns, total)
  if (shared) return shared
  if (columns.every((column) => column.form === 'plain')) return concatPlain(type, columns, total)
  const words: string[] = ['']
  const seen = new Map<string, number>([['', 0]])
  const codeOf = (word: string): number => {
    let code = seen.get(word)
    if (code === undefined) {
      code = words.length
      words.push(word)
      seen.set(word, code)
    }
    return code
  }
  const codes = uint32s(total)
  let at = 0
  for (const column of columns) {
    if (column.form === 'plain') {
      for (const text of column.strings) codes[at++] = codeOf(text)
      continue
    }
    const map = uint32s(column.dictionary.length)
    column.dictionary.forEach((word, code) => (map[code] = codeOf(word)))
    kernels().lookUp(column.indices, map, codes.subarray(at, at + column.indices.length))
    at += column.indices.length
  }
  return { type, form: 'dictionary', indices: codes, dictionary: words }
}

/** a b, c d -> a b c d. All of one type. */
export const concat = (type: ColumnType, columns: readonly Column[]): Column => {
  const [only] = columns
  if (columns.length === 1 && only) return only
  const total = sumLengths(columns)
  if (type === 'text' || type === 'list') return concatText(type, columns as readonly TextColumn[], total)
  const chooseValues = () => {
    if (type === 'boolean') return uint8s(total)
    if (type === 'date' || type === 'time') return int32s(total)
    return float64s(total)
  }
  const values = chooseValues()
  const nulls = bitmap(total)
  let any = false
  let at = 0
  for (const column of columns) {
    if (isTextColumn(column)) throw new Error('text among values')
    values.set(column.values as never, at)
    if (column.nulls) copyBits(nulls, at, column.nulls, column.values.length)
    any ||= column.nulls !== undefined
    at += column.values.length
  }
  return { type, values, nulls: any ? nulls : undefined } as Column
}

/** Numbers of several columns woven into one buffer: row i of every column, then row i + 1. */
const interleaveValues = <T extends Float64Array | Int32Array | Uint8Array | Uint32Array>(
  to: T,
  columns: readonly T[],
): T => {
  const width = columns.length
  const rows = columns[0]?.length ?? 0
  // block by block, so that what is written stays in the cache while the columns take turns
  for (let start = 0; start < rows; start += 1024) {
    const end = Math.min(rows, start + 1024)
    for (let k = 0; k < width; k++) {
      const from = columns[k] as T
      for (let i = start, at = start * width + k; i < end; i++, at += width) to[at] = from[i]!
    }
  }
  return to
}
const interleaveNulls = (columns: readonly (Bitmap | undefined)[], rows: number): Bitmap | undefined => {
  if (columns.every((empty) => empty === undefined)) return undefined
  const width = columns.length
  const to = bitmap(rows * width)
  columns.forEach((empty, k) => {
    if (empty) for (let i = 0; i < rows; i++) if (isSet(empty, i)) set(to, i * width + k)
  })
  return to
}

/** a b, 1 2 -> a 1 b 2: row i of every column, then row i + 1. All of one type and length. */
export const interleave = (type: ColumnType, columns: readonly Column[]): Column => {
  const rows = columns[0] ? lengthOf(columns[0]) : 0
  if (type === 'text' || type === 'list') {
    const joined = concat(type, columns)
    const index = int32s(rows * columns.length)
    for (let i = 0, at = 0; i < rows; i++) for (let k = 0; k < columns.length; k++) index[at++] = k * rows + i
    return gather(joined, index)
  }
  const values = columns as readonly ValueColumn[]
  const empty = interleaveNulls(
    values.map((column) => column.nulls),
    rows,
  )
  const total = rows * columns.length
  if (type === 'boolean')
    return {
      type,
      values: interleaveValues(
        uint8s(total),
        values.map((column) => column.values as Uint8Array),
      ),
      nulls: empty,
    }
  if (type === 'date' || type === 'time')
    return {
      type,
      values: interleaveValues(
        int32s(total),
        values.map((column) => column.values as Int32Array),
      ),
      nulls: empty,
    }
  return {
    type,
    values: interleaveValues(
      float64s(total),
      values.map((column) => column.values as Float64Array),
    ),
    nulls: empty,
  }
}

/** How many cells are filled. */
export const countFilled = (column: Column): number => {
  let filled = 0
  for (let i = 0, n = lengthOf(column); i < n; i++) if (!isNullAt(column, i)) filled++
  return filled
}

/** Text to text, once per distinct word where the column is coded. "" is empty. */
export const mapText = (column: TextColumn, change: (text: string) => string): TextColumn => {
  if (column.form === 'plain') {
    const read = rowReader(column)
    const changed = (row: number): string => {
      const text = read(row)
      return text === '' ? '' : change(text)
    }
    return { type: 'text', form: 'plain', strings: Array.from({ length: lengthOf(column) }, (_, row) => changed(row)) }
  }
  const writer = columnWriter('text', column.dictionary.length)
  column.dictionary.forEach((word, code) => writer.set(code, word === '' ? null : change(word) || null))
  const changed = writer.done() as TextColumn & { form: 'dictionary' }
  const codes = uint32s(column.indices.length)
  for (let i = 0; i < codes.length; i++) codes[i] = changed.indices[column.indices[i]!]!
  return { type: 'text', form: 'dictionary', indices: codes, dictionary: changed.dictionary }
}

/** One boolean per row (1 holds), worked out once per distinct word. */
export const testText = (column: TextColumn, test: (text: string) => boolean): Uint8Array => {
  const n = lengthOf(column)
  const held = uint8s(n)
  if (column.form === 'plain') {
    const read = rowReader(column)
    for (let i = 0; i < n; i++) held[i] = test(read(i)) ? 1 : 0
    return held
  }
  const perWord = uint8s(column.dictionary.length)
  column.dictionary.forEach((word, code) => (perWord[code] = test(word) ? 1 : 0))
  for (let i = 0; i < n; i++) held[i] = perWord[column.indices[i]!]!
  return held
}

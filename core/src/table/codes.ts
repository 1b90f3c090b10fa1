import { kernels } from '../kernels/kernels.ts'
import { uint32s, type Bitmap } from '../kernels/memory.ts'
import type { DenseCodes } from '../kernels/table-kernels.ts'
import { asDictionary, isTextColumn, lengthOf, type Column, type TextColumn, type ValueColumn } from './column.ts'
import { concat } from './gather.ts'

/** Whole numbers that lie closer together than this, or than twice the number of rows, are their own codes. */
const widestRange = 1_000_000

// one function a kind of buffer: a loop that meets several kinds is several times as slow

const rangeOfFloats = (values: Float64Array): Range => {
  const n = values.length
  let low = Infinity
  let high = -Infinity
  for (let i = 0; i < n; i++) {
    const value = values[i]!
    if (value < low) low = value
    if (value > high) high = value
  }
  return [low, high]
}
const rangeOfInts = (values: Int32Array): Range => {
  const n = values.length
  let low = values[0] ?? 0
  let high = low
  for (let i = 1; i < n; i++) {
    const value = values[i]!
    if (value < low) low = value
    if (value > high) high = value
  }
  return [low, high]
}
type Range = readonly [low: number, high: number]
/** Columns do not change, and are asked again by each step and preview over them. */
const ranges = new WeakMap<Int32Array | Float64Array, Range>()
const rangeOf = (values: Int32Array | Uint8Array | Float64Array): Range => {
  if (values instanceof Uint8Array) return [0, 1]
  const known = ranges.get(values)
  if (known) return known
  const range = values instanceof Float64Array ? rangeOfFloats(values) : rangeOfInts(values)
  ranges.set(values, range)
  return range
}

const codesOfRange = (
  values: Int32Array | Uint8Array | Float64Array,
  nulls: Bitmap | undefined,
  low: number,
  high: number,
): DenseCodes => {
  const codes = uint32s(values.length)
  const from = low - 1
  if (values instanceof Float64Array) shiftFloats(codes, values, from)
  else if (values instanceof Int32Array) shiftInts(codes, values, from)
  else for (let i = 0; i < codes.length; i++) codes[i] = values[i]! - from
  if (nulls) clearCodes(codes, nulls)
  return { codes, bound: high - from + 1 }
}
const shiftFloats = (codes: Uint32Array, values: Float64Array, from: number): void => {
  const n = codes.length
  for (let i = 0; i < n; i++) codes[i] = values[i]! - from
}
const shiftInts = (codes: Uint32Array, values: Int32Array, from: number): void => {
  const n = codes.length
  for (let i = 0; i < n; i++) codes[i] = values[i]! - from
}

const clearCodes = (codes: Uint32Array, nulls: Bitmap): void => {
  const n = codes.length
  for (let byte = 0; byte < nulls.length; byte++) {
    // most bytes mark nothing
    if (nulls[byte] === 0) continue
    const end = Math.min(n, (byte + 1) << 3)
    for (let i = byte << 3; i < end; i++) if ((nulls[byte]! & (1 << (i & 7))) !== 0) codes[i] = 0
  }
}

/** Codes of a column that are had without looking for equal cells, of a dictionary or of whole numbers close together; undefined where there are none below `most`. */
export const readyCodes = (column: Column, most: number): DenseCodes | undefined => {
  if (isTextColumn(column))
    return column.form === 'dictionary' && column.dictionary.length <= most
      ? { codes: column.indices, bound: column.dictionary.length }
      : undefined
  if (column.type === 'decimal' || column.values.length === 0) return undefined
  const [low, high] = rangeOf(column.values)
  return high - low < Math.min(Math.max(widestRange, 2 * column.values.length), most - 2)
    ? codesOfRange(column.values, column.nulls, low, high)
    : undefined
}

/** A code a row, so that equal cells have equal codes. Empty is a value like any other. O(rows). */
export const codesOf = (column: Column): DenseCodes => {
  const ready = readyCodes(column, Infinity)
  if (ready) return ready
  if (isTextColumn(column)) {
    const { indices, dictionary } = asDictionary(column)
    return { codes: indices, bound: dictionary.length }
  }
  return kernels().numberCodes(asFloats(column.values), column.nulls)
}

const asFloats = (values: Int32Array | Uint8Array | Float64Array): Float64Array =>
  values instanceof Float64Array ? values : Float64Array.from(values)

/** Codes of rows by two codes together. */
export const product = (a: DenseCodes, b: DenseCodes): DenseCodes => {
  const codes = uint32s(a.codes.length)
  multiply(codes, a.codes, b.bound, b.codes)
  return { codes, bound: a.bound * b.bound }
}
const multiply = (to: Uint32Array, a: Uint32Array, factor: number, b: Uint32Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = a[i]! * factor + b[i]!
}

/** Codes of two columns of one type: equal cells of either have equal codes. */
export type SharedCodes = { readonly left: Uint32Array; readonly right: Uint32Array; readonly bound: number }

/** Words of the right dictionary are looked up among those of the left, once each. */
const codesOfTexts = (left: TextColumn, right: TextColumn): SharedCodes => {
  const a = asDictionary(left)
  const b = asDictionary(right)
  if (a.dictionary === b.dictionary) return { left: a.indices, right: b.indices, bound: a.dictionary.length }
  const seen = new Map<string, number>()
  a.dictionary.forEach((word, code) => seen.set(word, code))
  let bound = a.dictionary.length
  const map = Uint32Array.from(b.dictionary, (word) => seen.get(word) ?? bound++)
  const codes = uint32s(b.indices.length)
  for (let i = 0; i < codes.length; i++) codes[i] = map[b.indices[i]!]!
  return { left: a.indices, right: codes, bound }
}

/** Codes of cells of two columns of one type. O(rows of both). */
export const sharedCodes = (left: Column, right: Column): SharedCodes => {
  if (isTextColumn(left) && isTextColumn(right)) return codesOfTexts(left, right)
  const both = [left, right] as readonly ValueColumn[]
  const spans = both.map(({ type, values }) => (type === 'decimal' ? [-Infinity, Infinity] : rangeOf(values)))
  const low = Math.min(...spans.map(([from = 0]) => from))
  const high = Math.max(...spans.map(([, to = 0]) => to))
  if (high - low < Math.max(widestRange, 2 * (lengthOf(left) + lengthOf(right)))) {
    const [a, b] = both.map(({ values, nulls }) => codesOfRange(values, nulls, low, high)) as [DenseCodes, DenseCodes]
    return { left: a.codes, right: b.codes, bound: Math.max(1, a.bound) }
  }
  const { codes, bound } = codesOf(concat(left.type, both))
  const count = lengthOf(left)
  return { left: codes.subarray(0, count), right: codes.subarray(count), bound }
}

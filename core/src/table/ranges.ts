import { IntList, isSet, type Bitmap } from '../kernels/memory.ts'
import type { FloatColumn, ValueColumn } from './column.ts'

/** The least and the greatest of some numbers; where there are none, the least is above the greatest. */
export type Range = readonly [low: number, high: number]

/** Between what numbers lie, and how far from 0 those are at least that are not 0. 0 for `least` where that is not known; of no numbers `low` is above `high`. */
export type Bounds = { readonly low: number; readonly high: number; readonly least: number }

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
const rangeOfFilledInts = (values: Int32Array, nulls: Bitmap): Range => {
  const n = values.length
  let low = Infinity
  let high = -Infinity
  for (let i = 0; i < n; i++) {
    const value = values[i]!
    if ((value >= low && value <= high) || (nulls[i >> 3]! & (1 << (i & 7))) !== 0) continue
    if (value < low) low = value
    if (value > high) high = value
  }
  return [low, high]
}
const boundsOfFilled = (values: Float64Array, nulls: Bitmap | undefined): Bounds => {
  const n = values.length
  let low = Infinity
  let high = -Infinity
  let least = Infinity
  for (let i = 0; i < n; i++) {
    const value = values[i]!
    const size = value < 0 ? -value : value
    if (value >= low && value <= high && (size >= least || size === 0)) continue
    if (nulls !== undefined && (nulls[i >> 3]! & (1 << (i & 7))) !== 0) continue
    if (value < low) low = value
    if (value > high) high = value
    if (size < least && size > 0) least = size
  }
  return { low, high, least }
}
const zerosOf = (values: Float64Array, nulls: Bitmap | undefined): Int32Array => {
  const rows = new IntList()
  const n = values.length
  for (let i = 0; i < n; i++) if (values[i] === 0 && !isSet(nulls, i)) rows.push(i)
  return rows.done()
}

/** What is known of buffers and columns: these do not change, and are asked again by each step and preview over them. */
class Remembered<K extends object, V> {
  private readonly known = new WeakMap<K, V>()
  of(key: K, find: () => V): V {
    const value = this.known.get(key) ?? find()
    this.known.set(key, value)
    return value
  }
}
const ranges = new Remembered<Int32Array | Float64Array, Range>()
const filledRanges = new Remembered<ValueColumn, Range>()
const bounds = new Remembered<FloatColumn, Bounds>()
const zeros = new Remembered<FloatColumn, Int32Array>()

/** The range of all values, also of those that stand for an empty cell. O(values), then remembered. */
export const rangeOf = (values: Int32Array | Uint8Array | Float64Array): Range => {
  if (values instanceof Uint8Array) return [0, 1]
  return ranges.of(values, () => (values instanceof Float64Array ? rangeOfFloats(values) : rangeOfInts(values)))
}
/** The range of the filled cells. O(values), then remembered. */
export const filledRange = (column: ValueColumn): Range => {
  const { values, nulls } = column
  if (!nulls || values instanceof Uint8Array) return rangeOf(values)
  if (values instanceof Int32Array) return filledRanges.of(column, () => rangeOfFilledInts(values, nulls))
  const { low, high } = boundsOfColumn(column as FloatColumn)
  return [low, high]
}
/** The bounds of the filled cells of a column of numbers. O(rows), then remembered. */
export const boundsOfColumn = (column: FloatColumn): Bounds =>
  bounds.of(column, () => boundsOfFilled(column.values, column.nulls))
/** The rows of a column of numbers that hold 0, ascending. O(rows), then remembered. */
export const zeroRows = (column: FloatColumn): Int32Array =>
  zeros.of(column, () => zerosOf(column.values, column.nulls))

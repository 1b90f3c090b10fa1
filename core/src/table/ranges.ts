import { IntList, isSet, type Bitmap } from '../kernels/memory.ts'
import type { FloatColumn, ValueColumn } from './column.ts'

/** The least and the greatest of some numbers; where there are none, the least is above the greatest. */
export type Range = readonly [low: number, high: number]

/** Between what numbers lie, and how far from 0 those are at least that are not 0. 0 for `least` where that is not known; of no numbers `low` is above `high`. */
export type Bounds = { readonly low: number; readonly high: number; readonly least: number }

// one function a kind of buffer: a loop that meets several kinds is several times as slow

const rangeOfInts = (values: Int32Array, nulls: Bitmap | undefined): Range => {
  const n = values.length
  let low = Infinity
  let high = -Infinity
  for (let i = 0; i < n; i++) {
    const value = values[i]!
    if (value >= low && value <= high) continue
    if (nulls !== undefined && (nulls[i >> 3]! & (1 << (i & 7))) !== 0) continue
    if (value < low) low = value
    if (value > high) high = value
  }
  return [low, high]
}
const boundsOfFloats = (values: Float64Array, nulls: Bitmap | undefined): Bounds => {
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

/** What was found of columns: these do not change, and are asked again by each step and preview over them. */
class Remembered<K extends object, V> {
  private readonly known = new WeakMap<K, V>()
  of(key: K, find: () => V): V {
    const value = this.known.get(key) ?? find()
    this.known.set(key, value)
    return value
  }
}
const ranges = new Remembered<ValueColumn, Range>()
const bounds = new Remembered<FloatColumn, Bounds>()
const zeros = new Remembered<FloatColumn, Int32Array>()

/** The range of the filled cells. O(rows), then remembered. */
export const rangeOf = (column: ValueColumn): Range => {
  const { values, nulls } = column
  if (values instanceof Uint8Array) return [0, 1]
  if (values instanceof Int32Array) return ranges.of(column, () => rangeOfInts(values, nulls))
  const { low, high } = boundsOfColumn(column as FloatColumn)
  return [low, high]
}
/** The bounds of the filled cells of a column of numbers. O(rows), then remembered. */
export const boundsOfColumn = (column: FloatColumn): Bounds =>
  bounds.of(column, () => boundsOfFloats(column.values, column.nulls))
/** The rows of a column of numbers that hold 0, ascending. O(rows), then remembered. */
export const zeroRows = (column: FloatColumn): Int32Array =>
  zeros.of(column, () => zerosOf(column.values, column.nulls))

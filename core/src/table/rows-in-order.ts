import { int32s } from '../kernels/memory.ts'
import { markComplete } from './gather.ts'

/** The longest index of rows in order that was asked for; others are views of it. */
let longest: WeakRef<Int32Array> | undefined

const fill = (index: Int32Array): void => {
  const n = index.length
  for (let i = 0; i < n; i++) index[i] = i
}

/** 0 1 2 …: every row at its own place. Shared, so that it is made and held once. */
export const rowsInOrder = (count: number): Int32Array => {
  let all = longest?.deref()
  if (!all || all.length < count) {
    all = int32s(count)
    fill(all)
    longest = new WeakRef(all)
  }
  return all.length === count ? all : all.subarray(0, count)
}

/** Whether an index is one of `rowsInOrder`, known without looking at it; false says nothing. */
export const isRowsInOrder = (index: Int32Array): boolean =>
  index.byteOffset === 0 && index.buffer === longest?.deref()?.buffer

/** Whether an index names its rows in their order (one may stand several times, -1 anywhere), and how many different ones up to where it does. */
export type RowOrder = { readonly ordered: boolean; readonly different: number }
/** Indices do not change, and are asked again by each page of rows. */
const orders = new WeakMap<Int32Array, RowOrder>()
/** Says of an index that each row stands in it once, in its place, so that nobody looks. */
export const markAscending = (index: Int32Array): Int32Array => {
  orders.set(index, { ordered: true, different: index.length })
  return index
}
/** The longest index of repeated rows that was asked for last, and how often each stands in it. */
let repeated: { readonly times: number; readonly longest: WeakRef<Int32Array> } | undefined

const fillRepeats = (index: Int32Array, times: number): void => {
  const n = index.length
  for (let row = 0, at = 0; at < n; row++) {
    const end = at + times
    for (; at < end; at++) index[at] = row
  }
}
/** a b, 2 -> a a b b. Shared with others of as many times, so that it is made and held once. */
export const repeatEach = (count: number, times: number): Int32Array => {
  const length = count * times
  let all = repeated?.times === times ? repeated.longest.deref() : undefined
  if (!all || all.length < length) {
    all = int32s(length)
    fillRepeats(all, times)
    repeated = { times, longest: new WeakRef(all) }
  }
  const index = all.length === length ? all : all.subarray(0, length)
  orders.set(index, { ordered: true, different: times > 0 ? count : 0 })
  return markComplete(index)
}

/** 0 1 2 … up to `count`, and -1 behind them for rows that come from elsewhere. */
export const rowsAndOthers = (count: number, others: number): Int32Array => {
  const index = int32s(count + others)
  index.set(rowsInOrder(count))
  index.fill(-1, count)
  orders.set(index, { ordered: true, different: count })
  return index
}
/** Whether it is known of an index that each row stands in it once, in its place. */
export const isAscending = (index: Int32Array): boolean =>
  isRowsInOrder(index) || orders.get(index)?.different === index.length
/** O(rows) the first time. */
export const rowOrder = (index: Int32Array): RowOrder => {
  if (isRowsInOrder(index)) return { ordered: true, different: index.length }
  const known = orders.get(index)
  if (known) return known
  const order = lookThrough(index)
  orders.set(index, order)
  return order
}
const lookThrough = (index: Int32Array): RowOrder => {
  const n = index.length
  let last = -1
  let different = 0
  for (let at = 0; at < n; at++) {
    const row = index[at]!
    if (row < 0 || row === last) continue
    if (row < last) return { ordered: false, different: 0 }
    last = row
    different++
  }
  return { ordered: true, different }
}

/** Whether rows stand in their order, each once, and are half of all at least. */
export const areMost = (rows: Int32Array, rowCount: number): boolean => {
  if (2 * rows.length < rowCount) return false
  const { ordered, different } = rowOrder(rows)
  return ordered && different === rows.length
}

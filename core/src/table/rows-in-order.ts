import { int32s } from '../kernels/memory.ts'

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

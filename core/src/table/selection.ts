import { int32s } from '../kernels/memory.ts'
import { isComplete, markComplete } from './gather.ts'
import type { HeldBuffer } from './held-buffers.ts'
import { isAscending, markAscending } from './rows-in-order.ts'

/** The rows that an index into rows of another index names; -1 names none. */
const composed = (index: Int32Array, inner: Int32Array): Int32Array => {
  const result = int32s(index.length)
  if (isComplete(index)) pickRows(result, index, inner)
  else pickRowsOfSome(result, index, inner)
  if (isAscending(index) && isAscending(inner)) markAscending(result)
  return isComplete(index) && isComplete(inner) ? markComplete(result) : result
}
const pickRows = (to: Int32Array, index: Int32Array, inner: Int32Array): void => {
  const n = index.length
  for (let i = 0; i < n; i++) to[i] = inner[index[i]!]!
}
const pickRowsOfSome = (to: Int32Array, index: Int32Array, inner: Int32Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = index[i]! < 0 ? -1 : inner[index[i]!]!
}

/** Selections by their rows, so that equal ones are one. */
const selections = new WeakMap<Int32Array, Selection>()

/**
 * A selection vector: the rows that are chosen of a column, in their order; -1 is an empty row. Of rows that are chosen among
 * chosen rows both are kept until all are needed: a preview reads a few of them.
 */
export class Selection {
  private index: Int32Array
  private inner: Selection | undefined
  private constructor(index: Int32Array, inner: Selection | undefined) {
    this.index = index
    this.inner = inner
  }
  /** The one selection of these rows. */
  static of(rows: Int32Array): Selection {
    const selection = selections.get(rows) ?? new Selection(rows, undefined)
    selections.set(rows, selection)
    return selection
  }
  /** Rows that are chosen of these by their places; -1 is an empty row. */
  chosen(places: Int32Array): Selection {
    return new Selection(places, this)
  }
  get length(): number {
    return this.index.length
  }
  /** The row at a place. */
  at(place: number): number {
    const row = this.index[place]!
    return this.inner && row >= 0 ? this.inner.at(row) : row
  }
  /** All rows. */
  get rows(): Int32Array {
    if (this.inner) {
      this.index = composed(this.index, this.inner.rows)
      this.inner = undefined
      selections.set(this.index, this)
    }
    return this.index
  }
  get buffers(): readonly HeldBuffer[] {
    return [[this.index.buffer, this.index.byteLength], ...(this.inner?.buffers ?? [])]
  }
}

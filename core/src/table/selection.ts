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

/** Rows that are found when all are needed, single ones sooner; -1 for none. */
export type RowsToFind = {
  readonly length: number
  readonly at: (place: number) => number
  readonly find: () => Int32Array
  /** What is held while they are not found. */
  readonly buffers: readonly HeldBuffer[]
}

/**
 * A selection vector: the rows that are chosen of a column, in their order; -1 is an empty row. Of rows that are chosen among
 * chosen rows both are kept until all are needed: a preview reads a few of them.
 */
export class Selection {
  private index: Int32Array | RowsToFind
  private inner: Selection | undefined
  private constructor(index: Int32Array | RowsToFind, inner: Selection | undefined) {
    this.index = index
    this.inner = inner
  }
  /** The one selection of these rows. */
  static of(rows: Int32Array): Selection {
    const selection = selections.get(rows) ?? new Selection(rows, undefined)
    selections.set(rows, selection)
    return selection
  }
  /** A selection of rows that are found when all are needed. */
  static toFind(rows: RowsToFind): Selection {
    return new Selection(rows, undefined)
  }
  /** Rows that are chosen of these by their places; -1 is an empty row. */
  chosen(places: Selection): Selection {
    const found = places.index instanceof Int32Array || places.inner !== undefined
    return new Selection(found ? places.rows : places.toFind, this)
  }
  private get toFind(): RowsToFind {
    return { length: this.length, at: (place) => this.at(place), find: () => this.rows, buffers: this.buffers }
  }
  get length(): number {
    return this.index.length
  }
  /** The row at a place. */
  at(place: number): number {
    const row = this.index instanceof Int32Array ? this.index[place]! : this.index.at(place)
    return this.inner && row >= 0 ? this.inner.at(row) : row
  }
  /** All rows. */
  get rows(): Int32Array {
    const { index, inner } = this
    if (index instanceof Int32Array && !inner) return index
    const found = index instanceof Int32Array ? index : index.find()
    const rows = inner ? composed(found, inner.rows) : found
    this.index = rows
    this.inner = undefined
    selections.set(rows, this)
    return rows
  }
  get buffers(): readonly HeldBuffer[] {
    const { index } = this
    const own: readonly HeldBuffer[] = index instanceof Int32Array ? [[index.buffer, index.byteLength]] : index.buffers
    return [...own, ...(this.inner?.buffers ?? [])]
  }
}

import { asDictionary, isTextColumn, type Column } from './column.ts'
import { isSet, IntList, uint32s } from '../kernels/memory.ts'

/** Rows with equal keys share an id; ids run 0, 1, 2 … in order of first appearance. */
export type Groups = {
  readonly ids: Uint32Array
  readonly count: number
  /** The first row of each group. */
  readonly first: Int32Array
}

/** Any dense-enough code per row, with its bound: equal cells have equal codes. Empty is a value like any other. */
type DenseCodes = { readonly codes: Uint32Array; readonly bound: number }

const codesOfNumbers = (values: ArrayLike<number>, empty: Uint8Array | undefined): DenseCodes => {
  const codes = uint32s(values.length)
  const seen = new Map<number, number>()
  let next = 1
  for (let i = 0; i < values.length; i++) {
    if (isSet(empty, i)) continue
    const value = values[i]!
    let code = seen.get(value)
    if (code === undefined) {
      code = next++
      seen.set(value, code)
    }
    codes[i] = code
  }
  return { codes, bound: next }
}

const rangeOf = (values: Int32Array | Uint8Array | Float64Array): readonly [number, number] => {
  let low = Infinity
  let high = -Infinity
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!
    if (value < low) low = value
    if (value > high) high = value
  }
  return [low, high]
}

const codesOfSmallRange = (
  values: ArrayLike<number>,
  empty: Uint8Array | undefined,
  low: number,
  span: number,
): DenseCodes => {
  const codes = uint32s(values.length)
  for (let i = 0; i < values.length; i++) if (!isSet(empty, i)) codes[i] = values[i]! - low + 1
  return { codes, bound: span + 2 }
}

const codesOf = (column: Column): DenseCodes => {
  if (isTextColumn(column)) {
    const { indices, dictionary } = asDictionary(column)
    return { codes: indices, bound: dictionary.length }
  }
  if (column.type === 'decimal') return codesOfNumbers(column.values, column.nulls)
  const [low, high] = rangeOf(column.values)
  const small = Number.isFinite(low) && high - low < 1_000_000
  return small
    ? codesOfSmallRange(column.values, column.nulls, low, high - low)
    : codesOfNumbers(column.values, column.nulls)
}

/** Codes to group ids in order of first appearance. */
const densify = ({ codes, bound }: DenseCodes): Groups => {
  const ids = uint32s(codes.length)
  const idOf = new Int32Array(bound).fill(-1)
  const first = new IntList()
  for (let i = 0; i < codes.length; i++) {
    const code = codes[i]!
    let id = idOf[code]!
    if (id < 0) {
      id = first.length
      idOf[code] = id
      first.push(i)
    }
    ids[i] = id
  }
  return { ids, count: first.length, first: first.done() }
}

const pairDense = (a: Groups, b: Groups): Groups => {
  const codes = uint32s(a.ids.length)
  for (let i = 0; i < codes.length; i++) codes[i] = a.ids[i]! * b.count + b.ids[i]!
  return densify({ codes, bound: a.count * b.count })
}

const pairSparse = (a: Groups, b: Groups): Groups => {
  const ids = uint32s(a.ids.length)
  const seen = new Map<number, number>()
  const first = new IntList()
  for (let i = 0; i < ids.length; i++) {
    const key = a.ids[i]! * b.count + b.ids[i]!
    let id = seen.get(key)
    if (id === undefined) {
      id = first.length
      seen.set(key, id)
      first.push(i)
    }
    ids[i] = id
  }
  return { ids, count: first.length, first: first.done() }
}

/** Groups of rows equal in all these columns. No columns: one group of all rows, none where there are no rows. */
export const groupBy = (columns: readonly Column[], rowCount: number): Groups => {
  if (columns.length === 0)
    return { ids: uint32s(rowCount), count: rowCount > 0 ? 1 : 0, first: new Int32Array(rowCount > 0 ? 1 : 0) }
  return columns
    .map((column) => densify(codesOf(column)))
    .reduce((a, b) => (a.count * b.count <= 1 << 22 ? pairDense(a, b) : pairSparse(a, b)))
}

import { sharedCodes } from '../../table/codes.ts'
import { lengthOf, typeTogether, type Column } from '../../table/column.ts'
import { mapText } from '../../table/gather.ts'
import { pairCodes } from '../../table/group.ts'
import { int32s, uint32s } from '../../kernels/memory.ts'
import { convert } from '../../reading/convert.ts'
import { lower, trim } from '../../table/text.ts'

/** What is passed over where keys are compared. */
export type KeyComparison = { readonly ignoreCase?: boolean | undefined; readonly trim?: boolean | undefined }

/** Text as keys are compared: cut and in small letters where so asked. */
const seen = (column: Column, { ignoreCase, trim: cut }: KeyComparison): Column =>
  column.type !== 'text' || (!ignoreCase && !cut)
    ? column
    : mapText(column, (text) => (ignoreCase ? lower(cut ? trim(text) : text) : trim(text)))

/** Codes of all rows of the left table and those of the right behind them. */
type StackedCodes = { readonly codes: Uint32Array; readonly bound: number }

const codesOfKey = (left: Column, right: Column, how: KeyComparison): StackedCodes => {
  const type = typeTogether([left.type, right.type])
  const one = convert(seen(left, how), { type }).column
  const other = convert(seen(right, how), { type }).column
  const shared = sharedCodes(one, other)
  const codes = uint32s(shared.left.length + shared.right.length)
  codes.set(shared.left)
  codes.set(shared.right, shared.left.length)
  return { codes, bound: shared.bound }
}

/** Rows whose cell is empty get the id -1. */
const markEmpty = (ids: Int32Array, codes: Uint32Array): void => {
  const n = ids.length
  for (let i = 0; i < n; i++) if (codes[i] === 0) ids[i] = -1
}

/**
 * Rows of two tables by their keys: `left[i] === right[k]` where all keys are equal; -1 where one of them is empty, which
 * matches nothing. Numbers of either sort compare by value.
 */
export const keyIds = (
  left: readonly Column[],
  right: readonly Column[],
  how: KeyComparison,
): { readonly left: Int32Array; readonly right: Int32Array; readonly count: number } => {
  const n = left[0] ? lengthOf(left[0]) : 0
  const keys = left.map((column, i) => codesOfKey(column, right[i] as Column, how))
  const [first, ...rest] = keys
  const all = rest.reduce(
    (a, b) => {
      const { ids, count } = pairCodes(a, b)
      return { codes: ids, bound: count }
    },
    first ?? { codes: uint32s(0), bound: 0 },
  )
  const ids = int32s(all.codes.length)
  // of a single key code 0 is the empty cell
  const from = rest.length === 0 ? 1 : 0
  for (let i = 0; i < ids.length; i++) ids[i] = all.codes[i]! - from
  if (rest.length > 0) for (const { codes } of keys) markEmpty(ids, codes)
  return { left: ids.subarray(0, n), right: ids.subarray(n), count: all.bound - from }
}

/** Rows by id: those of id g stand in `rows` from `starts[g]` to `starts[g + 1]`, in their own order. */
export const bucket = (ids: Int32Array, count: number): { readonly starts: Int32Array; readonly rows: Int32Array } => {
  const starts = int32s(count + 1)
  for (let i = 0; i < ids.length; i++) {
    const id = ids[i]!
    if (id >= 0) starts[id + 1] = starts[id + 1]! + 1
  }
  for (let g = 0; g < count; g++) starts[g + 1] = starts[g + 1]! + starts[g]!
  const next = starts.slice()
  const rows = int32s(starts[count]!)
  for (let i = 0; i < ids.length; i++) {
    const id = ids[i]!
    if (id < 0) continue
    rows[next[id]!] = i
    next[id] = next[id]! + 1
  }
  return { starts, rows }
}

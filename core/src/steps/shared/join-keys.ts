import { sharedCodes, type SharedCodes } from '../../table/codes.ts'
import { typeTogether, type Column } from '../../table/column.ts'
import { mapText } from '../../table/gather.ts'
import { pairCodes } from '../../table/group.ts'
import { kernels } from '../../kernels/kernels.ts'
import { int32s, uint32s } from '../../kernels/memory.ts'
import type { DenseCodes } from '../../kernels/table-kernels.ts'
import { convert } from '../../reading/convert.ts'
import { lower, trim } from '../../table/text.ts'

/** What is passed over where keys are compared. */
export type KeyComparison = { readonly ignoreCase?: boolean | undefined; readonly trim?: boolean | undefined }

/** Text as keys are compared: cut and in small letters where so asked. */
const seen = (column: Column, { ignoreCase, trim: cut }: KeyComparison): Column =>
  column.type !== 'text' || (!ignoreCase && !cut)
    ? column
    : mapText(column, (text) => (ignoreCase ? lower(cut ? trim(text) : text) : trim(text)))

const codesOfKey = (left: Column, right: Column, how: KeyComparison): SharedCodes => {
  const type = typeTogether([left.type, right.type])
  return sharedCodes(convert(seen(left, how), { type }).column, convert(seen(right, how), { type }).column)
}

/** Codes of the left table and those of the right behind them. */
const behindOneAnother = ({ left, right, bound }: SharedCodes): DenseCodes => {
  const codes = uint32s(left.length + right.length)
  codes.set(left)
  codes.set(right, left.length)
  return { codes, bound }
}
/** Codes from 1 on of ids from 0 on; 0 where one of the keys is empty. */
const codesOfIds = (ids: Uint32Array, keys: readonly DenseCodes[]): Uint32Array => {
  const codes = uint32s(ids.length)
  for (let i = 0; i < codes.length; i++) codes[i] = ids[i]! + 1
  for (const key of keys) markEmpty(codes, key.codes)
  return codes
}
const markEmpty = (to: Uint32Array, codes: Uint32Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) if (codes[i] === 0) to[i] = 0
}

/**
 * Rows of two tables by their keys: `left[i] === right[k]` where all keys are equal; 0 where one of them is empty, which
 * matches nothing. Numbers of either sort compare by value.
 */
export const keyCodes = (left: readonly Column[], right: readonly Column[], how: KeyComparison): SharedCodes => {
  const keys = left.map((column, i) => codesOfKey(column, right[i] as Column, how))
  const [first = { left: uint32s(0), right: uint32s(0), bound: 1 }] = keys
  if (keys.length <= 1) return first
  const stacked = keys.map(behindOneAnother)
  const all = stacked.reduce((a, b) => {
    const { ids, count } = pairCodes(a, b)
    return { codes: ids, bound: count }
  })
  const codes = codesOfIds(all.codes, stacked)
  const n = first.left.length
  return { left: codes.subarray(0, n), right: codes.subarray(n), bound: all.bound + 1 }
}

/** Rows by code: those of code g stand in `rows` from `starts[g]` to `starts[g + 1]`, in their own order; none of code 0. */
export const bucket = (
  codes: Uint32Array,
  bound: number,
): { readonly starts: Int32Array; readonly rows: Int32Array } => {
  const counts = kernels().countCodes(codes, bound)
  const starts = int32s(bound + 1)
  for (let g = 1; g < bound; g++) starts[g + 1] = starts[g]! + counts[g]!
  const rows = int32s(starts[bound]!)
  placeRows(codes, starts.slice(), rows)
  return { starts, rows }
}
const placeRows = (codes: Uint32Array, next: Int32Array, rows: Int32Array): void => {
  const n = codes.length
  for (let i = 0; i < n; i++) {
    const code = codes[i]!
    if (code > 0) rows[next[code]!++] = i
  }
}

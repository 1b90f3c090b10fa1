import { bitmap, float64s, int32s, type Bitmap } from './memory.ts'
import { noGroup, type FilledNumbers, type GroupTotals, type TableKernels } from './table-kernels.ts'

/** Numbers of some rows, as many as `to` has. */
export const pickNumbers = (to: Float64Array, from: Float64Array, rows: Int32Array): void => {
  const n = rows.length
  for (let i = 0; i < n; i++) to[i] = from[rows[i]!]!
}
/** Bits of some rows, a byte at a time. */
export const pickBits = (to: Bitmap, from: Bitmap, rows: Int32Array): void => {
  const n = rows.length
  for (let byte = 0, i = 0; i < n; byte++) {
    const end = i + 8 < n ? i + 8 : n
    let bits = 0
    for (let k = 0; i < end; i++, k++) bits |= ((from[rows[i]! >> 3]! >> (rows[i]! & 7)) & 1) << k
    to[byte] = bits
  }
}

const addFilled = (
  values: Float64Array,
  nulls: Bitmap | undefined,
  ids: Uint32Array,
  sum: Float64Array,
  lost: Float64Array,
): void => {
  const n = values.length
  for (let i = 0; i < n; i++) {
    const group = ids[i]!
    if (group === noGroup || (nulls !== undefined && (nulls[i >> 3]! & (1 << (i & 7))) !== 0)) continue
    const x = values[i]!
    const s = sum[group]!
    const t = s + x
    lost[group] = lost[group]! + (Math.abs(s) >= Math.abs(x) ? s - t + x : x - t + s)
    sum[group] = t
  }
}
const countFilled = (ids: Uint32Array, nulls: Bitmap | undefined, counts: Int32Array): void => {
  const n = ids.length
  for (let i = 0; i < n; i++)
    if (ids[i] !== noGroup && (nulls === undefined || (nulls[i >> 3]! & (1 << (i & 7))) === 0)) counts[ids[i]!]!++
}

/** The totals of numbers by group, as the kernels of that name say. */
export const totalsOf = (
  { values, nulls }: FilledNumbers,
  ids: Uint32Array,
  count: number,
  rows?: Int32Array,
): GroupTotals => {
  if (rows) {
    const picked = float64s(rows.length)
    pickNumbers(picked, values, rows)
    const empty = nulls && bitmap(rows.length)
    if (empty) pickBits(empty, nulls, rows)
    return totalsOf({ values: picked, nulls: empty }, ids, count)
  }
  const sums = float64s(count)
  const lost = float64s(count)
  const counts = int32s(count)
  addFilled(values, nulls, ids, sums, lost)
  for (let g = 0; g < count; g++) sums[g] = sums[g]! + lost[g]!
  countFilled(ids, nulls, counts)
  return { sums, counts }
}

/** Sums by group in plain TypeScript. */
export const groupTotals: TableKernels['groupTotals'] = (columns, ids, count, rows) =>
  columns.map((column) => totalsOf(column, ids, count, rows))

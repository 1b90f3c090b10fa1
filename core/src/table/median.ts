import { bitmap, float64s, int32s, isSet, type Bitmap } from '../kernels/memory.ts'
import type { Groups } from '../kernels/table-kernels.ts'
import { cellAt, lengthOf, type Column, type FloatColumn } from './column.ts'
import { boundsOfColumn } from './ranges.ts'

/** Puts the k-th smallest of the first n values at place k, smaller ones before it. C. A. R. Hoare, CACM 4 (1961), algorithm 65; O(n) on average. */
const select = (values: Float64Array, n: number, k: number): void => {
  let from = 0
  let to = n - 1
  while (from < to) {
    const middle = (from + to) >> 1
    const [a, b, c] = [values[from]!, values[middle]!, values[to]!]
    const pivot = Math.max(Math.min(a, b), Math.min(Math.max(a, b), c))
    let i = from
    let j = to
    while (i <= j) {
      while (values[i]! < pivot) i++
      while (values[j]! > pivot) j--
      if (i > j) break
      const swapped = values[i]!
      values[i++] = values[j]!
      values[j--] = swapped
    }
    if (k <= j) to = j
    else if (k >= i) from = i
    else return
  }
}

/** The median of `n` numbers, at least one, of which `below` are smaller than all of `values` and the others greater or among them; their order is changed. */
const middleOf = (values: Float64Array, n: number, below: number): number => {
  const middle = (n >> 1) - below
  select(values, values.length, middle)
  if (n % 2 === 1) return values[middle]!
  let before = -Infinity
  for (let i = 0; i < middle; i++) before = Math.max(before, values[i]!)
  return (before + values[middle]!) / 2
}

/** The median of a number column without its empty cells; undefined where all are empty. */
export const medianOf = (column: Column): number | undefined => {
  const values = float64s(lengthOf(column))
  let n = 0
  for (let row = 0; row < values.length; row++) {
    const cell = cellAt(column, row)
    if (typeof cell === 'number') values[n++] = cell
  }
  return n === 0 ? undefined : middleOf(values.subarray(0, n), n, 0)
}

/** The median of each group, and how many filled numbers it has. */
export type GroupMedians = { readonly counts: Int32Array; readonly medianOf: (group: number) => number }

/** The filled numbers of each group behind one another, those of group g from `starts[g]` up to `starts[g + 1]`. */
const byGroup = ({ values, nulls }: FloatColumn, { ids, count }: Groups): GroupMedians => {
  const starts = int32s(count + 1)
  for (let i = 0; i < ids.length; i++) if (!isSet(nulls, i)) starts[ids[i]! + 1]!++
  for (let g = 0; g < count; g++) starts[g + 1]! += starts[g]!
  const next = starts.slice()
  const numbers = float64s(starts[count]!)
  for (let i = 0; i < ids.length; i++) {
    if (isSet(nulls, i)) continue
    const at = next[ids[i]!]!
    numbers[at] = values[i]!
    next[ids[i]!] = at + 1
  }
  const counts = Int32Array.from({ length: count }, (_, g) => starts[g + 1]! - starts[g]!)
  return { counts, medianOf: (g) => middleOf(numbers.subarray(starts[g], starts[g + 1]), counts[g]!, 0) }
}

/** Bins of equal width: a number of `low` or more is in bin `(number - low) * scale`, cut to a whole one. A greater number is in no lower bin. */
type Bins = { readonly low: number; readonly scale: number; readonly count: number }
/** The counts of all bins of all groups fit the cache of the processor. */
const mostCounts = 1 << 18
const mostBins = 1 << 11
/** Fewer bins save nothing, nor do bins with fewer rows. */
const leastBins = 16
const rowsABin = 4
const binsFor = (column: FloatColumn, { ids, count }: Groups): Bins | undefined => {
  const bins = Math.min(mostBins, Math.floor(Math.min(mostCounts, ids.length / rowsABin) / count))
  if (bins < leastBins) return undefined
  const { low, high } = boundsOfColumn(column)
  const scale = (bins - 1) / (high - low)
  return scale > 0 && scale < Infinity ? { low, scale, count: bins } : undefined
}

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

const countBins = (
  values: Float64Array,
  nulls: Bitmap,
  ids: Uint32Array,
  { low, scale, count }: Bins,
  counts: Int32Array,
): void => {
  const n = ids.length
  for (let i = 0; i < n; i++)
    if ((nulls[i >> 3]! & (1 << (i & 7))) === 0) counts[ids[i]! * count + (((values[i]! - low) * scale) | 0)]!++
}
/** The numbers of the bins of each group from `firsts` up to `lasts`, from `next` on, which goes on with each. */
const pickBins = (
  values: Float64Array,
  nulls: Bitmap,
  ids: Uint32Array,
  { low, scale }: Bins,
  firsts: Int32Array,
  lasts: Int32Array,
  next: Int32Array,
  numbers: Float64Array,
): void => {
  const n = ids.length
  for (let i = 0; i < n; i++) {
    const group = ids[i]!
    const bin = ((values[i]! - low) * scale) | 0
    if (bin < firsts[group]! || bin > lasts[group]! || (nulls[i >> 3]! & (1 << (i & 7))) !== 0) continue
    numbers[next[group]!++] = values[i]!
  }
}

/** The bins of a group in which the numbers in its middle are, how many lie below them, and how many are in them. */
type MiddleBins = { readonly first: number; readonly last: number; readonly below: number; readonly within: number }
const noBins: MiddleBins = { first: 0, last: -1, below: 0, within: 0 }
const middleBins = (counts: Int32Array, n: number): MiddleBins => {
  let first = 0
  let below = 0
  while (below + counts[first]! <= (n - 1) >> 1) below += counts[first++]!
  let last = first
  let within = counts[first]!
  while (below + within <= n >> 1) within += counts[++last]!
  return { first, last, below, within }
}

/** Of each group only the numbers in the bins around its middle are looked at one by one. */
const byBins = (column: FloatColumn, { ids, count }: Groups, bins: Bins): GroupMedians => {
  const { values, nulls = bitmap(values.length) } = column
  const binned = int32s(count * bins.count)
  countBins(values, nulls, ids, bins, binned)
  const [counts, firsts, lasts, smaller] = [0, 1, 2, 3].map(() => int32s(count)) as [
    Int32Array,
    Int32Array,
    Int32Array,
    Int32Array,
  ]
  const starts = int32s(count + 1)
  for (let g = 0; g < count; g++) {
    const ofGroup = binned.subarray(g * bins.count, (g + 1) * bins.count)
    const n = ofGroup.reduce((sum, rows) => sum + rows, 0)
    counts[g] = n
    // of a group without numbers no bin is picked
    const { first, last, below, within } = n > 0 ? middleBins(ofGroup, n) : noBins
    firsts[g] = first
    lasts[g] = last
    smaller[g] = below
    starts[g + 1] = starts[g]! + within
  }
  const numbers = float64s(starts[count]!)
  pickBins(values, nulls, ids, bins, firsts, lasts, starts.slice(), numbers)
  return { counts, medianOf: (g) => middleOf(numbers.subarray(starts[g], starts[g + 1]), counts[g]!, smaller[g]!) }
}

/** The median of each group that has a filled number. O(rows). */
export const groupMedians = (column: FloatColumn, groups: Groups): GroupMedians => {
  const bins = binsFor(column, groups)
  return bins ? byBins(column, groups, bins) : byGroup(column, groups)
}

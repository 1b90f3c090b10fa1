import { firstOf } from '../../kernels/search.ts'
import { kernels } from '../../kernels/kernels.ts'
import { float64s, int32s, isSet, type Bitmap } from '../../kernels/memory.ts'
import type { DenseCodes } from '../../kernels/table-kernels.ts'
import { codesBy, codesOf, codingOf } from '../../table/codes.ts'
import type { ValueColumn } from '../../table/column.ts'

/** So many rows of a column are looked at for whether its values repeat. */
const looked = 2048
/** Below so many rows sorting costs less than codes. */
const fewRows = 10_000

/** The filled values of a column in ascending order, each once with the number of rows that hold it. */
export class ValueRuns {
  readonly values: Float64Array
  readonly counts: Int32Array
  /** How many rows hold a value up to and with that of each run. */
  private readonly ends: Int32Array
  constructor(values: Float64Array, counts: Int32Array) {
    this.values = values
    this.counts = counts
    this.ends = int32s(counts.length)
    let end = 0
    for (let i = 0; i < counts.length; i++) this.ends[i] = end += counts[i]!
  }
  /** How many rows are filled. */
  get filled(): number {
    return this.ends.at(-1) ?? 0
  }
  /** The value of the k-th filled row, of as many as `filled`, in ascending order. O(log of the different values). */
  at(k: number): number {
    return this.values[firstOf(this.ends.length - 1, (run) => this.ends[run]! > k)]!
  }
  /** How many rows hold less than a value. O(log of the different values). */
  below(value: number): number {
    return this.rowsBefore((run) => this.values[run]! >= value)
  }
  /** How many rows hold a value or less. O(log of the different values). */
  upTo(value: number): number {
    return this.rowsBefore((run) => this.values[run]! > value)
  }
  private rowsBefore(holds: (run: number) => boolean): number {
    const run = firstOf(this.values.length, holds)
    return run === 0 ? 0 : this.ends[run - 1]!
  }
}
const copyFilled = (to: Float64Array, from: ValueColumn['values'], nulls: Bitmap | undefined): number => {
  const n = from.length
  let at = 0
  for (let i = 0; i < n; i++) {
    to[at] = from[i]!
    if (nulls === undefined || (nulls[i >> 3]! & (1 << (i & 7))) === 0) at++
  }
  return at
}
/** By sorting all rows. */
const bySorting = ({ values, nulls }: ValueColumn): ValueRuns => {
  const filled = float64s(values.length)
  const sorted = filled.subarray(0, copyFilled(filled, values, nulls)).sort()
  const n = sorted.length
  const counts = int32s(n)
  let runs = 0
  for (let i = 0; i < n; i++) {
    if (i > 0 && sorted[i] === sorted[i - 1]) counts[runs - 1]!++
    else {
      // what is written here was read before
      sorted[runs] = sorted[i]!
      counts[runs++] = 1
    }
  }
  return new ValueRuns(sorted.slice(0, runs), counts.slice(0, runs))
}
/** By codes that are in the order of their values. */
const byRange = ({ codes, bound }: DenseCodes, below: number): ValueRuns => {
  const ofCodes = kernels().countCodes(codes, bound)
  const [values, counts] = [float64s(bound), int32s(bound)]
  let runs = 0
  for (let code = 1; code < bound; code++) {
    values[runs] = below + code
    counts[runs] = ofCodes[code]!
    runs += ofCodes[code]! > 0 ? 1 : 0
  }
  return new ValueRuns(values.slice(0, runs), counts.slice(0, runs))
}
/** By codes in order of first appearance, of which there are few: these are sorted. */
const byCodes = (codes: DenseCodes, { values }: ValueColumn): ValueRuns => {
  const counts = kernels().countCodes(codes.codes, codes.bound)
  const order = [...kernels().firstRows(codes).entries()]
    .filter(([code, row]) => code > 0 && row >= 0)
    .map(([code, row]) => [values[row]!, counts[code]!] as const)
    .sort(([a], [b]) => a - b)
  return new ValueRuns(
    Float64Array.from(order, ([value]) => value),
    Int32Array.from(order, ([, count]) => count),
  )
}

/** Whether the values of the first rows seldom repeat: those of the others then hardly do. */
const seldomRepeats = ({ values, nulls }: ValueColumn): boolean => {
  const seen = new Set<number>()
  let filled = 0
  for (let row = 0; row < Math.min(looked, values.length); row++) {
    if (isSet(nulls, row)) continue
    filled++
    seen.add(values[row]!)
  }
  return seen.size > 0.98 * filled
}

/** The filled values of a column in ascending order with how many rows hold each. O(rows) where values repeat, O(rows log rows) where they do not. */
export const valueRuns = (column: ValueColumn): ValueRuns => {
  const rows = column.values.length
  if (rows < fewRows) return bySorting(column)
  const coding = codingOf(column, rows)
  if (coding?.below !== undefined) return byRange(codesBy(coding, column), coding.below)
  if (seldomRepeats(column)) return bySorting(column)
  const codes = codesOf(column)
  return 8 * codes.bound < rows ? byCodes(codes, column) : bySorting(column)
}

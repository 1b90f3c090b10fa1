import { isTextColumn, isNullAt, lengthOf, type Column, type TextColumn } from './column.ts'
import { sliceRows } from './gather.ts'
import { kernels } from '../kernels/kernels.ts'
import { fillSet, isSet, int32s, uint32s, type Bitmap } from '../kernels/memory.ts'
import { textRanks } from './text-ranks.ts'

/** A column with its direction; `natural` orders digits in text by their size. */
export type SortKey = { readonly column: Column; readonly descending: boolean; readonly natural: boolean }

/** One unsigned rank a row, of which the lowest `bits` are used; equal cells have equal ranks, and the empty cell ranks last either way round. */
type Ranks = { readonly ranks: Uint32Array; readonly bits: number }

/** How many bits tell so many ranks apart. */
const bitsFor = (bound: number): number => Math.ceil(Math.log2(bound))

const reversed = (ranks: Uint32Array, last: number): Uint32Array => {
  const turned = uint32s(ranks.length)
  const n = ranks.length
  for (let i = 0; i < n; i++) turned[i] = ranks[i] === last ? last : last - 1 - ranks[i]!
  return turned
}
const ranksOfText = (column: TextColumn, { descending, natural }: SortKey): Ranks => {
  const { ranks, bound } = textRanks(column, natural)
  return { ranks: descending ? reversed(ranks, bound - 1) : ranks, bits: bitsFor(bound) }
}

/** The least and the largest of numbers; there are none where `low` is above `high`. */
type Bounds = { readonly low: number; readonly high: number }
const noBounds: Bounds = { low: Infinity, high: -Infinity }

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

/**
 * Filled numbers times `scale` and less that of row `first`, which is filled, into `to`. Undefined where one is not whole then, or too far
 * from it for 32 bits.
 */
const scaleFloats = (
  to: Int32Array,
  values: Float64Array,
  empty: Bitmap | undefined,
  scale: number,
  first: number,
): Bounds | undefined => {
  const n = values.length
  const base = Math.floor(values[first]! * scale + 0.5)
  let low = 0
  let high = 0
  for (let i = first; i < n; i++) {
    if (empty !== undefined && (empty[i >> 3]! & (1 << (i & 7))) !== 0) continue
    const value = values[i]!
    const whole = Math.floor(value * scale + 0.5)
    const above = whole - base
    if (whole / scale !== value || above !== (above | 0)) return undefined
    to[i] = above
    if (above < low) low = above
    if (above > high) high = above
  }
  return { low, high }
}
const boundsOfInts = (values: Int32Array, empty: Bitmap | undefined): Bounds => {
  const n = values.length
  let low = Infinity
  let high = -Infinity
  for (let i = 0; i < n; i++) {
    if (empty !== undefined && (empty[i >> 3]! & (1 << (i & 7))) !== 0) continue
    const value = values[i]!
    if (value < low) low = value
    if (value > high) high = value
  }
  return { low, high }
}
const rankUp = (ranks: Uint32Array, values: Int32Array, low: number): void => {
  const n = ranks.length
  for (let i = 0; i < n; i++) ranks[i] = values[i]! - low
}
const rankDown = (ranks: Uint32Array, values: Int32Array, high: number): void => {
  const n = ranks.length
  for (let i = 0; i < n; i++) ranks[i] = high - values[i]!
}

/**
 * Whole numbers, or such as become whole when multiplied by `scale`, that lie close enough together for one word.
 * Undefined where they do not. Decimals of few places are whole numbers in disguise.
 */
const scaledRanks = (
  values: Float64Array | Int32Array | Uint8Array,
  empty: Bitmap | undefined,
  descending: boolean,
  scale: number,
): Ranks | undefined => {
  const n = values.length
  let first = 0
  while (first < n && isSet(empty, first)) first++
  const wholes = values instanceof Int32Array ? values : int32s(n)
  if (values instanceof Uint8Array) wholes.set(values)
  const ofFloats = (floats: Float64Array) => (first < n ? scaleFloats(wholes, floats, empty, scale, first) : noBounds)
  const bounds = values instanceof Float64Array ? ofFloats(values) : boundsOfInts(wholes, empty)
  if (!bounds) return undefined
  const { low, high } = bounds
  if (low > high) return { ranks: uint32s(n), bits: 0 }
  const last = high - low + 1
  if (last >= 0xffffffff) return undefined
  const ranks = uint32s(n)
  if (descending) rankDown(ranks, wholes, high)
  else rankUp(ranks, wholes, low)
  if (empty) fillSet(ranks, empty, last)
  return { ranks, bits: bitsFor(last + 1) }
}

/** The order of doubles as two unsigned words, after the IEEE 754 total order. */
const floatRanks = (
  values: Float64Array,
  empty: Uint8Array | undefined,
  descending: boolean,
): readonly [low: Ranks, high: Ranks] => {
  const raw = new Uint32Array(values.buffer, values.byteOffset, values.length * 2)
  const low = uint32s(values.length)
  const high = uint32s(values.length)
  for (let i = 0; i < values.length; i++) {
    const h = raw[2 * i + 1]!
    const negative = (h & 0x80000000) !== 0
    const turn = negative !== descending ? 0xffffffff : 0
    low[i] = raw[2 * i]! ^ turn
    high[i] = h ^ (negative ? 0 : 0x80000000) ^ turn
    if (isSet(empty, i)) {
      low[i] = 0xffffffff
      high[i] = 0xffffffff
    }
  }
  return [
    { ranks: low, bits: 32 },
    { ranks: high, bits: 32 },
  ]
}

/** Least significant word first. */
const ranksOf = (key: SortKey): readonly Ranks[] => {
  const { column, descending } = key
  if (isTextColumn(column)) return [ranksOfText(column, key)]
  const { values, nulls } = column
  const scaled =
    scaledRanks(values, nulls, descending, 1) ??
    (values instanceof Float64Array ? scaledRanks(values, nulls, descending, 100) : undefined)
  return scaled ? [scaled] : floatRanks(values as Float64Array, nulls, descending)
}

/** Neighbouring words that fit one together: the later, which is the major one, above the earlier. */
const packed = (words: readonly Ranks[]): Ranks[] => {
  const all: Ranks[] = []
  for (const word of words) {
    const last = all.at(-1)
    if (!last || last.bits + word.bits > 32 || last.bits === 32) {
      all.push(word)
      continue
    }
    const { bits } = last
    const ranks = uint32s(word.ranks.length)
    for (let i = 0; i < ranks.length; i++) ranks[i] = (word.ranks[i]! << bits) | last.ranks[i]!
    all[all.length - 1] = { ranks, bits: bits + word.bits }
  }
  return all
}

/** Row positions in sorted order; the first key is the major one; stable; empty last. */
export const sortedOrder = (keys: readonly SortKey[], rowCount: number): Int32Array => {
  const words = packed([...keys].reverse().flatMap(ranksOf))
  return (
    words.reduce<Int32Array | undefined>(
      (order, { ranks, bits }) => (bits === 0 ? order : kernels().sortRows(order, ranks, bits)),
      undefined,
    ) ?? sliceRows(rowCount)
  )
}

/** The row of each group that holds its least (or largest) filled cell, the first of equals; -1 where all are empty. */
export const extreme = (column: Column, groupIds: Uint32Array, groupCount: number, largest: boolean): Int32Array => {
  const ranks = isTextColumn(column) ? textRanks(column, false).ranks : undefined
  const best = int32s(groupCount).fill(-1)
  const values = ranks ?? (isTextColumn(column) ? uint32s(0) : column.values)
  for (let i = 0, n = lengthOf(column); i < n; i++) {
    if (isNullAt(column, i)) continue
    const group = groupIds[i]!
    const at = best[group]!
    if (at < 0 || (largest ? values[i]! > values[at]! : values[i]! < values[at]!)) best[group] = i
  }
  return best
}

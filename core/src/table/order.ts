import { isTextColumn, isNullAt, lengthOf, type Column, type TextColumn, type ValueColumn } from './column.ts'
import { sliceRows } from './gather.ts'
import { kernels } from '../kernels/kernels.ts'
import type { Ranks } from '../kernels/table-kernels.ts'
import { fillSet, isSet, int32s, uint32s } from '../kernels/memory.ts'
import { rangeOf, type Range } from './ranges.ts'
import { textRanks } from './text-ranks.ts'

/** A column with its direction; `natural` orders digits in text by their size. */
export type SortKey = { readonly column: Column; readonly descending: boolean; readonly natural: boolean }

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

/** A number as whole as it may be when it is multiplied. */
const scaled = (value: number, scale: number): number => Math.floor(value * scale + 0.5)

// the loops stand alone, so that the compiler of the runtime makes the most of them; one function a kind of buffer

const rankInts = (ranks: Uint32Array, values: Int32Array, [low, high]: Range, descending: boolean): void => {
  const n = ranks.length
  for (let i = 0; i < n; i++) ranks[i] = descending ? high - values[i]! : values[i]! - low
}

/**
 * Ranks of whole numbers, or of such as become whole when multiplied by `scale`, that lie close enough together for one word.
 * Undefined where they do not. Decimals of few places are whole numbers in disguise.
 */
const scaledRanks = (column: ValueColumn, descending: boolean, scale: number): Ranks | undefined => {
  const { values, nulls } = column
  const ranks = uint32s(values.length)
  const [least, largest] = rangeOf(column)
  if (least > largest) return { ranks, bits: 0 }
  const [low, high] = [scaled(least, scale), scaled(largest, scale)]
  const last = high - low + 1
  if (!(last < 0xffffffff)) return undefined
  if (values instanceof Float64Array) {
    if (!kernels().scaledRanks({ values, nulls }, { scale, low, high, descending }, ranks)) return undefined
  } else {
    rankInts(ranks, values instanceof Int32Array ? values : new Int32Array(values), [low, high], descending)
    if (nulls) fillSet(ranks, nulls, last)
  }
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

/** Least significant word first; equal cells have equal ranks, and the empty cell ranks last either way round. */
const ranksOf = (key: SortKey): readonly Ranks[] => {
  const { column, descending } = key
  if (isTextColumn(column)) return [ranksOfText(column, key)]
  const { values, nulls } = column
  const ranks =
    scaledRanks(column, descending, 1) ??
    (values instanceof Float64Array ? scaledRanks(column, descending, 100) : undefined)
  return ranks ? [ranks] : floatRanks(values as Float64Array, nulls, descending)
}

/** Neighbours that fit one word together; those of no bits tell nothing apart. */
const packed = (words: readonly Ranks[]): Ranks[][] => {
  const all: Ranks[][] = []
  let room = 0
  for (const word of words) {
    if (word.bits === 0) continue
    const fits = word.bits <= room
    if (fits) all.at(-1)?.push(word)
    else all.push([word])
    room = (fits ? room : 32) - word.bits
  }
  return all
}

/** Row positions in sorted order; the first key is the major one; stable; empty last. */
export const sortedOrder = (keys: readonly SortKey[], rowCount: number): Int32Array =>
  packed([...keys].reverse().flatMap(ranksOf)).reduce<Int32Array | undefined>(
    (order, words) => kernels().sortRows(order, words),
    undefined,
  ) ?? sliceRows(rowCount)

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

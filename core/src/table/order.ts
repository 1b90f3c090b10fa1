import { asDictionary, isTextColumn, isNullAt, lengthOf, type Column, type TextColumn } from './column.ts'
import { sliceRows } from './gather.ts'
import { isSet, int32s, uint32s } from '../kernels/memory.ts'
import { compareCodePoints, lower, naturalKey } from './text.ts'

/** A column with its direction; `natural` orders digits in text by their size. */
export type SortKey = { readonly column: Column; readonly descending: boolean; readonly natural: boolean }

/** Text by its lower-cased code points, ties by code points; naturally, digit runs first as numbers. */
export const compareText = (natural: boolean): ((a: string, b: string) => number) => {
  const keys = new Map<string, string>()
  const keyOf = (text: string): string => {
    let key = keys.get(text)
    if (key === undefined) keys.set(text, (key = natural ? naturalKey(lower(text)) : lower(text)))
    return key
  }
  return (a, b) =>
    compareCodePoints(keyOf(a), keyOf(b)) ||
    (natural ? compareCodePoints(lower(a), lower(b)) : 0) ||
    compareCodePoints(a, b)
}

/** One unsigned rank per row; the empty cell ranks last either way round. */
const textRanks = (column: TextColumn, { descending, natural }: SortKey): Uint32Array => {
  const { indices, dictionary } = asDictionary(column)
  const order = Array.from(dictionary.keys()).slice(1)
  const compare = compareText(natural)
  order.sort((a, b) => compare(dictionary[a] as string, dictionary[b] as string))
  if (descending) order.reverse()
  const rankOf = uint32s(dictionary.length)
  order.forEach((code, rank) => (rankOf[code] = rank))
  rankOf[0] = dictionary.length
  const ranks = uint32s(indices.length)
  for (let i = 0; i < indices.length; i++) ranks[i] = rankOf[indices[i]!]!
  return ranks
}

const smallRanks = (
  values: Int32Array | Uint8Array,
  empty: Uint8Array | undefined,
  descending: boolean,
): Uint32Array => {
  const ranks = uint32s(values.length)
  for (let i = 0; i < values.length; i++) {
    const rank = (values[i]! ^ 0x80000000) >>> 0
    if (isSet(empty, i)) ranks[i] = 0xffffffff
    else ranks[i] = descending ? 0xfffffffe - rank : rank
  }
  return ranks
}

/** Decimals of few places are whole numbers in disguise: where all of them fit, one unsigned word does for two. Undefined where they do not. */
const scaledRanks = (
  values: Float64Array,
  empty: Uint8Array | undefined,
  descending: boolean,
  scale: number,
): Uint32Array | undefined => {
  let low = Infinity
  let high = -Infinity
  for (let i = 0; i < values.length; i++) {
    if (isSet(empty, i)) continue
    const value = values[i]!
    const whole = Math.floor(value * scale + 0.5)
    if (whole / scale !== value) return undefined
    if (whole < low) low = whole
    if (whole > high) high = whole
  }
  if (high - low >= 0xfffffffe) return undefined
  const ranks = uint32s(values.length)
  for (let i = 0; i < values.length; i++) {
    const whole = Math.floor(values[i]! * scale + 0.5)
    if (isSet(empty, i)) ranks[i] = 0xffffffff
    else ranks[i] = descending ? high - whole : whole - low
  }
  return ranks
}

/** The order of doubles as two unsigned words, after the IEEE 754 total order. */
const floatRanks = (
  values: Float64Array,
  empty: Uint8Array | undefined,
  descending: boolean,
): readonly [low: Uint32Array, high: Uint32Array] => {
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
  return [low, high]
}

/** Least significant word first. */
const ranksOf = (key: SortKey): readonly Uint32Array[] => {
  const { column, descending } = key
  if (isTextColumn(column)) return [textRanks(column, key)]
  if (column.type === 'date' || column.type === 'time' || column.type === 'boolean')
    return [smallRanks(column.values, column.nulls, descending)]
  const values = column.values as Float64Array
  const scaled = scaledRanks(values, column.nulls, descending, 1) ?? scaledRanks(values, column.nulls, descending, 100)
  return scaled ? [scaled] : floatRanks(values, column.nulls, descending)
}

const digitBits = 16
const digitCount = 1 << digitBits

/** One stable counting pass over 16 bits; the order itself where every row has the same digit. */
const radixPass = (order: Int32Array, ranks: Uint32Array, shift: number): Int32Array => {
  const counts = int32s(digitCount + 1)
  for (let i = 0; i < ranks.length; i++) {
    const slot = ((ranks[i]! >>> shift) & 0xffff) + 1
    counts[slot] = counts[slot]! + 1
  }
  for (let d = 1; d <= digitCount; d++) {
    if (counts[d] === ranks.length) return order
    counts[d] = counts[d]! + counts[d - 1]!
  }
  const sorted = int32s(order.length)
  for (let i = 0; i < order.length; i++) {
    const row = order[i]!
    const digit = (ranks[row]! >>> shift) & 0xffff
    const at = counts[digit]!
    counts[digit] = at + 1
    sorted[at] = row
  }
  return sorted
}

/** Row positions in sorted order; the first key is the major one; stable; empty last. */
export const sortedOrder = (keys: readonly SortKey[], rowCount: number): Int32Array => {
  let order = sliceRows(rowCount)
  for (const key of [...keys].reverse())
    for (const ranks of ranksOf(key)) for (const shift of [0, digitBits]) order = radixPass(order, ranks, shift)
  return order
}

/** The row of each group that holds its least (or largest) filled cell, the first of equals; -1 where all are empty. */
export const extreme = (column: Column, groupIds: Uint32Array, groupCount: number, largest: boolean): Int32Array => {
  const ranks = isTextColumn(column) ? textRanks(column, { column, descending: false, natural: false }) : undefined
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

import { kernels } from '../kernels/kernels.ts'
import { bitmap, fillSet, float64s, int32s, isSet, set, uint32s, uint8s, type Bitmap } from '../kernels/memory.ts'
import type { DenseCodes, FilledNumbers } from '../kernels/table-kernels.ts'
import { asDictionary, isTextColumn, lengthOf, type Column, type TextColumn, type ValueColumn } from './column.ts'
import { concat, gatherIndices } from './gather.ts'
import { rangeOf } from './ranges.ts'
import { concatEncoded, encodedCodes, type EncodedStrings } from './stored-text.ts'

/** Whole numbers that lie closer together than this, or than twice the number of rows, are their own codes. */
const widestRange = 1_000_000

// one function a kind of buffer: a loop that meets several kinds is several times as slow

/** Codes of whole numbers above `below`, of all or of chosen rows; what stands below an empty cell may be any number. */
const codesOfRange = ({ values, nulls }: ValueColumn, below: number, rows: Int32Array | undefined): Uint32Array => {
  const codes = shifted(values, below, rows)
  if (nulls && rows) clearChosen(codes, nulls, rows)
  else if (nulls) fillSet(codes, nulls, 0)
  return codes
}
const shifted = (values: ValueColumn['values'], below: number, rows: Int32Array | undefined): Uint32Array => {
  if (!rows && values instanceof Float64Array) return kernels().floatCodes(values, below)
  const codes = uint32s(rows?.length ?? values.length)
  if (rows) shiftChosen(codes, values, below, rows)
  else if (values instanceof Int32Array) shiftInts(codes, values, below)
  else for (let i = 0; i < codes.length; i++) codes[i] = values[i]! - below
  return codes
}
const shiftInts = (codes: Uint32Array, values: Int32Array, below: number): void => {
  const n = codes.length
  const less = below | 0
  for (let i = 0; i < n; i++) codes[i] = (values[i]! - less) | 0
}
const shiftChosen = (codes: Uint32Array, values: ValueColumn['values'], below: number, rows: Int32Array): void => {
  if (values instanceof Float64Array) shiftChosenFloats(codes, values, below, rows)
  else if (values instanceof Int32Array) shiftChosenInts(codes, values, below, rows)
  else for (let i = 0; i < codes.length; i++) codes[i] = values[rows[i]!]! - below
}
const shiftChosenFloats = (codes: Uint32Array, values: Float64Array, below: number, rows: Int32Array): void => {
  const n = codes.length
  for (let i = 0; i < n; i++) codes[i] = values[rows[i]!]! - below
}
const shiftChosenInts = (codes: Uint32Array, values: Int32Array, below: number, rows: Int32Array): void => {
  const n = codes.length
  for (let i = 0; i < n; i++) codes[i] = values[rows[i]!]! - below
}
const clearChosen = (codes: Uint32Array, nulls: Bitmap, rows: Int32Array): void => {
  const n = codes.length
  for (let i = 0; i < n; i++) if ((nulls[rows[i]! >> 3]! & (1 << (rows[i]! & 7))) !== 0) codes[i] = 0
}

/** How the cells of a column are coded without looking for equal ones: by the indices of its dictionary, or as whole numbers above `below`. */
export type Coding = { readonly bound: number; readonly below: number | undefined }
/** The coding of a column of a dictionary or of whole numbers close together; undefined where there is none, or none below `most`. */
export const codingOf = (column: Column, most: number): Coding | undefined => {
  if (isTextColumn(column))
    return column.form === 'dictionary' && column.dictionary.length <= most
      ? { bound: column.dictionary.length, below: undefined }
      : undefined
  if (column.type === 'decimal' || column.values.length === 0) return undefined
  const [low, high] = rangeOf(column)
  if (low > high) return { bound: 1, below: 0 }
  return high - low < Math.min(Math.max(widestRange, 2 * column.values.length), most - 2)
    ? { bound: high - low + 2, below: low - 1 }
    : undefined
}
/** Codes of all rows of columns of whole numbers: asked for a second time they are remembered, as where groups are previewed again and again. */
const rangeCodes = new WeakMap<ValueColumn, Uint32Array | 'asked'>()
const allCodesOfRange = (column: ValueColumn, below: number): Uint32Array => {
  const known = rangeCodes.get(column)
  if (known instanceof Uint32Array) return known
  const codes = codesOfRange(column, below, undefined)
  rangeCodes.set(column, known ? codes : 'asked')
  return codes
}
/** The codes that are remembered of a column. */
export const heldCodes = (column: ValueColumn): Uint32Array | undefined => {
  const known = rangeCodes.get(column)
  return known instanceof Uint32Array ? known : undefined
}
/** The codes of a column by its coding, of all or of chosen rows. */
export const codesBy = ({ bound, below }: Coding, column: Column, rows?: Int32Array): DenseCodes => {
  if (!isTextColumn(column))
    return { codes: rows ? codesOfRange(column, below!, rows) : allCodesOfRange(column, below!), bound }
  const { indices } = asDictionary(column)
  return { codes: rows ? gatherIndices(indices, rows) : indices, bound }
}
/** The code of a cell by the coding of its column. */
export const codeAt = ({ below }: Coding, column: Column, row: number): number => {
  if (isTextColumn(column)) return asDictionary(column).indices[row]!
  return isSet(column.nulls, row) ? 0 : column.values[row]! - below!
}
const sameKind = (values: Int32Array | Uint8Array | Float64Array, length: number) => {
  if (values instanceof Float64Array) return float64s(length)
  return values instanceof Int32Array ? int32s(length) : uint8s(length)
}
/** The cells that the codes of a column stand for, in order of the codes; empty first. */
export const wordsOf = ({ bound, below }: Coding, column: Column): Column => {
  if (isTextColumn(column))
    return { ...asDictionary(column), indices: Uint32Array.from({ length: bound }, (_, i) => i) }
  const words = sameKind(column.values, bound)
  for (let code = 1; code < bound; code++) words[code] = below! + code
  const nulls = bitmap(bound)
  set(nulls, 0)
  return { type: column.type, values: words, nulls } as Column
}

/** Codes of a column that are had without looking for equal cells, of a dictionary or of whole numbers close together; undefined where there are none below `most`. */
export const readyCodes = (column: Column, most: number): DenseCodes | undefined => {
  const coding = codingOf(column, most)
  return coding && codesBy(coding, column)
}

/** A code a row, so that equal cells have equal codes, of all or of chosen rows. Empty is a value like any other. O(rows). */
export const codesOf = (column: Column, rows?: Int32Array): DenseCodes => {
  const coding = codingOf(column, Infinity)
  if (coding) return codesBy(coding, column, rows)
  const { codes, bound } = distinctCodes(column)
  return { codes: rows ? gatherIndices(codes, rows) : codes, bound }
}
const distinctCodes = (column: Column): DenseCodes => {
  if (!isTextColumn(column)) return kernels().numberCodes(asFloats(column.values), column.nulls)
  const texts = bytesOf(column)
  if (texts) return encodedCodes(texts)
  const { indices, dictionary } = asDictionary(column)
  return { codes: indices, bound: dictionary.length }
}

const asFloats = (values: Int32Array | Uint8Array | Float64Array): Float64Array =>
  values instanceof Float64Array ? values : new Float64Array(values)

/** Codes of rows by two codes together. */
export const product = (a: DenseCodes, b: DenseCodes): DenseCodes => {
  const codes = uint32s(a.codes.length)
  multiply(codes, a.codes, b.bound, b.codes)
  return { codes, bound: a.bound * b.bound }
}
const multiply = (to: Uint32Array, a: Uint32Array, factor: number, b: Uint32Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = a[i]! * factor + b[i]!
}

/** Codes of two columns of one type: equal cells of either have equal codes. */
export type SharedCodes = {
  readonly left: Uint32Array
  readonly right: Uint32Array
  readonly bound: number
  /** The numbers whose codes those of the left are, where these are made only when they are asked for. */
  readonly numbers?: ShiftedNumbers
}
/** Whole numbers whose codes are those less `below`. */
type ShiftedNumbers = FilledNumbers & { readonly below: number }
/** Codes of whole numbers close together; those of the left are made when they are first asked for. */
const codesOfNumbers = (left: ValueColumn, right: ValueColumn, below: number, bound: number): SharedCodes => {
  let made: Uint32Array | undefined
  return {
    get left() {
      return (made ??= codesOfRange(left, below, undefined))
    },
    right: codesOfRange(right, below, undefined),
    bound,
    ...(left.values instanceof Float64Array ? { numbers: { values: left.values, nulls: left.nulls, below } } : {}),
  }
}

/** The codes of the words of one dictionary among those of another; those that are not there have codes from its length on, below `bound`. */
type WordMap = { readonly map: Uint32Array; readonly bound: number }
/** What is found of two, remembered with both: a match is previewed again and again. */
const rememberedOfBoth = <K extends object, V>(find: (a: K, b: K) => V): ((a: K, b: K) => V) => {
  const known = new WeakMap<K, WeakMap<K, { readonly found: V }>>()
  return (a, b) => {
    const ofFirst = known.get(a) ?? new WeakMap<K, { readonly found: V }>()
    const { found } = ofFirst.get(b) ?? { found: find(a, b) }
    known.set(a, ofFirst.set(b, { found }))
    return found
  }
}
const findWords = (of: readonly string[], among: readonly string[]): WordMap => {
  const seen = new Map<string, number>()
  among.forEach((word, code) => seen.set(word, code))
  let bound = among.length
  const map = Uint32Array.from(of, (word) => seen.get(word) ?? bound++)
  return { map, bound }
}
const wordMap = rememberedOfBoth(findWords)

const codesOfBytes = rememberedOfBoth((left: EncodedStrings, right: EncodedStrings): SharedCodes | undefined => {
  const together = concatEncoded([left, right])
  if (!together) return undefined
  const { codes, bound } = kernels().textCodes(together)
  const count = left.starts.length
  return { left: codes.subarray(0, count), right: codes.subarray(count), bound }
})
const bytesOf = (column: TextColumn): EncodedStrings | undefined =>
  column.form === 'plain' ? column.stored?.encoded : undefined

/** Texts that are bytes are coded together; else words of the right dictionary are looked up among those of the left, once each. */
const codesOfTexts = (left: TextColumn, right: TextColumn): SharedCodes => {
  const [lefts, rights] = [bytesOf(left), bytesOf(right)]
  const known = lefts && rights && codesOfBytes(lefts, rights)
  if (known) return known
  const a = asDictionary(left)
  const b = asDictionary(right)
  if (a.dictionary === b.dictionary) return { left: a.indices, right: b.indices, bound: a.dictionary.length }
  const { map, bound } = wordMap(b.dictionary, a.dictionary)
  const codes = uint32s(b.indices.length)
  kernels().lookUp(b.indices, map, codes)
  return { left: a.indices, right: codes, bound }
}

/** Codes of cells of two columns of one type. O(rows of both). */
export const sharedCodes = (left: Column, right: Column): SharedCodes => {
  if (isTextColumn(left) && isTextColumn(right)) return codesOfTexts(left, right)
  const both = [left, right] as readonly [ValueColumn, ValueColumn]
  const spans = both.map((column) => (column.type === 'decimal' ? [-Infinity, Infinity] : rangeOf(column)))
  const low = Math.min(...spans.map(([from = 0]) => from))
  const high = Math.max(...spans.map(([, to = 0]) => to))
  if (high - low < Math.max(widestRange, 2 * (lengthOf(left) + lengthOf(right))))
    return codesOfNumbers(...both, low - 1, Math.max(1, high - low + 2))
  const { codes, bound } = codesOf(concat(left.type, both))
  const count = lengthOf(left)
  return { left: codes.subarray(0, count), right: codes.subarray(count), bound }
}

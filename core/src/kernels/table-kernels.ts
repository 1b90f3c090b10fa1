import type { Bitmap } from './memory.ts'

/** A code a row with its bound: equal cells have equal codes, all below `bound`; 0 is the empty cell. */
export type DenseCodes = { readonly codes: Uint32Array; readonly bound: number }
/** Rows with equal keys share an id; ids run 0, 1, 2 … in order of first appearance. */
export type Groups = {
  readonly ids: Uint32Array
  readonly count: number
  /** The first row of each group. */
  readonly first: Int32Array
}
/** The id of rows that belong to no group. */
export const noGroup = 0xffffffff
/** What a predicate says of values below, at and above its constant. */
export type Outcomes = { readonly below: boolean; readonly at: boolean; readonly above: boolean }

/** Numbers of rows, or one for all. */
export type Numbers = Float64Array | number
/** What is computed of numbers, by the place in this list. */
export const operations = ['+', '-', '*', '/'] as const
export type Operation = (typeof operations)[number]
/** A formula over numbers. */
export type NumberFormula =
  Numbers | { readonly operation: Operation; readonly left: NumberFormula; readonly right: NumberFormula }
/** Numbers of which those are none whose bit is set. */
export type FilledNumbers = { readonly values: Float64Array; readonly nulls: Bitmap | undefined }
/** One unsigned rank a row, of which the lowest `bits` are used. */
export type Ranks = { readonly ranks: Uint32Array; readonly bits: number }
/** How numbers become ranks: times `scale` as whole numbers from `low` up, or from `high` down; empty ones behind all others. */
export type Scaling = {
  readonly scale: number
  readonly low: number
  readonly high: number
  readonly descending: boolean
}
/** Sums of numbers by group, and how many they are. */
export type GroupTotals = { readonly sums: Float64Array; readonly counts: Int32Array }
/** Numbers that are added up: those of a formula, but where the bit of a row is set. */
export type SummedNumbers = { readonly numbers: NumberFormula; readonly nulls: Bitmap | undefined }
/** What tells groups apart: the codes of one column or of two, of all rows or of chosen ones, each named once and in order. */
export type GroupKeys = {
  readonly a: DenseCodes
  readonly b?: DenseCodes | undefined
  readonly rows?: Int32Array | undefined
}
/** Groups without an id a row, in order of first appearance. */
export type CodedGroups = {
  /** The code of each: that of the first column, or times the bound of the second with that of the second added. */
  readonly codes: Uint32Array
  readonly first: Int32Array
  readonly sizes: Int32Array
  /** The totals of each column of numbers. */
  readonly totals: readonly GroupTotals[]
}

/** The first row of each code, -1 for none, and how many rows stand behind the first of their code. */
export type KeyRows = { readonly first: Int32Array; readonly repeated: number }
/** How many codes have no row, the byte 2 for each code that has one and is met, 0 or 1 for others, and how many are met. */
export type Meeting = { readonly missing: number; readonly marks: Uint8Array; readonly met: number }

/** Texts as UTF-8: that of row i from `starts[i]` up to `ends[i]` of `bytes`; empty where both are one. */
export type ByteTexts = { readonly starts: Uint32Array; readonly ends: Uint32Array; readonly bytes: Uint8Array }

/** The inner loops over whole columns. */
export type TableKernels = {
  /** Numbers with numbers, of which one at least has rows, into `to`, which may be either; -0 becomes 0. The rows whose result lies farther from 0 than `limit`, or is none. */
  readonly arithmetic: (operation: Operation, a: Numbers, b: Numbers, to: Float64Array, limit: number) => Int32Array
  /** A formula over columns of numbers as long as `to`, into it; -0 becomes 0 in each operation, and what is divided by 0 is infinite or none. */
  readonly calculate: (formula: NumberFormula, to: Float64Array) => void
  /**
   * Of each column the sums of the filled numbers of each of `count` groups, by Neumaier's compensation: ZAMM 54 (1974), 39–51. Row i of
   * the groups is row `rows[i]` of the numbers, where rows are chosen. What has the id `noGroup` is passed over.
   */
  readonly groupTotals: (
    columns: readonly FilledNumbers[],
    ids: Uint32Array,
    count: number,
    rows?: Int32Array,
  ) => GroupTotals[]
  /** Codes of numbers from 1 on in order of first appearance, 0 for empty ones; -0 is 0. */
  readonly numberCodes: (values: Float64Array, nulls: Bitmap | undefined) => DenseCodes
  /** Codes of texts from 1 on in order of first appearance, 0 for empty ones. */
  readonly textCodes: (texts: ByteTexts) => DenseCodes
  /** Groups of rows with equal pairs of codes. */
  readonly pairGroups: (a: Uint32Array, b: Uint32Array) => Groups
  /** One byte a row: what the outcomes say of its number. */
  readonly compareFloats: (values: Float64Array, constant: number, outcomes: Outcomes) => Uint8Array
  /** How many rows have each code below `bound`. */
  readonly countCodes: (codes: Uint32Array, bound: number) => Int32Array
  /** The first row of each code; -1 for those that no row has. */
  readonly firstRows: (codes: DenseCodes) => Int32Array
  /** Groups by codes for all of which a table can be made, and the totals of numbers with a row for each row of the codes, as those of `groupTotals`. */
  readonly totalsByCode: (keys: GroupKeys, columns: readonly SummedNumbers[]) => CodedGroups
  /**
   * Groups of rows with equal codes. Of chosen rows, each named once and in order, `ids` has an entry for every row, `noGroup` for
   * those not chosen, and `first` counts the chosen ones alone.
   */
  readonly groupCodes: (codes: DenseCodes, rows?: Int32Array) => Groups
  /** As `groupCodes`, by pairs of codes, whose bounds have a product that a table of that length can be made for. */
  readonly groupPairs: (a: DenseCodes, b: DenseCodes, rows?: Int32Array) => Groups
  /** The rows whose code has the byte `wanted` in `keep`, in order. */
  readonly rowsOfCodes: (codes: Uint32Array, keep: Uint8Array, wanted: 0 | 1) => Int32Array
  /** Of each code what a table of 32 bits a code holds for it, into `to`. */
  readonly lookUp: (codes: Uint32Array, table: Int32Array | Uint32Array, to: Int32Array | Uint32Array) => void
  /** Of each code its row in `rows`, -1 for none, into `to`; the byte of each code that is met becomes 2 in `met`. How many codes have no row. */
  readonly matchRows: (codes: Uint32Array, rows: Int32Array, met: Uint8Array, to: Int32Array) => number
  /** As `matchRows`, of codes that are whole numbers less `below`, all within `rows`; 0 for empty ones. */
  readonly matchNumbers: (
    numbers: FilledNumbers,
    below: number,
    rows: Int32Array,
    met: Uint8Array,
    to: Int32Array,
  ) => number
  /** The first row of each code but 0, -1 for those without one, and how many rows stand behind the first of their code. */
  readonly firstOfKeys: (codes: DenseCodes) => KeyRows
  /** As `matchRows`, without finding rows: counts alone. */
  readonly meetCodes: (codes: Uint32Array, rows: Int32Array) => Meeting
  /** As `meetCodes`, of codes that are whole numbers less `below`, all within `rows`; 0 for empty ones. */
  readonly meetNumbers: (numbers: FilledNumbers, below: number, rows: Int32Array) => Meeting
  /** Whole numbers less `below`; where that is not between 0 and 2 ** 32, any number. */
  readonly floatCodes: (values: Float64Array, below: number) => Uint32Array
  /** The rows whose byte is `wanted`, in order. */
  readonly chosenRows: (mask: Uint8Array, wanted: 0 | 1) => Int32Array
  /** The ranks of numbers from `low` to `high` into `to`; false where a filled one is not whole when it is multiplied. */
  readonly scaledRanks: (numbers: FilledNumbers, scaling: Scaling, to: Uint32Array) => boolean
  /**
   * An order of rows sorted stably by ranks, the last of which are the major ones: one at least, of 1 to 32 bits together. Without an
   * order the rows stand in their own.
   */
  readonly sortRows: (order: Int32Array | undefined, words: readonly Ranks[]) => Int32Array
}

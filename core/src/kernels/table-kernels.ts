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
/** What a predicate says of values below, at and above its constant. */
export type Outcomes = { readonly below: boolean; readonly at: boolean; readonly above: boolean }

/** The inner loops over whole columns. */
export type TableKernels = {
  /** Codes of numbers from 1 on in order of first appearance, 0 for empty ones; -0 is 0. */
  readonly numberCodes: (values: Float64Array, nulls: Bitmap | undefined) => DenseCodes
  /** Groups of rows with equal pairs of codes. */
  readonly pairGroups: (a: Uint32Array, b: Uint32Array) => Groups
  /** One byte a row: what the outcomes say of its number. */
  readonly compareFloats: (values: Float64Array, constant: number, outcomes: Outcomes) => Uint8Array
  /** The rows whose byte is `wanted`, in order. */
  readonly chosenRows: (mask: Uint8Array, wanted: 0 | 1) => Int32Array
  /** An order of rows sorted by one word of their keys, of which the lowest `bits` count, stably; without an order that of the rows. */
  readonly sortRows: (order: Int32Array | undefined, keys: Uint32Array, bits: number) => Int32Array
}

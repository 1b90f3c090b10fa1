/** UTF-8 bytes of a file, with what makes texts of bytes and bytes of a text. */
export type ByteSource = {
  /** How many bytes there are. */ readonly size: number
  /** `length` bytes from a place on, fewer where the file ends before. Valid until the next call. */
  readonly block: (from: number, length: number) => Uint8Array
  readonly decoder: (bytes: Uint8Array) => (start: number, end: number) => string
  readonly bytesOf: (text: string) => Uint8Array
}

/** What a CSV file is cut by: bytes of the delimiter and the quote, and how many cells a row has. */
export type CsvLayout = { readonly delimiter: number; readonly quote: number; readonly width: number }

/** What a cell is that is read as a number. */
export const numberFlags = { number: 0, empty: 1, other: 2 } as const

/** Texts of cells behind one another in UTF-8; `ends[i]` is where that of row i ends. Valid until the next call. */
export type CellTexts = { readonly bytes: Uint8Array; readonly ends: Uint32Array }

/** Different texts by their UTF-8 bytes, with codes in order of first appearance; code 0 is the empty text. */
export interface ByteDictionary {
  readonly size: number
  /** Codes of one column's cells of the block, into `codes` from `at` on; texts not met before get new codes. */
  codes(column: number, codes: Uint32Array, at: number): void
  codeOf(text: Uint8Array): number
  /** Codes of texts, in their order; those not met before get new codes. */
  codesOf(texts: CellTexts): Uint32Array
  /** All texts: that of code k ends at `ends[k]`. A copy. */
  texts(): CellTexts
}

/**
 * CSV (RFC 4180) from bytes, a block of rows at a time: `cut` takes the next block, what else is called is about its
 * rows. Rows are plain that have `width` cells and are not blank; doubled quotes are made one.
 */
export interface CsvKernel {
  /** How many plain rows begin at a place in the file; `next` is then where the row after them begins. */
  cut(from: number): number
  readonly next: number
  /**
   * Numbers of a column into `values` from `at` on: digits with at most one decimal mark (a byte, or -1), up to 15, no
   * leading zero. `flags` says what each cell is. Bit 0 of the result: a cell is no number; bit 1: a number has a mark.
   */
  numbers(column: number, mark: number, values: Float64Array, at: number): number
  readonly flags: Uint8Array
  /** A cell of the block as text. */
  text(column: number, row: number): string
  /** Whether any cell of a column is filled, and where the first is; -1 where none is. */
  firstFilled(column: number): number
  /** `ends` are counted on from `before`. */
  texts(column: number, before: number): CellTexts
  dictionary(): ByteDictionary
}

/** So many cells a block has at most, and so many bytes unless a row is longer. */
export const cellsABlock = 1 << 15
export const bytesABlock = 1 << 18
/** A row longer than this is none: a quote may be opened there and never closed. */
export const longestRow = 1 << 24

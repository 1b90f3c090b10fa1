import type { CellTexts } from '../kernels/csv-kernel.ts'
import { uint32s, uint8s } from '../kernels/memory.ts'

/** A column of some rows of a file, as another thread read it: buffers alone, so that they can be handed over. */
export type ColumnSegment =
  | { readonly kind: 'blank' }
  | {
      readonly kind: 'numbers'
      readonly type: 'integer' | 'decimal'
      readonly values: Float64Array
      /** Rows without a number. */
      readonly empty: Int32Array
      /** A cell was met that is no number. */
      readonly surprised: boolean
    }
  /** Codes of a dictionary whose text of code k ends at `texts.ends[k]`; 0 is the empty text. */
  | { readonly kind: 'codes'; readonly codes: Uint32Array; readonly texts: CellTexts }
  /** A text a row. */
  | { readonly kind: 'texts'; readonly texts: CellTexts }

/** Rows of a file that follow one another, without what tells names and types of the whole file. */
export type TableSegment = {
  readonly rows: number
  /** One after the other: each may go when it is taken. */
  readonly columns: Iterable<ColumnSegment>
  readonly raggedRows: number
  /** The places of blank rows among all rows of the segment. */
  readonly blankAt: readonly number[]
}

/** What a reader of rows further down a file has to know of its beginning. */
export type SegmentStart = {
  readonly names: readonly string[]
  /** How many cells a row of the file has. */
  readonly width: number
  /** How the columns are read, of those with a value in the beginning. */
  readonly kinds: readonly ('numbers' | 'texts' | undefined)[]
  /** How many rows the whole file may have. */
  readonly expected: number
}

/** Texts behind one another. */
export const cellTexts = (texts: readonly string[], bytesOf: (text: string) => Uint8Array): CellTexts => {
  const all = texts.map(bytesOf)
  const ends = uint32s(all.length)
  let length = 0
  all.forEach((bytes, i) => (ends[i] = length += bytes.length))
  const bytes = uint8s(length)
  all.forEach((one, i) => bytes.set(one, ends[i]! - one.length))
  return { bytes, ends }
}

/** The buffers of a column, to be handed over to another thread. */
export const buffersOf = (column: ColumnSegment): ArrayBufferLike[] => {
  if (column.kind === 'blank') return []
  if (column.kind === 'numbers') return [column.values.buffer, column.empty.buffer]
  const { bytes, ends } = column.texts
  const buffers =
    column.kind === 'codes' ? [column.codes.buffer, bytes.buffer, ends.buffer] : [bytes.buffer, ends.buffer]
  return [...new Set(buffers)]
}

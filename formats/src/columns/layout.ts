import { type ColumnType, type HeldBuffer, type UnreadableCells } from '@fabula/core'
import type { OpenedFiles } from '../open-input.ts'

/**
 * A columns file keeps an opened input as it lies in memory, so that it need not be parsed again.
 *
 *     8 bytes   "FABCOLS3"
 *     8 bytes   length of the header, little-endian
 *     header    UTF-8 JSON: what of the input is no buffer, and for each buffer its kind, offset and length in bytes
 *     buffers   each at a multiple of 8 bytes from the file's start, little-endian
 *
 * Texts are two buffers, ends of the cells (Uint32) and their UTF-8 bytes, and become strings when they are used.
 */
export const signature = 'FABCOLS3'
/** The next multiple of 8. */
export const align = (n: number): number => Math.ceil(n / 8) * 8

/** What a buffer holds. */
export type BufferKind = 'float64' | 'int32' | 'uint32' | 'uint8'
/** Where a buffer lies, in bytes from the first. */
export type BufferPlace = { readonly kind: BufferKind; readonly offset: number; readonly bytes: number }
/** Where texts lie: where each ends, and their UTF-8. */
export type TextPlace = { readonly offsets: BufferPlace; readonly bytes: BufferPlace }
/** Where the buffers of a column lie. */
export type ColumnPlace = { readonly type: ColumnType } & (
  | { readonly form: 'values'; readonly values: BufferPlace; readonly nulls?: BufferPlace }
  | { readonly form: 'dictionary'; readonly indices: BufferPlace; readonly dictionary: TextPlace }
  | { readonly form: 'plain'; readonly texts: TextPlace }
)
/** What of an input is no buffer, and where its buffers lie; `end` is where the last of them does. */
export type FileHeader = Omit<OpenedFiles, 'table' | 'unreadable'> & {
  readonly rowCount: number
  readonly names: readonly string[]
  readonly columns: readonly ColumnPlace[]
  readonly unreadable: readonly (Omit<UnreadableCells, 'rows'> & { readonly rows: BufferPlace })[]
  readonly end: number
}
/** A buffer of a column. */
export type ColumnBuffer = Float64Array | Int32Array | Uint32Array | Uint8Array

/** Buffers of an opened input, for what counts them. */
export const openedBuffers = ({ table, unreadable }: OpenedFiles): HeldBuffer[] => [
  ...table.buffers,
  ...unreadable.map(({ rows }) => [rows.buffer, rows.byteLength] as const),
]

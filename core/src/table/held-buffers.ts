import { heldCodes } from './codes.ts'
import { isTextColumn, type Column } from './column.ts'
import { bytesAString } from './stored-text.ts'

/** A buffer, or a list of strings, and its size in bytes. Shared by reference, so it is a key for what is counted once. */
export type HeldBuffer = readonly [buffer: object, bytes: number]

/** What a column keeps in memory. */
export const columnBuffers = (column: Column): HeldBuffer[] => {
  if (isTextColumn(column)) {
    if (column.form === 'dictionary')
      return [
        [column.indices.buffer, column.indices.byteLength],
        [column.dictionary, column.dictionary.length * bytesAString],
      ]
    return column.stored ? [...column.stored.buffers] : [[column.strings, column.strings.length * bytesAString]]
  }
  const codes = heldCodes(column)
  return [
    [column.values.buffer, column.values.byteLength],
    ...(codes ? [[codes.buffer, codes.byteLength] as const] : []),
    ...(column.nulls ? [[column.nulls.buffer, column.nulls.byteLength] as const] : []),
  ]
}

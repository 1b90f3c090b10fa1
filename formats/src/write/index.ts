import { csvPieces, type OutputFormat } from '@fabula/core'
import { jsonPieces } from './json.ts'
import { parquetBytes } from './parquet.ts'
import { workbookBytes, type Sheet } from './xlsx.ts'

export { UnwritableTable } from './cells.ts'

type Pieces = Iterable<string | Uint8Array>
/** Writes tables as one file, in pieces; only a workbook holds more than one. `guard`: cells like formulas are guarded. */
type Writer = (sheets: readonly [Sheet, ...Sheet[]], guard: boolean) => Pieces

/** The writer of each format. */
const writers: Readonly<Record<OutputFormat, Writer>> = {
  csv: ([{ table }], guard) => csvPieces(table, guard),
  json: ([{ table }]) => jsonPieces(table),
  parquet: ([{ table }]) => [parquetBytes(table)],
  xlsx: (sheets, guard) => [workbookBytes(sheets, guard)],
}

/** Tables as the bytes of one file; nothing where there is no table. A piece is valid until the next is asked for. */
export const outputPieces = (format: OutputFormat, sheets: readonly Sheet[], guard: boolean): Pieces => {
  const [first, ...rest] = sheets
  return first ? writers[format]([first, ...rest], guard) : []
}

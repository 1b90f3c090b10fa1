import { csvPieces, type OutputFormat } from '@fabula/core'
import { jsonPieces } from './json.ts'
import { parquetBytes } from './parquet.ts'
import { workbookBytes, type Sheet } from './xlsx.ts'

export { UnwritableTable } from './cells.ts'

/** Tables as the bytes of one file, in pieces; only a workbook holds more than one. */
export const outputPieces = (
  format: OutputFormat,
  sheets: readonly Sheet[],
  guard: boolean,
): Iterable<string | Uint8Array> => {
  const [first] = sheets
  if (!first) return []
  switch (format) {
    case 'csv':
      return csvPieces(first.table, guard)
    case 'json':
      return jsonPieces(first.table)
    case 'parquet':
      return [parquetBytes(first.table)]
    case 'xlsx':
      return [workbookBytes(sheets, guard)]
  }
}

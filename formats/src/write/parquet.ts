import type { SchemaElement } from 'hyparquet'
import { parquetWriteBuffer } from 'hyparquet-writer'
import type { ColumnType, Table } from '@fabula/core'

const elements: Readonly<Record<ColumnType, Omit<SchemaElement, 'name'>>> = {
  text: { type: 'BYTE_ARRAY', converted_type: 'UTF8' },
  list: { type: 'BYTE_ARRAY', converted_type: 'JSON' },
  integer: { type: 'INT64' },
  decimal: { type: 'DOUBLE' },
  boolean: { type: 'BOOLEAN' },
  date: { type: 'INT32', converted_type: 'DATE' },
  // clock times of no zone: not adjusted to UTC
  datetime: {
    type: 'INT64',
    converted_type: 'TIMESTAMP_MILLIS',
    logical_type: { type: 'TIMESTAMP', isAdjustedToUTC: false, unit: 'MILLIS' },
  },
  time: { type: 'INT32', converted_type: 'TIME_MILLIS' },
}

/** Each column with its own type, all optional. Format: apache.org/parquet-format 2.10. */
export const parquetBytes = (table: Table): Uint8Array => {
  const schema: SchemaElement[] = [
    { name: 'root', num_children: table.names.length },
    ...table.schema.map(({ name, type }) => ({ name, repetition_type: 'OPTIONAL' as const, ...elements[type] })),
  ]
  const columnData = table.schema.map(({ name, type }, column) => ({
    name,
    data: Array.from({ length: table.rowCount }, (_, row) => {
      const cell = table.cell(column, row)
      if (cell === null) return null
      if (type === 'integer' || type === 'datetime') return BigInt(cell as number)
      if (type === 'list') return JSON.parse(cell as string) as unknown
      return cell
    }),
  }))
  return new Uint8Array(parquetWriteBuffer({ columnData, schema }))
}

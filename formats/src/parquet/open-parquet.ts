import { parquetMetadataAsync, parquetReadObjects, type FileMetaData, type SchemaElement } from 'hyparquet'
import { compressors } from 'hyparquet-compressors'
import { CellIntake, type Intaken, type RawCell, type Read } from '@fabula/core'
import type { Breath } from '../breath.ts'
import { FileProblem } from '../problem.ts'

const dayMs = 86_400_000
const asFile = (bytes: Buffer) => ({ byteLength: bytes.length, slice: (start: number, end?: number) => new Uint8Array(bytes.subarray(start, end)).buffer })

const plain = (_key: string, value: unknown): unknown => (typeof value === 'bigint' ? Number(value) : value instanceof Date ? value.toISOString().replace(/Z$/, '') : value instanceof Uint8Array ? Buffer.from(value).toString('utf8') : value)

const cellOf = (value: unknown, element: SchemaElement | undefined): RawCell => {
  if (value === null || value === undefined) return null
  if (typeof value === 'string' || typeof value === 'boolean') return value
  if (typeof value === 'number' || typeof value === 'bigint') {
    const number = Number(value)
    const { logical_type: logical, converted_type: converted } = element ?? {}
    if (logical?.type === 'TIME' || converted?.startsWith('TIME_')) {
      const unit = logical?.type === 'TIME' ? logical.unit : converted === 'TIME_MICROS' ? 'MICROS' : 'MILLIS'
      return { type: 'time', value: Math.floor(number / (unit === 'NANOS' ? 1e6 : unit === 'MICROS' ? 1e3 : 1)) }
    }
    return Number.isFinite(number) ? number : Number.isNaN(number) ? null : { error: String(number) }
  }
  if (value instanceof Date) return element?.converted_type === 'DATE' || element?.logical_type?.type === 'DATE' ? { type: 'date', value: Math.floor(value.getTime() / dayMs) } : { type: 'datetime', value: Math.floor(value.getTime()) }
  if (value instanceof Uint8Array) return Buffer.from(value).toString('utf8')
  const text = JSON.stringify(value, plain)
  return Array.isArray(value) && value.every((item) => item === null || item === undefined || typeof item !== 'object' || item instanceof Date || item instanceof Uint8Array) ? { list: text } : text
}

const rowsAPiece = 20_000

/** A Parquet file as a table; what is nested is compact JSON. Format: apache.org/parquet-format 2.10. */
export const openParquet = async (bytes: Buffer, name: string, read: Read, breath: Breath): Promise<Intaken> => {
  const file = asFile(bytes)
  let metadata: FileMetaData
  try {
    metadata = await parquetMetadataAsync(file)
  } catch {
    throw new FileProblem(`${name} is a damaged Parquet file: its foot cannot be read. Take it again from where it came.`)
  }
  const elements = new Map(metadata.schema.map((element) => [element.name, element]))
  const [root] = metadata.schema
  const names = topLevel(metadata.schema, root?.num_children ?? 0)
  const { header: _header, skip: _skip, footer: _footer, range: _range, ...rest } = read
  const intake = new CellIntake(rest)
  intake.add(names)
  const total = Number(metadata.num_rows)
  for (let from = 0; from < total; from += rowsAPiece) {
    let rows: Record<string, unknown>[]
    try {
      rows = await parquetReadObjects({ file, metadata, compressors, rowStart: from, rowEnd: Math.min(total, from + rowsAPiece) })
    } catch (error) {
      throw new FileProblem(`${name} cannot be read from row ${from + 1} on: ${(error as Error).message}. Take it again from where it came.`)
    }
    for (const row of rows) intake.add(names.map((key) => cellOf(row[key], elements.get(key))))
    await breath((from + rows.length) / total, from + rows.length)
  }
  return intake.done(true)
}

/** The names of the columns themselves, without what is nested in them: the schema is a tree, written depth first. */
const topLevel = (schema: readonly SchemaElement[], count: number): string[] => {
  const names: string[] = []
  let at = 1
  const skip = (): void => {
    let children = schema[at++]?.num_children ?? 0
    for (; children > 0; children--) skip()
  }
  for (let i = 0; i < count; i++) {
    names.push(schema[at]?.name ?? '')
    skip()
  }
  return names
}

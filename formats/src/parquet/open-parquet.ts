import {
  parquetMetadataAsync,
  parquetReadObjects,
  parquetSchema,
  type ColumnMetaData,
  type FileMetaData,
  type SchemaElement,
  type SchemaTree,
} from 'hyparquet'
import { compressors } from 'hyparquet-compressors'
import {
  ownValue,
  CellTableBuilder,
  figure,
  maxColumns,
  type BuiltTable,
  type RawCell,
  type ReadOptions,
} from '@fabula/core'
import type { YieldControl } from '../yield-control.ts'
import { FileProblem } from '../problem.ts'
import { pageClaims } from './page-headers.ts'
import { levelsOf, pageRunsFit, type Levels } from './page-runs.ts'

const dayMs = 86_400_000
const asFile = (bytes: Buffer) => ({
  byteLength: bytes.length,
  slice: (start: number, end?: number) => new Uint8Array(bytes.subarray(start, end)).buffer,
})

/** A whole number, or its digits as text where a number would lose some. */
const exactWhole = (value: bigint): number | string =>
  Number.isSafeInteger(Number(value)) ? Number(value) : value.toString()

const plain = (_key: string, value: unknown): unknown => {
  if (typeof value === 'bigint') return exactWhole(value)
  if (value instanceof Date) return value.toISOString().replace(/Z$/, '')
  if (value instanceof Uint8Array) return Buffer.from(value).toString('utf8')
  return value
}

// eslint-disable-next-line complexity -- one branch for each logical and converted type of the format
const cellOf = (value: unknown, element: SchemaElement | undefined): RawCell => {
  if (value === null || value === undefined) return null
  if (typeof value === 'string' || typeof value === 'boolean') return value
  if (typeof value === 'number' || typeof value === 'bigint') {
    const exact = typeof value === 'bigint' ? exactWhole(value) : value
    if (typeof exact === 'string') return exact
    const number = exact
    const { logical_type: logical, converted_type: converted } = element ?? {}
    if (logical?.type === 'TIME' || converted?.startsWith('TIME_')) {
      const chooseUnit = () => {
        if (logical?.type === 'TIME') return logical.unit
        if (converted === 'TIME_MICROS') return 'MICROS'
        return 'MILLIS'
      }
      const unit = chooseUnit()
      const nanosecondsPerUnit = () => {
        if (unit === 'NANOS') return 1e6
        if (unit === 'MICROS') return 1e3
        return 1
      }
      return { type: 'time', value: Math.floor(number / nanosecondsPerUnit()) }
    }
    if (Number.isFinite(number)) return number
    if (Number.isNaN(number)) return null
    return { error: String(number) }
  }
  if (value instanceof Date)
    return element?.converted_type === 'DATE' || element?.logical_type?.type === 'DATE'
      ? { type: 'date', value: Math.floor(value.getTime() / dayMs) }
      : { type: 'datetime', value: Math.floor(value.getTime()) }
  if (value instanceof Uint8Array) return Buffer.from(value).toString('utf8')
  const text = JSON.stringify(value, plain)
  return Array.isArray(value) &&
    value.every(
      (item) =>
        item === null ||
        item === undefined ||
        typeof item !== 'object' ||
        item instanceof Date ||
        item instanceof Uint8Array,
    )
    ? { list: text }
    : text
}

const rowsAPiece = 20_000
/** Run-length encoding makes many rows of few bytes, but not of nothing. */
const cellsOfAnyFile = 50_000_000
const cellsAByte = 200
const mostSchemaDepth = 50
const pageBytes = 1 << 30

/** Whether the pages of a column chunk lie behind one another and hold as many values as the foot says: what reads them trusts their headers. */
const pagesAreWhole = (file: Uint8Array, from: number, meta: ColumnMetaData, levels: Levels | undefined): boolean => {
  const values = Number(meta.num_values)
  const end = from + Number(meta.total_compressed_size)
  if (!levels) return false
  try {
    let held = 0
    for (const page of pageClaims(file, from, end)) {
      if (page.values < 0 || page.uncompressed > pageBytes || page.values > Math.max(values, page.uncompressed))
        return false
      if (page.isData && !pageRunsFit(file, page, meta, levels)) return false
      if (page.isData) held += page.values
    }
    return held === values
  } catch (error) {
    // what cannot be unpacked cannot be read either
    if (error instanceof Error) return false
    throw error
  }
}

/** The foot of a file is believed only as far as the file can bear it out. */
// eslint-disable-next-line complexity -- one branch for each logical and converted type of the format
const checkClaims = (metadata: FileMetaData, file: Uint8Array, name: string): void => {
  const { num_rows: rows, row_groups: groups, schema } = metadata
  const size = file.length
  const damaged = (what: string): never => {
    throw new FileProblem(`${name} is a damaged Parquet file: its foot ${what}. Take it again from where it came.`)
  }
  const total = Number(rows)
  const columns = schema.filter(({ num_children: children }) => !children).length
  if (
    !Number.isSafeInteger(total) ||
    total < 0 ||
    groups.reduce((sum, group) => sum + Number(group.num_rows), 0) !== total
  )
    damaged('counts other rows than its groups have')
  if (total * Math.max(1, columns) > cellsOfAnyFile + size * cellsAByte)
    damaged(
      `claims ${figure(total)} rows of ${figure(columns)} columns, which a file of ${figure(size)} bytes cannot hold`,
    )
  if (schemaDepth(schema) > mostSchemaDepth) damaged('nests columns too deeply')
  if (columns > maxColumns) damaged(`names ${figure(columns)} columns`)
  const tree = treeOf(metadata) ?? damaged('has a schema that breaks off')
  for (const group of groups)
    for (const { meta_data: meta } of group.columns) {
      if (!meta) return damaged('lacks the place of a column')
      const from = Number(meta.dictionary_page_offset ?? meta.data_page_offset)
      const bytes = Number(meta.total_compressed_size)
      if (!(from >= 0 && bytes >= 0 && from + bytes <= size)) damaged('names places beyond its end')
      if (!(Number(meta.total_uncompressed_size) <= 1e9 + size * 20))
        damaged('claims pages of a size that it cannot hold')
      if (!pagesAreWhole(file, from, meta, levelsOf(tree, meta.path_in_schema))) damaged('does not fit its pages')
    }
}

/** The schema as a tree; undefined where it names more columns than it describes. */
const treeOf = (metadata: FileMetaData): SchemaTree | undefined => {
  try {
    return parquetSchema(metadata)
  } catch {
    return undefined
  }
}

/** The deepest level of the schema's tree, which is written depth first. */
const schemaDepth = (schema: readonly SchemaElement[]): number => {
  const open: number[] = []
  let deepest = 0
  for (const { num_children: children = 0 } of schema) {
    while (open.length > 0 && open.at(-1) === 0) open.pop()
    if (open.length > 0) open[open.length - 1] = (open.at(-1) ?? 0) - 1
    if (children > 0) open.push(children)
    deepest = Math.max(deepest, open.length)
  }
  return deepest
}

/** A Parquet file as a table; what is nested is compact JSON. Format: apache.org/parquet-format 2.10. */
export const openParquet = async (
  bytes: Buffer,
  name: string,
  read: ReadOptions,
  yieldControl: YieldControl,
): Promise<BuiltTable> => {
  const file = asFile(bytes)
  let metadata: FileMetaData
  try {
    metadata = await parquetMetadataAsync(file)
  } catch {
    throw new FileProblem(
      `${name} is a damaged Parquet file: its foot cannot be read. Take it again from where it came.`,
    )
  }
  checkClaims(metadata, bytes, name)
  const elements = new Map(metadata.schema.map((element) => [element.name, element]))
  const [root] = metadata.schema
  const names = topLevel(metadata.schema, root?.num_children ?? 0)
  const { header: _header, skip: _skip, footer: _footer, range: _range, ...rest } = read
  const builder = new CellTableBuilder(rest)
  builder.add(names)
  const total = Number(metadata.num_rows)
  for (let from = 0; from < total; from += rowsAPiece) {
    let rows: Record<string, unknown>[]
    try {
      rows = await parquetReadObjects({
        file,
        metadata,
        compressors,
        rowStart: from,
        rowEnd: Math.min(total, from + rowsAPiece),
      })
    } catch (error) {
      throw new FileProblem(
        `${name} cannot be read from row ${from + 1} on: ${(error as Error).message}. Take it again from where it came.`,
      )
    }
    for (const row of rows) builder.add(names.map((key) => cellOf(ownValue(row, key), elements.get(key))))
    await yieldControl((from + rows.length) / total, from + rows.length)
  }
  return builder.done(true)
}

/** The names of the columns themselves, without what is nested in them: the schema is a tree, written depth first. */
const topLevel = (schema: readonly SchemaElement[], count: number): string[] => {
  const names: string[] = []
  let at = 1
  const skip = (): void => {
    let children = schema[at++]?.num_children ?? 0
    for (; children > 0 && at < schema.length; children--) skip()
  }
  for (let i = 0; i < count && at < schema.length; i++) {
    names.push(schema[at]?.name ?? '')
    skip()
  }
  return names
}

import type { ColumnMetaData, SchemaTree } from 'hyparquet'
import { compressors } from 'hyparquet-compressors'
import type { PageClaim } from './page-headers.ts'

/** The highest repetition and definition level of a column, from its path in the schema. Format: apache.org/parquet-format 2.10, Nested Encoding. */
export type Levels = { readonly repetition: number; readonly definition: number }

/** The levels of a column; undefined where the schema does not have it. */
export const levelsOf = (root: SchemaTree, path: readonly string[]): Levels | undefined => {
  let node: SchemaTree | undefined = root
  let repetition = 0
  let definition = 0
  for (const name of path) {
    node = node.children.find(({ element }) => element.name === name)
    if (!node) return undefined
    if (node.element.repetition_type === 'REPEATED') repetition++
    if (node.element.repetition_type !== 'REQUIRED') definition++
  }
  return { repetition, definition }
}

const widthOf = (level: number): number => 32 - Math.clz32(level)

/** Walks the runs of a run-length and bit-packed hybrid; false where one claims more values than the page has, which its reader would write one by one. */
const runsFit = (bytes: Uint8Array, from: number, end: number, width: number, values: number): boolean => {
  let at = from
  for (let seen = 0; seen < values && at < end;) {
    let header = 0
    for (let shift = 0; ; shift += 7) {
      const byte = bytes[at++]
      if (byte === undefined || shift > 28) return false
      header += (byte & 127) * 2 ** shift
      if (byte < 128) break
    }
    const count = Math.floor(header / 2)
    // packed values come by eights, the last of which may be left over
    if (header % 2 === 1 ? (count - 1) * 8 > values - seen : count > values - seen) return false
    seen += header % 2 === 1 ? count * 8 : count
    at += header % 2 === 1 ? count * width : Math.ceil(width / 8)
  }
  return true
}

const plainDictionary = 2
const runLength = 3
const dictionary = 8

/** The part of a page that holds values: indices into a dictionary, or booleans, as runs. */
const valuesFit = (
  bytes: Uint8Array,
  from: number,
  { encoding, values }: PageClaim,
  type: ColumnMetaData['type'],
): boolean => {
  if (encoding === runLength && type === 'BOOLEAN') return runsFit(bytes, from + 4, bytes.length, 1, values)
  const byWidth = encoding === plainDictionary || encoding === dictionary || encoding === runLength
  return !byWidth || runsFit(bytes, from + 1, bytes.length, bytes[from] ?? 0, values)
}

const unpacked = (bytes: Uint8Array, codec: ColumnMetaData['codec'], size: number): Uint8Array =>
  codec === 'UNCOMPRESSED' ? bytes : (compressors[codec]?.(bytes, size) ?? bytes)

/** Whether the runs of a data page hold no more values than its header says. */
export const pageRunsFit = (
  file: Uint8Array,
  page: PageClaim,
  { codec, type }: Pick<ColumnMetaData, 'codec' | 'type'>,
  levels: Levels,
): boolean => {
  const body = file.subarray(page.at, page.at + page.compressed)
  if (page.levelBytes) {
    const [repetition, definition] = page.levelBytes
    const start = repetition + definition
    if (repetition < 0 || definition < 0 || start > body.length) return false
    if (levels.repetition > 0 && !runsFit(body, 0, repetition, widthOf(levels.repetition), page.values)) return false
    if (levels.definition > 0 && !runsFit(body, repetition, start, widthOf(levels.definition), page.values))
      return false
    const rest = body.subarray(start)
    return valuesFit(page.isCompressed ? unpacked(rest, codec, page.uncompressed - start) : rest, 0, page, type)
  }
  const bytes = unpacked(body, codec, page.uncompressed)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let at = 0
  for (const level of [levels.repetition, levels.definition]) {
    if (level === 0) continue
    if (at + 4 > bytes.length) return false
    const end = at + 4 + view.getUint32(at, true)
    if (!runsFit(bytes, at + 4, Math.min(end, bytes.length), widthOf(level), page.values)) return false
    at = end
  }
  return valuesFit(bytes, at, page, type)
}

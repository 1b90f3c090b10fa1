/** What the header of a page says of it; sizes in bytes. Format: apache.org/parquet-format 2.10, PageHeader. */
export type PageClaim = {
  readonly compressed: number
  readonly uncompressed: number
  readonly values: number
  readonly isData: boolean
  /** The number of the encoding of its values. */ readonly encoding: number
  /** Of version 2: the bytes of repetition and definition levels, which stand before the values and are never compressed. */ readonly levelBytes:
    readonly [repetition: number, definition: number] | undefined
  readonly isCompressed: boolean
  /** Where the page's own bytes begin. */ readonly at: number
}

/** Types of Thrift's compact protocol (thrift-compact-protocol.md). */
const stop = 0
const double = 7
const binary = 8
const list = 9
const set = 10
const map = 11
const struct = 12
const mostDepth = 12

/** Reads only the numbers of a struct in Thrift's compact protocol, by field; structs within are numbers by field again. */
class CompactReader {
  at: number
  private readonly bytes: Uint8Array
  constructor(bytes: Uint8Array, at: number) {
    this.bytes = bytes
    this.at = at
  }
  private byte(): number {
    const byte = this.bytes[this.at++]
    if (byte === undefined) throw new RangeError('a page header goes beyond the file')
    return byte
  }
  private varint(): number {
    let value = 0
    for (let factor = 1; factor < 2 ** 50; factor *= 128) {
      const byte = this.byte()
      value += (byte & 127) * factor
      if (byte < 128) return value
    }
    throw new RangeError('a number of a page header is too long')
  }
  private zigzag(): number {
    const value = this.varint()
    return value % 2 === 0 ? value / 2 : -(value + 1) / 2
  }
  private value(type: number, depth: number): Fields | number | undefined {
    if (depth > mostDepth) throw new RangeError('a page header nests too deeply')
    if (type === 1 || type === 2) return 2 - type
    if (type === 3) return this.byte()
    if (type <= 6) return this.zigzag()
    if (type === double) this.at += 8
    else if (type === binary) {
      const length = this.varint()
      this.at += length
    } else if (type === struct) return this.fields(depth + 1)
    else if (type === list || type === set) this.items(depth)
    else if (type === map) throw new RangeError('a page header holds a map')
    return undefined
  }
  private items(depth: number): void {
    const head = this.byte()
    const count = head >> 4 === 15 ? this.varint() : head >> 4
    if (count > this.bytes.length) throw new RangeError('a list of a page header is too long')
    for (let i = 0; i < count; i++) this.value(head & 15, depth + 1)
  }
  fields(depth = 0): Fields {
    const fields: Fields = new Map()
    for (let id = 0; ;) {
      const head = this.byte()
      const type = head & 15
      if (type === stop) return fields
      id = head >> 4 === 0 ? this.zigzag() : id + (head >> 4)
      fields.set(id, this.value(type, depth))
    }
  }
}
type Fields = Map<number, number | undefined | Fields>

const numberAt = (fields: Fields | undefined, id: number): number => {
  const value = fields?.get(id)
  return typeof value === 'number' ? value : -1
}
const structAt = (fields: Fields, id: number): Fields | undefined => {
  const value = fields.get(id)
  return value instanceof Map ? value : undefined
}

/** The headers of the pages of a column chunk, from `from` up to `end`; throws a RangeError where one makes no sense. Linear in the number of pages. */
export function* pageClaims(bytes: Uint8Array, from: number, end: number): Generator<PageClaim> {
  for (let at = from; at < end - 1;) {
    const reader = new CompactReader(bytes, at)
    const fields = reader.fields()
    const first = structAt(fields, 5)
    const second = structAt(fields, 8)
    const data = first ?? second
    const claim: PageClaim = {
      uncompressed: numberAt(fields, 2),
      compressed: numberAt(fields, 3),
      values: numberAt(data ?? structAt(fields, 7), 1),
      isData: data !== undefined,
      encoding: numberAt(data, first ? 2 : 4),
      levelBytes: first || !second ? undefined : [numberAt(second, 6), numberAt(second, 5)],
      isCompressed: first !== undefined || numberAt(second, 7) !== 0,
      at: reader.at,
    }
    if (claim.compressed < 0 || claim.uncompressed < 0 || claim.at + claim.compressed > end)
      throw new RangeError('a page has a size that it cannot have')
    yield claim
    at = claim.at + claim.compressed
  }
}

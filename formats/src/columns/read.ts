import {
  float64s,
  int32s,
  LazyColumn,
  LazyStrings,
  plainTextFromBytes,
  Table,
  uint32s,
  uint8s,
  unpacked,
  type Cell,
  type Column,
  type UnreadableCells,
} from '@fabula/core'
import { HeldFile } from '../held-file.ts'
import type { OpenedFiles } from '../open-input.ts'
import { spanDecoder } from '../spans.ts'
import {
  align,
  signature,
  type BufferKind,
  type BufferPlace,
  type ColumnBuffer,
  type ColumnPlace,
  type FileHeader,
  type TextPlace,
} from './layout.ts'

const allocate: { readonly [K in BufferKind]: (bytes: number) => ColumnBuffer } = {
  float64: (bytes) => float64s(bytes / 8),
  int32: (bytes) => int32s(bytes / 4),
  uint32: (bytes) => uint32s(bytes / 4),
  uint8: (bytes) => uint8s(bytes),
}
const bytesOf: { readonly [K in BufferKind]: number } = { float64: 8, int32: 4, uint32: 4, uint8: 1 }

/** A dictionary column whose entries become strings when one is asked for. An own getter, so that a copy by spread has them too. */
const storedDictionary = (type: 'text' | 'list', indices: Uint32Array, texts: LazyStrings): Column => ({
  type,
  form: 'dictionary',
  indices,
  get dictionary() {
    return texts.all
  },
})

/** Rows of a part, a multiple of 8, as one byte holds 8 marks of empty cells. */
const rowsAPart = 4096

/** Some rows of a column, for single cells. */
type Part = { readonly first: number; readonly cell: (row: number) => Cell }

/** The columns of an open file. */
class ColumnReader {
  private readonly file: HeldFile
  private readonly start: number
  constructor(file: HeldFile, start: number) {
    this.file = file
    this.start = start
  }
  private fill(buffer: ColumnBuffer, from: number): void {
    this.file.fill(new Uint8Array(buffer.buffer, buffer.byteOffset, buffer.byteLength), this.start + from)
  }
  buffer({ kind, offset, bytes }: BufferPlace): ColumnBuffer {
    const buffer = allocate[kind](bytes)
    this.fill(buffer, offset)
    return buffer
  }
  /** Some items of a buffer, as many as there are. */
  private items({ kind, offset, bytes }: BufferPlace, from: number, count: number): ColumnBuffer {
    const start = Math.min(bytes, from * bytesOf[kind])
    const buffer = allocate[kind](Math.min(bytes - start, count * bytesOf[kind]))
    this.fill(buffer, offset + start)
    return buffer
  }
  private texts({ offsets, bytes }: TextPlace): LazyStrings {
    const held = this.buffer(bytes) as Uint8Array
    return new LazyStrings(unpacked({ offsets: this.buffer(offsets) as Uint32Array, bytes: held }, spanDecoder))
  }
  column(place: ColumnPlace): Column {
    if (place.form === 'values')
      return {
        type: place.type,
        values: this.buffer(place.values),
        nulls: place.nulls && this.buffer(place.nulls),
      } as Column
    const type = place.type as 'text' | 'list'
    return place.form === 'dictionary'
      ? storedDictionary(type, this.buffer(place.indices) as Uint32Array, this.texts(place.dictionary))
      : plainTextFromBytes(type, this.texts(place.texts))
  }

  private part(place: ColumnPlace, first: number, words: () => LazyStrings): Part {
    if (place.form === 'values') {
      const column = {
        type: place.type,
        values: this.items(place.values, first, rowsAPart),
        nulls: place.nulls && this.items(place.nulls, first / 8, rowsAPart / 8),
      } as Column
      const part = Table.of([''], [column])
      return { first, cell: (row) => part.cell(0, row - first) }
    }
    if (place.form === 'dictionary') {
      const indices = this.items(place.indices, first, rowsAPart)
      return { first, cell: (row) => words().at(indices[row - first]!) || null }
    }
    const ends = this.items(place.texts.offsets, first, rowsAPart + 1)
    const from = ends[0]!
    const bytes = this.items(place.texts.bytes, from, (ends.at(-1) ?? from) - from) as Uint8Array
    const decode = spanDecoder(bytes)
    return { first, cell: (row) => decode(ends[row - first]! - from, ends[row - first + 1]! - from) || null }
  }
  /** A column of which single cells are read where they lie until all are needed. */
  lazy(place: ColumnPlace, length: number): LazyColumn {
    let words: LazyStrings | undefined
    const wordsOf = (): LazyStrings => (words ??= this.texts((place as { dictionary: TextPlace }).dictionary))
    let part: Part | undefined
    // rows far apart, as of a sorted table, are each in a part of their own
    let partsLeft = Math.ceil(length / rowsAPart)
    const cell = (row: number): Cell => {
      const first = row - (row % rowsAPart)
      if (part?.first !== first) {
        part = this.part(place, first, wordsOf)
        partsLeft--
      }
      return part.cell(row)
    }
    const make = (): Column => {
      part = undefined
      partsLeft = Math.ceil(length / rowsAPart)
      return this.column(place)
    }
    return new LazyColumn({
      ...{ type: place.type, length, holds: () => [], again: true, inParts: true },
      ...{ cell, spent: () => partsLeft <= 0, make },
    })
  }
}

/** Opens a columns file; throws where it is not whole. A column is read when somebody needs it; what was opened stays, even if the file is removed. */
export const readColumnsFile = (path: string): OpenedFiles => {
  const file = new HeldFile(path)
  const lead = Buffer.alloc(Math.min(16, file.size))
  file.fill(lead, 0)
  if (lead.length < 16 || lead.toString('latin1', 0, 8) !== signature) throw new Error('this is no columns file')
  const length = Number(lead.readBigUInt64LE(8))
  if (length > file.size - 16) throw new Error('the columns file is cut short')
  const text = Buffer.alloc(length)
  file.fill(text, 16)
  const { names, columns, unreadable, rowCount, end, ...rest } = JSON.parse(text.toString('utf8')) as FileHeader
  const start = align(16 + length)
  if (start + end !== file.size) throw new Error('the columns file is cut short')
  const reader = new ColumnReader(file, start)
  return {
    ...rest,
    table: Table.of(
      names,
      columns.map((place) => reader.lazy(place, rowCount)),
      rowCount,
    ),
    unreadable: unreadable.map((one): UnreadableCells => ({ ...one, rows: reader.buffer(one.rows) as Int32Array })),
  }
}

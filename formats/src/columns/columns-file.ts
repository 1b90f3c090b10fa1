import { closeSync, fstatSync, openSync, readSync } from 'node:fs'
import { open, rename, rm } from 'node:fs/promises'
import { setImmediate as otherWork } from 'node:timers/promises'
import {
  uint8s,
  float64s,
  isTextColumn,
  int32s,
  pack,
  plainTextFromBytes,
  LazyStrings,
  unpacked,
  type PackedStrings,
  Table,
  uint32s,
  type Column,
  type ColumnType,
  type HeldBuffer,
  type UnreadableCells,
} from '@fabula/core'
import type { OpenedFiles } from '../open-input.ts'
import { spanDecoder } from '../spans.ts'

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
const signature = 'FABCOLS3'
const align = (n: number): number => Math.ceil(n / 8) * 8

type BufferKind = 'float64' | 'int32' | 'uint32' | 'uint8'
type BufferPlace = { readonly kind: BufferKind; readonly offset: number; readonly bytes: number }
type TextPlace = { readonly offsets: BufferPlace; readonly bytes: BufferPlace }
type ColumnPlace = { readonly type: ColumnType } & (
  | { readonly form: 'values'; readonly values: BufferPlace; readonly nulls?: BufferPlace }
  | { readonly form: 'dictionary'; readonly indices: BufferPlace; readonly dictionary: TextPlace }
  | { readonly form: 'plain'; readonly texts: TextPlace }
)
type FileHeader = Omit<OpenedFiles, 'table' | 'unreadable'> & {
  readonly rowCount: number
  readonly names: readonly string[]
  readonly columns: readonly ColumnPlace[]
  readonly unreadable: readonly (Omit<UnreadableCells, 'rows'> & { readonly rows: BufferPlace })[]
  readonly end: number
}

type Buffers = Float64Array | Int32Array | Uint32Array | Uint8Array
const kindOf = (buffer: Buffers): BufferKind => {
  if (buffer instanceof Float64Array) return 'float64'
  if (buffer instanceof Int32Array) return 'int32'
  return buffer instanceof Uint32Array ? 'uint32' : 'uint8'
}
const allocate: { readonly [K in BufferKind]: (uint8s: number) => Buffers } = {
  float64: (size) => float64s(size / 8),
  int32: (size) => int32s(size / 4),
  uint32: (size) => uint32s(size / 4),
  uint8: (size) => uint8s(size),
}

/** Places buffers one behind the other and remembers them for writing. */
class FileLayout {
  readonly buffers: Buffers[] = []
  end = 0
  place(buffer: Buffers): BufferPlace {
    const offset = this.end
    this.buffers.push(buffer)
    this.end = align(offset + buffer.byteLength)
    return { kind: kindOf(buffer), offset, bytes: buffer.byteLength }
  }
}

const stringsAPause = 50_000

/** Strings as ends and bytes; undefined where they are too long for 32-bit ends. */
const packStrings = async (strings: readonly string[]): Promise<PackedStrings | undefined> => {
  const offsets = uint32s(strings.length + 1)
  let packed = Buffer.allocUnsafe(Math.max(1024, strings.length * 12))
  let end = 0
  for (let i = 0; i < strings.length; i++) {
    const text = strings[i] ?? ''
    if (end + text.length * 3 > packed.length) {
      const wider = Buffer.allocUnsafe((end + text.length * 3) * 2)
      packed.copy(wider, 0, 0, end)
      packed = wider
    }
    end += packed.write(text, end)
    if (end > 0xffff_ffff) return undefined
    offsets[i + 1] = end
    if (i % stringsAPause === 0) await otherWork()
  }
  return { offsets, bytes: packed.subarray(0, end) }
}

const placeStrings = (packed: PackedStrings | undefined, layout: FileLayout): TextPlace | undefined =>
  packed && { offsets: layout.place(packed.offsets), bytes: layout.place(packed.bytes) }

const placeColumn = async (column: Column, layout: FileLayout): Promise<ColumnPlace | undefined> => {
  const { type } = column
  if (!isTextColumn(column))
    return {
      type,
      form: 'values',
      values: layout.place(column.values),
      ...(column.nulls ? { nulls: layout.place(column.nulls) } : {}),
    }
  if (column.form === 'dictionary') {
    const dictionary = placeStrings(await packStrings(column.dictionary), layout)
    return dictionary && { type, form: 'dictionary', indices: layout.place(column.indices), dictionary }
  }
  const encoded = column.stored?.encoded
  const texts = placeStrings(encoded ? pack(encoded) : await packStrings(column.strings), layout)
  return texts && { type, form: 'plain', texts }
}

/** Unpaired surrogates have no UTF-8: a table that holds one is not kept. */
const isWritable = ({ table }: OpenedFiles): boolean =>
  table.names.every((_, c) => {
    const column = table.column(c)
    if (!isTextColumn(column)) return true
    if (column.form === 'plain' && column.stored?.encoded) return true
    return (column.form === 'dictionary' ? column.dictionary : column.strings).every(
      (text) => !/\p{Surrogate}/u.test(text),
    )
  })

/** Writes an opened input; the file is there whole or not at all. Pauses now and then, so that other work of the thread goes on. Returns its size, or undefined where it cannot be kept. */
export const writeColumnsFile = async (path: string, opened: OpenedFiles): Promise<number | undefined> => {
  if (!isWritable(opened)) return undefined
  const { table, unreadable, ...rest } = opened
  const layout = new FileLayout()
  const columns: ColumnPlace[] = []
  for (let c = 0; c < table.names.length; c++) {
    const place = await placeColumn(table.column(c), layout)
    if (!place) return undefined
    columns.push(place)
  }
  const header: FileHeader = {
    ...rest,
    rowCount: table.rowCount,
    names: table.names,
    columns,
    unreadable: unreadable.map((one) => ({ ...one, rows: layout.place(one.rows) })),
    end: layout.end,
  }
  const text = Buffer.from(JSON.stringify(header))
  const start = Buffer.alloc(align(16 + text.length))
  start.write(signature)
  start.writeBigUInt64LE(BigInt(text.length), 8)
  text.copy(start, 16)
  const part = `${path}.${process.pid}.part`
  const file = await open(part, 'w', 0o600)
  try {
    await file.write(start)
    for (const buffer of layout.buffers) await writeAll(file, buffer)
    await file.close()
    await rename(part, path)
  } catch (error) {
    await file.close().catch(() => undefined)
    await rm(part, { force: true })
    throw error
  }
  return start.length + layout.end
}

const padding = new Uint8Array(8)
const writeAll = async (file: Awaited<ReturnType<typeof open>>, buffer: Buffers): Promise<void> => {
  const view = new Uint8Array(buffer.buffer, buffer.byteOffset, buffer.byteLength)
  for (let at = 0; at < view.length;)
    at += (await file.write(view, at, Math.min(64 << 20, view.length - at))).bytesWritten
  const rest = align(view.length) - view.length
  if (rest > 0) await file.write(padding, 0, rest)
}

/** A dictionary column whose entries become strings when one is asked for. An own getter, so that a copy by spread has them too. */
const storedDictionary = (type: 'text' | 'list', indices: Uint32Array, texts: LazyStrings): Column => ({
  type,
  form: 'dictionary',
  indices,
  get dictionary() {
    return texts.all
  },
})

class Reader {
  private readonly file: number
  private readonly start: number
  constructor(file: number, start: number) {
    this.file = file
    this.start = start
  }
  buffer({ kind, offset, bytes: size }: BufferPlace): Buffers {
    const buffer = allocate[kind](size)
    const view = new Uint8Array(buffer.buffer)
    for (let at = 0; at < size;) {
      const read = readSync(this.file, view, at, Math.min(1 << 30, size - at), this.start + offset + at)
      if (read === 0) throw new Error('the columns file is cut short')
      at += read
    }
    return buffer
  }
  private texts({ offsets, bytes: text }: TextPlace): LazyStrings {
    const held = this.buffer(text) as Uint8Array
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
}

/** Reads a columns file; throws where it is not whole. */
export const readColumnsFile = (path: string): OpenedFiles => {
  const file = openSync(path, 'r')
  try {
    const lead = Buffer.alloc(16)
    readSync(file, lead, 0, 16, 0)
    const length = Number(lead.readBigUInt64LE(8))
    const { size } = fstatSync(file)
    if (lead.toString('latin1', 0, 8) !== signature || length > size) throw new Error('this is no columns file')
    const text = Buffer.alloc(length)
    readSync(file, text, 0, length, 16)
    const { names, columns, unreadable, rowCount, end, ...rest } = JSON.parse(text.toString('utf8')) as FileHeader
    const start = align(16 + length)
    if (start + end !== size) throw new Error('the columns file is cut short')
    const reader = new Reader(file, start)
    return {
      ...rest,
      table: Table.of(
        names,
        columns.map((place) => reader.column(place)),
        rowCount,
      ),
      unreadable: unreadable.map((one): UnreadableCells => ({
        ...one,
        rows: reader.buffer(one.rows) as Int32Array,
      })),
    }
  } finally {
    closeSync(file)
  }
}

/** Buffers of an opened input, for what counts them. */
export const openedBuffers = ({ table, unreadable }: OpenedFiles): HeldBuffer[] => [
  ...table.buffers,
  ...unreadable.map(({ rows }) => [rows.buffer, rows.byteLength] as const),
]

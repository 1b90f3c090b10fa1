import { open, rename, rm } from 'node:fs/promises'
import { setImmediate as otherWork } from 'node:timers/promises'
import { isTextColumn, pack, uint32s, type Column, type PackedStrings } from '@fabula/core'
import type { OpenedFiles } from '../open-input.ts'
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

const kindOf = (buffer: ColumnBuffer): BufferKind => {
  if (buffer instanceof Float64Array) return 'float64'
  if (buffer instanceof Int32Array) return 'int32'
  return buffer instanceof Uint32Array ? 'uint32' : 'uint8'
}
/** Places buffers one behind the other and remembers them for writing. */
class FileLayout {
  readonly buffers: ColumnBuffer[] = []
  end = 0
  place(buffer: ColumnBuffer): BufferPlace {
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
const writeAll = async (file: Awaited<ReturnType<typeof open>>, buffer: ColumnBuffer): Promise<void> => {
  const view = new Uint8Array(buffer.buffer, buffer.byteOffset, buffer.byteLength)
  for (let at = 0; at < view.length;)
    at += (await file.write(view, at, Math.min(64 << 20, view.length - at))).bytesWritten
  const rest = align(view.length) - view.length
  if (rest > 0) await file.write(padding, 0, rest)
}

import { rowsAnOutput, textsOf, type CsvOutput, type OutputColumn } from './csv-output.ts'
import type { CellTexts } from './csv-kernel.ts'
import { Instance } from './instance.ts'
import { isSet } from './memory.ts'

/** The most bytes of a number that the module writes. */
const mostOfANumber = 24

/** A column's place in the module: where the bytes and the ends of its texts are, and its codes. */
class BlockColumn {
  private readonly instance: Instance
  private readonly column: OutputColumn
  private readonly at: number
  private bytes = 0
  private room = 0
  private ends = 0
  private codes = 0
  private values = 0
  private nulls = 0
  private longest = 0
  constructor(instance: Instance, column: OutputColumn, at: number) {
    this.instance = instance
    this.column = column
    this.at = at
    const { allocate } = instance.run
    if (column.form === 'coded') {
      this.bytes = instance.put(column.words.bytes)
      const ends = new Uint32Array(column.words.ends.length + 1)
      ends.set(column.words.ends, 1)
      for (let code = 1; code < ends.length; code++)
        this.longest = Math.max(this.longest, ends[code]! - ends[code - 1]!)
      this.ends = instance.put(ends)
      this.codes = allocate(rowsAnOutput * 4)
      return
    }
    this.ends = allocate(rowsAnOutput * 4)
    if (column.form === 'texts') return
    this.values = allocate(rowsAnOutput * 8)
    this.nulls = allocate(rowsAnOutput / 8)
    this.reserve(rowsAnOutput * mostOfANumber)
  }
  private reserve(bytes: number): void {
    if (bytes <= this.room) return
    this.room = bytes
    this.bytes = this.instance.run.allocate(bytes)
  }
  fill(from: number, to: number): void {
    const { instance, column, at } = this
    if (column.form === 'coded') instance.uint32s(this.codes, to - from).set(column.codes.subarray(from, to))
    else if (column.form === 'texts') this.texts(column, from, to)
    else this.numbers(column, from, to)
    instance.uint32s(at, 4).set([this.bytes, this.ends, this.codes, this.longest])
  }
  private texts(column: OutputColumn & { form: 'texts' }, from: number, to: number): void {
    const stored = column.stored(from, to)
    if (stored) this.take(stored)
    if (!stored || this.instance.run.needCare(this.bytes, this.ends, to - from, column.guard))
      this.take(column.written(from, to))
  }
  private take({ bytes, ends }: CellTexts): void {
    this.reserve(bytes.length)
    this.instance.bytes.set(bytes, this.bytes)
    this.instance.uint32s(this.ends, ends.length).set(ends)
  }
  private numbers(column: OutputColumn & { form: 'numbers' }, from: number, to: number): void {
    const { instance } = this
    const { values, nulls, write } = column
    instance.float64s(this.values, to - from).set(values.subarray(from, to))
    if (nulls) instance.bytes.set(nulls.subarray(from >> 3, (to + 7) >> 3), this.nulls)
    const written = instance.run.writeNumbers(this.values, nulls ? this.nulls : 0, to - from, this.bytes, this.ends)
    if (written === to - from) return
    this.take(
      textsOf(Array.from(values.subarray(from, to), (value, i) => (isSet(nulls, from + i) ? '' : write(value)))),
    )
  }
}

/** Rows of CSV by the compiled kernels; each table has an instance of its own. */
export const csvOutputCompiled = (columns: readonly OutputColumn[]): CsvOutput => {
  const instance = new Instance()
  const { run } = instance
  const size = run.blockColumnBytes.value as number
  const places = run.allocate(size * columns.length)
  const blocks = columns.map((column, c) => new BlockColumn(instance, column, places + size * c))
  let room = 0
  let out = 0
  return (from, to) => {
    for (const block of blocks) block.fill(from, to)
    const most = run.wovenBytes(places, columns.length, to - from)
    if (most > room) {
      room = Math.ceil(most * 1.2)
      out = run.allocate(room)
    }
    const length = run.weave(places, columns.length, to - from, out)
    return instance.bytes.subarray(out, out + length)
  }
}

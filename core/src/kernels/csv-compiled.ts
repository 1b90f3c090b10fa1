import { uint32s } from './memory.ts'
import {
  bytesABlock,
  cellsABlock,
  longestRow,
  type ByteDictionary,
  type ByteSource,
  type CellTexts,
  type CsvKernel,
  type CsvLayout,
} from './csv-kernel.ts'
import { Instance } from './instance.ts'

class CompiledCsv implements CsvKernel {
  next = 0
  private readonly source: ByteSource
  private readonly layout: CsvLayout
  private readonly instance = new Instance()
  private readonly most: number
  private size = bytesABlock
  private block: number
  private rows = 0
  private readonly cuts: number
  private readonly values: number
  private readonly flagsAt: number
  private readonly codes: number
  private out: number
  /** Of the breaks of a block. */
  private places: number
  constructor(source: ByteSource, layout: CsvLayout) {
    this.source = source
    this.layout = layout
    this.most = Math.max(1, Math.floor(cellsABlock / layout.width))
    const { allocate } = this.instance.run
    this.cuts = allocate(this.most * layout.width * 8)
    this.values = allocate(this.most * 8)
    this.flagsAt = allocate(this.most)
    this.codes = allocate(this.most * 4)
    this.block = allocate(this.size)
    this.out = allocate(this.size)
    this.places = allocate(this.size * 4 + 64)
  }

  cut(from: number): number {
    const { run } = this.instance
    const { width, delimiter, quote } = this.layout
    for (;;) {
      const part = this.source.block(from, this.size)
      this.instance.bytes.set(part, this.block)
      const last = from + part.length === this.source.size
      this.rows = run.cut(this.block, part.length, last, width, this.most, delimiter, quote, this.cuts, this.places)
      this.next = from + (run.next.value as number)
      // a row that is longer than the block
      if (this.rows > 0 || Boolean(run.odd.value) || this.size >= longestRow) return this.rows
      this.size *= 4
      this.block = run.allocate(this.size)
      this.out = run.allocate(this.size)
      this.places = run.allocate(this.size * 4 + 64)
    }
  }

  private get stride(): number {
    return this.layout.width * 8
  }
  private cutsOf(column: number): number {
    return this.cuts + column * 8
  }

  numbers(column: number, mark: number, values: Float64Array, at: number): number {
    const { instance, rows } = this
    const { run } = instance
    const found = run.numbers(this.block, this.cutsOf(column), this.stride, rows, mark, this.values, this.flagsAt)
    values.set(instance.float64s(this.values, rows), at)
    return found
  }
  get flags(): Uint8Array {
    return this.instance.bytes.subarray(this.flagsAt, this.flagsAt + this.rows)
  }

  text(column: number, row: number): string {
    const [start = 0, end = 0] = this.instance.uint32s(this.cutsOf(column) + row * this.stride, 2)
    return this.source.decoder(this.instance.bytes)(this.block + start, this.block + end)
  }

  firstFilled(column: number): number {
    const cuts = this.instance.uint32s(this.cuts, this.rows * this.layout.width * 2)
    for (let i = 0, k = column * 2; i < this.rows; i++, k += this.layout.width * 2)
      if (cuts[k] !== cuts[k + 1]) return i
    return -1
  }

  texts(column: number, before: number): CellTexts {
    const { instance, rows, stride } = this
    const length = instance.run.texts(this.block, this.cutsOf(column), stride, rows, this.out, this.codes, before)
    return { bytes: instance.bytes.subarray(this.out, this.out + length), ends: instance.uint32s(this.codes, rows) }
  }

  dictionary(): ByteDictionary {
    const { instance } = this
    const { run } = instance
    const at = run.makeDictionary()
    return {
      get size() {
        return run.dictionarySize(at)
      },
      codes: (column, codes, from) => {
        run.codesOf(at, this.block, this.cutsOf(column), this.stride, this.rows, this.codes)
        codes.set(instance.uint32s(this.codes, this.rows), from)
      },
      codeOf: (text) => {
        const before = run.mark()
        const bytes = run.allocate(text.length)
        instance.bytes.set(text, bytes)
        const known = run.dictionarySize(at)
        const code = run.codeOf(at, bytes, text.length)
        if (run.dictionarySize(at) === known) run.release(before)
        return code
      },
      codesOf: (texts) => codesOfTexts(instance, at, texts),
      texts: () => textsOf(instance, at),
    }
  }
}

const codesOfTexts = (instance: Instance, dictionary: number, { bytes, ends }: CellTexts): Uint32Array => {
  const { run } = instance
  const [block, cuts, codes] = [instance.put(bytes), run.allocate(ends.length * 8), run.allocate(ends.length * 4)]
  const places = instance.uint32s(cuts, ends.length * 2)
  for (let i = 0, start = 0; i < ends.length; i++) {
    places[i * 2] = start
    places[i * 2 + 1] = start = ends[i]!
  }
  run.codesOf(dictionary, block, cuts, 8, ends.length, codes)
  return instance.uint32s(codes, ends.length).slice()
}
const textsOf = (instance: Instance, dictionary: number): CellTexts => {
  const { run } = instance
  const ends = uint32s(run.dictionarySize(dictionary))
  for (let code = 1; code < ends.length; code++) ends[code] = run.dictionaryEnd(dictionary, code)
  const from = run.dictionaryBytes(dictionary)
  return { bytes: instance.bytes.slice(from, from + (ends.at(-1) ?? 0)), ends }
}

/** CSV from bytes by the compiled kernels. Each file has an instance of its own, whose memory goes with it. */
export const compiledCsv = (source: ByteSource, layout: CsvLayout): CsvKernel => new CompiledCsv(source, layout)

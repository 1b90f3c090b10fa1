import { kernelBytes } from './module.generated.ts'

/** What the module exports, as core/compiled/index.ts declares it; addresses and sizes in bytes. */
export type Exports = {
  readonly memory: WebAssembly.Memory
  readonly allocate: (bytes: number) => number
  readonly mark: () => number
  readonly release: (to: number) => void
  readonly makeDictionary: () => number
  readonly dictionarySize: (dictionary: number) => number
  readonly dictionaryBytes: (dictionary: number) => number
  readonly dictionaryEnd: (dictionary: number, code: number) => number
  readonly codeOf: (dictionary: number, bytes: number, length: number) => number
  readonly codesOf: (
    dictionary: number,
    block: number,
    cuts: number,
    stride: number,
    rows: number,
    codes: number,
  ) => void
  readonly cut: (
    block: number,
    end: number,
    last: boolean,
    width: number,
    most: number,
    delimiter: number,
    quote: number,
    cuts: number,
    places: number,
  ) => number
  readonly next: WebAssembly.Global
  readonly odd: WebAssembly.Global
  readonly numbers: (
    block: number,
    cuts: number,
    stride: number,
    rows: number,
    mark: number,
    values: number,
    flags: number,
  ) => number
  readonly arithmetic: (operation: number, a: number, b: number, to: number, count: number, limit: number) => number
  readonly outsideOf: (values: number, count: number, limit: number, first: number, rows: number) => number
  readonly addTotals: (values: number, ids: number, count: number, totals: number) => void
  readonly addTwoTotals: (values: number, others: number, ids: number, count: number, totals: number) => void
  readonly leaveOut: (values: number, empty: number, ids: number, count: number, emptied: number) => void
  readonly blockColumnBytes: WebAssembly.Global
  readonly needCare: (bytes: number, ends: number, count: number, guard: boolean) => number
  readonly writeNumbers: (values: number, nulls: number, count: number, bytes: number, ends: number) => number
  readonly wovenBytes: (columns: number, width: number, rows: number) => number
  readonly weave: (columns: number, width: number, rows: number, out: number) => number
  readonly numberCodes: (values: number, nulls: number, count: number, codes: number) => number
  readonly rowsOfCodes: (
    codes: number,
    count: number,
    keep: number,
    wanted: number,
    first: number,
    rows: number,
  ) => number
  readonly countCodes: (codes: number, count: number, counts: number, stride: number) => void
  readonly firstRows: (codes: number, count: number, first: number, firsts: number) => void
  readonly pairCodes: (a: number, factor: number, b: number, count: number, codes: number) => void
  readonly beginCodes: (codes: number, places: number) => void
  readonly newCodes: (codes: number, count: number, known: number, place: number) => number
  readonly newCodesOf: (
    codes: number,
    rows: number,
    count: number,
    first: number,
    known: number,
    place: number,
    to: number,
  ) => number
  readonly idsInOrder: (codes: number, count: number, idOf: number, place: number, ids: number) => number
  readonly idsOfRows: (
    codes: number,
    rows: number,
    count: number,
    first: number,
    idOf: number,
    place: number,
    ids: number,
  ) => number
  readonly lookUp: (codes: number, count: number, table: number, to: number) => void
  readonly matchRows: (codes: number, count: number, rows: number, met: number, to: number) => number
  readonly meetCodes: (codes: number, count: number, marks: number) => number
  readonly firstOfKeys: (codes: number, count: number, firsts: number) => number
  readonly marksOfRows: (rows: number, count: number, marks: number) => void
  readonly metMarks: (marks: number, count: number) => number
  readonly floatCodes: (values: number, count: number, below: number, codes: number) => void
  readonly clearEmpty: (codes: number, empty: number, count: number) => void
  readonly pairIds: (a: number, b: number, count: number, ids: number, first: number) => number
  readonly compareFloats: (
    values: number,
    count: number,
    constant: number,
    low: number,
    at: number,
    high: number,
    mask: number,
  ) => void
  readonly chosenRows: (mask: number, count: number, wanted: number, first: number, rows: number) => number
  readonly putAbove: (ranks: number, count: number, bits: number, words: number) => void
  readonly sortRows: (order: number, keys: number, count: number, bits: number) => number
  readonly scaledRanks: (
    values: number,
    empty: number,
    count: number,
    scale: number,
    from: number,
    sign: number,
    last: number,
    to: number,
  ) => number
  readonly texts: (
    block: number,
    cuts: number,
    stride: number,
    rows: number,
    bytes: number,
    ends: number,
    before: number,
  ) => number
}

/** As the runtime says it of its own buffers. */
const outOfMemory = (): never => {
  throw new RangeError('Array buffer allocation failed')
}

let compiled: WebAssembly.Module | undefined

/** An instance of the compiled kernels with its own memory, which goes with it. */
export class Instance {
  readonly run: Exports
  private whole = new Uint8Array(0)
  constructor() {
    compiled ??= new WebAssembly.Module(Uint8Array.from(atob(kernelBytes), (sign) => sign.charCodeAt(0)))
    const imports = { memory: { outOfMemory } }
    this.run = new WebAssembly.Instance(compiled, imports).exports as Exports
  }
  /** All of the memory; views on it end when it grows. */
  get bytes(): Uint8Array {
    if (this.whole.buffer !== this.run.memory.buffer) this.whole = new Uint8Array(this.run.memory.buffer)
    return this.whole
  }
  /** The address of a copy of a buffer. */
  put(buffer: Float64Array | Int32Array | Uint32Array | Uint8Array): number {
    const at = this.run.allocate(buffer.byteLength)
    this.bytes.set(new Uint8Array(buffer.buffer, buffer.byteOffset, buffer.byteLength), at)
    return at
  }
  /** The address of `bytes` bytes that all hold `value`. */
  filled(bytes: number, value: number): number {
    const at = this.run.allocate(bytes)
    this.bytes.fill(value, at, at + bytes)
    return at
  }
  uint32s(at: number, length: number): Uint32Array {
    return new Uint32Array(this.run.memory.buffer, at, length)
  }
  int32s(at: number, length: number): Int32Array {
    return new Int32Array(this.run.memory.buffer, at, length)
  }
  float64s(at: number, length: number): Float64Array {
    return new Float64Array(this.run.memory.buffer, at, length)
  }
}

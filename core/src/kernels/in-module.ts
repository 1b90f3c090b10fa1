import { Instance } from './instance.ts'

/** An instance with more memory than this is dropped after use. */
const mostKept = 256 << 20
let shared: Instance | undefined
/** Work in the memory of the module, which is given back at the end. */
export const inModule = <T>(work: (instance: Instance) => T): T => {
  const instance = (shared ??= new Instance())
  const from = instance.run.mark()
  try {
    return work(instance)
  } catch (error) {
    // what was left half done is not to be trusted
    shared = undefined
    throw error
  } finally {
    instance.run.release(from)
    if (instance.bytes.length > mostKept) shared = undefined
  }
}

/** Rows that are copied into the module at a time, so that they are still in the cache of the processor when they are read. */
export const rowsACopy = 16_384
/** The parts of rows that are copied at a time. */
export const inCopies = (rows: number, each: (from: number, end: number) => void): void => {
  for (let from = 0; from < rows; from += rowsACopy) each(from, Math.min(rows, from + rowsACopy))
}

/** Copies values in, some thousand at a time, and out what `make` puts behind `made` for each. */
export const mapCopies = (
  instance: Instance,
  given: Uint32Array | Float64Array,
  to: Uint32Array | Int32Array | Uint8Array,
  make: (block: number, count: number, made: number) => void,
): void => {
  const [block, made] = [given, to].map((one) => instance.run.allocate(rowsACopy * one.BYTES_PER_ELEMENT)) as [
    number,
    number,
  ]
  const view = given instanceof Float64Array ? instance.float64s(block, rowsACopy) : instance.uint32s(block, rowsACopy)
  const madeView =
    to instanceof Uint8Array ? instance.bytes.subarray(made, made + rowsACopy) : instance.uint32s(made, rowsACopy)
  inCopies(given.length, (from, end) => {
    view.set(given.subarray(from, end))
    make(block, end - from, made)
    to.set(madeView.subarray(0, end - from), from)
  })
}

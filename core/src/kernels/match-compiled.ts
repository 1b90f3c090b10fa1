import { inCopies, inModule, mapCopies, rowsACopy } from './in-module.ts'
import type { Instance } from './instance.ts'
import type { FilledNumbers, Meeting, TableKernels } from './table-kernels.ts'

/** Work that marks codes, whose marks are copied in before it and out after it; what it gives. */
const marking = (marks: Uint8Array, work: (instance: Instance, held: number) => number): number =>
  inModule((instance) => {
    const held = instance.put(marks)
    const given = work(instance, held)
    marks.set(instance.bytes.subarray(held, held + marks.length))
    return given
  })

/** Rows of the other table by codes, copied in and out some thousand at a time. */
export const matchRows: TableKernels['matchRows'] = (codes, rows, met, to) =>
  marking(met, (instance, marks) => {
    const held = instance.put(rows)
    let missing = 0
    mapCopies(instance, codes, to, (block, count, made) => {
      missing += instance.run.matchRows(block, count, held, marks, made)
    })
    return missing
  })

/** Codes of whole numbers less `below`, 0 for empty ones, some thousand rows at a time. */
const inCodes = (
  instance: Instance,
  { values, nulls }: FilledNumbers,
  below: number,
  each: (codes: number, from: number, end: number) => void,
): void => {
  const { run } = instance
  const [block, codes] = [run.allocate(rowsACopy * 8), run.allocate(rowsACopy * 4)]
  const empty = run.allocate(rowsACopy >> 3)
  const view = instance.float64s(block, rowsACopy)
  const bits = instance.bytes.subarray(empty, empty + (rowsACopy >> 3))
  inCopies(values.length, (from, end) => {
    view.set(values.subarray(from, end))
    run.floatCodes(block, end - from, below, codes)
    if (nulls) {
      bits.set(nulls.subarray(from >> 3, (end + 7) >> 3))
      run.clearEmpty(codes, empty, end - from)
    }
    each(codes, from, end)
  })
}
/** As `matchRows`, of numbers whose codes are made on the way. */
export const matchNumbers: TableKernels['matchNumbers'] = (numbers, below, rows, met, to) =>
  marking(met, (instance, marks) => {
    const { run } = instance
    const held = instance.put(rows)
    const made = run.allocate(rowsACopy * 4)
    let missing = 0
    inCodes(instance, numbers, below, (codes, from, end) => {
      missing += run.matchRows(codes, end - from, held, marks, made)
      to.set(instance.int32s(made, end - from), from)
    })
    return missing
  })

/** The first rows of codes by the compiled kernels. */
export const firstOfKeys: TableKernels['firstOfKeys'] = ({ codes, bound }) =>
  inModule((instance) => {
    const firsts = instance.filled(bound * 4, 255)
    const repeated = instance.run.firstOfKeys(instance.put(codes), codes.length, firsts)
    return { first: instance.int32s(firsts, bound).slice(), repeated }
  })

/** Codes that are met, block by block. */
const meeting = (
  rows: Int32Array,
  blocks: (instance: Instance, meet: (codes: number, count: number) => void) => void,
): Meeting =>
  inModule((instance) => {
    const { run } = instance
    const held = run.allocate(rows.length)
    run.marksOfRows(instance.put(rows), rows.length, held)
    let missing = 0
    blocks(instance, (codes, count) => (missing += run.meetCodes(codes, count, held)))
    const met = run.metMarks(held, rows.length)
    return { missing, met, marks: instance.bytes.slice(held, held + rows.length) }
  })
/** Codes that are met, in the module. */
export const meetCodes: TableKernels['meetCodes'] = (codes, rows) =>
  meeting(rows, (instance, meet) => {
    const block = instance.run.allocate(rowsACopy * 4)
    const view = instance.uint32s(block, rowsACopy)
    inCopies(codes.length, (from, end) => {
      view.set(codes.subarray(from, end))
      meet(block, end - from)
    })
  })
/** As `meetCodes`, of numbers whose codes are made on the way. */
export const meetNumbers: TableKernels['meetNumbers'] = (numbers, below, rows) =>
  meeting(rows, (instance, meet) => inCodes(instance, numbers, below, (codes, from, end) => meet(codes, end - from)))

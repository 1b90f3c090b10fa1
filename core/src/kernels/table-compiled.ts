import { Instance } from './instance.ts'
import { float64s, int32s } from './memory.ts'
import { operations, type TableKernels } from './table-kernels.ts'
import { rowsABlock, stacked, tableReference } from './table-reference.ts'

/** An instance with more memory than this is dropped after use. */
const mostKept = 256 << 20
/** Columns with more rows are left to the reference: with all that a kernel needs beside them they would not fit the 4 GB of a module. */
const mostRows = 40_000_000

let shared: Instance | undefined
/** Work in the memory of the module, which is given back at the end. */
const inModule = <T>(work: (instance: Instance) => T): T => {
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

/** The compiled kernel for columns that fit the module, the reference for longer ones and where no memory is left for the copies. */
const where =
  <A extends readonly unknown[], R>(
    rowsOf: (...args: A) => number,
    compiled: (...args: A) => R,
    reference: (...args: A) => R,
  ): ((...args: A) => R) =>
  (...args) => {
    if (rowsOf(...args) > mostRows) return reference(...args)
    try {
      return compiled(...args)
    } catch (error) {
      if (error instanceof RangeError) return reference(...args)
      throw error
    }
  }

const arithmetic: TableKernels['arithmetic'] = (operation, a, b, to, limit) =>
  inModule((instance) => {
    const { run } = instance
    const [left, right, out] = [0, 1, 2].map(() => run.allocate(rowsABlock * 8)) as [number, number, number]
    const views = [left, right, out].map((at) => instance.float64s(at, rowsABlock)) as [
      Float64Array,
      Float64Array,
      Float64Array,
    ]
    if (typeof a === 'number') views[0].fill(a)
    if (typeof b === 'number') views[1].fill(b)
    const code = operations.indexOf(operation)
    const rows = run.allocate(rowsABlock * 4)
    const outside: Int32Array[] = []
    for (let from = 0; from < to.length; from += rowsABlock) {
      const end = Math.min(to.length, from + rowsABlock)
      if (typeof a !== 'number') views[0].set(a.subarray(from, end))
      if (typeof b !== 'number') views[1].set(b.subarray(from, end))
      // what an odd count leaves of the block before is computed too, and passed over below
      if (run.arithmetic(code, left, right, out, (end - from + 1) & ~1, limit))
        outside.push(instance.int32s(rows, run.outsideOf(out, end - from, limit, from, rows)).slice())
      to.set(views[2].subarray(0, end - from), from)
    }
    return stacked(outside)
  })

const groupTotals: TableKernels['groupTotals'] = (values, nulls, ids, count) =>
  inModule((instance) => {
    const { run } = instance
    const totals = run.allocate(count * 24)
    instance.bytes.fill(0, totals, totals + count * 24)
    const bits = nulls ? instance.put(nulls) : 0
    run.addTotals(instance.put(values), bits, instance.put(ids), values.length, totals)
    const made = instance.float64s(totals, count * 3)
    const sums = float64s(count)
    const counts = int32s(count)
    for (let g = 0; g < count; g++) {
      sums[g] = made[g * 3]! + made[g * 3 + 1]!
      counts[g] = made[g * 3 + 2]!
    }
    return { sums, counts }
  })

const numberCodes: TableKernels['numberCodes'] = (values, nulls) =>
  inModule((instance) => {
    const codes = instance.run.allocate(values.length * 4)
    const bits = nulls ? instance.put(nulls) : 0
    const count = instance.run.numberCodes(instance.put(values), bits, values.length, codes)
    return { codes: instance.uint32s(codes, values.length).slice(), bound: count + 1 }
  })

const pairGroups: TableKernels['pairGroups'] = (a, b) =>
  inModule((instance) => {
    const ids = instance.run.allocate(a.length * 4)
    const first = instance.run.allocate(a.length * 4)
    const count = instance.run.pairIds(instance.put(a), instance.put(b), a.length, ids, first)
    return { ids: instance.uint32s(ids, a.length).slice(), count, first: instance.int32s(first, count).slice() }
  })

const compareFloats: TableKernels['compareFloats'] = (values, constant, { below, at, above }) =>
  inModule((instance) => {
    const mask = instance.run.allocate(values.length)
    const [low, same, high] = [Number(below), Number(at), Number(above)]
    instance.run.compareFloats(instance.put(values), values.length, constant, low, same, high, mask)
    return instance.bytes.slice(mask, mask + values.length)
  })

const chosenRows: TableKernels['chosenRows'] = (mask, wanted) =>
  inModule((instance) => {
    const rows = instance.run.allocate(mask.length * 4 + 4)
    const count = instance.run.chosenRows(instance.put(mask), mask.length, wanted, rows)
    return instance.int32s(rows, count).slice()
  })

const sortRows: TableKernels['sortRows'] = (order, keys, bits) =>
  inModule((instance) => {
    const rows = order ? instance.put(order) : instance.run.allocate(keys.length * 4)
    instance.run.sortRows(rows, instance.put(keys), keys.length, bits, order === undefined)
    return instance.int32s(rows, keys.length).slice()
  })

/** The loops over columns by the compiled kernels. Columns are copied into the module and results out of it. */
export const tableCompiled: TableKernels = {
  arithmetic,
  groupTotals: where(
    (values, _nulls, _ids, count) => Math.max(values.length, count),
    groupTotals,
    tableReference.groupTotals,
  ),
  numberCodes: where((values) => values.length, numberCodes, tableReference.numberCodes),
  pairGroups: where((a) => a.length, pairGroups, tableReference.pairGroups),
  compareFloats: where((values) => values.length, compareFloats, tableReference.compareFloats),
  chosenRows: where((mask) => mask.length, chosenRows, tableReference.chosenRows),
  sortRows: where((_, keys) => keys.length, sortRows, tableReference.sortRows),
}

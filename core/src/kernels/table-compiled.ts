import { CodeCounts } from './code-counts.ts'
import { FormulaBlocks } from './formula-compiled.ts'
import { groupCodes, groupPairs, totalsByCode } from './groups-compiled.ts'
import { inCopies, inModule, mapCopies, rowsACopy } from './in-module.ts'
import type { Instance } from './instance.ts'
import { uint32s, uint8s } from './memory.ts'
import { operations, type Ranks, type TableKernels } from './table-kernels.ts'
import { firstOfKeys, matchNumbers, matchRows, meetCodes, meetNumbers } from './match-compiled.ts'
import { textCodes } from './text-codes-compiled.ts'
import { rowsABlock, stacked, tableReference } from './table-reference.ts'
import { groupTotals } from './totals-compiled.ts'

/** Columns with more rows are left to the reference: with all that a kernel needs beside them they would not fit the 4 GB of a module. */
const mostRows = 40_000_000

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

const calculate: TableKernels['calculate'] = (formula, to) =>
  inModule((instance) => {
    const blocks = new FormulaBlocks(instance)
    const at = blocks.placeOf(formula)
    const made = instance.float64s(at, rowsACopy)
    inCopies(to.length, (from, end) => {
      blocks.fill(from, end)
      to.set(made.subarray(0, end - from), from)
    })
  })

const countCodes: TableKernels['countCodes'] = (codes, bound) =>
  inModule((instance) => {
    const counting = new CodeCounts(instance, bound)
    const block = instance.run.allocate(rowsACopy * 4)
    const view = instance.uint32s(block, rowsACopy)
    inCopies(codes.length, (from, end) => {
      view.set(codes.subarray(from, end))
      counting.add(block, end - from)
    })
    return counting.counts
  })

const firstRows: TableKernels['firstRows'] = ({ codes, bound }) =>
  inModule((instance) => {
    const firsts = instance.filled(bound * 4, 255)
    const block = instance.run.allocate(rowsACopy * 4)
    const view = instance.uint32s(block, rowsACopy)
    inCopies(codes.length, (from, end) => {
      view.set(codes.subarray(from, end))
      instance.run.firstRows(block, end - from, from, firsts)
    })
    return instance.int32s(firsts, bound).slice()
  })

const rowsOfCodes: TableKernels['rowsOfCodes'] = (codes, keep, wanted) =>
  inModule((instance) => {
    const { run } = instance
    const kept = instance.put(keep)
    const block = run.allocate(rowsACopy * 4)
    const rows = run.allocate(codes.length * 4 + 16)
    const view = instance.uint32s(block, rowsACopy)
    let count = 0
    inCopies(codes.length, (from, end) => {
      view.set(codes.subarray(from, end))
      count += run.rowsOfCodes(block, end - from, kept, wanted, from, rows + count * 4)
    })
    return instance.int32s(rows, count).slice()
  })

const lookUp: TableKernels['lookUp'] = (codes, table, to) =>
  inModule((instance) => {
    const held = instance.put(table)
    mapCopies(instance, codes, to, (block, count, made) => instance.run.lookUp(block, count, held, made))
  })

const floatCodes: TableKernels['floatCodes'] = (values, below) =>
  inModule((instance) => {
    const codes = uint32s(values.length)
    // what an odd count leaves of the block before is computed too
    mapCopies(instance, values, codes, (block, count, made) => instance.run.floatCodes(block, count, below, made))
    return codes
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
    const [low, same, high] = [Number(below), Number(at), Number(above)]
    const mask = uint8s(values.length)
    mapCopies(instance, values, mask, (block, count, made) =>
      instance.run.compareFloats(block, count, constant, low, same, high, made),
    )
    return mask
  })

const chosenRows: TableKernels['chosenRows'] = (mask, wanted) =>
  inModule((instance) => {
    const block = instance.run.allocate(rowsACopy)
    const rows = instance.run.allocate(mask.length * 4 + 16)
    const view = instance.bytes.subarray(block, block + rowsACopy)
    let count = 0
    inCopies(mask.length, (from, end) => {
      view.set(mask.subarray(from, end))
      count += instance.run.chosenRows(block, end - from, wanted, from, rows + count * 4)
    })
    return instance.int32s(rows, count).slice()
  })

const scaledRanks: TableKernels['scaledRanks'] = ({ values, nulls }, { scale, low, high, descending }, to) =>
  inModule((instance) => {
    const { run } = instance
    const [block, made] = [run.allocate(rowsACopy * 8), run.allocate(rowsACopy * 4)]
    const empty = nulls ? run.allocate(rowsACopy >> 3) : 0
    const bits = instance.bytes.subarray(empty, empty + (rowsACopy >> 3))
    const [view, madeView] = [instance.float64s(block, rowsACopy), instance.uint32s(made, rowsACopy)]
    const [from, sign, last] = [descending ? high : low, descending ? -1 : 1, high - low + 1]
    let areWhole = true
    inCopies(values.length, (begin, end) => {
      if (!areWhole) return
      view.set(values.subarray(begin, end))
      if (nulls) bits.set(nulls.subarray(begin >> 3, (end + 7) >> 3))
      areWhole = run.scaledRanks(block, empty, end - begin, scale, from, sign, last, made) !== 0
      to.set(madeView.subarray(0, end - begin), begin)
    })
    return areWhole
  })

/** The address of ranks above one another, a word a row. */
const wordsIn = (instance: Instance, [first, ...others]: readonly Ranks[]): number => {
  const made = instance.put(first!.ranks)
  const block = instance.run.allocate(rowsACopy * 4)
  const view = instance.uint32s(block, rowsACopy)
  let below = first!.bits
  for (const { ranks, bits } of others) {
    const shift = below
    inCopies(ranks.length, (from, end) => {
      view.set(ranks.subarray(from, end))
      instance.run.putAbove(block, end - from, shift, made + from * 4)
    })
    below += bits
  }
  return made
}
const sortRows: TableKernels['sortRows'] = (order, words) =>
  inModule((instance) => {
    const count = words[0]!.ranks.length
    const bits = words.reduce((sum, word) => sum + word.bits, 0)
    const rows = instance.run.sortRows(order ? instance.put(order) : 0, wordsIn(instance, words), count, bits)
    return instance.int32s(rows, count).slice()
  })

/** The loops over columns by the compiled kernels. Columns are copied into the module and results out of it. */
export const tableCompiled: TableKernels = {
  arithmetic,
  calculate: (formula, to) => {
    try {
      calculate(formula, to)
    } catch (error) {
      if (!(error instanceof RangeError)) throw error
      tableReference.calculate(formula, to)
    }
  },
  groupTotals: where(
    (columns, ids, count) => Math.max(ids.length, count * columns.length),
    groupTotals,
    tableReference.groupTotals,
  ),
  countCodes: where((codes, bound) => Math.max(codes.length, bound * 4), countCodes, tableReference.countCodes),
  firstRows: where(({ codes, bound }) => Math.max(codes.length, bound), firstRows, tableReference.firstRows),
  totalsByCode: where(
    ({ a, b }, columns) => Math.max(a.codes.length, a.bound * (b?.bound ?? 1) * Math.max(1, columns.length)),
    totalsByCode,
    tableReference.totalsByCode,
  ),
  groupCodes: where(({ codes, bound }) => Math.max(codes.length, bound), groupCodes, tableReference.groupCodes),
  groupPairs: where((a, b) => Math.max(a.codes.length, a.bound * b.bound), groupPairs, tableReference.groupPairs),
  rowsOfCodes: where((codes) => codes.length, rowsOfCodes, tableReference.rowsOfCodes),
  lookUp: where((codes, table) => Math.max(codes.length, table.length), lookUp, tableReference.lookUp),
  matchRows: where((codes, rows) => Math.max(codes.length, rows.length), matchRows, tableReference.matchRows),
  matchNumbers: where(
    ({ values }, _, rows) => Math.max(values.length, rows.length),
    matchNumbers,
    tableReference.matchNumbers,
  ),
  firstOfKeys: where(({ codes, bound }) => Math.max(codes.length, bound), firstOfKeys, tableReference.firstOfKeys),
  meetCodes: where((codes, rows) => Math.max(codes.length, rows.length), meetCodes, tableReference.meetCodes),
  meetNumbers: where(
    ({ values }, _, rows) => Math.max(values.length, rows.length),
    meetNumbers,
    tableReference.meetNumbers,
  ),
  floatCodes: where((values) => values.length, floatCodes, tableReference.floatCodes),
  numberCodes: where((values) => values.length, numberCodes, tableReference.numberCodes),
  textCodes: where(({ starts }) => starts.length, textCodes, tableReference.textCodes),
  pairGroups: where((a) => a.length, pairGroups, tableReference.pairGroups),
  compareFloats: where((values) => values.length, compareFloats, tableReference.compareFloats),
  chosenRows: where((mask) => mask.length, chosenRows, tableReference.chosenRows),
  scaledRanks: where(({ values }) => values.length, scaledRanks, tableReference.scaledRanks),
  sortRows: where((_, [first]) => first!.ranks.length, sortRows, tableReference.sortRows),
}

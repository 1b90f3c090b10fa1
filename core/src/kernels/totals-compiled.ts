import { inCopies, inModule, rowsACopy } from './in-module.ts'
import type { Instance } from './instance.ts'
import { float64s, int32s, uint32s, type Bitmap } from './memory.ts'
import type { FilledNumbers, GroupTotals, TableKernels } from './table-kernels.ts'
import { pickBits, pickNumbers } from './totals-reference.ts'

/** One column whose totals are made: a block of its numbers in the module, and where its empty cells are counted, a word a group. */
type Summed = { readonly nulls: Bitmap | undefined; readonly at: number; readonly emptied: number }
/** Columns whose totals are made at once, two or one, and where these stand in the module. */
type Together = { readonly summed: readonly Summed[]; readonly totals: number }

/** Of a group: the sums of the columns, what is lost of each, and the count of rows, as the module keeps them. */
const wordsAGroup = (columns: number): number => columns * 2 + 1

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

/** Sums of groups, or of those that stand at `order`. */
const takeSums = (to: Float64Array, made: Float64Array, words: number, k: number, order: Uint32Array): void => {
  const n = to.length
  const lost = (words - 1) >> 1
  for (let g = 0; g < n; g++) {
    const at = order[g]! * words + k
    to[g] = made[at]! + made[at + lost]!
  }
}
const takeCounts = (to: Int32Array, counted: Int32Array, words: number, order: Uint32Array): void => {
  const n = to.length
  for (let g = 0; g < n; g++) to[g] = counted[order[g]! * words * 2]!
}
const lessEmpty = (counts: Int32Array, emptied: Int32Array, order: Uint32Array): void => {
  const n = counts.length
  for (let g = 0; g < n; g++) counts[g]! -= emptied[order[g]!]!
}

/** Totals of columns by group in the module, two columns at a time. Rows of no group, whose id is 2 ** 32 - 1, have an entry before those of the groups. */
export class TotalTables {
  private readonly instance: Instance
  private readonly count: number
  private readonly tables: readonly Together[]
  private readonly empty: number
  /** `columns` have their numbers in the blocks at `at`; `count` groups. */
  constructor(
    instance: Instance,
    columns: readonly { readonly nulls: Bitmap | undefined; readonly at: number }[],
    count: number,
  ) {
    this.instance = instance
    this.count = count
    const summed = columns.map(({ nulls, at }) => ({
      ...{ nulls, at },
      emptied: nulls ? instance.filled((count + 1) * 4, 0) : 0,
    }))
    this.tables = summed.flatMap((_, c) => (c % 2 === 0 ? [this.together(summed.slice(c, c + 2))] : []))
    this.empty = instance.run.allocate(rowsACopy >> 3)
  }
  private together(summed: readonly Summed[]): Together {
    return { summed, totals: this.instance.filled((this.count + 1) * wordsAGroup(summed.length) * 8, 0) }
  }
  /** Adds the numbers that stand in the blocks, of the rows from `from` up to `end`, or of those that are picked. */
  add(ids: number, from: number, end: number, picked?: Int32Array): void {
    const { run } = this.instance
    for (const { summed, totals } of this.tables) {
      for (const one of summed) if (one.nulls) this.leaveOut(one, one.nulls, ids, from, end, picked)
      const [first, second] = summed as [Summed, Summed?]
      if (second) run.addTwoTotals(first.at, second.at, ids, end - from, totals)
      else run.addTotals(first.at, ids, end - from, totals)
    }
  }
  private leaveOut(
    { at, emptied }: Summed,
    nulls: Bitmap,
    ids: number,
    from: number,
    end: number,
    picked: Int32Array | undefined,
  ): void {
    const bits = this.instance.bytes.subarray(this.empty, this.empty + (rowsACopy >> 3))
    if (picked) pickBits(bits, nulls, picked)
    else bits.set(nulls.subarray(from >> 3, (end + 7) >> 3))
    this.instance.run.leaveOut(at, this.empty, ids, end - from, emptied)
  }
  /** How many rows each group at `order` has, as the table of the first column counts them. */
  sizes(order: Uint32Array): Int32Array {
    return this.counts(this.tables[0]!, order)
  }
  private counts({ summed, totals }: Together, order: Uint32Array): Int32Array {
    const words = wordsAGroup(summed.length)
    const counted = this.instance.int32s(totals + (words + words - 1) * 8, (this.count * words - words + 1) * 2)
    const counts = int32s(order.length)
    takeCounts(counts, counted, words, order)
    return counts
  }
  /** The totals of each column, of the groups at `order`. */
  taken(order: Uint32Array): GroupTotals[] {
    return this.tables.flatMap((table) => {
      const words = wordsAGroup(table.summed.length)
      const made = this.instance.float64s(table.totals + words * 8, this.count * words)
      return table.summed.map(({ nulls, emptied }, k) => {
        const sums = float64s(order.length)
        takeSums(sums, made, words, k, order)
        const counts = this.counts(table, order)
        if (nulls) lessEmpty(counts, this.instance.int32s(emptied + 4, this.count), order)
        return { sums, counts }
      })
    })
  }
}

/** Totals by the compiled kernels. */
export const groupTotals: TableKernels['groupTotals'] = (columns, ids, count, rows) =>
  inModule((instance) => {
    const { run } = instance
    const groups = run.allocate(rowsACopy * 4)
    const blocks = columns.map(({ nulls }) => ({ nulls, at: run.allocate(rowsACopy * 8) }))
    const tables = new TotalTables(instance, blocks, count)
    const groupsView = instance.uint32s(groups, rowsACopy)
    const views = blocks.map(({ at }) => instance.float64s(at, rowsACopy))
    inCopies(ids.length, (from, end) => {
      groupsView.set(ids.subarray(from, end))
      const picked = rows?.subarray(from, end)
      columns.forEach(({ values }: FilledNumbers, c) => {
        if (picked) pickNumbers(views[c]!, values, picked)
        else views[c]!.set(values.subarray(from, end))
      })
      tables.add(groups, from, end, picked)
    })
    const order = uint32s(count)
    for (let group = 0; group < count; group++) order[group] = group
    return tables.taken(order)
  })

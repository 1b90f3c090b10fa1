import { inCopies, inModule, rowsACopy } from './in-module.ts'
import type { Instance } from './instance.ts'
import { float64s, int32s } from './memory.ts'
import type { FilledNumbers, GroupTotals, TableKernels } from './table-kernels.ts'
import { pickBits, pickNumbers } from './table-reference.ts'

/** One column whose totals are made: a copy of some of its numbers in the module, and where its empty cells are counted, a word a group. */
type Summed = { readonly column: FilledNumbers; readonly at: number; readonly emptied: number }
/** Columns whose totals are made at once, two or one, and where these stand in the module. */
type Together = { readonly summed: readonly Summed[]; readonly totals: number }

/** Of a group: the sums of the columns, what is lost of each, and the count of rows, as the module keeps them. */
const wordsAGroup = (columns: number): number => columns * 2 + 1

// rows of no group have an entry before those of the groups
const together = (instance: Instance, columns: readonly FilledNumbers[], count: number): Together => ({
  summed: columns.map((column) => ({
    column,
    at: instance.run.allocate(rowsACopy * 8),
    emptied: column.nulls ? instance.filled((count + 1) * 4, 0) : 0,
  })),
  totals: instance.filled((count + 1) * wordsAGroup(columns.length) * 8, 0),
})

const totalsIn = (instance: Instance, { summed, totals }: Together, count: number): GroupTotals[] => {
  const words = wordsAGroup(summed.length)
  const made = instance.float64s(totals + words * 8, count * words)
  const counted = instance.int32s(totals + words * 8, count * words * 2)
  return summed.map(({ column, emptied }, k) => {
    const [sums, counts] = [float64s(count), int32s(count)]
    for (let g = 0; g < count; g++) sums[g] = made[g * words + k]! + made[g * words + summed.length + k]!
    for (let g = 0; g < count; g++) counts[g] = counted[(g * words + words - 1) * 2]!
    const none = instance.int32s(emptied + 4, column.nulls ? count : 0)
    for (let g = 0; g < none.length; g++) counts[g]! -= none[g]!
    return { sums, counts }
  })
}

/** Totals by the compiled kernels: two columns at a time. */
export const groupTotals: TableKernels['groupTotals'] = (columns, ids, count, rows) =>
  inModule((instance) => {
    const { run } = instance
    const groups = run.allocate(rowsACopy * 4)
    const empty = run.allocate(rowsACopy >> 3)
    const tables = columns.flatMap((_, c) => (c % 2 === 0 ? [together(instance, columns.slice(c, c + 2), count)] : []))
    const groupsView = instance.uint32s(groups, rowsACopy)
    const views = new Map(
      tables.flatMap(({ summed }) => summed.map((one) => [one, instance.float64s(one.at, rowsACopy)] as const)),
    )
    const bits = instance.bytes.subarray(empty, empty + (rowsACopy >> 3))
    inCopies(ids.length, (from, end) => {
      groupsView.set(ids.subarray(from, end))
      const picked = rows?.subarray(from, end)
      for (const [{ column, at, emptied }, view] of views) {
        const { values, nulls } = column
        if (picked) pickNumbers(view, values, picked)
        else view.set(values.subarray(from, end))
        if (!nulls) continue
        if (picked) pickBits(bits, nulls, picked)
        else bits.set(nulls.subarray(from >> 3, (end + 7) >> 3))
        run.leaveOut(at, empty, groups, end - from, emptied)
      }
      for (const { summed, totals } of tables) {
        const [first, second] = summed as [Summed, Summed?]
        if (second) run.addTwoTotals(first.at, second.at, groups, end - from, totals)
        else run.addTotals(first.at, groups, end - from, totals)
      }
    })
    return tables.flatMap((table) => totalsIn(instance, table, count))
  })

import { CodeCounts } from './code-counts.ts'
import { FormulaBlocks } from './formula-compiled.ts'
import { inCopies, inModule, rowsACopy } from './in-module.ts'
import type { Instance } from './instance.ts'
import { uint32s } from './memory.ts'
import { firstOf } from './search.ts'
import { noGroup, type DenseCodes, type GroupKeys, type Groups, type TableKernels } from './table-kernels.ts'
import { TotalTables } from './totals-compiled.ts'

/** So many different codes there may be. */
const boundOf = ({ a, b }: GroupKeys): number => a.bound * (b?.bound ?? 1)

/** Rows of a block that are named, in the module: `count` of them, counted from `first`; `place` is that of the first of them among all that are named. */
type Named = { readonly rows: number; readonly count: number; readonly first: number; readonly place: number }

/** The codes of rows by one column or two in the module, a block at a time, and which of them are met, in order. */
class BlocksOfCodes {
  private readonly instance: Instance
  private readonly keys: GroupKeys
  private readonly left: number
  private readonly right: number
  private readonly rows: number
  private readonly metCodes: number
  private readonly metPlaces: number
  private place = 0
  constructor(instance: Instance, keys: GroupKeys) {
    const { run } = instance
    this.instance = instance
    this.keys = keys
    const most = Math.min(boundOf(keys), keys.a.codes.length) * 4
    this.metCodes = run.allocate(most)
    this.metPlaces = run.allocate(most)
    this.left = run.allocate(rowsACopy * 4)
    this.right = keys.b ? run.allocate(rowsACopy * 4) : 0
    this.rows = keys.rows ? run.allocate(rowsACopy * 4) : 0
    run.beginCodes(this.metCodes, this.metPlaces)
  }
  /** The address of the codes of the rows from `from` up to `end`. */
  fill(from: number, end: number): number {
    const { instance, left, right } = this
    const { a, b } = this.keys
    instance.uint32s(left, rowsACopy).set(a.codes.subarray(from, end))
    if (!b) return left
    instance.uint32s(right, rowsACopy).set(b.codes.subarray(from, end))
    instance.run.pairCodes(left, b.bound, right, end - from, left)
    return left
  }
  /** The rows of the block that are chosen; undefined where all are. */
  named(from: number, end: number): Named | undefined {
    const { rows } = this.keys
    if (!rows) return undefined
    // the chosen rows stand in order
    const next = firstOf(rows.length, (at) => rows[at]! >= end)
    const { place } = this
    this.instance.int32s(this.rows, rowsACopy).set(rows.subarray(place, next))
    this.place = next
    return { rows: this.rows, count: next - place, first: from, place }
  }
  /** Of the codes that were met, in order, the codes and the places of their first rows. */
  met(count: number): { readonly codes: Uint32Array; readonly first: Int32Array } {
    const { instance } = this
    return {
      codes: instance.uint32s(this.metCodes, count).slice(),
      first: instance.int32s(this.metPlaces, count).slice(),
    }
  }
}

/** Ids of rows by the compiled kernels. */
const idsOf = (keys: GroupKeys): Groups =>
  inModule((instance) => {
    const { run } = instance
    const blocks = new BlocksOfCodes(instance, keys)
    const idOf = instance.filled(boundOf(keys) * 4, 255)
    const made = run.allocate(rowsACopy * 4)
    const view = instance.uint32s(made, rowsACopy)
    const ids = uint32s(keys.a.codes.length)
    let count = 0
    inCopies(ids.length, (from, end) => {
      const codes = blocks.fill(from, end)
      const named = blocks.named(from, end)
      if (named) view.fill(noGroup)
      count = named
        ? run.idsOfRows(codes, named.rows, named.count, named.first, idOf, named.place, made)
        : run.idsInOrder(codes, end - from, idOf, from, made)
      ids.set(view.subarray(0, end - from), from)
    })
    return { ids, count, first: blocks.met(count).first }
  })
/** Groups by one column by the compiled kernels. */
export const groupCodes: TableKernels['groupCodes'] = (a, rows) => idsOf({ a, rows })
/** Groups by two columns by the compiled kernels. */
export const groupPairs: TableKernels['groupPairs'] = (a: DenseCodes, b: DenseCodes, rows) => idsOf({ a, b, rows })

/** Groups and their totals by the compiled kernels, a block of rows at a time, so that no column is made of what they are found by. */
export const totalsByCode: TableKernels['totalsByCode'] = (keys, columns) =>
  inModule((instance) => {
    const { run } = instance
    const bound = boundOf(keys)
    const blocks = new BlocksOfCodes(instance, keys)
    const known = instance.filled(bound, 0)
    const chosen = keys.rows ? run.allocate(rowsACopy * 4) : 0
    const formulas = new FormulaBlocks(instance)
    const summed = columns.map(({ numbers, nulls }) => ({
      nulls,
      // empty cells are overwritten
      at: nulls ? formulas.ownPlaceOf(numbers) : formulas.placeOf(numbers),
    }))
    const tables = new TotalTables(instance, summed, bound)
    const counting = columns.length === 0 ? new CodeCounts(instance, bound) : undefined
    let count = 0
    inCopies(keys.a.codes.length, (from, end) => {
      const codes = blocks.fill(from, end)
      const named = blocks.named(from, end)
      if (named) instance.uint32s(chosen, rowsACopy).fill(noGroup)
      count = named
        ? run.newCodesOf(codes, named.rows, named.count, named.first, known, named.place, chosen)
        : run.newCodes(codes, end - from, known, from)
      formulas.fill(from, end)
      tables.add(named ? chosen : codes, from, end)
      counting?.add(named ? chosen : codes, end - from)
    })
    const { codes, first } = blocks.met(count)
    const sizes = counting ? counting.of(codes) : tables.sizes(codes)
    return { codes, first, sizes, totals: tables.taken(codes) }
  })

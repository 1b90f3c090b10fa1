import { kernels } from '../kernels/kernels.ts'
import { int32s, uint32s } from '../kernels/memory.ts'
import type { DenseCodes, Groups } from '../kernels/table-kernels.ts'
import { codesOf } from './codes.ts'
import type { Column } from './column.ts'
import { gatherIndices } from './gather.ts'
import type { HeldBuffer } from './held-buffers.ts'
import { areMost } from './rows-in-order.ts'
import type { Table } from './table.ts'

/** Groups whose ids are worked out when somebody asks for them. */
abstract class LazyGroups implements Groups {
  private made: Uint32Array | undefined
  readonly count: number
  readonly first: Int32Array
  readonly sizes: Int32Array
  constructor(first: Int32Array, sizes: Int32Array) {
    this.count = first.length
    this.first = first
    this.sizes = sizes
  }
  get ids(): Uint32Array {
    this.made ??= this.make()
    return this.made
  }
  /** What is held while no ids are made. */
  abstract get held(): readonly (Uint32Array | Int32Array)[]
  protected abstract make(): Uint32Array
}

/** Groups of chosen rows of columns, with an id of every row of the columns: `noGroup` for those not chosen. */
export class GroupsOfChosen extends LazyGroups {
  readonly ofRows: Uint32Array
  readonly rows: Int32Array
  constructor({ ids, first, sizes }: Groups, rows: Int32Array) {
    super(first, sizes!)
    this.ofRows = ids
    this.rows = rows
  }
  get held(): readonly (Uint32Array | Int32Array)[] {
    return [this.ofRows, this.rows]
  }
  protected make(): Uint32Array {
    return gatherIndices(this.ofRows, this.rows)
  }
}

/** Figures of codes as those of groups, whose codes are `order`. */
export const ofGroups = <T extends Int32Array | Float64Array>(figures: T, order: Uint32Array, to: T): T => {
  const n = order.length
  for (let group = 0; group < n; group++) to[group] = figures[order[group]!]!
  return to
}
const filledOf = (counts: Int32Array): number => {
  let filled = 0
  for (let code = 0; code < counts.length; code++) if (counts[code]! > 0) filled++
  return filled
}
/** Groups of rows with equal codes; `order` has the code of each group. */
export class GroupsOfCodes extends LazyGroups {
  readonly coded: DenseCodes
  readonly order: Uint32Array
  constructor(coded: DenseCodes) {
    const counts = kernels().countCodes(coded.codes, coded.bound)
    const firsts = kernels().rowsOfNewCodes(coded, filledOf(counts))
    const order = gatherIndices(coded.codes, firsts)
    super(firsts, ofGroups(counts, order, int32s(order.length)))
    this.coded = coded
    this.order = order
  }
  get held(): readonly (Uint32Array | Int32Array)[] {
    return [this.coded.codes]
  }
  protected make(): Uint32Array {
    const { codes, bound } = this.coded
    const groupOf = int32s(bound)
    this.order.forEach((code, group) => (groupOf[code] = group))
    const ids = uint32s(codes.length)
    kernels().lookUp(codes, groupOf, ids)
    return ids
  }
}

/** The buffers that groups hold. */
export const buffersOfGroups = (groups: Groups): HeldBuffer[] =>
  (groups instanceof LazyGroups ? groups.held : [groups.ids]).map(({ buffer, byteLength }) => [buffer, byteLength])

/** Pairs whose codes have a product below this are told apart by it. */
const mostProduct = 1 << 22
const fitTable = (a: DenseCodes, b: DenseCodes): boolean => a.bound * b.bound <= mostProduct
/** Groups of rows equal in two codes. */
export const pairCodes = (a: DenseCodes, b: DenseCodes): Groups =>
  fitTable(a, b) ? kernels().groupPairs(a, b) : kernels().pairGroups(a.codes, b.codes)

/** Groups of rows equal in all these columns. No columns: one group of all rows, none where there are no rows. */
export const groupBy = (columns: readonly Column[], rowCount: number): Groups =>
  groupsOf(
    columns.map((column) => () => codesOf(column)),
    rowCount,
  )
/** Groups of the rows of a table that are equal in all these columns; of no columns as `groupBy`. */
export const groupRows = (table: Table, names: readonly string[]): Groups => {
  const positions = names.map((name) => table.positionOf(name))
  const before = table.beforeChoice(positions)
  const codesAmong = (of: Table) => (at: number) => () => of.codes(at)
  // of most rows the columns are coded as they stand
  return before?.rows && areMost(before.rows, before.table.rowCount)
    ? groupsOfChosen([...positions.keys()].map(codesAmong(before.table)), before.rows)
    : groupsOf(positions.map(codesAmong(table)), table.rowCount)
}

/** Codes that are few, or far fewer than their rows, are counted sooner than rows are numbered. */
const areFewCodes = ({ codes, bound }: DenseCodes): boolean => bound <= Math.max(4096, codes.length >> 3)
// codes are made one after the other, so that no more than two are held
const groupsOf = (columns: readonly (() => DenseCodes)[], rowCount: number): Groups => {
  const [first, second, ...rest] = columns
  if (!first)
    return { ids: uint32s(rowCount), count: rowCount > 0 ? 1 : 0, first: new Int32Array(rowCount > 0 ? 1 : 0) }
  const codes = first()
  if (!second) return areFewCodes(codes) ? new GroupsOfCodes(codes) : kernels().groupCodes(codes)
  return rest.reduce(
    (groups, column) => pairCodes({ codes: groups.ids, bound: groups.count }, column()),
    pairCodes(codes, second()),
  )
}
/** Groups of chosen rows of columns. */
const groupsOfChosen = (columns: readonly (() => DenseCodes)[], rows: Int32Array): Groups => {
  const ofChosen =
    (column: () => DenseCodes): (() => DenseCodes) =>
    () => {
      const { codes, bound } = column()
      return { codes: gatherIndices(codes, rows), bound }
    }
  const [first, ...rest] = columns as [() => DenseCodes, ...(() => DenseCodes)[]]
  let codes = first()
  if (rest.length === 0) return new GroupsOfChosen(kernels().groupCodes(codes, rows), rows)
  let groups: Groups | undefined
  for (const [k, column] of rest.entries()) {
    const [known, other] = [codes, column()]
    if (!fitTable(known, other))
      return groupsOf([() => known, () => other, ...rest.slice(k + 1)].map(ofChosen), rows.length)
    groups = kernels().groupPairs(known, other, rows)
    codes = { codes: groups.ids, bound: groups.count }
  }
  return new GroupsOfChosen(groups!, rows)
}

import { kernels } from '../kernels/kernels.ts'
import { int32s, uint32s } from '../kernels/memory.ts'
import type {
  CodedGroups,
  DenseCodes,
  GroupKeys,
  Groups,
  GroupTotals,
  SummedNumbers,
} from '../kernels/table-kernels.ts'
import { codesOf } from './codes.ts'
import type { Column } from './column.ts'
import { gatherIndices } from './gather.ts'
import type { HeldBuffer } from './held-buffers.ts'
import { areMost } from './rows-in-order.ts'
import type { Table } from './table.ts'

/** Groups of chosen rows of columns, with an id of every row of the columns: `noGroup` for those not chosen. Ids of the chosen rows are gathered when somebody asks for them. */
export class GroupsOfChosen implements Groups {
  readonly count: number
  readonly first: Int32Array
  readonly ofRows: Uint32Array
  readonly rows: Int32Array
  private made: Uint32Array | undefined
  constructor({ ids, first }: Groups, rows: Int32Array) {
    this.count = first.length
    this.first = first
    this.ofRows = ids
    this.rows = rows
  }
  get ids(): Uint32Array {
    this.made ??= gatherIndices(this.ofRows, this.rows)
    return this.made
  }
}

/** Groups of rows by few codes, which are counted when somebody asks for them, with totals where these are asked for first. */
export class GroupsOfCodes implements Groups {
  readonly keys: GroupKeys
  private counted: Omit<CodedGroups, 'totals'> | undefined
  private made: Uint32Array | undefined
  constructor(keys: GroupKeys) {
    this.keys = keys
  }
  /** The totals of numbers that have a row for each row of the codes. */
  totals(columns: readonly SummedNumbers[]): readonly GroupTotals[] {
    const { totals, ...counted } = kernels().totalsByCode(this.keys, columns)
    this.counted = counted
    return totals
  }
  private get known(): Omit<CodedGroups, 'totals'> {
    if (!this.counted) this.totals([])
    return this.counted!
  }
  get count(): number {
    return this.known.first.length
  }
  get first(): Int32Array {
    return this.known.first
  }
  /** How many rows each group has. */
  get sizes(): Int32Array {
    return this.known.sizes
  }
  get ids(): Uint32Array {
    this.made ??= this.make()
    return this.made
  }
  private make(): Uint32Array {
    const { a, b, rows } = this.keys
    if (rows) return gatherIndices((b ? kernels().groupPairs(a, b, rows) : kernels().groupCodes(a, rows)).ids, rows)
    if (b) return kernels().groupPairs(a, b).ids
    const groupOf = int32s(a.bound)
    this.known.codes.forEach((code, group) => (groupOf[code] = group))
    const ids = uint32s(a.codes.length)
    kernels().lookUp(a.codes, groupOf, ids)
    return ids
  }
}

/** What groups hold, but ids that can be had again. */
const heldBy = (groups: Groups): readonly (Uint32Array | Int32Array)[] => {
  if (groups instanceof GroupsOfChosen) return [groups.ofRows, groups.rows]
  if (!(groups instanceof GroupsOfCodes)) return [groups.ids]
  const { a, b, rows } = groups.keys
  return [a.codes, ...(b ? [b.codes] : []), ...(rows ? [rows] : [])]
}
/** The buffers that groups hold. */
export const buffersOfGroups = (groups: Groups): HeldBuffer[] =>
  heldBy(groups).map(({ buffer, byteLength }) => [buffer, byteLength])

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
const areFewCodes = (bound: number, rows: number): boolean => bound <= Math.max(4096, rows >> 3)
// codes are made one after the other, so that no more than two are held
const groupsOf = (columns: readonly (() => DenseCodes)[], rowCount: number): Groups => {
  const [first, ...rest] = columns
  const last = rest.pop()
  if (!first)
    return { ids: uint32s(rowCount), count: rowCount > 0 ? 1 : 0, first: new Int32Array(rowCount > 0 ? 1 : 0) }
  const a = rest.reduce<DenseCodes>((codes, column) => {
    const groups = pairCodes(codes, column())
    return { codes: groups.ids, bound: groups.count }
  }, first())
  const b = last?.()
  if (areFewCodes(a.bound * (b?.bound ?? 1), rowCount)) return new GroupsOfCodes({ a, b })
  return b ? pairCodes(a, b) : kernels().groupCodes(a)
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
  let a = first()
  for (const [k, column] of rest.entries()) {
    const b = column()
    if (!fitTable(a, b)) {
      const known = a
      return groupsOf([() => known, () => b, ...rest.slice(k + 1)].map(ofChosen), rows.length)
    }
    const isLast = k === rest.length - 1
    if (isLast && areFewCodes(a.bound * b.bound, a.codes.length)) return new GroupsOfCodes({ a, b, rows })
    const groups = kernels().groupPairs(a, b, rows)
    if (isLast) return new GroupsOfChosen(groups, rows)
    a = { codes: groups.ids, bound: groups.count }
  }
  return areFewCodes(a.bound, a.codes.length)
    ? new GroupsOfCodes({ a, rows })
    : new GroupsOfChosen(kernels().groupCodes(a, rows), rows)
}

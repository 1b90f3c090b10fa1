import { cellAt, isNullAt, lengthOf, type Cell, type Column, type ColumnType } from './column.ts'
import { codesOf, codingOf } from './codes.ts'
import { gather, gatherIndices, isComplete, sliceRows } from './gather.ts'
import { columnBuffers, type HeldBuffer } from './held-buffers.ts'
import type { DenseCodes, SummedNumbers } from '../kernels/table-kernels.ts'
import { LazyColumn } from './lazy-column.ts'
import { areMost, isRowsInOrder } from './rows-in-order.ts'
import { Selection } from './selection.ts'

/** A column by name and type. */
export type Field = { readonly name: string; readonly type: ColumnType }
/** The columns of a table, in order; names are distinct. */
export type Schema = readonly Field[]

const isLazy = (base: Column | LazyColumn): base is LazyColumn => base instanceof LazyColumn
/** Whether cells have their codes already, so few that a table of them costs less than rows. */
const hasFewCodes = (base: Column | LazyColumn): boolean =>
  isLazy(base) ? base.hasCodes(fewCodes) : codingOf(base, fewCodes) !== undefined
const fewCodes = 65_536
const lengthOfBase = (base: Column | LazyColumn): number => (isLazy(base) ? base.length : lengthOf(base))

/** A column that may still be an index into another, or be lazy: its cells are gathered when somebody needs them all. */
class ColumnView {
  private base: Column | LazyColumn
  private chosen: Selection | undefined
  /** The view that rows were chosen of, which is itself of chosen rows, and these rows. */
  private origin: { readonly view: ColumnView; readonly chosen: Selection } | undefined
  /** Whether the cells of rows chosen of this view were asked for. */
  private asked = false
  constructor(base: Column | LazyColumn, chosen?: Selection, origin?: ColumnView['origin']) {
    this.base = base
    this.chosen = chosen
    this.origin = origin
  }
  /**
   * Before all cells are asked for. Rows chosen of chosen rows are gathered by both choices at once; where most rows of one view are
   * chosen again and again, as a sentence behind it is edited, its cells are gathered once and all later choices are of these.
   */
  private settle(): void {
    const { origin } = this
    this.origin = undefined
    if (!origin || !this.chosen) return
    const { view, chosen } = origin
    if (view.chosen && !(view.asked && areMost(chosen.rows, view.length))) {
      view.asked = true
      return
    }
    this.base = view.gathered
    this.chosen = chosen
  }
  get type(): ColumnType {
    return this.base.type
  }
  get column(): Column {
    this.settle()
    const base = this.gathered
    return isLazy(base) ? base.column : base
  }
  /** What cells stand in, row for row. */
  private get gathered(): Column | LazyColumn {
    const { base, chosen } = this
    if (!chosen) return base
    this.base = isLazy(base) ? base.gather(chosen.rows) : gather(base, chosen.rows)
    this.chosen = undefined
    return this.base
  }
  /** Every so many cells from one on: a a b b c c, 2, 1 -> a b c. */
  everyOf(step: number, from: number): Column {
    const { base, chosen } = this
    const turn = !chosen && isLazy(base) ? base.turn(step, from) : undefined
    if (turn) return turn
    const { column } = this
    return gather(column, sliceRows(lengthOf(column) / step, from, step))
  }
  cell(row: number): Cell {
    const at = this.chosen ? this.chosen.at(row) : row
    if (at < 0) return null
    return isLazy(this.base) ? this.base.cell(at) : cellAt(this.base, at)
  }
  isEmpty(row: number): boolean {
    const at = this.chosen ? this.chosen.at(row) : row
    if (at < 0) return true
    return isLazy(this.base) ? this.base.cell(at) === null : isNullAt(this.base, at)
  }
  /** `compose` is shared by the slots of one table, so that equal selections are composed once. */
  taken(chosen: Selection, compose: (inner: Selection) => Selection): ColumnView {
    return this.chosen
      ? new ColumnView(this.base, compose(this.chosen), { view: this, chosen })
      : new ColumnView(this.base, chosen)
  }
  /** Whether both are views of one column: rows that come from one another then hold the same cells. */
  sharesColumn(other: ColumnView): boolean {
    return this.base === other.base
  }
  release(): void {
    if (isLazy(this.base)) this.base.release()
  }
  /** Codes of the cells. Where rows repeat those of a column, its own are coded. */
  get codes(): DenseCodes {
    this.settle()
    const { base } = this
    const index = this.chosen?.rows
    // codes that must be looked for are looked for among few of the rows alone
    if (index && lengthOfBase(base) > 2 * index.length && !hasFewCodes(base)) return codesOf(this.column)
    // values that are repeated are coded once
    const rows = index && isComplete(index) && lengthOfBase(base) > index.length >> 2 ? index : undefined
    const { codes, bound } = isLazy(base) ? base.codes(rows) : codesOf(base, rows)
    return { codes: index && !rows ? gatherIndices(codes, index) : codes, bound }
  }
  /** The numbers of the column as a formula, where its cells are not made, nor rows chosen of it. */
  get formula(): SummedNumbers | undefined {
    return !this.chosen && isLazy(this.base) ? this.base.numbers : undefined
  }
  get length(): number {
    return this.chosen?.length ?? lengthOfBase(this.base)
  }
  get buffers(): HeldBuffer[] {
    const { base, chosen } = this
    const held = isLazy(base) ? base.buffers : columnBuffers(base)
    return [...held, ...(chosen?.buffers ?? [])]
  }
  /** The column as it stands under the rows that were chosen of it. */
  get whole(): { readonly view: ColumnView; readonly chosen: Selection | undefined } {
    this.settle()
    return { view: new ColumnView(this.base), chosen: this.chosen }
  }
}

/** 0 1 2 …: every row at its own place. */
const isAll = (index: Int32Array, rowCount: number): boolean => {
  const n = index.length
  if (n !== rowCount) return false
  if (isRowsInOrder(index)) return true
  for (let i = 0; i < n; i++) if (index[i] !== i) return false
  return true
}
const manyColumns = 16

/** An immutable table: named columns of one length. Columns are shared between tables by reference. */
export class Table {
  readonly names: readonly string[]
  private readonly slots: readonly ColumnView[]
  private positions: ReadonlyMap<string, number> | undefined
  readonly rowCount: number
  private constructor(names: readonly string[], slots: readonly ColumnView[], rowCount: number) {
    this.names = names
    this.slots = slots
    this.rowCount = rowCount
  }

  /** Columns of equal length; `rowCount` is needed only where there are none. */
  static of(names: readonly string[], columns: readonly (Column | LazyColumn)[], rowCount?: number): Table {
    const [first] = columns
    return new Table(
      names,
      columns.map((column) => new ColumnView(column)),
      rowCount ?? (first ? lengthOfBase(first) : 0),
    )
  }

  get schema(): Schema {
    return this.names.map((name, i) => ({ name, type: (this.slots[i] as ColumnView).type }))
  }
  /** Everything that this table keeps in memory; buffers shared between columns stand more than once. */
  get buffers(): HeldBuffer[] {
    return this.slots.flatMap((slot) => slot.buffers)
  }
  /** Forgets the columns that lie in a file; they are read again when somebody needs them. */
  release(): void {
    for (const slot of this.slots) slot.release()
  }
  /** The position of a column, -1 where there is none; wide tables are asked for each of their columns, so positions are kept. */
  positionOf(name: string): number {
    if (this.names.length < manyColumns) return this.names.indexOf(name)
    this.positions ??= new Map(this.names.map((one, i) => [one, i]))
    return this.positions.get(name) ?? -1
  }
  column(at: number): Column {
    return (this.slots[at] as ColumnView).column
  }
  /** Every so many cells of a column from one on: a a b b c c, 2, 1 -> a b c. */
  everyOf(at: number, step: number, from: number): Column {
    return (this.slots[at] as ColumnView).everyOf(step, from)
  }
  /** The column of that name; asking for one that is not there is a fault of ours. */
  named(name: string): Column {
    const at = this.positionOf(name)
    if (at < 0) throw new Error(`no column named ${name}`)
    return this.column(at)
  }
  /** A code a row of a column, so that equal cells have equal codes. */
  codes(at: number): DenseCodes {
    return (this.slots[at] as ColumnView).codes
  }
  /** The numbers of a column as a formula, where its cells are not made of it yet; undefined else. */
  formula(at: number): SummedNumbers | undefined {
    return (this.slots[at] as ColumnView).formula
  }
  /** Whether column `at` here and column `there` of another table are views of one column, found without gathering any cell. */
  sharesColumn(at: number, other: Table, there: number): boolean {
    return (this.slots[at] as ColumnView).sharesColumn(other.slots[there] as ColumnView)
  }
  /**
   * The columns at these positions as they stand under the rows that were chosen of them, and these rows; no rows where none
   * were chosen. Undefined where the choices differ, or one may name no row.
   */
  beforeChoice(
    positions: readonly number[],
  ): { readonly table: Table; readonly rows: Int32Array | undefined } | undefined {
    const wholes = positions.map((at) => (this.slots[at] as ColumnView).whole)
    const [first] = wholes
    if (!first || wholes.some(({ chosen }) => chosen !== first.chosen)) return undefined
    const rows = first.chosen?.rows
    if (rows && !isComplete(rows)) return undefined
    const names = positions.map((at) => this.names[at] as string)
    const views = wholes.map(({ view }) => view)
    return { table: new Table(names, views, first.view.length), rows }
  }
  cell(at: number, row: number): Cell {
    return (this.slots[at] as ColumnView).cell(row)
  }
  isNull(at: number, row: number): boolean {
    return (this.slots[at] as ColumnView).isEmpty(row)
  }
  /** The columns at these positions, in this order, with new names where given. */
  select(
    positions: readonly number[],
    names: readonly string[] = positions.map((p) => this.names[p] as string),
  ): Table {
    return new Table(
      names,
      positions.map((p) => this.slots[p] as ColumnView),
      this.rowCount,
    )
  }
  /** The columns of another table of as many rows behind those of this one, all with these names. No cell is gathered. */
  beside(other: Table, names: readonly string[]): Table {
    return new Table(names, [...this.slots, ...other.slots], this.rowCount)
  }
  /** The columns of another table of as many rows put at a position among those of this one. No cell is gathered. */
  around(at: number, other: Table): Table {
    const names = [...this.names]
    const slots = [...this.slots]
    names.splice(at, 0, ...other.names)
    slots.splice(at, 0, ...other.slots)
    return new Table(names, slots, other.rowCount)
  }
  renamed(names: readonly string[]): Table {
    return new Table(names, this.slots, this.rowCount)
  }
  /** With a column put at a position (`replace` takes the place of the one there), or the rows of it that are those of this table. */
  with(at: number, name: string, column: Column | LazyColumn, replace = false, rows?: Int32Array): Table {
    const names = [...this.names]
    const slots = [...this.slots]
    names.splice(at, replace ? 1 : 0, name)
    slots.splice(at, replace ? 1 : 0, new ColumnView(column, rows && Selection.of(rows)))
    return new Table(names, slots, this.rowCount)
  }
  /** The rows at these positions, in this order; -1 gives a row of empties. No cell is copied yet. */
  rows(index: Int32Array): Table {
    return isAll(index, this.rowCount) ? this : this.chosen(Selection.of(index))
  }
  /** As `rows`, of a selection, whose rows are not looked at. */
  chosen(rows: Selection): Table {
    const known = new Map<Selection, Selection>()
    const compose = (inner: Selection): Selection => {
      const result = known.get(inner) ?? inner.chosen(rows)
      known.set(inner, result)
      return result
    }
    return new Table(
      this.names,
      this.slots.map((slot) => slot.taken(rows, compose)),
      rows.length,
    )
  }
}

import { cellAt, holdsWords, isEmptyAt, lengthOf, type Cell, type Column, type ColumnType } from './column.ts'
import { gather } from './gather.ts'
import { ints } from './memory.ts'

export type Field = { readonly name: string; readonly type: ColumnType }
export type Schema = readonly Field[]

/** A column that may still be an index into another: its cells are gathered when somebody needs them all. */
class Slot {
  private made: Column | undefined
  private readonly base: Column
  private readonly index: Int32Array | undefined
  private constructor(base: Column, index: Int32Array | undefined) {
    this.base = base
    this.index = index
    if (index === undefined) this.made = base
  }
  static of(column: Column): Slot {
    return new Slot(column, undefined)
  }
  get type(): ColumnType {
    return this.base.type
  }
  get column(): Column {
    this.made ??= gather(this.base, this.index as Int32Array)
    return this.made
  }
  cell(row: number): Cell {
    if (this.made) return cellAt(this.made, row)
    const at = (this.index as Int32Array)[row] as number
    return at < 0 ? null : cellAt(this.base, at)
  }
  isEmpty(row: number): boolean {
    if (this.made) return isEmptyAt(this.made, row)
    const at = (this.index as Int32Array)[row] as number
    return at < 0 || isEmptyAt(this.base, at)
  }
  /** `compose` is shared by the slots of one table, so that equal index vectors are composed once. */
  taken(index: Int32Array, compose: (inner: Int32Array) => Int32Array): Slot {
    if (this.made || this.index === undefined) return new Slot(this.made ?? this.base, index)
    return new Slot(this.base, compose(this.index))
  }
  /** Bytes held by this slot alone (shared columns count wherever they stand). */
  get bytes(): number {
    const column = this.made ?? this.base
    if (!holdsWords(column)) return column.values.byteLength
    return column.form === 'coded' ? column.codes.byteLength + column.words.length * 24 : column.strings.length * 32
  }
}

/** 0 1 2 …: every row at its own place. */
const isAll = (index: Int32Array, rowCount: number): boolean => {
  if (index.length !== rowCount) return false
  for (let i = 0; i < rowCount; i++) if (index[i] !== i) return false
  return true
}

/** An immutable table: named columns of one length. Columns are shared between tables by reference. */
export class Table {
  readonly names: readonly string[]
  private readonly slots: readonly Slot[]
  readonly rowCount: number
  private constructor(names: readonly string[], slots: readonly Slot[], rowCount: number) {
    this.names = names
    this.slots = slots
    this.rowCount = rowCount
  }

  /** Columns of equal length; `rowCount` is needed only where there are no columns. */
  static of(names: readonly string[], columns: readonly Column[], rowCount = columns[0] ? lengthOf(columns[0]) : 0): Table {
    return new Table(names, columns.map(Slot.of), rowCount)
  }

  get schema(): Schema {
    return this.names.map((name, i) => ({ name, type: (this.slots[i] as Slot).type }))
  }
  get bytes(): number {
    return this.slots.reduce((sum, slot) => sum + slot.bytes, 0)
  }
  indexOf(name: string): number {
    return this.names.indexOf(name)
  }
  column(at: number): Column {
    return (this.slots[at] as Slot).column
  }
  /** The column of that name; asking for one that is not there is a fault of ours. */
  named(name: string): Column {
    const at = this.indexOf(name)
    if (at < 0) throw new Error(`no column named ${name}`)
    return this.column(at)
  }
  cell(at: number, row: number): Cell {
    return (this.slots[at] as Slot).cell(row)
  }
  isEmpty(at: number, row: number): boolean {
    return (this.slots[at] as Slot).isEmpty(row)
  }
  /** The columns at these positions, in this order, with new names where given. */
  select(positions: readonly number[], names: readonly string[] = positions.map((p) => this.names[p] as string)): Table {
    return new Table(names, positions.map((p) => this.slots[p] as Slot), this.rowCount)
  }
  renamed(names: readonly string[]): Table {
    return new Table(names, this.slots, this.rowCount)
  }
  /** With a column put at a position (`replace` takes the place of the one there). */
  with(at: number, name: string, column: Column, replace = false): Table {
    const names = [...this.names]
    const slots = [...this.slots]
    names.splice(at, replace ? 1 : 0, name)
    slots.splice(at, replace ? 1 : 0, Slot.of(column))
    return new Table(names, slots, this.rowCount)
  }
  /** The rows at these positions, in this order; -1 gives a row of empties. No cell is copied yet. */
  rows(index: Int32Array): Table {
    if (isAll(index, this.rowCount)) return this
    const composed = new Map<Int32Array, Int32Array>()
    const compose = (inner: Int32Array): Int32Array => {
      let result = composed.get(inner)
      if (!result) {
        result = ints(index.length)
        for (let i = 0; i < index.length; i++) {
          const at = index[i] as number
          result[i] = at < 0 ? -1 : (inner[at] as number)
        }
        composed.set(inner, result)
      }
      return result
    }
    return new Table(this.names, this.slots.map((slot) => slot.taken(index, compose)), index.length)
  }
}

import { codesOf, codingOf } from './codes.ts'
import { cellAt, columnWriter, type Cell, type Column, type ColumnType } from './column.ts'
import { gather } from './gather.ts'
import { columnBuffers, type HeldBuffer } from './held-buffers.ts'
import type { DenseCodes, SummedNumbers } from '../kernels/table-kernels.ts'

/** What a lazy column is made of. */
export type LazySource = {
  readonly type: ColumnType
  readonly length: number
  /** What is held for it while its cells are not made, for accounting. */
  readonly holds: () => readonly HeldBuffer[]
  /** Whether the cells may be forgotten where memory ends: nothing but time is lost. */
  readonly again?: true
  /** Single cells are read with many beside them, so that few are not had sooner than all. */
  readonly inParts?: true
  readonly cell: (row: number) => Cell
  /** Whether single cells have cost as much as all do, which are made then. */
  readonly spent?: () => boolean
  readonly make: () => Column
  /** The columns whose cells it holds in turns, row by row. */
  readonly turns?: readonly Column[]
  /** Its numbers as a formula, of which its cells are made. */
  readonly numbers?: () => SummedNumbers
  /** Codes of all cells or of those of chosen rows, where they are had without making them. */
  readonly codes?: (rows: Int32Array | undefined) => DenseCodes
}

/** Whether rows are so few of a column that these alone are gathered or computed. */
export const areFew = (rows: Int32Array, of: number): boolean => 16 * rows.length < of

/** A column whose cells stand elsewhere, or are not computed, until somebody needs them all behind one another. */
export class LazyColumn {
  private readonly source: LazySource
  private made: Column | undefined
  constructor(source: LazySource) {
    this.source = source
  }
  get type(): ColumnType {
    return this.source.type
  }
  get length(): number {
    return this.source.length
  }
  cell(row: number): Cell {
    if (!this.made && this.source.spent?.()) return cellAt(this.column, row)
    return this.made ? cellAt(this.made, row) : this.source.cell(row)
  }
  /** All its cells; made once. */
  get column(): Column {
    this.made ??= this.source.make()
    return this.made
  }
  /** The cells of some rows; -1 is empty. Few of them are made alone. */
  gather(rows: Int32Array): Column {
    const { length, type, inParts } = this.source
    if (this.made || inParts || !areFew(rows, length)) return gather(this.column, rows)
    const writer = columnWriter(type, rows.length)
    rows.forEach((row, i) => row >= 0 && writer.set(i, this.cell(row)))
    return writer.done()
  }
  /** The column of every so many cells from one on, where there is one. */
  turn(step: number, from: number): Column | undefined {
    const { turns } = this.source
    return turns?.length === step ? turns[from] : undefined
  }
  /** A code a row, so that equal cells have equal codes, of all or of chosen rows. */
  codes(rows: Int32Array | undefined): DenseCodes {
    return this.made || !this.source.codes ? codesOf(this.column, rows) : this.source.codes(rows)
  }
  /** Its numbers as a formula, where that is had without making its cells. */
  get numbers(): SummedNumbers | undefined {
    return this.made ? undefined : this.source.numbers?.()
  }
  /** Whether the codes of cells are had without looking for equal ones, and are fewer than `most`. */
  hasCodes(most: number): boolean {
    return this.made ? codingOf(this.made, most) !== undefined : this.source.codes !== undefined
  }
  get buffers(): readonly HeldBuffer[] {
    return [...this.source.holds(), ...(this.made ? columnBuffers(this.made) : [])]
  }
  /** Forgets its cells where they can be had again. */
  release(): void {
    if (this.source.again) this.made = undefined
  }
}

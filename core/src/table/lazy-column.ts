import { cellAt, type Cell, type Column, type ColumnType } from './column.ts'

/** A column whose cells stand in other columns until somebody needs them all behind one another. */
export class LazyColumn {
  readonly type: ColumnType
  /** What it is made of, for accounting. */
  readonly sources: readonly Column[]
  private readonly cellOf: (row: number) => Cell
  private make: (() => Column) | undefined
  private made: Column | undefined
  constructor(type: ColumnType, sources: readonly Column[], cellOf: (row: number) => Cell, make: () => Column) {
    this.type = type
    this.sources = sources
    this.cellOf = cellOf
    this.make = make
  }
  cell(row: number): Cell {
    return this.made ? cellAt(this.made, row) : this.cellOf(row)
  }
  /** All its cells; made once. */
  get column(): Column {
    if (this.make) {
      this.made = this.make()
      this.make = undefined
    }
    return this.made as Column
  }
  get isMade(): boolean {
    return this.made !== undefined
  }
}

import { cellAt, type Cell, type Column, type ColumnType } from './column.ts'

/** What a lazy column is made of. */
export type LazySource = {
  readonly type: ColumnType
  /** The columns that its cells stand in, for accounting; none where they lie in a file. */
  readonly columns: readonly Column[]
  readonly cell: (row: number) => Cell
  readonly make: () => Column
}

/** A column whose cells stand elsewhere until somebody needs them all behind one another. */
export class LazyColumn {
  private readonly source: LazySource
  private made: Column | undefined
  constructor(source: LazySource) {
    this.source = source
  }
  get type(): ColumnType {
    return this.source.type
  }
  cell(row: number): Cell {
    return this.made ? cellAt(this.made, row) : this.source.cell(row)
  }
  /** All its cells; made once. */
  get column(): Column {
    this.made ??= this.source.make()
    return this.made
  }
  /** The columns that are held for it. */
  get held(): readonly Column[] {
    return this.made ? [this.made] : this.source.columns
  }
  /** Forgets its cells, where they lie in a file and can be had again. */
  release(): void {
    if (this.source.columns.length === 0) this.made = undefined
  }
}

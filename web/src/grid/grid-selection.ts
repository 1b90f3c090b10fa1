import { counted, type Selection } from '@fabula/core'
import { between, type GridPosition } from './grid-cells.ts'

/** The columns a selection is in. */
export const selectedColumns = (selection: Selection): readonly string[] => {
  if (selection.kind === 'columns') return selection.columns
  return selection.kind === 'table' ? [] : [selection.column]
}

/**
 * The selection after a click on a column's head.
 * @param how alone, added to the others (or taken from them), or with all between it and the first
 * @param names the columns that can be selected, in the order they are shown
 */
export const withColumn = (
  selection: Selection,
  name: string,
  how: 'alone' | 'more' | 'span',
  names: readonly string[],
): Selection => {
  if (selection.kind !== 'columns' || how === 'alone') return { kind: 'columns', columns: [name] }
  if (how === 'span') {
    const [a, b] = [names.indexOf(selection.columns[0] ?? ''), names.indexOf(name)]
    return { kind: 'columns', columns: names.slice(Math.min(a, b), Math.max(a, b) + 1) }
  }
  const columns = selection.columns.includes(name)
    ? selection.columns.filter((one) => one !== name)
    : [...selection.columns, name]
  return columns.length > 0 ? { kind: 'columns', columns } : { kind: 'table' }
}

const steps: ReadonlyMap<string, readonly [number, number]> = new Map([
  ['ArrowDown', [1, 0]],
  ['ArrowUp', [-1, 0]],
  ['ArrowLeft', [0, -1]],
  ['ArrowRight', [0, 1]],
  ['PageDown', [20, 0]],
  ['PageUp', [-20, 0]],
  ['Home', [0, -Infinity]],
  ['End', [0, Infinity]],
])

/** The nearest position inside a table of so many rows and columns. */
export const within = ({ row, at }: GridPosition, rows: number, columns: number): GridPosition => ({
  row: Math.max(0, Math.min(rows - 1, row)),
  at: Math.max(0, Math.min(columns - 1, at)),
})

/** Where a key leads from the active cell; nowhere for a key that does not move. Ctrl+Home and Ctrl+End are corners. */
export const movedTo = (
  active: GridPosition | undefined,
  key: string,
  ctrl: boolean,
  rows: number,
  columns: number,
): GridPosition | undefined => {
  const by = steps.get(key)
  if (!by) return undefined
  const { row, at } = active ?? { row: -1, at: 0 }
  const target = { row: row + by[0], at: at + by[1] }
  if (ctrl && key === 'Home') target.row = 0
  if (ctrl && key === 'End') target.row = rows - 1
  return within(target, rows, columns)
}

/** The cells that are copied: from one row to another, of columns by their positions in the reply. */
export type CopyArea = {
  readonly from: number
  readonly to: number
  readonly columns: readonly number[]
  /** Whole columns are copied with their names. */
  readonly whole: boolean
  /** Rows beyond the most that are copied at once. */
  readonly cut: boolean
}

/** What Ctrl+C takes: the selected columns from the first row on, or the cells between the two corners. */
export const copyArea = (
  grid: {
    readonly total: number
    readonly shown: readonly number[]
    readonly active: GridPosition | undefined
    readonly anchor: GridPosition | undefined
    /** Positions of the selected columns where whole columns are selected. */
    readonly whole: readonly number[] | undefined
  },
  most: number,
): CopyArea | undefined => {
  const { total, shown, active, whole } = grid
  if (whole) {
    const columns = shown.filter((c) => whole.includes(c))
    return { from: 0, to: Math.min(total, most) - 1, columns, whole: true, cut: total > most }
  }
  if (!active) return undefined
  const corner = grid.anchor ?? active
  const from = Math.min(active.row, corner.row)
  const last = Math.max(active.row, corner.row)
  const columns = shown.filter((_, at) => between(at, active.at, corner.at))
  return { from, to: Math.min(last, from + most - 1), columns, whole: false, cut: last - from + 1 > most }
}

/** What is said of a copy once it is made. */
export const copiedMessage = ({ from, to, columns, cut }: CopyArea): string =>
  `Copied ${counted(to - from + 1, 'row')} × ${counted(columns.length, 'column')}${cut ? ', the most that can be copied' : ''}.`

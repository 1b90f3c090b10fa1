import { ownValue } from '@fabula/core'
import type { GridColumn, GridRow } from './cells.tsx'
import type { GridView } from './use-view.ts'

/** Pixels: the height of the column heads, and the width of the row numbers. */
export const headHeight = 68
export const numberWidth = 56
/** Pixels that a column may be wide without being asked to be wider. */
const widestAtFirst = 320
const widestFitted = 900
const rowsMeasured = 40

/** Which columns are shown, and where; all lengths in pixels. */
export type GridLayout = {
  /** The columns in sight, as positions in the columns of the reply. */
  readonly shown: readonly number[]
  /** How many of them stay when the table is scrolled sideways; one always scrolls. */
  readonly frozen: number
  /** The widths of the columns in sight. */
  readonly widths: readonly number[]
  /** The left edges of the frozen columns, from the end of the row numbers. */
  readonly frozenLefts: readonly number[]
  readonly frozenWidth: number
}

const lengthOf = (row: GridRow, at: number): number => {
  const old = row.old?.[at]
  // a changed cell shows the old value beside the new one, an unreadable one says so
  const before = old === undefined ? 0 : old.length + (row.bad?.includes(at) ? 10 : 2)
  return (row.cells[at]?.length ?? 5) + before
}

/** A width in pixels that shows the longest of these rows whole, up to `most`. */
export const widthFor = (column: GridColumn, rows: readonly GridRow[], at: number, most = widestAtFirst): number => {
  const longest = rows.reduce((length, row) => Math.max(length, lengthOf(row, at)), 0)
  return Math.min(most, Math.max(124, column.name.length * 8 + 30, longest * 7.9 + 26))
}

/** The layout of a table: widths of the view, or such that its first rows are shown whole. */
export const gridLayout = (columns: readonly GridColumn[], rows: readonly GridRow[], view: GridView): GridLayout => {
  const measured = rows.slice(0, rowsMeasured)
  // a column that leaves is always shown, so that the change can be seen
  const shown = [...columns.keys()].filter(
    (c) => columns[c]?.state === 'removed' || !view.hidden.includes(columns[c]?.name ?? ''),
  )
  const widths = shown.map((c) => {
    const column = columns[c]
    if (!column) return 0
    return Math.round((ownValue(view.widths, column.name) ?? widthFor(column, measured, c)) * view.zoom)
  })
  const frozen = Math.max(0, Math.min(shown.length - 1, shown.filter((c) => c < view.frozen).length))
  const ends = widths.slice(0, frozen).reduce<number[]>((sums, width) => [...sums, (sums.at(-1) ?? 0) + width], [])
  return { shown, frozen, widths, frozenLefts: [0, ...ends].slice(0, frozen), frozenWidth: ends.at(-1) ?? 0 }
}

/** The widths of a view in which the named columns show these rows whole. */
export const fittedWidths = (
  view: GridView,
  columns: readonly GridColumn[],
  rows: readonly GridRow[],
  names: readonly string[],
): GridView['widths'] => {
  const fitted = columns.flatMap((column, c) =>
    names.includes(column.name) ? [[column.name, widthFor(column, rows, c, widestFitted)] as const] : [],
  )
  return { ...view.widths, ...Object.fromEntries(fitted) }
}

/** The zoom after one notch of the wheel: a tenth more or less, within bounds. */
export const zoomedBy = (zoom: number, deltaY: number): number =>
  Math.round(Math.min(1.5, Math.max(0.8, zoom + (deltaY < 0 ? 0.1 : -0.1))) * 100) / 100

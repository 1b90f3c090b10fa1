import { useVirtualizer, type VirtualItem } from '@tanstack/react-virtual'
import { useEffect, useEffectEvent, useMemo, useRef, useState } from 'react'
import { pageSize } from '../api/queries.ts'
import type { Story } from '../story/use-story.ts'
import { useWindowKeys } from '../ui/use-window-keys.ts'
import type { GridColumn } from './cells.tsx'
import type { FoundCell } from './find-bar.tsx'
import { between, type GridPosition } from './grid-cells.ts'
import { selectedColumns, within, withColumn } from './grid-selection.ts'
import { fittedWidths, gridLayout, headHeight, numberWidth, zoomedBy, type GridLayout } from './layout.ts'
import { usePages } from './use-pages.ts'
import { useTallRows } from './use-tall-rows.ts'
import { useGridView } from './use-view.ts'

type RowRange = { readonly from: number; readonly to: number }

/** The pages of rows in sight, and how the table is laid out. */
const useGridTable = (story: Story, range: RowRange) => {
  const [view, setView] = useGridView(`${story.flow.id}:${story.table?.id ?? ''}`)
  const { first, rowAt } = usePages(story, range.from, range.to)
  const columns: readonly GridColumn[] = first.data?.columns ?? []
  const data = first.data
  const layout = useMemo(() => gridLayout(data?.columns ?? [], data?.rows ?? [], view), [data, view])
  /** Widens or narrows columns to what the loaded rows hold. */
  const fit = (names: readonly string[]): void => {
    const loaded = Array.from({ length: range.to - range.from }, (_, i) => rowAt(range.from + i))
    const rows = [...(first.data?.rows ?? []), ...loaded.filter((row) => row !== undefined)]
    setView({ widths: fittedWidths(view, columns, rows, names) })
  }
  const rowHeight = Math.round(27 * view.zoom)
  return { view, setView, first, rowAt, columns, total: first.data?.total ?? 0, layout, rowHeight, fit }
}
type GridTable = ReturnType<typeof useGridTable>

/** Whole pages that hold these rows: only when others come into sight is anything asked for. */
const pagesAround = (from: number, to: number): RowRange => ({
  from: Math.floor(from / pageSize) * pageSize,
  to: Math.floor(to / pageSize) * pageSize + pageSize - 1,
})

/** The two virtual lists of the grid: the rows, and the columns that scroll sideways. */
const useVirtualLists = (table: GridTable, setRange: (range: RowRange) => void) => {
  const { layout, columns, rowHeight } = table
  const { shown, frozen, widths, frozenWidth }: GridLayout = layout
  const scroller = useRef<HTMLDivElement>(null)
  const tall = useTallRows(table.total)
  const rows = useVirtualizer({
    count: tall.count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
    scrollMargin: headHeight,
    scrollPaddingStart: headHeight,
    onChange: ({ range: visible }) =>
      visible && setRange(pagesAround(tall.rowOf(visible.startIndex), tall.rowOf(visible.endIndex + 12))),
  })
  const across = useVirtualizer({
    horizontal: true,
    count: shown.length - frozen,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => widths[i + frozen] ?? 120,
    overscan: 3,
    scrollPaddingStart: numberWidth + frozenWidth,
  })
  const measure = useEffectEvent(() => {
    across.measure()
    rows.measure()
  })
  const signature = JSON.stringify([shown.map((c) => columns[c]?.name), widths, frozen])
  useEffect(() => measure(), [signature, rowHeight])
  /** Columns that are held still are always in sight. */
  const scrollToColumn = (at: number): void => {
    if (at >= frozen) across.scrollToIndex(at - frozen)
  }
  const scrollTo = ({ row, at }: GridPosition): void => {
    rows.scrollToIndex(tall.placeOf(row))
    scrollToColumn(at)
  }
  return { scroller, tall, rows, across, scrollTo, scrollToColumn }
}

/** The active cell, the other corner of the selected cells, and the selection of columns. */
const useGridCursor = (story: Story, table: GridTable, scrollTo: (position: GridPosition) => void) => {
  const { columns, rowAt, total } = table
  const { shown } = table.layout
  const { selection, setSelection } = story
  const [active, setActive] = useState<GridPosition>()
  const [anchor, setAnchor] = useState<GridPosition>()
  useEffect(() => setActive(undefined), [story.step?.id, story.diffMode, story.only])
  const goTo = (position: GridPosition, extend = false): void => {
    const target = within(position, total, shown.length)
    setActive(target)
    if (!extend) setAnchor(target)
    scrollTo(target)
    const c = shown[target.at] ?? 0
    const column = columns[c]
    const row = rowAt(target.row)
    if (column && column.state !== 'removed' && !extend)
      setSelection({
        kind: 'cell',
        column: column.name,
        row: row?.row ?? target.row,
        value: row?.cells[c] ?? null,
        ...(row?.state === 'removed' ? { left: true } : {}),
      })
  }
  const goToColumn = (row: number, name: string): void =>
    goTo({ row, at: shown.findIndex((c) => columns[c]?.name === name) })
  /** The columns that can be selected, in the order they are shown. */
  const selectable = (): readonly string[] =>
    shown.flatMap((c) => (columns[c]?.state === 'removed' ? [] : [columns[c]?.name ?? '']))
  const choose = (name: string, more: boolean, span: boolean): void => {
    const how = span ? 'span' : 'more'
    setSelection(withColumn(selection, name, more || span ? how : 'alone', selectable()))
  }
  /** Selects all columns from one to another. */
  const span = (from: string, to: string): void => {
    setSelection(withColumn({ kind: 'columns', columns: [from] }, to, 'span', selectable()))
  }
  /** Of a row: where the active cell is, and the positions of its selected cells. */
  const ofRow = (row: number): { active?: number; from?: number; to?: number } => {
    if (active === undefined) return {}
    const here = active.row === row ? { active: active.at } : {}
    if (anchor === undefined || !between(row, active.row, anchor.row)) return here
    return { ...here, from: Math.min(active.at, anchor.at), to: Math.max(active.at, anchor.at) }
  }
  const chosen = useMemo(() => selectedColumns(selection), [selection])
  return { active, anchor, setActive, goTo, goToColumn, choose, span, ofRow, chosen }
}

/** Goes to a found cell once the result is shown whole, since its row is counted there. */
const useFoundCell = (story: Story, { first }: GridTable, goToColumn: (row: number, name: string) => void) => {
  const [waiting, setWaiting] = useState<FoundCell>()
  const goToWaiting = useEffectEvent(() => {
    if (!waiting || story.diffMode !== 'after' || story.only !== 'all' || first.isFetching) return
    goToColumn(waiting.row, waiting.column)
    setWaiting(undefined)
  })
  useEffect(() => goToWaiting(), [waiting, story.diffMode, story.only, first.isFetching])
  return (found: FoundCell): void => {
    story.setDiffMode('after')
    story.setOnly('all')
    setWaiting(found)
  }
}

/** New columns of a draft scroll into view once they are there. */
const useNewColumns = (story: Story, { columns, layout, first }: GridTable, show: (at: number) => void) => {
  const draft = story.draft?.step.id
  const added = first.isPlaceholderData
    ? ''
    : columns.flatMap(({ name, state }) => (state === 'added' ? [name] : [])).join('\n')
  const goToAdded = useEffectEvent(() => {
    const at = layout.shown.findIndex((c) => columns[c]?.state === 'added')
    if (draft !== undefined && at >= 0) show(at)
  })
  useEffect(() => goToAdded(), [draft, added])
}

/** Ctrl and the wheel change the size, Ctrl+F finds, in place of what the browser would do. */
const useGridEvents = (scroller: { readonly current: HTMLElement | null }, table: GridTable, find: () => void) => {
  const onWheel = useEffectEvent((event: WheelEvent): void => {
    if (!event.ctrlKey) return
    event.preventDefault()
    table.setView({ zoom: zoomedBy(table.view.zoom, event.deltaY) })
  })
  useEffect(() => {
    const element = scroller.current
    const wheel = (event: WheelEvent): void => onWheel(event)
    // a passive listener could not keep the browser from zooming the page
    element?.addEventListener('wheel', wheel, { passive: false })
    return () => element?.removeEventListener('wheel', wheel)
  }, [scroller])
  useWindowKeys((event) => {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'f') return
    event.preventDefault()
    find()
  })
}

/** What all rows and heads are drawn by; the same object as long as none of it changes. */
export type GridShape = Pick<GridTable, 'columns' | 'layout' | 'rowHeight'> & {
  readonly inSight: readonly VirtualItem[]
  readonly chosen: readonly string[]
  readonly diffMode: Story['diffMode']
}

const useShape = (
  { first, layout, rowHeight }: GridTable,
  inSight: readonly VirtualItem[],
  chosen: readonly string[],
  diffMode: Story['diffMode'],
): GridShape =>
  useMemo(
    () => ({ columns: first.data?.columns ?? [], layout, rowHeight, inSight, chosen, diffMode }),
    [first.data, layout, rowHeight, inSight, chosen, diffMode],
  )

const framesWaited = 20

/** Focuses the head of a column, which may be drawn only once it has scrolled into view. */
const focusOnceThere = (scroller: () => HTMLElement | null, column: number, frames = framesWaited): void => {
  const head = scroller()?.querySelector<HTMLElement>(`[role=columnheader][aria-colindex="${column}"] button`)
  if (head) head.focus()
  else if (frames > 0) requestAnimationFrame(() => focusOnceThere(scroller, column, frames - 1))
}

/** The state of the grid and what its parts draw from it. */
export const useGrid = (story: Story) => {
  const [range, setRange] = useState<RowRange>({ from: 0, to: 40 })
  const { finding, setFinding } = story
  const table = useGridTable(story, range)
  const showRange = (next: RowRange): void =>
    setRange((before) => (before.from === next.from && before.to === next.to ? before : next))
  const lists = useVirtualLists(table, showRange)
  const cursor = useGridCursor(story, table, lists.scrollTo)
  const goToFound = useFoundCell(story, table, cursor.goToColumn)
  useNewColumns(story, table, lists.scrollToColumn)
  useGridEvents(lists.scroller, table, () => setFinding(true))
  /** The focus goes from one head to another; `select` takes the columns between them. */
  const walkTo = (from: number, at: number, select: boolean): void => {
    const nameAt = (position: number): string => table.columns[table.layout.shown[position] ?? 0]?.name ?? ''
    lists.scrollToColumn(at)
    if (select) cursor.span(cursor.chosen[0] ?? nameAt(from), nameAt(at))
    focusOnceThere(() => lists.scroller.current, (table.layout.shown[at] ?? 0) + 1)
  }
  const shape = useShape(table, lists.across.getVirtualItems(), cursor.chosen, story.diffMode)
  return { story, ...table, ...lists, ...cursor, walkTo, shape, finding, setFinding, goToFound }
}
export type GridModel = ReturnType<typeof useGrid>

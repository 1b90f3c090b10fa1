import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useEffectEvent, useRef, useState } from 'react'
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
  const layout = gridLayout(columns, first.data?.rows ?? [], view)
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
      visible && setRange({ from: tall.rowOf(visible.startIndex), to: tall.rowOf(visible.endIndex + 12) }),
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
  const choose = (name: string, more: boolean, span: boolean): void => {
    const names = shown.flatMap((c) => (columns[c]?.state === 'removed' ? [] : [columns[c]?.name ?? '']))
    const how = span ? 'span' : 'more'
    setSelection(withColumn(selection, name, more || span ? how : 'alone', names))
  }
  /** Whether a position lies between the active cell and the other corner. */
  const isWithin = ({ row, at }: GridPosition): boolean =>
    active !== undefined &&
    anchor !== undefined &&
    between(row, active.row, anchor.row) &&
    between(at, active.at, anchor.at)
  return { active, anchor, setActive, goTo, goToColumn, choose, isWithin, chosen: selectedColumns(selection) }
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

/** The state of the grid and what its parts draw from it. */
export const useGrid = (story: Story) => {
  const [range, setRange] = useState<RowRange>({ from: 0, to: 40 })
  const { finding, setFinding } = story
  const table = useGridTable(story, range)
  const lists = useVirtualLists(table, setRange)
  const cursor = useGridCursor(story, table, lists.scrollTo)
  const goToFound = useFoundCell(story, table, cursor.goToColumn)
  useNewColumns(story, table, lists.scrollToColumn)
  useGridEvents(lists.scroller, table, () => setFinding(true))
  return { story, ...table, ...lists, ...cursor, finding, setFinding, goToFound }
}
export type GridModel = ReturnType<typeof useGrid>

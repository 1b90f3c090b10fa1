/* eslint max-lines: ['error', { max: 500 }] -- one view with its parts */
import { useVirtualizer, type ReactVirtualizer } from '@tanstack/react-virtual'
import {
  useEffect,
  useRef,
  useState,
  type JSX,
  type Dispatch,
  type KeyboardEvent,
  type SetStateAction,
  useEffectEvent,
} from 'react'
import { ownValue, counted, figure } from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import type { Story } from '../story/use-story.ts'
import { Cell, isNumeric, widthFor, type GridColumn, type GridRow } from './cells.tsx'
import { cellsAsText, mostCopied } from './copy.ts'
import { FindBar, type FoundCell } from './find-bar.tsx'
import { Head } from './head.tsx'
import { ViewMenu } from './view-menu.tsx'
import { usePages } from './use-pages.ts'
import { useGridView, type GridView } from './use-view.ts'
import { useTallRows } from './use-tall-rows.ts'
import { type GridPosition, between, tintOf, selectedPart } from './grid-cells.ts'

const headHeight = 68
const numberWidth = 56

/** The table: an ARIA grid, virtual in both directions. */
// eslint-disable-next-line complexity, max-lines-per-function -- markup with a condition for each optional part
export const Grid = ({ story, facts }: { story: Story; facts: Readonly<Record<string, ColumnFacts>> }) => {
  const scroller = useRef<HTMLDivElement>(null)
  const [range, setRange] = useState({ from: 0, to: 40 })
  const [active, setActive] = useState<GridPosition>()
  const [anchor, setAnchor] = useState<GridPosition>()
  const [finding, setFinding] = useState(false)
  const [waiting, setWaiting] = useState<FoundCell>()
  const [message, setMessage] = useState('')
  const [stageView, setStageView] = useGridView(`${story.flow.id}:${story.table?.id ?? ''}`)
  const { first, rowAt } = usePages(story, range.from, range.to)
  const columns = first.data?.columns ?? []
  const total = first.data?.total ?? 0
  const tall = useTallRows(total)
  const rowHeight = Math.round(27 * stageView.zoom)
  /** Columns in sight, as positions in the view; those that leave always show. */
  const seen = columns.flatMap(({ name, state }, c) =>
    state !== 'removed' && stageView.hidden.includes(name) ? [] : [c],
  )
  const still = Math.min(seen.length - 1, seen.filter((c) => c < stageView.frozen).length)
  const widths = seen.map((c) =>
    Math.round(
      (ownValue(stageView.widths, columns[c]?.name ?? '') ??
        widthFor(columns[c] as GridColumn, (first.data?.rows ?? []).slice(0, 40), c)) * stageView.zoom,
    ),
  )
  const stillWidth = widths.slice(0, Math.max(0, still)).reduce((sum, width) => sum + width, 0)
  const stillAt = widths
    .slice(0, Math.max(0, still))
    .map((_, i) => widths.slice(0, i).reduce((sum, width) => sum + width, 0))
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
    count: Math.max(0, seen.length - Math.max(0, still)),
    getScrollElement: () => scroller.current,
    estimateSize: (i) => widths[i + Math.max(0, still)] ?? 120,
    overscan: 3,
    scrollPaddingStart: numberWidth + stillWidth,
  })
  const signature = `${seen.map((c) => columns[c]?.name).join('\u0000')}${widths.join()}${still}`
  const measure = useEffectEvent(() => {
    across.measure()
    rows.measure()
  })
  useEffect(() => measure(), [signature, rowHeight])
  useEffect(() => setActive(undefined), [story.step?.id, story.diffMode, story.only])

  const { selection, setSelection } = story
  const chooseChosen = () => {
    if (selection.kind === 'columns') return selection.columns
    if (selection.kind === 'table') return []
    return [selection.column]
  }
  const chosen = chooseChosen()
  const choose = (name: string, more: boolean, span: boolean): void => {
    if (selection.kind !== 'columns' || (!more && !span)) return setSelection({ kind: 'columns', columns: [name] })
    if (span) {
      const names = seen.flatMap((c) => (columns[c]?.state === 'removed' ? [] : [columns[c]?.name ?? '']))
      const [a, b] = [names.indexOf(selection.columns[0] ?? ''), names.indexOf(name)]
      return setSelection({ kind: 'columns', columns: names.slice(Math.min(a, b), Math.max(a, b) + 1) })
    }
    const next = selection.columns.includes(name)
      ? selection.columns.filter((one) => one !== name)
      : [...selection.columns, name]
    return setSelection(next.length > 0 ? { kind: 'columns', columns: next } : { kind: 'table' })
  }
  /** `at` counts the columns in sight. */
  const goTo = (row: number, at: number, extend = false): void => {
    const spot = { row: Math.max(0, Math.min(total - 1, row)), at: Math.max(0, Math.min(seen.length - 1, at)) }
    setActive(spot)
    if (!extend) setAnchor(spot)
    rows.scrollToIndex(tall.placeOf(spot.row))
    if (spot.at >= still) across.scrollToIndex(spot.at - Math.max(0, still))
    const c = seen[spot.at] ?? 0
    const column = columns[c]
    if (column && column.state !== 'removed' && !extend)
      setSelection({ kind: 'cell', column: column.name, row: spot.row, value: rowAt(spot.row)?.cells[c] ?? null })
  }
  const goToName = (row: number, name: string): void =>
    goTo(
      row,
      Math.max(
        0,
        seen.findIndex((c) => columns[c]?.name === name),
      ),
    )
  const goToWaiting = useEffectEvent(() => {
    if (!waiting || story.diffMode !== 'after' || story.only !== 'all' || first.isFetching) return
    goToName(waiting.row, waiting.column)
    setWaiting(undefined)
  })
  useEffect(() => goToWaiting(), [waiting, story.diffMode, story.only, first.isFetching])
  const goToFound = (place: FoundCell): void => {
    story.setDiffMode('after')
    story.setOnly('all')
    setWaiting(place)
  }
  const move = (event: KeyboardEvent): void => {
    const by = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageDown: [20, 0],
      PageUp: [-20, 0],
      Home: [0, -1e9],
      End: [0, 1e9],
    }[event.key]
    if (!by || (event.target as HTMLElement).closest('[role=columnheader]')) return
    event.preventDefault()
    const { row, at } = active ?? { row: -1, at: 0 }
    const nextRow = () => {
      if (event.ctrlKey && event.key === 'End') return total - 1
      if (event.ctrlKey && event.key === 'Home') return 0
      return row + (by[0] ?? 0)
    }
    goTo(nextRow(), at + (by[1] ?? 0), event.shiftKey)
  }
  // eslint-disable-next-line complexity -- markup with a condition for each optional part
  const copy = async (): Promise<void> => {
    const whole = selection.kind === 'columns'
    const corner = anchor ?? active
    if (!whole && (!active || !corner)) return
    const [from, to] = whole
      ? [0, Math.min(total, mostCopied) - 1]
      : [Math.min(active?.row ?? 0, corner?.row ?? 0), Math.max(active?.row ?? 0, corner?.row ?? 0)]
    const picked = seen.filter((c, at) =>
      whole ? chosen.includes(columns[c]?.name ?? '') : between(at, active?.at ?? 0, corner?.at ?? 0),
    )
    const text = await cellsAsText(
      story,
      from,
      Math.min(to, from + mostCopied - 1),
      picked,
      whole ? picked.map((c) => columns[c]?.name ?? '') : undefined,
    )
    await navigator.clipboard.writeText(text)
    setMessage(
      `Copied ${counted(Math.min(to - from + 1, mostCopied), 'row')} × ${counted(picked.length, 'column')}${to - from + 1 > mostCopied || (whole && total > mostCopied) ? ', the most that can be copied' : ''}.`,
    )
    setTimeout(() => setMessage(''), 2500)
  }
  const fit = (names: readonly string[]): void => {
    const loaded = Array.from({ length: range.to - range.from }, (_, i) => rowAt(range.from + i)).filter(
      (row) => row !== undefined,
    )
    setStageView({
      widths: {
        ...stageView.widths,
        ...Object.fromEntries(
          names.map((name) => [
            name,
            widthFor(
              columns.find((column) => column.name === name) as GridColumn,
              [...(first.data?.rows ?? []), ...loaded],
              columns.findIndex((column) => column.name === name),
              900,
            ),
          ]),
        ),
      },
    })
  }
  const latest = useRef({ stageView, setStageView })
  latest.current = { stageView, setStageView }
  useEffect(() => {
    const element = scroller.current
    const wheel = (event: WheelEvent): void => {
      if (!event.ctrlKey) return
      event.preventDefault()
      latest.current.setStageView({
        zoom:
          Math.round(
            Math.min(1.5, Math.max(0.8, latest.current.stageView.zoom + (event.deltaY < 0 ? 0.1 : -0.1))) * 100,
          ) / 100,
      })
    }
    const keys = (event: globalThis.KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'f') return
      event.preventDefault()
      setFinding(true)
    }
    element?.addEventListener('wheel', wheel, { passive: false })
    window.addEventListener('keydown', keys)
    return () => {
      element?.removeEventListener('wheel', wheel)
      window.removeEventListener('keydown', keys)
    }
  }, [])
  const head = (at: number, left: number) => {
    const column = columns[seen[at] ?? 0] as GridColumn
    return (
      <Head
        key={`${column.state}${column.name}`}
        column={column}
        at={seen[at] ?? 0}
        left={left}
        width={widths[at] ?? 120}
        on={chosen.includes(column.name)}
        facts={ownValue(facts, column.name)}
        choose={choose}
        resize={(width) => setStageView({ widths: { ...stageView.widths, [column.name]: width / stageView.zoom } })}
        fit={() => fit([column.name])}
        rename={(next) => story.begin({ kind: 'rename', names: { [column.name]: next } })}
        drop={(dragged, side) =>
          dragged !== column.name &&
          story.begin({
            kind: 'move',
            columns: chosen.includes(dragged) ? chosen : [dragged],
            to: side === 'before' ? { before: column.name } : { after: column.name },
          })
        }
      />
    )
  }
  const cell = (row: GridRow, index: number, at: number, left: number) => {
    const c = seen[at] ?? 0
    const column = columns[c] as GridColumn
    const here = active?.row === index && active.at === at
    const within =
      active !== undefined &&
      anchor !== undefined &&
      between(index, active.row, anchor.row) &&
      between(at, active.at, anchor.at)
    return (
      <div
        key={c}
        id={`cell-${index}-${c}`}
        role="gridcell"
        aria-colindex={c + 1}
        aria-selected={within || here}
        onClick={(event) => {
          const part =
            column.type === 'text' && row.old?.[c] === undefined
              ? selectedPart(event.currentTarget, row.cells[c] ?? '')
              : undefined
          if (!part) return goTo(index, at, event.shiftKey)
          setActive({ row: index, at })
          setSelection({ kind: 'part', column: column.name, row: index, value: row.cells[c] ?? '', ...part })
        }}
        className={`absolute top-0 h-full truncate border-r border-b border-line px-2.5 whitespace-pre ${isNumeric(column.type) ? 'text-right' : ''} ${tintOf(row, column, c, chosen.includes(column.name) || within)} ${here ? 'outline-2 -outline-offset-2 outline-token' : ''}`}
        style={{ left, width: widths[at], lineHeight: `${rowHeight - 2}px` }}
      >
        <Cell row={row} column={column} at={c} />
      </div>
    )
  }
  const offset = numberWidth + stillWidth
  return (
    <>
      {finding && (
        <FindBar
          story={story}
          at={active ? { row: active.row, column: columns[seen[active.at] ?? 0]?.name ?? '' } : undefined}
          goTo={goToFound}
          goToColumn={(name) => (goToName(active?.row ?? 0, name), setSelection({ kind: 'columns', columns: [name] }))}
          close={() => (setFinding(false), scroller.current?.focus())}
        />
      )}
      <div
        ref={scroller}
        role="grid"
        aria-label={story.table?.name ?? 'Table'}
        aria-rowcount={total + 1}
        aria-colcount={columns.length}
        aria-busy={first.isFetching}
        aria-multiselectable
        aria-activedescendant={active ? `cell-${active.row}-${seen[active.at] ?? 0}` : undefined}
        tabIndex={0}
        onKeyDown={move}
        onCopy={(event) => (event.preventDefault(), void copy())}
        onScroll={({ currentTarget: { scrollTop, scrollHeight, clientHeight } }) =>
          tall.scrolled(scrollTop, scrollHeight, clientHeight)
        }
        className="figures relative min-h-0 flex-1 overflow-auto bg-sheet"
        style={{ fontSize: 12.5 * stageView.zoom }}
      >
        <div
          role="rowgroup"
          className="sticky top-0 z-20 text-[12.5px]"
          style={{ width: across.getTotalSize() + offset }}
        >
          {gridHead(
            stageView,
            setStageView,
            chosen,
            columns,
            fit,
            setFinding,
            still,
            stillWidth,
            stillAt,
            head,
            across,
            offset,
          )}
        </div>
        <div
          role="rowgroup"
          className="relative"
          style={{ height: rows.getTotalSize(), width: across.getTotalSize() + offset }}
        >
          {rows.getVirtualItems().map(({ index: place, start }) => {
            const index = tall.rowOf(place)
            const row = rowAt(index)
            const prefix = () => {
              if (row?.state === 'removed') return '− '
              if (row?.state === 'added' && story.diffMode === 'changes') return '+ '
              return ''
            }
            return (
              <div
                key={place}
                role="row"
                aria-rowindex={index + 2}
                data-state={row?.state ?? 'same'}
                className="group absolute left-0 flex w-full"
                style={{ top: start - headHeight, height: rowHeight }}
              >
                <div
                  role="rowheader"
                  className="sticky left-0 z-10 h-full flex-none border-r border-b border-line bg-paper pr-2 text-right text-[12px] text-ink-3 group-data-[state=added]:text-added group-data-[state=removed]:text-removed"
                  style={{ width: numberWidth, lineHeight: `${rowHeight - 1}px` }}
                >
                  {prefix()}
                  {row ? figure(row.row + 1) : ''}
                </div>
                {still > 0 && (
                  <div
                    role="presentation"
                    className="sticky z-[5] h-full flex-none shadow-[1px_0_0_var(--line-strong)]"
                    style={{ left: numberWidth, width: stillWidth }}
                  >
                    {row && stillAt.map((left, at) => cell(row, index, at, left))}
                  </div>
                )}
                {row &&
                  across
                    .getVirtualItems()
                    .map(({ index: i, start: left }) => cell(row, index, i + Math.max(0, still), left + offset))}
              </div>
            )
          })}
        </div>
        {first.error && !first.data && (
          <p role="alert" className="p-6 font-serif text-[14px] text-removed">
            {first.error.message}
          </p>
        )}
        {first.data && total === 0 && (
          <p className="p-6 font-serif text-[14px] text-ink-3 italic">
            {story.only === 'all' ? 'No rows stand here.' : 'No such rows.'}
          </p>
        )}
      </div>
      <p
        role="status"
        className={
          message === '' ? 'sr-only' : 'figures border-t border-line bg-paper px-3.5 py-1 text-[12px] text-ink-2'
        }
      >
        {message}
      </p>
    </>
  )
}

function gridHead(
  stageView: GridView,
  setStageView: (next: Partial<GridView>) => void,
  chosen: readonly string[],
  columns: readonly GridColumn[],
  fit: (names: readonly string[]) => void,
  setFinding: Dispatch<SetStateAction<boolean>>,
  still: number,
  stillWidth: number,
  stillAt: number[],
  head: (at: number, left: number) => JSX.Element,
  across: ReactVirtualizer<HTMLDivElement, Element>,
  offset: number,
) {
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="relative flex border-b border-line-strong bg-sheet"
      style={{ height: headHeight }}
    >
      <div
        role="columnheader"
        aria-label="Row"
        className="sticky left-0 z-30 h-full flex-none border-r border-line bg-paper"
        style={{ width: numberWidth }}
      >
        <span className="block pt-1.5 pr-2 text-right text-[12px] text-ink-3">row</span>
        <ViewMenu
          view={stageView}
          change={setStageView}
          chosen={chosen}
          names={columns.map(({ name }) => name)}
          fit={fit}
          find={() => setFinding(true)}
        />
      </div>
      {still > 0 && (
        <div
          role="presentation"
          className="sticky z-20 h-full flex-none shadow-[1px_0_0_var(--line-strong)]"
          style={{ left: numberWidth, width: stillWidth }}
        >
          {stillAt.map((left, at) => head(at, left))}
        </div>
      )}
      {across.getVirtualItems().map(({ index, start }) => head(index + Math.max(0, still), start + offset))}
    </div>
  )
}

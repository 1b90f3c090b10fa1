import type { ColumnFacts } from '@fabula/core/api'
import { useRef, type KeyboardEvent } from 'react'
import type { Story } from '../story/use-story.ts'
import { FindBar } from './find-bar.tsx'
import { GridHead } from './grid-head.tsx'
import { GridRowView } from './grid-row.tsx'
import { movedTo } from './grid-selection.ts'
import { numberWidth } from './layout.ts'
import { useCopy } from './use-copy.ts'
import { useGrid, type GridModel } from './use-grid.ts'

const Find = ({ grid }: { grid: GridModel }) => {
  const { story, active, columns, layout } = grid
  const goToColumn = (name: string): void => {
    grid.goToColumn(active?.row ?? 0, name)
    story.setSelection({ kind: 'columns', columns: [name] })
  }
  const close = (): void => {
    grid.setFinding(false)
    grid.scroller.current?.focus()
  }
  return (
    <FindBar
      story={story}
      at={active && { row: active.row, column: columns[layout.shown[active.at] ?? 0]?.name ?? '' }}
      goTo={grid.goToFound}
      goToColumn={goToColumn}
      close={close}
    />
  )
}

/** Said in place of rows: why there are none. */
const NoRows = ({ grid: { first, total, story } }: { grid: GridModel }) => {
  if (first.error && !first.data)
    return (
      <p role="alert" className="p-6 font-serif text-[14px] text-removed">
        {first.error.message}
      </p>
    )
  if (!first.data || total > 0) return null
  return (
    <p className="p-6 font-serif text-[14px] text-ink-3 italic">
      {story.only === 'all' ? 'No rows stand here.' : 'No such rows.'}
    </p>
  )
}

/** The table: an ARIA grid, virtual in both directions. */
export const Grid = ({ story, facts }: { story: Story; facts: Readonly<Record<string, ColumnFacts>> }) => {
  const grid = useGrid(story)
  const latest = useRef(grid)
  latest.current = grid
  const { copy, message } = useCopy(grid)
  const { layout, columns, total, active, tall, rows, across } = grid
  const width = across.getTotalSize() + numberWidth + layout.frozenWidth
  const move = (event: KeyboardEvent<HTMLElement>): void => {
    if (event.target instanceof HTMLElement && event.target.closest('[role=columnheader]')) return
    const here = columns[layout.shown[active?.at ?? 0] ?? 0]
    if (event.key === ' ' && event.ctrlKey && here) {
      event.preventDefault()
      return grid.choose(here.name, false, false)
    }
    if (event.key === 'ArrowUp' && active?.row === 0) {
      event.preventDefault()
      return grid.walkTo(active.at, active.at, false)
    }
    const position = movedTo(active, event.key, event.ctrlKey, total, layout.shown.length)
    if (!position) return
    event.preventDefault()
    grid.goTo(position, event.shiftKey)
  }
  return (
    <>
      {grid.finding && <Find grid={grid} />}
      <div
        ref={grid.scroller}
        role="grid"
        aria-label={story.table?.name ?? 'Table'}
        aria-rowcount={total + 1}
        aria-colcount={columns.length}
        aria-busy={grid.first.isFetching}
        aria-multiselectable
        aria-activedescendant={active ? `cell-${active.row}-${layout.shown[active.at] ?? 0}` : undefined}
        tabIndex={0}
        onKeyDown={move}
        onCopy={(event) => (event.preventDefault(), void copy())}
        onScroll={({ currentTarget: { scrollTop, scrollHeight, clientHeight } }) =>
          tall.scrolled(scrollTop, scrollHeight, clientHeight)
        }
        className="figures relative min-h-0 flex-1 overflow-auto bg-sheet"
        style={{ fontSize: 12.5 * grid.view.zoom }}
      >
        <div role="rowgroup" className="sticky top-0 z-20 text-[12.5px]" style={{ width }}>
          <GridHead grid={grid} latest={latest} facts={facts} />
        </div>
        <div role="rowgroup" className="relative" style={{ height: rows.getTotalSize(), width }}>
          {rows.getVirtualItems().map(({ index, start }) => {
            const row = tall.rowOf(index)
            const { active: at, from, to } = grid.ofRow(row)
            return (
              <GridRowView
                key={index}
                shape={grid.shape}
                grid={latest}
                row={grid.rowAt(row)}
                index={row}
                start={start}
                active={at}
                from={from}
                to={to}
              />
            )
          })}
        </div>
        <NoRows grid={grid} />
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

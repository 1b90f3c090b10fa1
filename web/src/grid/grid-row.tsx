import { figure } from '@fabula/core'
import { memo, type MouseEvent, type RefObject } from 'react'
import { Cell, isNumeric, type GridRow } from './cells.tsx'
import { selectedPart, tintOf, type GridPosition } from './grid-cells.ts'
import { GridColumns } from './grid-columns.tsx'
import { headHeight, numberWidth } from './layout.ts'
import type { GridModel, GridShape } from './use-grid.ts'

type RowProps = {
  readonly shape: GridShape
  /** The grid as it is when a cell is clicked: rows that stay alike are not drawn anew for it. */
  readonly grid: RefObject<GridModel>
  readonly row: GridRow | undefined
  readonly index: number
  readonly start: number
  /** The position of the active cell, where it is in this row. */ readonly active: number | undefined
  /** Positions of columns between which cells of the row are selected, both ends in. */
  readonly from: number | undefined
  readonly to: number | undefined
}

const GridCell = ({
  shape: { columns, layout, chosen, rowHeight },
  grid,
  row,
  position,
  left,
  here,
  selected,
}: Pick<RowProps, 'shape' | 'grid'> & {
  row: GridRow
  position: GridPosition
  left: number
  here: boolean
  selected: boolean
}) => {
  const c = layout.shown[position.at] ?? 0
  const column = columns[c]
  if (!column) return null
  const click = (event: MouseEvent<HTMLElement>): void => {
    const { goTo, setActive, story } = grid.current
    const text = row.cells[c] ?? ''
    const whole = column.type !== 'text' || row.old?.[c] !== undefined
    const part = whole ? undefined : selectedPart(event.currentTarget, text)
    if (!part) return goTo(position, event.shiftKey)
    setActive(position)
    story.setSelection({ kind: 'part', column: column.name, row: position.row, value: text, ...part })
  }
  const tint = tintOf(row, column, c, chosen.includes(column.name) || selected)
  const outline = here ? 'outline-2 -outline-offset-2 outline-token' : ''
  return (
    <div
      id={`cell-${position.row}-${c}`}
      role="gridcell"
      aria-colindex={c + 1}
      aria-selected={selected || here}
      onClick={click}
      // what is asked at the pointer is asked of this cell
      onContextMenu={() => !here && !selected && grid.current.goTo(position)}
      className={`absolute top-0 h-full truncate border-r border-b border-line px-2.5 whitespace-pre ${isNumeric(column.type) ? 'text-right' : ''} ${tint} ${outline}`}
      style={{ left, width: layout.widths[position.at], lineHeight: `${rowHeight - 2}px` }}
    >
      <Cell row={row} column={column} at={c} />
    </div>
  )
}

const markOf = (row: GridRow | undefined, diffMode: string): string => {
  if (row?.state === 'removed') return '− '
  return row?.state === 'added' && diffMode === 'changes' ? '+ ' : ''
}

/** A row of the table: its number, its frozen cells and those in sight; empty until its page is there. */
export const GridRowView = memo(({ shape, grid, row, index, start, active, from, to }: RowProps) => {
  const { rowHeight, diffMode } = shape
  const cell = (at: number, left: number) =>
    row && (
      <GridCell
        key={at}
        shape={shape}
        grid={grid}
        row={row}
        position={{ row: index, at }}
        left={left}
        here={active === at}
        selected={from !== undefined && to !== undefined && at >= from && at <= to}
      />
    )
  return (
    <div
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
        {markOf(row, diffMode)}
        {row ? figure(row.row + 1) : ''}
      </div>
      <GridColumns shape={shape} layer="z-[5]" column={cell} />
    </div>
  )
})

import { Fragment, useState } from 'react'
import { columnLetters } from '@fabula/core'
import type { LookReply, LookRow } from '@fabula/core/api'
import { shownText } from '../grid/cells.tsx'
import type { Opening } from './use-opening.ts'

type State = { readonly kind: 'body' | 'names' | 'out'; readonly why?: string }

/** What becomes of a row of the sheet, and why. */
const stateOf = (row: number, opening: Opening, look: LookReply): State => {
  if (look.format === 'json') return { kind: 'body' }
  const { area, heads, read } = opening
  if (area && (row < area.top || row > area.bottom)) return { kind: 'out', why: 'outside the range' }
  if (heads.includes(row)) return { kind: 'names' }
  const last = Math.max(area ? area.top - 1 : 0, ...heads)
  if (row < last) return { kind: 'out', why: 'above the names, left out' }
  if (row <= last + (read.skip ?? 0)) return { kind: 'out', why: 'left out' }
  const end = area && area.bottom !== Infinity ? area.bottom : look.total
  if (look.total > 0 && read.footer && row > end - read.footer) return { kind: 'out', why: 'foot, left out' }
  return { kind: 'body' }
}

const looks = { body: '', names: 'bg-token-tint font-semibold text-token', out: 'aside text-ink-3' }

type Corner = 'start' | 'end'

/** The area that is read, and dragging its first and last cell; without columns for JSON, which has no cells. */
const useArea = (opening: Opening, look: LookReply | undefined) => {
  const [dragging, setDragging] = useState<Corner>()
  const rows = look?.rows ?? []
  const width = Math.min(60, Math.max(1, ...rows.map(({ cells }) => cells.length)))
  const { area } = opening
  const bounds = {
    top: area?.top ?? opening.heads[0] ?? 1,
    left: area?.left ?? 1,
    bottom: area?.bottom ?? Infinity,
    right: area?.right ?? width,
  }
  const setCorner = (corner: Corner, row: number, column: number): void => {
    const next =
      corner === 'start'
        ? { ...bounds, top: row, left: column }
        : { ...bounds, bottom: row === look?.total ? Infinity : row, right: column }
    const start = `${columnLetters(Math.min(next.left, next.right))}${next.top}`
    const end = `${columnLetters(Math.max(next.left, next.right))}${next.bottom === Infinity ? '' : next.bottom}`
    opening.change({ range: `${start}:${end}`, header: 1 })
  }
  const dragTo = (x: number, y: number): void => {
    const cell = document.elementFromPoint(x, y)?.closest('td[data-column]')
    if (cell instanceof HTMLElement && dragging)
      setCorner(dragging, Number(cell.dataset.row), Number(cell.dataset.column))
  }
  /** By so many rows and columns, within the sheet. */
  const moveCorner = (corner: Corner, down: number, right: number): void => {
    const last = look?.total ?? 1
    const from = corner === 'start' ? [bounds.top, bounds.left] : [Math.min(bounds.bottom, last), bounds.right]
    const [row = 1, column = 1] = [(from[0] ?? 1) + down, (from[1] ?? 1) + right]
    if (row >= 1 && row <= last && column >= 1 && column <= width) setCorner(corner, row, column)
  }
  const cornerOf = (row: number, column: number): Corner | undefined => {
    if (look?.format === 'json') return undefined
    if (row === bounds.top && column === bounds.left) return 'start'
    const lastShown = Math.min(bounds.bottom, rows.at(-1)?.at ?? 1)
    return row === lastShown && column === Math.min(bounds.right, width) ? 'end' : undefined
  }
  return { width, area, dragging, setDragging, dragTo, moveCorner, cornerOf }
}
type Area = ReturnType<typeof useArea>

const cornerKeys: ReadonlyMap<string, readonly [down: number, right: number]> = new Map([
  ['ArrowDown', [1, 0]],
  ['ArrowUp', [-1, 0]],
  ['ArrowRight', [0, 1]],
  ['ArrowLeft', [0, -1]],
])

/** The mark of a corner of the area, which is dragged, or moved by arrows; a finger finds it by more than is drawn. */
const CornerMark = ({ corner, at, area }: { corner: Corner; at: string; area: Area }) => (
  <span
    role="slider"
    tabIndex={0}
    aria-label={corner === 'start' ? 'First cell of the table' : 'Last cell of the table'}
    aria-valuenow={Number(/\d+$/.exec(at)?.[0] ?? 1)}
    aria-valuetext={at}
    className={`absolute z-10 flex size-[24px] cursor-nwse-resize touch-none ${corner === 'start' ? 'top-0 left-0' : 'right-0 bottom-0 items-end justify-end'}`}
    onKeyDown={(event) => {
      const by = cornerKeys.get(event.key)
      if (!by) return
      event.preventDefault()
      area.moveCorner(corner, ...by)
    }}
    onPointerDown={(event) => {
      event.preventDefault()
      area.setDragging(corner)
    }}
  >
    <i aria-hidden className="block size-[9px] rounded-[2px] bg-rubric" />
  </span>
)

const SheetCell = ({ area, row, column, json }: { area: Area; row: LookRow; column: number; json: boolean }) => {
  const outside = area.area && (column < area.area.left || column > area.area.right)
  const corner = area.cornerOf(row.at, column)
  const text = row.cells[column - 1]
  return (
    <td
      data-row={row.at}
      data-column={column}
      className={`relative ${json ? 'whitespace-pre' : 'max-w-[190px]'} truncate border-r border-b border-line px-2.5 ${outside ? 'aside text-ink-3' : ''}`}
    >
      {text ? shownText(text) : ''}
      {corner && <CornerMark corner={corner} at={`${columnLetters(column)}${row.at}`} area={area} />}
    </td>
  )
}

/** A row of the sheet: its number, which makes it the row of names, its cells, and why it is left out. */
const SheetRow = ({ opening, look, area, row }: { opening: Opening; look: LookReply; area: Area; row: LookRow }) => {
  const state = stateOf(row.at, opening, look)
  const json = look.format === 'json'
  return (
    <tr data-state={state.kind} className={`h-[27px] ${looks[state.kind]}`}>
      <th scope="row" className="w-[52px] border-r border-b border-line p-0 font-normal">
        <button
          type="button"
          className="w-full px-2.5 text-right text-ink-3 hover:text-token"
          aria-label={`Names from row ${row.at}`}
          aria-pressed={state.kind === 'names'}
          disabled={json}
          title="The names stand in this row. With Shift: in two rows."
          onClick={(event) => opening.setHead(row.at, event.shiftKey)}
        >
          {row.at}
        </button>
      </th>
      {Array.from({ length: area.width }, (_, c) => (
        <SheetCell key={c} area={area} row={row} column={c + 1} json={json} />
      ))}
      <td
        className={`border-b border-line text-right font-sans text-[12px] whitespace-nowrap ${state.why ? 'sticky right-0 bg-inherit pr-3 pl-2' : 'p-0'}`}
      >
        {state.why}
      </td>
    </tr>
  )
}

/** Stands for rows of the sheet that are not shown. */
const Gap = ({ width }: { width: number }) => (
  <tr className="text-ink-3">
    <td className="border-r border-line px-2 text-right">…</td>
    <td colSpan={width + 1} />
  </tr>
)

/** The sheet as it stands. A click on a row's number makes it the row of names; the corner mark is dragged to take in more or less. */
export const RawSheet = ({ opening }: { opening: Opening }) => {
  const look = opening.look.data
  const area = useArea(opening, look)
  const { width, dragging, setDragging, dragTo } = area
  if (!look) return <p className="p-6 font-serif text-ink-3 italic">Looking at the file…</p>
  const isAfterGap = (i: number): boolean => i > 0 && (look.rows[i]?.at ?? 0) > (look.rows[i - 1]?.at ?? 0) + 1
  return (
    <div
      className="min-h-0 flex-1 overflow-auto"
      onPointerMove={(event) => dragging && event.buttons === 1 && dragTo(event.clientX, event.clientY)}
      onPointerUp={() => setDragging(undefined)}
    >
      <table className="figures w-full border-collapse text-[12.5px]" aria-label="The sheet as it stands in the file">
        <tbody>
          {look.rows.map((row, i) => (
            <Fragment key={row.at}>
              {isAfterGap(i) && <Gap width={width} />}
              <SheetRow opening={opening} look={look} area={area} row={row} />
            </Fragment>
          ))}
        </tbody>
      </table>
      {look.rows.length === 0 && (
        <p className="p-6 text-ink-2">This kind of file has no sheet to look at: see it as a table.</p>
      )}
    </div>
  )
}

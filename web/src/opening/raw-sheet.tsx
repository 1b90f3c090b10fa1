import { useRef, useState } from 'react'
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

/** The sheet as it stands. A click on a row's number makes it the row of names; the corner mark is dragged to take in more or less. */
// eslint-disable-next-line max-lines-per-function -- one flat piece of markup
export const RawSheet = ({ opening }: { opening: Opening }) => {
  const look = opening.look.data
  const body = useRef<HTMLTableSectionElement>(null)
  const [dragging, setDragging] = useState<'start' | 'end'>()
  if (!look) return <p className="p-6 font-serif text-ink-3 italic">Looking at the file…</p>
  const width = Math.min(60, Math.max(1, ...look.rows.map(({ cells }) => cells.length)))
  const { area } = opening
  const bounds = {
    top: area?.top ?? opening.heads[0] ?? 1,
    left: area?.left ?? 1,
    bottom: area?.bottom ?? Infinity,
    right: area?.right ?? width,
  }
  const lastShown = Math.min(bounds.bottom, look.rows.at(-1)?.at ?? 1)
  const setCorner = (row: number, column: number): void => {
    const next =
      dragging === 'start'
        ? { ...bounds, top: row, left: column }
        : { ...bounds, bottom: row === look.total ? Infinity : row, right: column }
    const start = `${columnLetters(Math.min(next.left, next.right))}${next.top}`
    const end = `${columnLetters(Math.max(next.left, next.right))}${next.bottom === Infinity ? '' : next.bottom}`
    opening.change({ range: `${start}:${end}`, header: 1 })
  }
  const onMove = (x: number, y: number): void => {
    const cell = document.elementFromPoint(x, y)?.closest('td[data-column]')
    if (cell instanceof HTMLElement) setCorner(Number(cell.dataset.row), Number(cell.dataset.column))
  }
  const corner = (row: LookRow, column: number): 'start' | 'end' | undefined => {
    if (look.format === 'json') return undefined
    if (row.at === bounds.top && column === bounds.left) return 'start'
    if (row.at === lastShown && column === Math.min(bounds.right, width)) return 'end'
    return undefined
  }
  return (
    <div
      className="min-h-0 flex-1 overflow-auto"
      onPointerMove={(event) => dragging && event.buttons === 1 && onMove(event.clientX, event.clientY)}
      onPointerUp={() => setDragging(undefined)}
    >
      <table className="figures w-full border-collapse text-[12.5px]" aria-label="The sheet as it stands in the file">
        <tbody ref={body}>
          {look.rows.map((row, i) => {
            const state = stateOf(row.at, opening, look)
            const gap = i > 0 && row.at > (look.rows[i - 1]?.at ?? 0) + 1
            return [
              gap && (
                <tr key={`gap${row.at}`} className="text-ink-3">
                  <td className="border-r border-line px-2 text-right">…</td>
                  <td colSpan={width + 1} />
                </tr>
              ),
              <tr key={row.at} data-state={state.kind} className={`h-[27px] ${looks[state.kind]}`}>
                <th scope="row" className="w-[52px] border-r border-b border-line p-0 font-normal">
                  <button
                    type="button"
                    className="w-full px-2.5 text-right text-ink-3 hover:text-token"
                    aria-label={`Names from row ${row.at}`}
                    aria-pressed={state.kind === 'names'}
                    disabled={look.format === 'json'}
                    title="The names stand in this row. With Shift: in two rows."
                    onClick={(event) => opening.setHead(row.at, event.shiftKey)}
                  >
                    {row.at}
                  </button>
                </th>
                {Array.from({ length: width }, (_, c) => {
                  const outside = area && (c + 1 < area.left || c + 1 > area.right)
                  const mark = corner(row, c + 1)
                  return (
                    <td
                      key={c}
                      data-row={row.at}
                      data-column={c + 1}
                      className={`relative ${look.format === 'json' ? 'whitespace-pre' : 'max-w-[190px]'} truncate border-r border-b border-line px-2.5 ${outside ? 'aside text-ink-3' : ''}`}
                    >
                      {row.cells[c] ? shownText(row.cells[c]) : ''}
                      {mark && (
                        <span
                          role="slider"
                          tabIndex={0}
                          aria-label={mark === 'start' ? 'First cell of the table' : 'Last cell of the table'}
                          aria-valuenow={row.at}
                          aria-valuetext={`${columnLetters(c + 1)}${row.at}`}
                          className={`absolute size-[9px] touch-none rounded-[2px] bg-rubric ${mark === 'start' ? 'top-0 left-0 cursor-nwse-resize' : 'right-0 bottom-0 cursor-nwse-resize'}`}
                          onPointerDown={(event) => {
                            event.preventDefault()
                            setDragging(mark)
                          }}
                        />
                      )}
                    </td>
                  )
                })}
                <td
                  className={`border-b border-line text-right font-sans text-[12px] whitespace-nowrap ${state.why ? 'sticky right-0 bg-inherit pr-3 pl-2' : 'p-0'}`}
                >
                  {state.why}
                </td>
              </tr>,
            ]
          })}
        </tbody>
      </table>
      {look.rows.length === 0 && (
        <p className="p-6 text-ink-2">This kind of file has no sheet to look at: see it as a table.</p>
      )}
    </div>
  )
}

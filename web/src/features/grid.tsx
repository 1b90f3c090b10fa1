import { useQueries, useQuery } from '@tanstack/react-query'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react'
import { figure } from '@fabula/core'
import type { ColumnFacts, PreviewReply } from '@fabula/core/api'
import { pageSize, previewQuery } from '../api/queries.ts'
import type { Story } from './story-state.ts'

type ViewRow = PreviewReply['rows'][number]
type ViewColumn = PreviewReply['columns'][number]
const rowHeight = 27
const headHeight = 68
const numberWidth = 56

const isNumeric = (type: ViewColumn['type']): boolean => type === 'integer' || type === 'decimal'
const typeWords: Readonly<Record<ViewColumn['type'], string>> = { text: 'text', integer: 'whole number', decimal: 'number', boolean: 'yes or no', date: 'date', datetime: 'date and time', time: 'time' }

/** Empty is visible, spaces at the ends are dots, line breaks a mark. */
export const shownText = (text: string | null): ReactNode => {
  if (text === null || text === '') return <span className="text-ink-3 italic">empty</span>
  if (!/^\s|\s$|[\r\n\t]/.test(text)) return text
  return text.replace(/^ +| +$/g, (run) => '·'.repeat(run.length)).replace(/\r\n|\r|\n/g, '↵').replace(/\t/g, '→')
}
const plainNumber = (text: string | null, type: ViewColumn['type']): ReactNode => shownText(isNumeric(type) && text !== null && !/e/.test(text) ? text.replace(/^(-?\d+)/, (whole) => (whole.replace('-', '').length > 4 ? Number(whole).toLocaleString('en-GB') : whole)) : text)

const Cell = ({ row, column, at }: { row: ViewRow; column: ViewColumn; at: number }) => {
  const old = row.old?.[at]
  const bad = row.bad?.includes(at)
  return (
    <>
      {old !== undefined && <s className={`mr-1.5 text-[11.5px] ${bad ? 'text-went' : 'text-turned'}`}>{shownText(old)}</s>}
      {bad && <span className="mr-1 text-went">unreadable</span>}
      {!bad && plainNumber(row.cells[at] ?? null, column.type)}
    </>
  )
}

const widthFor = (column: ViewColumn, rows: readonly ViewRow[], at: number): number => {
  const longest = rows.slice(0, 40).reduce((most, row) => Math.max(most, (row.cells[at]?.length ?? 5) + (row.old?.[at] !== undefined ? row.old[at].length + (row.bad?.includes(at) ? 10 : 2) : 0)), 0)
  return Math.min(320, Math.max(124, column.name.length * 8 + 30, longest * 7.9 + 26))
}

const Bars = ({ facts, height }: { facts: ColumnFacts | undefined; height: number }) => {
  const bars = facts?.bars.slice(0, 14) ?? []
  const most = Math.max(1, ...bars.map(({ count }) => count))
  return (
    <div aria-hidden className="mt-1.5 flex items-end gap-px" style={{ height }}>
      {bars.map(({ count }, i) => (
        <i key={i} className="flex-1 bg-bar" style={{ height: Math.max(count > 0 ? 2 : 0, (count / most) * height) }} />
      ))}
    </div>
  )
}

/** The pages of rows that are in view, as they arrive. */
const usePages = (story: Story, from: number, to: number) => {
  const { place, flow, stand, lens, only } = story
  const first = useQuery(previewQuery(place, flow.files, stand, lens, only, 0))
  const wanted = Array.from({ length: Math.max(0, Math.floor(to / pageSize) - Math.floor(from / pageSize) + 1) }, (_, i) => Math.floor(from / pageSize) + i).filter((page) => page > 0)
  const others = useQueries({ queries: wanted.map((page) => previewQuery(place, flow.files, stand, lens, only, page)) })
  const rowAt = (index: number): ViewRow | undefined => {
    const page = Math.floor(index / pageSize)
    return page === 0 ? first.data?.rows[index] : others[wanted.indexOf(page)]?.data?.rows[index - page * pageSize]
  }
  return { first, rowAt }
}

/** The table: an ARIA grid, virtual in both directions. */
export const Grid = ({ story, facts }: { story: Story; facts: Readonly<Record<string, ColumnFacts>> }) => {
  const scroller = useRef<HTMLDivElement>(null)
  const [range, setRange] = useState({ from: 0, to: 40 })
  const [active, setActive] = useState<{ row: number; column: number }>()
  const { first, rowAt } = usePages(story, range.from, range.to)
  const columns = first.data?.columns ?? []
  const total = first.data?.total ?? 0
  const widths = columns.map((column, c) => widthFor(column, first.data?.rows ?? [], c))
  const rows = useVirtualizer({ count: total, getScrollElement: () => scroller.current, estimateSize: () => rowHeight, overscan: 12, scrollMargin: headHeight, onChange: ({ range: seen }) => seen && setRange({ from: seen.startIndex, to: seen.endIndex + 12 }) })
  const across = useVirtualizer({ horizontal: true, count: columns.length, getScrollElement: () => scroller.current, estimateSize: (c) => widths[c] ?? 120, overscan: 3 })
  const signature = columns.map(({ name }) => name).join('\u0000') + widths.join()
  useEffect(() => across.measure(), [signature])
  useEffect(() => setActive(undefined), [story.step?.id, story.lens, story.only])

  const { selection, setSelection } = story
  const chosen = selection.kind === 'columns' ? selection.columns : selection.kind === 'cell' ? [selection.column] : []
  const choose = (name: string, more: boolean, span: boolean): void => {
    if (selection.kind !== 'columns' || (!more && !span)) return setSelection({ kind: 'columns', columns: [name] })
    if (span) {
      const names = columns.filter(({ state }) => state !== 'went').map((column) => column.name)
      const [a, b] = [names.indexOf(selection.columns[0] ?? ''), names.indexOf(name)]
      return setSelection({ kind: 'columns', columns: names.slice(Math.min(a, b), Math.max(a, b) + 1) })
    }
    const next = selection.columns.includes(name) ? selection.columns.filter((one) => one !== name) : [...selection.columns, name]
    return setSelection(next.length > 0 ? { kind: 'columns', columns: next } : { kind: 'table' })
  }
  const goTo = (row: number, column: number): void => {
    const at = { row: Math.max(0, Math.min(total - 1, row)), column: Math.max(0, Math.min(columns.length - 1, column)) }
    setActive(at)
    rows.scrollToIndex(at.row)
    across.scrollToIndex(at.column)
    const name = columns[at.column]?.name
    if (name !== undefined && columns[at.column]?.state !== 'went') setSelection({ kind: 'cell', column: name, row: at.row, value: rowAt(at.row)?.cells[at.column] ?? null })
  }
  const move = (event: KeyboardEvent): void => {
    const by = { ArrowDown: [1, 0], ArrowUp: [-1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1], PageDown: [20, 0], PageUp: [-20, 0] }[event.key]
    if (!by || (event.target as HTMLElement).closest('[role=columnheader]')) return
    event.preventDefault()
    const { row, column } = active ?? { row: -1, column: 0 }
    goTo(row + (by[0] ?? 0), column + (by[1] ?? 0))
  }
  const copy = (): void => {
    if (selection.kind === 'cell') void navigator.clipboard?.writeText(selection.value ?? '')
  }
  return (
    <div
      ref={scroller}
      role="grid"
      aria-label={story.table?.name ?? 'Table'}
      aria-rowcount={total + 1}
      aria-colcount={columns.length}
      aria-busy={first.isFetching}
      aria-activedescendant={active ? `cell-${active.row}-${active.column}` : undefined}
      tabIndex={0}
      onKeyDown={move}
      onCopy={copy}
      className="figures relative min-h-0 flex-1 overflow-auto bg-sheet text-[12.5px]"
    >
      <div role="rowgroup" className="sticky top-0 z-20" style={{ width: across.getTotalSize() + numberWidth }}>
        <div role="row" aria-rowindex={1} className="relative border-b border-line-strong bg-sheet" style={{ height: headHeight }}>
          <div role="columnheader" aria-label="Row" className="sticky left-0 z-10 h-full border-r border-line bg-paper" style={{ width: numberWidth }}>
            <span className="block pt-1.5 pr-2 text-right text-[12px] text-ink-3">row</span>
          </div>
          {across.getVirtualItems().map(({ index, start }) => {
            const column = columns[index] as ViewColumn
            const fact = facts[column.name]
            const on = chosen.includes(column.name)
            return (
              <div
                key={`${column.state}${column.name}`}
                role="columnheader"
                aria-colindex={index + 1}
                aria-selected={on}
                data-state={column.state}
                className="absolute top-0 h-full border-r border-line aria-selected:bg-token-tint aria-selected:shadow-[inset_0_3px_0_var(--token)] data-[state=came]:bg-came-tint data-[state=came]:shadow-[inset_0_3px_0_var(--came)] data-[state=went]:bg-went-tint"
                style={{ left: start + numberWidth, width: widths[index] }}
              >
                <button
                  type="button"
                  className="block h-full w-full px-2.5 py-1.5 text-left"
                  disabled={column.state === 'went'}
                  onClick={(event) => choose(column.name, event.ctrlKey || event.metaKey, event.shiftKey)}
                >
                  <span className={`block truncate font-semibold ${column.state === 'went' ? 'text-went line-through' : ''}`}>
                    {column.state === 'came' && <span className="text-came">+ </span>}
                    {column.was && <s className="mr-1 font-normal text-turned">{column.was}</s>}
                    {column.name}
                  </span>
                  <span className="block truncate text-[12px] text-ink-3">
                    {column.state === 'went' ? 'leaves' : typeWords[column.type]}
                    {fact && column.state !== 'went' ? ` · ${fact.filled < fact.rows ? `${figure(fact.rows - fact.filled)} empty` : `${figure(fact.distinct)} ${fact.distinct === 1 ? 'value' : 'values'}`}` : ''}
                  </span>
                  {column.state !== 'went' && <Bars facts={fact} height={15} />}
                </button>
              </div>
            )
          })}
        </div>
      </div>
      <div role="rowgroup" className="relative" style={{ height: rows.getTotalSize(), width: across.getTotalSize() + numberWidth }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const row = rowAt(index)
          return (
            <div key={index} role="row" aria-rowindex={index + 2} data-state={row?.state ?? 'same'} className="group absolute left-0 w-full" style={{ top: start - headHeight, height: rowHeight }}>
              <div role="rowheader" className="sticky left-0 z-10 h-full border-r border-b border-line bg-paper pt-1.5 pr-2 text-right text-[12px] text-ink-3 group-data-[state=came]:text-came group-data-[state=went]:text-went" style={{ width: numberWidth }}>
                {row?.state === 'went' ? '− ' : row?.state === 'came' && story.lens === 'changes' ? '+ ' : ''}
                {row ? figure(row.row + 1) : ''}
              </div>
              {row &&
                across.getVirtualItems().map(({ index: c, start: left }) => {
                  const column = columns[c] as ViewColumn
                  const turned = row.old?.[c] !== undefined
                  const here = active?.row === index && active.column === c
                  const tint = row.state === 'went' || column.state === 'went' ? 'bg-went-tint text-went line-through' : row.bad?.includes(c) ? 'bg-went-tint' : turned ? 'turned-mark bg-turned-tint' : row.state === 'came' || column.state === 'came' ? 'bg-came-tint' : chosen.includes(column.name) ? 'bg-token-tint' : ''
                  return (
                    <div
                      key={c}
                      id={`cell-${index}-${c}`}
                      role="gridcell"
                      aria-colindex={c + 1}
                      aria-selected={here}
                      onClick={() => goTo(index, c)}
                      className={`absolute top-0 h-full truncate border-r border-b border-line px-2.5 pt-1 whitespace-pre ${isNumeric(column.type) ? 'text-right' : ''} ${tint} ${here ? 'outline-2 -outline-offset-2 outline-token' : ''}`}
                      style={{ left: left + numberWidth, width: widths[c] }}
                    >
                      <Cell row={row} column={column} at={c} />
                    </div>
                  )
                })}
            </div>
          )
        })}
      </div>
      {first.error && !first.data && <p role="alert" className="p-6 font-serif text-[14px] text-went">{first.error.message}</p>}
      {first.data && total === 0 && <p className="p-6 font-serif text-[14px] text-ink-3 italic">{story.only === 'all' ? 'No rows stand here.' : 'No such rows.'}</p>}
    </div>
  )
}

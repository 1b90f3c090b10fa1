import { figure } from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import { Bars, typeWords, type ViewColumn } from './cells.tsx'

type Props = {
  readonly column: ViewColumn
  readonly at: number
  readonly left: number
  readonly width: number
  readonly on: boolean
  readonly facts: ColumnFacts | undefined
  readonly choose: (name: string, more: boolean, span: boolean) => void
  readonly resize: (width: number) => void
  readonly fit: () => void
}

/** The head of a column: its name, type and spread. Its edge is dragged to widen it, a double click there fits it. */
export const Head = ({ column, at, left, width, on, facts, choose, resize, fit }: Props) => (
  <div
    role="columnheader"
    aria-colindex={at + 1}
    aria-selected={on}
    data-state={column.state}
    className="absolute top-0 h-full border-r border-line bg-sheet aria-selected:bg-token-tint aria-selected:shadow-[inset_0_3px_0_var(--token)] data-[state=came]:bg-came-tint data-[state=came]:shadow-[inset_0_3px_0_var(--came)] data-[state=went]:bg-went-tint"
    style={{ left, width }}
  >
    <button type="button" className="block h-full w-full px-2.5 py-1.5 text-left" disabled={column.state === 'went'} onClick={(event) => choose(column.name, event.ctrlKey || event.metaKey, event.shiftKey)}>
      <span className={`block truncate font-semibold ${column.state === 'went' ? 'text-went line-through' : ''}`}>
        {column.state === 'came' && <span className="text-came">+ </span>}
        {column.was && <s className="mr-1 font-normal text-turned">{column.was}</s>}
        {column.name}
      </span>
      <span className="block truncate text-[12px] text-ink-3">
        {column.state === 'went' ? 'leaves' : typeWords[column.type]}
        {facts && column.state !== 'went' ? ` · ${facts.filled < facts.rows ? `${figure(facts.rows - facts.filled)} empty` : `${figure(facts.distinct)} ${facts.distinct === 1 ? 'value' : 'values'}`}` : ''}
      </span>
      {column.state !== 'went' && <Bars facts={facts} height={15} />}
    </button>
    <span
      aria-hidden
      className="absolute top-0 -right-[3px] z-10 h-full w-[6px] cursor-col-resize touch-none hover:bg-token"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        event.preventDefault()
      }}
      onPointerMove={(event) => event.buttons === 1 && resize(Math.max(48, event.clientX - (event.currentTarget.parentElement?.getBoundingClientRect().left ?? 0)))}
      onDoubleClick={fit}
    />
  </div>
)

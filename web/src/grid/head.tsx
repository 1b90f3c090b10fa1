import { NameField } from '../ui/name-field.tsx'
import { useState } from 'react'
import { useDragItem } from '../ui/drag-list.tsx'
import { figure } from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import { Bars, isNumeric, typeLabels, type GridColumn } from './cells.tsx'

type HeadProps = {
  readonly column: GridColumn
  readonly at: number
  readonly left: number
  readonly width: number
  readonly on: boolean
  /** Whether Tab reaches it; arrows lead to the others. */
  readonly stop: boolean
  readonly facts: ColumnFacts | undefined
  readonly drafting: boolean
  readonly choose: (name: string, more: boolean, span: boolean) => void
  readonly resize: (width: number) => void
  readonly fit: () => void
  readonly rename: (name: string) => void
}

/**
 * The head of a column: its name, type and spread. A double click on the name renames it there, dragging the head moves
 * the column; its edge is dragged to widen it, a double click there fits it.
 */
export const Head = ({
  column,
  at,
  left,
  width,
  on,
  stop,
  facts,
  drafting,
  choose,
  resize,
  fit,
  rename,
}: HeadProps) => {
  const [naming, setNaming] = useState(false)
  const here = column.state !== 'removed'
  const drag = useDragItem(column.name, 'across', !here || naming)
  const name = (text: string): void => {
    setNaming(false)
    if (text.trim() !== '' && text !== column.name) rename(text)
  }
  return (
    <div
      role="columnheader"
      aria-colindex={at + 1}
      aria-selected={on}
      data-state={column.state}
      // by keyboard a column is moved by its verb: Space chooses it here
      {...drag.frame}
      className={`absolute top-0 h-full border-r border-line bg-sheet aria-selected:bg-token-tint aria-selected:shadow-[inset_0_3px_0_var(--token)] data-[state=added]:bg-added-tint data-[state=added]:shadow-[inset_0_3px_0_var(--added)] data-[state=removed]:bg-removed-tint ${drag.look}`}
      style={{ left, width }}
    >
      {naming ? (
        <NameField
          name={column.name}
          className="mx-1 mt-1 w-[calc(100%-8px)] font-semibold"
          keep={name}
          leave={() => setNaming(false)}
        />
      ) : (
        <button
          type="button"
          tabIndex={stop ? 0 : -1}
          className={`block h-full w-full px-2.5 py-1.5 ${isNumeric(column.type) ? 'text-right' : 'text-left'}`}
          disabled={!here}
          // while a draft stands, Enter keeps it: a head is chosen by Space or the mouse
          onKeyDown={(event) => drafting && event.key === 'Enter' && event.preventDefault()}
          onClick={(event) => choose(column.name, event.ctrlKey || event.metaKey, event.shiftKey)}
          onContextMenu={() => !on && choose(column.name, false, false)}
          onDoubleClick={() => setNaming(true)}
        >
          <span className={`block truncate font-semibold ${here ? '' : 'text-removed line-through'}`}>
            {column.state === 'added' && <span className="text-added">+ </span>}
            {column.was && <s className="mr-1 font-normal text-changed">{column.was}</s>}
            {column.name}
          </span>
          <span className="block truncate text-[12px] text-ink-3">
            {here ? typeLabels[column.type] : 'leaves'}
            {facts && here
              ? ` · ${facts.filled < facts.rows ? `${figure(facts.rows - facts.filled)} empty` : `${figure(facts.distinct)} ${facts.distinct === 1 ? 'value' : 'values'}`}`
              : ''}
          </span>
          {here && <Bars facts={facts} height={15} />}
        </button>
      )}
      <span
        aria-hidden
        className="absolute top-0 -right-[3px] z-10 h-full w-[6px] cursor-col-resize touch-none hover:bg-token"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId)
          event.preventDefault()
        }}
        onMouseDown={(event) => (event.preventDefault(), event.stopPropagation())}
        onTouchStart={(event) => event.stopPropagation()}
        onPointerMove={(event) =>
          event.buttons === 1 &&
          resize(Math.max(48, event.clientX - (event.currentTarget.parentElement?.getBoundingClientRect().left ?? 0)))
        }
        onDoubleClick={fit}
      />
    </div>
  )
}

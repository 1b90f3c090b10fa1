import { useMutation } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { counted } from '@fabula/core'
import { askTable } from '../api/queries.ts'
import { Button } from '../ui/parts.tsx'
import type { Story } from '../story/use-story.ts'

export type FoundCell = { readonly row: number; readonly column: string }

/** A column by its name, or a value anywhere in the table. */
export const FindBar = ({
  story,
  at,
  goTo,
  goToColumn,
  close,
}: {
  story: Story
  at: FoundCell | undefined
  goTo: (cell: FoundCell) => void
  goToColumn: (name: string) => void
  close: () => void
}) => {
  const [text, setText] = useState('')
  const box = useRef<HTMLInputElement>(null)
  useEffect(() => box.current?.focus(), [])
  const find = useMutation({
    mutationFn: (back: boolean) =>
      askTable(story.endpoint, 'find', {
        recipe: story.cursor.recipe,
        table: story.cursor.table,
        step: story.cursor.step,
        text,
        from: at ? { row: at.row, column: at.column } : null,
        back,
      }),
    onSuccess: ({ found }) => found && goTo(found),
  })
  const columns =
    text === ''
      ? []
      : story.schemaHere.filter(({ name }) => name.toLowerCase().includes(text.toLowerCase())).slice(0, 8)
  const { data } = find
  const found = () => {
    if (find.isPending) return 'Looking…'
    if (data) {
      if (data.total === 0) return 'No cell holds that.'
      return `${counted(data.total, 'cell')}${data.total === 1 ? ' holds' : ' hold'} it`
    }
    return ''
  }
  return (
    <div role="search" className="flex flex-wrap items-center gap-2 border-b border-line bg-paper px-3.5 py-1.5">
      <input
        ref={box}
        className="field w-[220px]"
        type="search"
        aria-label="Find a column or a value"
        placeholder="Find a column or a value"
        value={text}
        onChange={(event) => {
          setText(event.target.value)
          find.reset()
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && text !== '') find.mutate(event.shiftKey)
          if (event.key === 'Escape') close()
          event.stopPropagation()
        }}
      />
      <Button look="quiet" className="px-2! py-1!" disabled={text === ''} onClick={() => find.mutate(true)}>
        Previous
      </Button>
      <Button look="quiet" className="px-2! py-1!" disabled={text === ''} onClick={() => find.mutate(false)}>
        Next
      </Button>
      <span role="status" className="figures text-[12px] text-ink-3">
        {found()}
      </span>
      {columns.map(({ name }) => (
        <button
          key={name}
          type="button"
          className="rounded border border-line px-1.5 font-data text-[12px] text-token hover:bg-token-tint"
          onClick={() => goToColumn(name)}
        >
          {name}
        </button>
      ))}
      <Button look="quiet" className="ml-auto px-2! py-1!" aria-label="Close the search" onClick={close}>
        ×
      </Button>
    </div>
  )
}

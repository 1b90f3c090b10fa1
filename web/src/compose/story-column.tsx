import { useState } from 'react'
import type { Story } from '../story/use-story.ts'
import type { StoryCommand } from '../story/verbs.ts'
import { Composer } from './composer.tsx'
import { TableList } from './table-list.tsx'

/** A width in pixels between two bounds, kept in the browser from visit to visit. */
export const useWidth = (name: string, start: number, low: number, high: number) => {
  const [width, setWidth] = useState(() => Number(localStorage.getItem(name) ?? start))
  const change = (next: number): void => {
    const held = Math.min(high, Math.max(low, next))
    setWidth(held)
    localStorage.setItem(name, String(held))
  }
  return [width, change] as const
}

/** The tables with their sentences, the line that finds a verb, and the edge that sets the width of both. */
export const StoryColumn = ({
  story,
  focusRef,
  command,
  width,
  setWidth,
}: {
  story: Story
  focusRef: (focus: () => void) => void
  command: (name: StoryCommand) => void
  width: number
  setWidth: (next: number) => void
}) => (
  <section aria-label="The story" className="relative flex min-h-0 flex-col border-r border-line">
    <TableList story={story} />
    <Composer story={story} focusRef={focusRef} command={command} />
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label="Width of the story"
      aria-valuenow={width}
      tabIndex={0}
      className="absolute top-0 -right-1 bottom-0 z-30 w-2 cursor-col-resize"
      onKeyDown={(event) => {
        if (event.key === 'ArrowLeft') setWidth(width - 16)
        if (event.key === 'ArrowRight') setWidth(width + 16)
      }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => event.buttons === 1 && setWidth(event.clientX)}
    />
  </section>
)

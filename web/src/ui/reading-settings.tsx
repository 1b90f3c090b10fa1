import { Popover } from 'radix-ui'
import { useState } from 'react'
import { Button, Segments } from './parts.tsx'
import { chosenTheme, setTheme, type Theme } from './theme.ts'
import { setWriting, useWriting, writtenValue, type Writing } from './writing.ts'

const example = (writing: Writing): string =>
  `${writtenValue('2031-05-02', 'date', writing)} · ${writtenValue('12045.5', 'decimal', writing)}`

/** How the pages read: the light they are read by, and how numbers and dates are written. Kept in this browser. */
export const ReadingSettings = () => {
  const writing = useWriting()
  const [theme, choose] = useState(chosenTheme)
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button look="quiet" aria-label="How pages read" title="How pages read">
          <span aria-hidden className="font-serif">
            Aa
          </span>
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={12}
          aria-label="How pages read"
          className="z-50 grid max-w-[calc(100vw-24px)] gap-3 rounded-lg border border-line-strong bg-sheet p-3 text-[13px] text-ink"
        >
          <div className="grid gap-1">
            <p className="text-ink-2">Read by</p>
            <Segments<Theme>
              label="Read by"
              value={theme}
              of={[
                ['paper', 'daylight'],
                ['lamplight', 'lamplight'],
                ['system', 'as this computer'],
              ]}
              onChange={(next) => {
                setTheme(next)
                choose(next)
              }}
            />
          </div>
          <div className="grid gap-1">
            <p className="text-ink-2">Dates and numbers</p>
            <Segments<Writing>
              label="Dates and numbers"
              value={writing}
              of={[
                ['iso', example('iso')],
                ['language', example('language')],
              ]}
              onChange={setWriting}
            />
            <p className="text-[12px] text-ink-3">Files that are written keep the one form that every program reads.</p>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

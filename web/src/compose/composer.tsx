import { Command } from 'cmdk'
import { useEffect, useRef, useState } from 'react'
import type { Story } from '../story/use-story.ts'
import { verbsFor } from '../story/verbs.ts'

/** Finds any verb by any word for it; Enter begins its sentence. */
export const Composer = ({ story, focusRef }: { story: Story; focusRef: (focus: () => void) => void }) => {
  const [open, setOpen] = useState(false)
  const [text, setText] = useState('')
  const box = useRef<HTMLInputElement>(null)
  useEffect(() => focusRef(() => box.current?.focus()), [focusRef])
  const { selection, schemaHere } = story
  const selected = selection.kind === 'table' ? [] : verbsFor(selection, schemaHere, story.likelyTables)
  const general = verbsFor({ kind: 'table' }, schemaHere, story.likelyTables).filter(
    ({ step }) => !selected.some((verb) => !verb.builder && verb.step?.kind === step?.kind),
  )
  return (
    <Command label="Verbs" className="relative border-t border-line bg-paper" loop>
      {/* the list stays in the page while it is closed: the box names it as what it controls */}
      <Command.List
        hidden={!open}
        className="absolute right-3 bottom-full left-3 z-30 max-h-[300px] overflow-auto rounded-t-lg border border-line-strong bg-sheet p-1.5"
      >
        <Command.Empty className="px-2 py-3 text-ink-3">No verb is found by that word.</Command.Empty>
        {[...selected, ...general].map((verb) => (
          <Command.Item
            key={verb.name}
            value={verb.name}
            keywords={[...verb.words]}
            className="cursor-pointer rounded px-2 py-1.5 data-[selected=true]:bg-token-tint"
            onSelect={() => {
              setText('')
              setOpen(false)
              box.current?.blur()
              story.act(verb)
            }}
          >
            {verb.name}
          </Command.Item>
        ))}
      </Command.List>
      <div className="flex items-center gap-2.5 px-4 py-2.5">
        <Command.Input
          ref={box}
          value={text}
          onValueChange={setText}
          onFocus={() => setOpen(true)}
          onBlur={() => setTimeout(() => setOpen(false), 150)}
          onKeyDown={(event) => event.key === 'Escape' && (event.stopPropagation(), box.current?.blur())}
          placeholder="What happens next? Type a verb"
          className="flex-1 bg-transparent font-serif text-[13.5px] italic outline-offset-4 placeholder:text-ink-3"
        />
        <span className="text-ink-3">/</span>
      </div>
    </Command>
  )
}

import { Command } from 'cmdk'
import { useEffect, useEffectEvent, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import { findVerbs, verbsAt, type FoundVerb } from '../story/find-verbs.ts'
import type { Story } from '../story/use-story.ts'
import type { StoryCommand } from '../story/verbs.ts'

/** So many verbs are listed. */
const mostListed = 40

const VerbItem = ({ verb, act }: { verb: FoundVerb; act: () => void }) => (
  <Command.Item
    value={verb.name}
    className="cursor-pointer rounded px-2 py-1 data-[selected=true]:bg-token-tint"
    onSelect={act}
  >
    <span className={`block ${verb.needs === undefined ? '' : 'text-ink-2'}`}>{verb.name}</span>
    {verb.about !== '' && <span className="block truncate text-[12px] text-ink-3">{verb.about}</span>}
  </Command.Item>
)

/** Finds any verb by any word for it, with what it does to the selection; Enter begins its sentence. */
export const Composer = ({
  story,
  focusRef,
  command,
}: {
  story: Story
  focusRef: (focus: () => void) => void
  /** Carries out what is asked of the story as a whole. */
  command: (name: StoryCommand) => void
}) => {
  const [open, setOpen] = useState(false)
  const [text, setText] = useState('')
  const box = useRef<HTMLInputElement>(null)
  useEffect(() => focusRef(() => box.current?.focus()), [focusRef])
  const [selected, setSelected] = useState('')
  /** Whether the mark was moved by hand since the last letter; else it is on the first. */
  const [moved, setMoved] = useState(false)
  /** What was asked for by Enter before the verbs were known. */
  const [asked, setAsked] = useState<string>()
  const { selection, draftContext, recipe } = story
  const verbs = useMemo(
    () => (open ? verbsAt({ selection, ...draftContext }, recipe) : []),
    [open, selection, draftContext, recipe],
  )
  const found = useMemo(() => findVerbs(text, verbs).slice(0, mostListed), [text, verbs])
  const marked = (moved ? found.find(({ name }) => name === selected) : undefined) ?? found[0]
  const act = (verb: FoundVerb): void => {
    setText('')
    setOpen(false)
    box.current?.blur()
    if (verb.command) command(verb.command)
    else story.act(verb)
  }
  /** Enter begins what stands first for all that was typed, also where the list is not drawn for it yet. */
  const keyed = (event: KeyboardEvent<HTMLInputElement>): void => {
    if (event.key === 'Escape') {
      event.stopPropagation()
      setAsked(undefined)
      box.current?.blur()
    }
    if (event.key.startsWith('Arrow')) setMoved(true)
    if (event.key !== 'Enter') return
    event.preventDefault()
    const typed = event.currentTarget.value
    const chosen = typed === text ? marked : findVerbs(typed, verbs)[0]
    if (chosen) act(chosen)
    else if (verbs.length === 0) setAsked(typed)
  }
  // the columns of the table were not known yet when Enter was pressed
  const actAsked = useEffectEvent(() => {
    if (asked === undefined || verbs.length === 0) return
    setAsked(undefined)
    const [chosen] = findVerbs(asked, verbs)
    if (chosen && asked === text) act(chosen)
  })
  useEffect(() => actAsked(), [asked, verbs])
  return (
    <Command
      label="Verbs"
      className="relative border-t border-line bg-paper"
      loop
      shouldFilter={false}
      value={marked?.name ?? ''}
      onValueChange={setSelected}
    >
      {/* the list stays in the page while it is closed: the box names it as what it controls */}
      <Command.List
        hidden={!open}
        onPointerMove={() => setMoved(true)}
        className="absolute right-3 bottom-full left-3 z-30 max-h-[min(420px,60vh)] overflow-auto rounded-t-lg border border-line-strong bg-sheet p-1.5"
      >
        <Command.Empty className="px-2 py-3 text-ink-3">
          {draftContext.schema.length === 0 ? 'The table is being looked at…' : 'No verb is found by that word.'}
        </Command.Empty>
        {found.map((verb) => (
          <VerbItem key={verb.name} verb={verb} act={() => act(verb)} />
        ))}
      </Command.List>
      <div className="flex items-center gap-2.5 px-4 py-2.5">
        <Command.Input
          ref={box}
          value={text}
          onValueChange={(next) => {
            setText(next)
            setMoved(false)
          }}
          onFocus={() => setOpen(true)}
          onBlur={() => setTimeout(() => setOpen(false), 150)}
          onKeyDown={keyed}
          placeholder="What happens next? Type a verb"
          className="flex-1 bg-transparent font-serif text-[13.5px] italic outline-offset-4 placeholder:text-ink-3"
        />
        <span className="text-ink-3">/</span>
      </div>
    </Command>
  )
}

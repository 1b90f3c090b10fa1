import { counted, openedBy, sentenceText, tableNames, type NewStep, type Step } from '@fabula/core'
import { DropdownMenu } from 'radix-ui'
import { useState, type ReactNode } from 'react'
import type { Story } from '../story/use-story.ts'
import { CopyToStory } from './copy-to-story.tsx'
import { copied, copy, neededBy } from './sentences.ts'
import { stepActions } from './step-actions.ts'

const Item = ({ children, run, disabled = false }: { children: ReactNode; run: () => void; disabled?: boolean }) => (
  <DropdownMenu.Item
    className="cursor-pointer rounded px-2 py-1 outline-none data-disabled:text-ink-3 data-highlighted:bg-token-tint"
    disabled={disabled}
    onSelect={run}
  >
    {children}
  </DropdownMenu.Item>
)

type MenuProps = {
  readonly story: Story
  readonly step: Step
  readonly index: number
  readonly count: number
  /** Opens a form under the sentence. */
  readonly edit: (form: 'words' | 'input') => void
}

/** What moves or copies a sentence; the first one of a table stays where it is. */
const PlaceItems = ({ story, step, index, count }: Omit<MenuProps, 'edit'>) => {
  const actions = stepActions(story, step, index)
  const waiting = copied()
  const isFirst = index === 0
  return (
    <>
      {!isFirst && (
        <>
          <Item disabled={index <= 1} run={() => actions.move(-1)}>
            Move it up
          </Item>
          <Item disabled={index >= count - 1} run={() => actions.move(1)}>
            Move it down
          </Item>
          <Item run={actions.duplicate}>Duplicate it</Item>
          <Item run={() => copy(step)}>Copy it, for this story or another</Item>
          {story.flow.rights === 'all' && <CopyToStory story={story} step={step} />}
        </>
      )}
      {waiting && <PasteItem story={story} waiting={waiting} paste={() => actions.putAfter(waiting)} />}
    </>
  )
}

const PasteItem = ({ story, waiting, paste }: { story: Story; waiting: NewStep; paste: () => void }) => (
  <Item run={paste}>
    <span className="block">Put the copied sentence after it</span>
    <span className="block truncate text-[12px] text-ink-3">
      {sentenceText({ ...waiting, id: 'copy' } as Step, tableNames(story.flow.recipe))}
    </span>
  </Item>
)

/** What takes a sentence out, alone or with those that cannot stand without it. */
const RemoveItems = ({ story, step, index }: Omit<MenuProps, 'edit' | 'count'>) => {
  const actions = stepActions(story, step, index)
  const needs = story.table ? neededBy(story.flow.recipe, story.table, step.id) : []
  const many = counted(needs.length, 'sentence')
  return (
    <>
      {index > 0 && (
        <Item run={() => actions.remove([])}>
          Take it out
          {needs.length > 0 ? `; ${many} will wait for ${needs.length === 1 ? 'a mend' : 'mends'}` : ''}
        </Item>
      )}
      {needs.length > 0 && (
        <Item run={() => actions.remove(needs)}>
          Take it out with the {many} that {needs.length === 1 ? 'needs' : 'need'} it
        </Item>
      )}
    </>
  )
}

const MenuItems = ({ story, step, index, count, edit }: MenuProps) => {
  const actions = stepActions(story, step, index)
  return (
    <>
      <Item run={() => edit('words')}>Own words and a note…</Item>
      {openedBy(step) && <Item run={() => edit('input')}>Its name, and which files it takes…</Item>}
      {index > 0 && <Item run={actions.switchOnOff}>{step.off ? 'Switch it on' : 'Switch it off'}</Item>}
      <Item run={actions.branch}>Continue from here as a new table</Item>
      <Item run={actions.explain}>Explain the difference to another moment…</Item>
      <PlaceItems story={story} step={step} index={index} count={count} />
      <RemoveItems story={story} step={step} index={index} />
    </>
  )
}

/** What can be done with a sentence as a whole. */
export const StepMenu = (props: MenuProps) => {
  const [open, setOpen] = useState(false)
  if (!props.story.table) return null
  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen}>
      <DropdownMenu.Trigger asChild>
        <button
          type="button"
          aria-label={`More for sentence ${props.index + 1}`}
          className="size-6 rounded text-ink-3 opacity-0 pointer-coarse:opacity-100 group-hover:opacity-100 focus-visible:opacity-100 data-[state=open]:opacity-100"
        >
          ⋯
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-50 max-w-[320px] min-w-[210px] rounded-lg border border-line-strong bg-sheet p-1.5 text-[13px]"
        >
          <MenuItems {...props} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

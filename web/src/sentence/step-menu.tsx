import { DropdownMenu } from 'radix-ui'
import { useState } from 'react'
import {
  counted,
  nextStepId,
  sentenceText,
  tableNames,
  type Step,
  type NewStep,
  openedBy,
  type RecipeTable,
  type Recipe,
} from '@fabula/core'
import { copied, copy, moved, neededBy, whyNot } from './sentences.ts'
import type { Story } from '../story/use-story.ts'

const item = 'cursor-pointer rounded px-2 py-1 outline-none data-highlighted:bg-token-tint data-disabled:text-ink-3'

/** What can be done with a sentence as a whole. */
export const StepMenu = ({
  story,
  step,
  index,
  count,
  edit,
}: {
  story: Story
  step: Step
  index: number
  count: number
  /** Opens a form under the sentence. */ edit: (form: 'words' | 'input') => void
}) => {
  const [open, setOpen] = useState(false)
  const { table } = story
  if (!table) return null
  const recipe = story.flow.recipe
  const needs = open ? neededBy(recipe, table, step.id) : []
  const waiting = open ? copied() : undefined
  const first = index === 0
  const swap = (by: number): void => {
    const steps = moved(table.steps, step.id, index + by)
    const why = whyNot(recipe, table, steps)
    if (why) story.setProblem(why)
    else void story.changeSteps('a sentence moved', () => steps)
  }
  const put = (params: NewStep): void => {
    const made = { ...params, id: nextStepId(recipe) } as Step
    void story.changeSteps('a sentence put in', (steps) => [
      ...steps.slice(0, index + 1),
      made,
      ...steps.slice(index + 1),
    ])
    story.goTo(table.id, made.id)
  }
  const { id: _id, ...params } = step
  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen}>
      <DropdownMenu.Trigger asChild>
        <button
          type="button"
          aria-label={`More for sentence ${index + 1}`}
          className="rounded px-1 text-ink-3 opacity-0 group-hover:opacity-100 focus-visible:opacity-100 data-[state=open]:opacity-100"
        >
          ⋯
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        {menuContent(edit, step, first, story, table, index, swap, count, put, params, waiting, recipe, needs)}
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

// eslint-disable-next-line max-lines-per-function -- one flat piece of markup
function menuContent(
  edit: (form: 'words' | 'input') => void,
  step: Step,
  first: boolean,
  story: Story,
  table: RecipeTable,
  index: number,
  swap: (by: number) => void,
  count: number,
  put: (params: NewStep) => void,
  params: NewStep,
  waiting: NewStep | undefined,
  recipe: Recipe,
  needs: string[],
) {
  return (
    <DropdownMenu.Content
      align="end"
      className="z-50 max-w-[320px] min-w-[210px] rounded-lg border border-line-strong bg-sheet p-1.5 text-[13px]"
    >
      <DropdownMenu.Item className={item} onSelect={() => edit('words')}>
        Own words and a note…
      </DropdownMenu.Item>
      {openedBy(step) && (
        <DropdownMenu.Item className={item} onSelect={() => edit('input')}>
          Its name, and which files it takes…
        </DropdownMenu.Item>
      )}
      {!first && (
        <DropdownMenu.Item
          className={item}
          onSelect={() =>
            void story.changeSteps(step.off ? 'a sentence switched on' : 'a sentence switched off', (steps) =>
              steps.map((one) =>
                one.id === step.id
                  ? (Object.fromEntries(
                      Object.entries({ ...one, off: !one.off }).filter(([key, value]) => key !== 'off' || value),
                    ) as unknown as Step)
                  : one,
              ),
            )
          }
        >
          {step.off ? 'Switch it on' : 'Switch it off'}
        </DropdownMenu.Item>
      )}
      <DropdownMenu.Item className={item} onSelect={() => void story.branch(table.id, step.id)}>
        Continue from here as a new table
      </DropdownMenu.Item>
      <DropdownMenu.Item
        className={item}
        onSelect={() => (story.goTo(table.id, step.id), story.setStageView('reconcile'))}
      >
        Explain the difference to another moment…
      </DropdownMenu.Item>
      {!first && (
        <DropdownMenu.Item className={item} disabled={index <= 1} onSelect={() => swap(-1)}>
          Move it up
        </DropdownMenu.Item>
      )}
      {!first && (
        <DropdownMenu.Item className={item} disabled={index >= count - 1} onSelect={() => swap(1)}>
          Move it down
        </DropdownMenu.Item>
      )}
      {!first && (
        <DropdownMenu.Item className={item} onSelect={() => put(params as NewStep)}>
          Duplicate it
        </DropdownMenu.Item>
      )}
      {!first && (
        <DropdownMenu.Item className={item} onSelect={() => copy(step)}>
          Copy it, for this story or another
        </DropdownMenu.Item>
      )}
      {waiting && (
        <DropdownMenu.Item className={item} onSelect={() => put(waiting)}>
          <span className="block">Put the copied sentence after it</span>
          <span className="block truncate text-[12px] text-ink-3">
            {sentenceText({ ...waiting, id: 'copy' } as Step, tableNames(recipe))}
          </span>
        </DropdownMenu.Item>
      )}
      {!first && (
        <DropdownMenu.Item
          className={item}
          onSelect={() =>
            void story.changeSteps('a sentence taken out', (steps) => steps.filter(({ id }) => id !== step.id))
          }
        >
          Take it out
          {needs.length > 0
            ? `; ${counted(needs.length, 'sentence')} will wait for ${needs.length === 1 ? 'a mend' : 'mends'}`
            : ''}
        </DropdownMenu.Item>
      )}
      {needs.length > 0 && (
        <DropdownMenu.Item
          className={item}
          onSelect={() =>
            void story.changeSteps('sentences taken out', (steps) =>
              steps.filter(({ id }) => id !== step.id && !needs.includes(id)),
            )
          }
        >
          Take it out with the {counted(needs.length, 'sentence')} that {needs.length === 1 ? 'needs' : 'need'} it
        </DropdownMenu.Item>
      )}
    </DropdownMenu.Content>
  )
}

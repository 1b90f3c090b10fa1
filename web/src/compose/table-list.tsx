import { DropdownMenu } from 'radix-ui'
import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { counted, inOrder, listed, nextStepId, type RecipeTable, type Step } from '@fabula/core'
import { Button, Dot } from '../ui/parts.tsx'
import { idOf, titleOf } from '../story/names.ts'
import { Outputs } from './outputs.tsx'
import { Parameters } from '../sentence/parameters.tsx'
import { SamplesNote } from '../story/samples-note.tsx'
import { useFileSender } from '../opening/file-sender.tsx'
import { DragList } from '../ui/drag-list.tsx'
import { moveStep } from '../sentence/step-actions.ts'
import { Sentence } from '../sentence/sentence-item.tsx'
import type { Story } from '../story/use-story.ts'
import { fedBy, feedersOf, isWritten, renamedTableTo, withoutTable, withWritten } from '../story/tables.ts'

const item = 'cursor-pointer rounded px-2 py-1 outline-none data-highlighted:bg-token-tint data-disabled:text-ink-3'

/** What can be done with a table as a whole. */
const TableMenu = ({ story, table, rename }: { story: Story; table: RecipeTable; rename: () => void }) => {
  const { recipe } = story.flow
  const users = fedBy(recipe, table.id)
  const written = isWritten(recipe, table.id)
  const outputs = recipe.tables.filter(({ id }) => isWritten(recipe, id)).length
  const last = recipe.tables.length === 1
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <button
          type="button"
          aria-label={`More for the table ${table.name}`}
          className="rounded px-1 text-ink-3 hover:text-ink"
        >
          ⋯
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-50 max-w-[320px] min-w-[210px] rounded-lg border border-line-strong bg-sheet p-1.5 text-[13px]"
        >
          <DropdownMenu.Item className={item} onSelect={rename}>
            Rename the table…
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={item}
            onSelect={() => void story.branch(table.id, table.steps.at(-1)?.id ?? '')}
          >
            Continue from it as a new table
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={item}
            onSelect={() => (story.goTo(table.id, table.steps.at(-1)?.id ?? ''), story.setStageView('reconcile'))}
          >
            Explain the difference to another…
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={item}
            disabled={written && outputs === 1}
            onSelect={() =>
              void story.save(
                withWritten(recipe, table.id, !written),
                written ? 'a table no longer written' : 'a table to be written',
              )
            }
          >
            {written ? 'Leave it out of what a replay writes' : 'Write it at every replay'}
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={item}
            disabled={last || users.length > 0}
            onSelect={() => {
              const next = withoutTable(recipe, table.id)
              void story
                .save(next, 'a table taken out')
                .then(() => story.goTo(next.tables.at(-1)?.id ?? '', next.tables.at(-1)?.steps.at(-1)?.id ?? ''))
            }}
          >
            Take the table out
            {users.length > 0
              ? `: ${listed(users.map(({ name }) => name))} ${users.length === 1 ? 'is' : 'are'} made from it`
              : ''}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

/** Tables by their colour and name; each leads to its story. */
const Tokens = ({ story, words, ids }: { story: Story; words: string; ids: readonly string[] }) => {
  const { tables } = story.recipe
  if (ids.length === 0) return null
  if (ids.length > 4) return <span>{`${words} ${counted(ids.length, 'table')}`}</span>
  return (
    <span className="flex min-w-0 items-center gap-x-2">
      {words}
      {ids.map((id) => {
        const at = tables.findIndex((one) => one.id === id)
        const table = tables[at]
        return table ? (
          <button
            key={id}
            type="button"
            disabled={story.draft !== undefined}
            className="flex min-w-0 items-center gap-1 text-ink-2 hover:text-ink hover:underline"
            onClick={() => story.goTo(id, table.steps.at(-1)?.id ?? '')}
          >
            <Dot entry={at} /> <span className="truncate">{table.name}</span>
          </button>
        ) : null
      })}
    </span>
  )
}

/** A table's story under its name: which tables it is made from and which it feeds; only the one in view is unfolded. */
const TableEntry = ({ story, table }: { story: Story; table: RecipeTable }) => {
  const open = story.table?.id === table.id
  const at = story.recipe.tables.findIndex(({ id }) => id === table.id)
  const [naming, setNaming] = useState(false)
  const feeders = feedersOf(table)
  const fed = fedBy(story.recipe, table.id)
  const rename = (name: string): void => {
    setNaming(false)
    const { recipe } = story.flow
    if (name.trim() === '' || name.trim() === table.name) return
    if (recipe.tables.some((one) => one.name === name.trim()))
      return story.setProblem(`There is a table ${name.trim()} already. Give this one another name.`)
    void story.save(renamedTableTo(recipe, table.id, name.trim()), 'a table renamed')
  }
  return (
    <section aria-label={table.name}>
      <div className="flex items-center gap-1 pr-1.5 pl-2">
        {naming ? (
          <span className="flex flex-1 items-center gap-[9px] py-1">
            <Dot entry={at} />
            <input
              className="field flex-1 font-serif"
              aria-label="Name of the table"
              autoFocus
              defaultValue={table.name}
              onBlur={(event) => rename(event.target.value)}
              onKeyDown={(event) => (
                event.stopPropagation(),
                event.key === 'Enter' ? rename(event.currentTarget.value) : event.key === 'Escape' && setNaming(false)
              )}
            />
          </span>
        ) : (
          <button
            type="button"
            aria-expanded={open}
            disabled={story.draft !== undefined}
            className="flex min-w-0 flex-1 items-center gap-[9px] py-1.5 text-left"
            onClick={() => story.goTo(table.id, table.steps.at(-1)?.id ?? '')}
          >
            <Dot entry={at} />
            <b className="truncate font-serif text-[14px] font-semibold">{table.name}</b>
            <span className="ml-auto flex flex-none items-center gap-1.5 text-[12px] text-ink-3">
              {!open && fed.length > 0 && (
                <>
                  feeds
                  {fed.map(({ id, name }) => (
                    <span key={id} title={name}>
                      <Dot entry={story.recipe.tables.findIndex((one) => one.id === id)} />
                      <span className="sr-only">{name}</span>
                    </span>
                  ))}
                  ·
                </>
              )}
              {isWritten(story.recipe, table.id) && story.recipe.tables.length > 1 ? 'written · ' : ''}
              {counted(table.steps.length, 'sentence')} {open ? '▾' : '▸'}
            </span>
          </button>
        )}
        {!story.draft && <TableMenu story={story} table={table} rename={() => setNaming(true)} />}
      </div>
      {open && (feeders.length > 0 || fed.length > 0) && (
        <p className="flex flex-wrap gap-x-3 pr-3 pb-1 pl-[28px] text-[12px] text-ink-3">
          <Tokens story={story} words="from" ids={feeders} />
          <Tokens story={story} words="feeds" ids={fed.map(({ id }) => id)} />
        </p>
      )}
      {open && (
        <DragList
          ids={table.steps.map(({ id }) => id)}
          nameOf={(id) => `Sentence ${table.steps.findIndex((step) => step.id === id) + 1}`}
          way="down"
          // nothing goes above the sentence that opens the table
          drop={(id, place) =>
            moveStep(
              story,
              id,
              Math.max(
                1,
                table.steps.findIndex((step) => step.id === place),
              ),
            )
          }
        >
          <ol>
            {table.steps.map((step, index) => (
              <Sentence key={step.id} story={story} step={step} index={index} count={table.steps.length} entry={at} />
            ))}
          </ol>
        </DragList>
      )}
    </section>
  )
}

/** One more table: from files of its own, or typed in. */
const MoreTables = ({ story }: { story: Story }) => {
  const chooser = useRef<HTMLInputElement>(null)
  const navigate = useNavigate()
  const { send, dialog } = useFileSender()
  const take = async (files: readonly File[]): Promise<void> => {
    try {
      const sent = await send(files)
      if (sent) await navigate(`${story.endpoint.home}/open`, { state: { files: sent } })
    } catch (error) {
      story.setProblem((error as Error).message)
    }
  }
  const typed = async (): Promise<void> => {
    const { recipe } = story.flow
    const id = idOf(
      'typed',
      recipe.tables.map((table) => table.id),
    )
    const step: Step = {
      id: nextStepId(recipe),
      kind: 'enter',
      columns: [
        { name: 'Name', type: 'text' },
        { name: 'Value', type: 'text' },
      ],
      rows: [],
    }
    await story.save(
      { ...recipe, tables: [...recipe.tables, { id, name: titleOf(id), steps: [step] }] },
      'a typed table',
    )
    story.goTo(id, step.id)
  }
  const branch = async (): Promise<void> => {
    const { table } = story
    if (table) await story.branch(table.id, table.steps.at(-1)?.id ?? '')
  }
  if (story.draft) return null
  return (
    <p className="flex flex-wrap items-center gap-x-3 py-2 pl-[38px] text-[12.5px] text-ink-3">
      Another table
      <Button look="link" className="py-0!" onClick={() => chooser.current?.click()}>
        from a file
      </Button>
      <Button look="link" className="py-0!" onClick={() => void navigate(`/sources?flow=${story.flow.id}`)}>
        from elsewhere
      </Button>
      <Button look="link" className="py-0!" onClick={() => void branch()}>
        from this one
      </Button>
      <Button look="link" className="py-0!" onClick={() => void typed()}>
        typed in
      </Button>
      <input
        ref={chooser}
        type="file"
        multiple
        aria-label="Files for another table"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => event.target.files && event.target.files.length > 0 && void take([...event.target.files])}
      />
      {dialog}
    </p>
  )
}

/** The strands so that each stands below those it is made from. */
export const TableList = ({ story }: { story: Story }) => (
  <div className="min-h-0 flex-1 overflow-x-hidden overflow-y-auto py-3">
    {story.recipe.about && (
      <p className="mb-2 border-b border-line pr-3.5 pb-2 pl-[38px] font-serif text-[13.5px] text-ink-2 italic">
        <bdi>{story.recipe.about}</bdi>
      </p>
    )}
    <SamplesNote files={Object.values(story.flow.files).flat()} className="mr-3.5 mb-2 ml-[38px]" />
    {story.recipe.tables.length > 1 && (
      <p className="pl-[38px] text-[12.5px]">
        <Button
          look="link"
          className="py-0!"
          aria-pressed={story.stageView === 'map'}
          disabled={story.draft !== undefined}
          onClick={() => story.setStageView(story.stageView === 'map' ? 'rows' : 'map')}
        >
          {story.stageView === 'map'
            ? 'Back to the rows'
            : `See how the ${counted(story.recipe.tables.length, 'table')} hang together`}
        </Button>
      </p>
    )}
    <Parameters story={story} />
    {inOrder(story.recipe).map((table) => (
      <TableEntry key={table.id} story={story} table={table} />
    ))}
    <MoreTables story={story} />
    <Outputs story={story} />
  </div>
)

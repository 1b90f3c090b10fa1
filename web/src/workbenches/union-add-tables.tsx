import { listed, type StepOf } from '@fabula/core'
import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState, type Dispatch, type SetStateAction } from 'react'
import { type Story } from '../story/use-story.ts'
import { Button, Dot, Notice } from '../ui/parts.tsx'
import { keepParts, tablesOfFiles, type Twin } from './add-files.ts'
import { withTables } from './union-edits.ts'

/** More tables underneath: those of the story, or files and sheets that become tables of their own. */
export const AddTables = ({ step, story }: { step: StepOf<'union'>; story: Story }) => {
  const client = useQueryClient()
  const chooser = useRef<HTMLInputElement>(null)
  const [doing, setDoing] = useState('')
  const [asked, setAsked] = useState<{ readonly id: string; readonly twins: readonly Twin[] }>()
  const tables = step.with as readonly string[]
  const nameOf = (id: string): string => story.recipe.tables.find((table) => table.id === id)?.name ?? id
  const align = (ids: readonly string[]): void => story.reword(withTables(step, [...tables, ...ids]))
  const busy = async (run: () => Promise<void>): Promise<void> => {
    try {
      await run()
    } catch (error) {
      story.setProblem((error as Error).message)
    } finally {
      setDoing('')
    }
  }
  const take = (files: readonly File[]): Promise<void> =>
    busy(async () => {
      const { ids, doubled } = await tablesOfFiles(
        story,
        client,
        files,
        (id) => !tables.includes(id) && story.usableTables.some((one) => one.id === id),
        setDoing,
      )
      if (ids.length > 0) align(ids)
      if (doubled.length > 0) setAsked({ id: '', twins: doubled })
    })
  /** What was asked about is laid nonetheless; a table cannot lie under itself, so its rows come by another table from the same file. */
  const twice = (): Promise<void> =>
    busy(async () => {
      const own = story.table?.id
      const twins = asked?.twins ?? []
      setAsked(undefined)
      const made = await keepParts(
        story,
        client,
        twins.filter(({ table }) => table === own),
        setDoing,
      )
      align([
        ...(asked?.id ? [asked.id] : []),
        ...made,
        ...twins.flatMap(({ table }) => (table === own ? [] : [table])),
      ])
    })
  return (
    <div className="grid gap-1.5">
      <div className="flex flex-wrap items-center gap-1.5">
        <span className="text-ink-2">Lay underneath</span>
        {story.usableTables.map(({ id, name }) => {
          const there = tables.includes(id)
          return (
            <button
              key={id}
              type="button"
              onClick={() => (there ? setAsked({ id, twins: [] }) : align([id]))}
              className={`flex items-center gap-1.5 rounded-full border px-2.5 py-0.5 text-[12.5px] ${there ? 'border-added bg-added-tint' : 'border-line-strong bg-sheet hover:border-ink-3'}`}
            >
              <Dot entry={story.recipe.tables.findIndex((table) => table.id === id)} /> {there ? '✓ ' : '+ '}
              {name}
            </button>
          )
        })}
        {story.usableTables.filter(({ id }) => !tables.includes(id)).length > 1 && (
          <Button
            look="link"
            className="py-0! text-[12.5px]"
            onClick={() => align(story.usableTables.flatMap(({ id }) => (tables.includes(id) ? [] : [id])))}
          >
            All of them
          </Button>
        )}
        <Button
          look="link"
          className="py-0! text-[12.5px]"
          disabled={doing !== ''}
          onClick={() => chooser.current?.click()}
        >
          Files or sheets…
        </Button>
        <input
          ref={chooser}
          type="file"
          multiple
          aria-label="Files to lay underneath"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) =>
            event.target.files && event.target.files.length > 0 && void take([...event.target.files])
          }
        />
        {doing !== '' && <span className="text-[12.5px] text-ink-3">{doing}…</span>}
      </div>
      {asked && addNotice(asked, nameOf, twice, setAsked, tables, story, step)}
    </div>
  )
}

function addNotice(
  asked: { readonly id: string; readonly twins: readonly Twin[] },
  nameOf: (id: string) => string,
  twice: () => Promise<void>,
  setAsked: Dispatch<SetStateAction<{ readonly id: string; readonly twins: readonly Twin[] } | undefined>>,
  tables: readonly string[],
  story: Story,
  step: StepOf<'union'>,
) {
  return (
    <Notice>
      {asked.id !== ''
        ? `${nameOf(asked.id)} lies underneath already. Twice, its rows would count double.`
        : `${listed(asked.twins.map(({ name, table }) => `${name} is here already as ${nameOf(table)}`))}. Laid again, ${asked.twins.length === 1 ? 'its' : 'their'} rows would count double.`}{' '}
      <Button look="link" className="py-0!" onClick={() => void twice()}>
        Lay {asked.id !== '' || asked.twins.length === 1 ? 'it' : 'them'} twice
      </Button>{' '}
      <Button look="quiet" className="py-0!" onClick={() => setAsked(undefined)}>
        Leave it
      </Button>
      {asked.id !== '' && (
        <Button
          look="quiet"
          className="py-0!"
          disabled={tables.length === 1}
          onClick={() => (
            story.reword(
              withTables(
                step,
                tables.filter((id) => id !== asked.id),
              ),
            ),
            setAsked(undefined)
          )}
        >
          Take {nameOf(asked.id)} away
        </Button>
      )}
    </Notice>
  )
}

import {
  counted,
  nextStepId,
  openedBy,
  ownValue,
  sentenceText,
  type ReadOptions,
  type Recipe,
  type Step,
} from '@fabula/core'
import type { FileRef, FlowReply, OpenReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import type { UseQueryResult } from '@tanstack/react-query'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useEffectEvent, useState, type DragEvent } from 'react'
import { useLocation, useNavigate, useParams } from 'react-router'
import { ask, upload } from '../api/client.ts'
import { flowQuery } from '../api/queries.ts'
import { useFlow } from '../story/flow-context.ts'
import { titleOfFile } from '../story/names.ts'
import { Button, Key, Notice, Segments } from '../ui/parts.tsx'
import { Mark } from '../ui/site-header.tsx'
import { newRecipe, reopened, withTable } from './open-file.ts'
import { OpenedTable } from './opened-table.tsx'
import { RawSheet } from './raw-sheet.tsx'
import { OpeningSettings } from './settings.tsx'
import { useOpening, type Opening } from './use-opening.ts'

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.matches('input, textarea, select, button')

/** How far the reading is, and a way to stop it. */
const Reading = ({ opening }: { opening: Opening }) => {
  if (opening.stopped)
    return (
      <p role="status" className="text-ink-2">
        Stopped.{' '}
        <Button look="link" onClick={opening.resume}>
          Read it all
        </Button>
      </p>
    )
  if (!opening.reading) return null
  return (
    <p role="status" className="figures flex items-center gap-3 text-ink-2">
      <progress
        className="w-[90px] flex-none"
        max={100}
        value={opening.progress?.done ?? 0}
        aria-label="How much is read"
      />
      <span className="truncate">{opening.progress?.doing || 'Reading the file'}</span>
      <Button look="link" className="py-0!" onClick={opening.stop}>
        Stop
      </Button>
    </p>
  )
}

type OpeningProps = {
  readonly title: string
  readonly start: { readonly files: readonly FileRef[]; readonly read: ReadOptions | undefined }
  readonly keep: (opening: Opening) => Promise<void>
  readonly back: () => void
}

// eslint-disable-next-line complexity -- markup with a condition for each optional part
const OpeningView = ({ title, start, keep, back }: OpeningProps) => {
  const opening = useOpening(start)
  const [diffMode, setDiffMode] = useState<'raw' | 'table'>('raw')
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  const { look, opened } = opening
  const ready = opened.data !== undefined && !opening.reading && !opened.error && !opening.stopped
  const done = async (): Promise<void> => {
    if (!ready || busy) return
    setBusy(true)
    try {
      await keep(opening)
    } catch (error) {
      setProblem((error as Error).message)
      setBusy(false)
    }
  }
  const add = async (list: FileList): Promise<void> => {
    setProblem(undefined)
    try {
      const refs: FileRef[] = []
      for (const file of list) refs.push(await upload(file, () => undefined))
      opening.setFiles([...opening.files, ...refs])
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  useEffect(() => {
    const hear = (event: KeyboardEvent): void => {
      if (typing(event.target)) return
      if (event.key === 'Enter') void done()
      if (event.key === 'Escape') back()
    }
    window.addEventListener('keydown', hear)
    return () => window.removeEventListener('keydown', hear)
  })
  useEffect(() => {
    if (look.data && look.data.rows.length === 0) setDiffMode('table')
  }, [look.data])
  const step = {
    id: 's',
    kind: 'open',
    input: opening.files.length === 1 ? (opening.file?.name ?? '') : counted(opening.files.length, 'file'),
    read: opening.read,
  } as Step
  const error = problem ?? (look.error ?? opened.error)?.message
  const content = () => {
    if (diffMode === 'raw') return <RawSheet opening={opening} />
    if (opened.data) return <OpenedTable opened={opened.data} />
    return <p className="p-6 font-serif text-ink-3 italic">Nothing is read yet.</p>
  }
  return (
    <main
      className="grid min-h-0 grid-cols-[392px_minmax(0,1fr)]"
      onDragOver={(event: DragEvent) => event.preventDefault()}
      onDrop={(event: DragEvent) => (event.preventDefault(), void add(event.dataTransfer.files))}
    >
      {openingSettings(title, step, error, opening, add, ready, busy, done, back, opened)}
      <section aria-label="The file" className="flex min-h-0 min-w-0 flex-col bg-sheet">
        <div className="flex items-center gap-3 border-b border-line px-3.5 py-2.5">
          <h2 className="truncate font-serif text-[14px] font-medium">
            {diffMode === 'raw'
              ? `${opening.at.sheet ?? look.data?.sheet ?? opening.file?.name ?? ''}, as it stands in the file`
              : 'The table that comes of it'}
          </h2>
          <Reading opening={opening} />
          <span className="ml-auto flex-none">
            <Segments
              label="What is shown"
              value={diffMode}
              of={[
                ['raw', 'As it stands'],
                ['table', 'As a table'],
              ]}
              onChange={setDiffMode}
            />
          </span>
        </div>
        {content()}
        <p className="border-t border-line px-3.5 py-2 text-[12.5px] text-ink-2">
          {diffMode === 'raw'
            ? 'Click the number of the row that holds the names, with Shift for two rows; drag the corner marks to take in more or less.'
            : 'The first rows, with the types as they were told.'}
        </p>
      </section>
    </main>
  )
}

/** A story begins with a file: how it is opened is decided here, on the sheet itself. */
export const OpenNew = () => {
  const { state } = useLocation() as { state: { files?: readonly FileRef[] } | null }
  const navigate = useNavigate()
  const client = useQueryClient()
  const files = state?.files ?? []
  useEffect(() => {
    if (files.length === 0) void navigate('/')
  }, [files.length, navigate])
  const keep = async (opening: Opening): Promise<void> => {
    if (!opening.opened.data) return
    const { recipe, id } = newRecipe(opening.files, opening.opened.data, opening.read, opening.extras)
    const flow = await ask(api.createReply, 'POST', '/api/flows', { recipe, files: { [id]: [...opening.files] } })
    await client.invalidateQueries({ queryKey: ['flows'] })
    await navigate(`/flows/${flow.id}`)
  }
  if (files.length === 0) return null
  return (
    <div className="grid h-full grid-rows-[52px_1fr] overflow-hidden">
      <header className="flex items-center gap-3.5 border-b border-line px-[18px]">
        <Mark />
        <span className="font-serif text-[15px] font-medium">{titleOfFile(files[0]?.name ?? '')}</span>
        <span className="text-[12px] text-ink-3">new story</span>
      </header>
      <OpeningView title="Open a file" start={{ files, read: undefined }} keep={keep} back={() => void navigate('/')} />
    </div>
  )
}

/** An input of a story opened another way, or one more table from files of its own. */
export const OpenInFlow = () => {
  const { flow, place } = useFlow()
  const { input } = useParams()
  const { state } = useLocation() as { state: { files?: readonly FileRef[] } | null }
  const navigate = useNavigate()
  const client = useQueryClient()
  const files = input === undefined ? (state?.files ?? []) : (ownValue(flow.files, input) ?? [])
  const step = flow.recipe.tables
    .flatMap(({ steps }) => steps)
    .find((one) => openedBy(one)?.input === input && input !== undefined)
  const back = (): void => void navigate(place.home)
  const leaveWithoutFiles = useEffectEvent(() => {
    if (files.length === 0) back()
  })
  useEffect(() => leaveWithoutFiles(), [files.length])
  const keep = async (opening: Opening): Promise<void> => {
    if (!opening.opened.data) return
    const next = Number(nextStepId(flow.recipe).slice(1))
    const made: { recipe: Recipe; id: string } =
      input === undefined
        ? withTable(flow.recipe, opening.files, opening.opened.data, opening.read, opening.extras, next)
        : { id: input, recipe: reopened(flow.recipe, input, opening.opened.data, opening.read, opening.extras, next) }
    await ask(api.flowReply, 'PUT', `${place.base}/files`, { [made.id]: [...opening.files] })
    const reply: FlowReply = await ask(api.flowReply, 'POST', `${place.base}/edit`, {
      recipe: made.recipe,
      what: input === undefined ? 'a new table' : 'the file opened another way',
      after: flow.edit,
    })
    client.setQueryData(flowQuery(place).queryKey, reply)
    back()
  }
  if (files.length === 0) return null
  return (
    <OpeningView title="Open a file" start={{ files, read: step && openedBy(step)?.read }} keep={keep} back={back} />
  )
}

function openingSettings(
  title: string,
  step: Step,
  error: string | undefined,
  opening: Opening,
  add: (list: FileList) => Promise<void>,
  ready: boolean,
  busy: boolean,
  done: () => Promise<void>,
  back: () => void,
  opened: UseQueryResult<OpenReply>,
) {
  return (
    <section aria-label="How it is opened" className="flex min-h-0 flex-col border-r border-line">
      <div className="min-h-0 flex-1 overflow-auto p-4">
        <h1 className="sr-only">{title}</h1>
        <p
          className="mb-4 rounded-[10px] border-[1.5px] border-dashed border-rubric bg-sheet px-3.5 py-3 font-serif text-[15px] leading-relaxed"
          data-state="draft"
        >
          {sentenceText(step, (id) => id)}
        </p>
        {error && (
          <div className="mb-4">
            <Notice kind="removed">{error}</Notice>
          </div>
        )}
        <OpeningSettings opening={opening} add={(list) => void add(list)} />
      </div>
      <div className="flex items-center gap-3 border-t border-line px-4 py-2.5">
        <Button look="main" disabled={!ready || busy} onClick={() => void done()}>
          Keep
        </Button>
        <Key>Enter</Key>
        <button type="button" className="text-ink-2 hover:text-ink" onClick={back}>
          Discard
        </button>
        <span role="status" className="figures ml-auto truncate text-ink-2">
          {ready && opened.data
            ? `${counted(opened.data.rows, 'row')} · ${counted(opened.data.columns.length, 'column')}`
            : ''}
        </span>
      </div>
    </section>
  )
}

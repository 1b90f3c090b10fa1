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
import type { FileRef, FlowReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useEffectEvent, useState, type DragEvent } from 'react'
import { useLocation, useNavigate, useParams } from 'react-router'
import { ask } from '../api/client.ts'
import { flowQuery } from '../api/queries.ts'
import { useFlow } from '../story/flow-context.ts'
import { titleOfFile } from '../story/names.ts'
import { figureOf, hasSample } from '../story/sample-figures.ts'
import { SamplesNote } from '../story/samples-note.tsx'
import { Button, Key, Notice, Segments } from '../ui/parts.tsx'
import { Mark } from '../ui/site-header.tsx'
import { useWindowKeys } from '../ui/use-window-keys.ts'
import { newRecipe, reopened, withTable } from './open-file.ts'
import { OpenedTable } from './opened-table.tsx'
import { RawSheet } from './raw-sheet.tsx'
import { useFileSender } from './file-sender.tsx'
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

/** Adding files, and keeping what was opened: once, and only when all of it is read. */
const useOpeningActions = (opening: Opening, keep: OpeningProps['keep']) => {
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  const { send, dialog } = useFileSender()
  const { look, opened } = opening
  const ready = opened.data !== undefined && !opening.reading && !opened.error && !opening.stopped && !busy
  const done = async (): Promise<void> => {
    if (!ready) return
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
      opening.setFiles([...opening.files, ...((await send([...list])) ?? [])])
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  return { ready, done, add, dialog, problem: problem ?? (look.error ?? opened.error)?.message }
}
type OpeningActions = ReturnType<typeof useOpeningActions>

/** Enter keeps and Escape leaves, but where a field or a button has the key. */
const useOpeningKeys = (done: () => Promise<void>, back: () => void): void => {
  useWindowKeys((event) => {
    if (typing(event.target)) return
    if (event.key === 'Enter') void done()
    if (event.key === 'Escape') back()
  })
}

/** The sentence that the opening becomes. */
const openingStep = ({ files, file, read }: Opening): Step => ({
  id: 's',
  kind: 'open',
  input: files.length === 1 ? (file?.name ?? '') : counted(files.length, 'file'),
  read,
})

/** How the files are opened: the sentence, the settings, and what keeps or discards them. */
const OpeningColumn = ({
  title,
  opening,
  actions: { ready, done, add, dialog, problem },
  back,
}: {
  title: string
  opening: Opening
  actions: OpeningActions
  back: () => void
}) => {
  const table = ready ? opening.opened.data : undefined
  return (
    <section aria-label="How it is opened" className="flex min-h-0 flex-col border-r border-line">
      <div className="min-h-0 flex-1 overflow-auto p-4">
        <h1 className="sr-only">{title}</h1>
        <p
          className="mb-4 rounded-[10px] border-[1.5px] border-dashed border-rubric bg-sheet px-3.5 py-3 font-serif text-[15px] leading-relaxed"
          data-state="draft"
        >
          {sentenceText(openingStep(opening), (id) => id)}
        </p>
        {problem && (
          <div className="mb-4">
            <Notice kind="removed">{problem}</Notice>
          </div>
        )}
        <SamplesNote files={opening.files} className="mb-4" />
        <OpeningSettings opening={opening} add={(list) => void add(list)} />
        {dialog}
      </div>
      <div className="flex items-center gap-3 border-t border-line px-4 py-2.5">
        <Button look="main" disabled={!ready} onClick={() => void done()}>
          Keep
        </Button>
        <Key>Enter</Key>
        <button type="button" className="text-ink-2 hover:text-ink" onClick={back}>
          Discard
        </button>
        <span role="status" className="figures ml-auto text-right leading-tight text-ink-2">
          {table
            ? `${figureOf(counted(table.rows, 'row'), hasSample(opening.files))} · ${counted(table.columns.length, 'column')}`
            : ''}
        </span>
      </div>
    </section>
  )
}

/** The file as it stands, or the table that comes of it. */
const FileSection = ({ opening }: { opening: Opening }) => {
  const { look, opened, at, file } = opening
  const [shown, setShown] = useState<'raw' | 'table'>('raw')
  const hasNoRows = look.data?.rows.length === 0
  useEffect(() => {
    if (hasNoRows) setShown('table')
  }, [hasNoRows, look.data])
  const content = () => {
    if (shown === 'raw') return <RawSheet opening={opening} />
    if (opened.data) return <OpenedTable opened={opened.data} />
    return <p className="p-6 font-serif text-ink-3 italic">Nothing is read yet.</p>
  }
  return (
    <section aria-label="The file" className="flex min-h-0 min-w-0 flex-col bg-sheet">
      <div className="flex items-center gap-3 border-b border-line px-3.5 py-2.5">
        <h2 className="truncate font-serif text-[14px] font-medium">
          {shown === 'raw'
            ? `${at.sheet ?? look.data?.sheet ?? file?.name ?? ''}, as it stands in the file`
            : 'The table that comes of it'}
        </h2>
        <Reading opening={opening} />
        <span className="ml-auto flex-none">
          <Segments
            label="What is shown"
            value={shown}
            of={[
              ['raw', 'As it stands'],
              ['table', 'As a table'],
            ]}
            onChange={setShown}
          />
        </span>
      </div>
      {content()}
      <p className="border-t border-line px-3.5 py-2 text-[12.5px] text-ink-2">
        {shown === 'raw'
          ? 'Click the number of the row that holds the names, with Shift for two rows; drag the corner marks to take in more or less.'
          : 'The first rows, with the types as they were told.'}
      </p>
    </section>
  )
}

const OpeningView = ({ title, start, keep, back }: OpeningProps) => {
  const opening = useOpening(start)
  const actions = useOpeningActions(opening, keep)
  useOpeningKeys(actions.done, back)
  return (
    <main
      className="grid min-h-0 grid-cols-[392px_minmax(0,1fr)] max-[900px]:block max-[900px]:overflow-auto"
      onDragOver={(event: DragEvent) => event.preventDefault()}
      onDrop={(event: DragEvent) => (event.preventDefault(), void actions.add(event.dataTransfer.files))}
    >
      <OpeningColumn title={title} opening={opening} actions={actions} back={back} />
      <FileSection opening={opening} />
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
    <div className="grid h-full grid-rows-[auto_1fr] overflow-hidden">
      <header className="flex min-h-[52px] items-center gap-3.5 border-b border-line px-[18px]">
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
  const { flow, endpoint } = useFlow()
  const { input } = useParams()
  const { state } = useLocation() as { state: { files?: readonly FileRef[] } | null }
  const navigate = useNavigate()
  const client = useQueryClient()
  const files = input === undefined ? (state?.files ?? []) : (ownValue(flow.files, input) ?? [])
  const step = flow.recipe.tables
    .flatMap(({ steps }) => steps)
    .find((one) => openedBy(one)?.input === input && input !== undefined)
  const back = (): void => void navigate(endpoint.home)
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
    await ask(api.flowReply, 'PUT', `${endpoint.base}/files`, { [made.id]: [...opening.files] })
    const reply: FlowReply = await ask(api.flowReply, 'POST', `${endpoint.base}/edit`, {
      recipe: made.recipe,
      what: input === undefined ? 'a new table' : 'the file opened another way',
      after: flow.edit,
    })
    client.setQueryData(flowQuery(endpoint).queryKey, reply)
    back()
  }
  if (files.length === 0) return null
  return (
    <OpeningView title="Open a file" start={{ files, read: step && openedBy(step)?.read }} keep={keep} back={back} />
  )
}

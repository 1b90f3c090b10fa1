import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState, type DragEvent, type RefObject, useEffectEvent } from 'react'
import { Link, useNavigate } from 'react-router'
import { flowsQuery } from '../api/queries.ts'
import { uploadAll } from '../api/client.ts'
import { flowFromRecipe, isRecipe } from '../opening/open-file.ts'
import { pastedFile } from '../opening/paste.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { SiteHeader } from '../ui/site-header.tsx'
import { StoryList } from './story-list.tsx'

/** Takes files dropped anywhere on the page. */
const useDrop = (take: (files: readonly File[]) => void) => {
  const [over, setOver] = useState(false)
  return {
    over,
    handlers: {
      onDragOver: (event: DragEvent) => {
        event.preventDefault()
        setOver(true)
      },
      onDragLeave: () => setOver(false),
      onDrop: (event: DragEvent) => {
        event.preventDefault()
        setOver(false)
        if (event.dataTransfer.files.length > 0) take([...event.dataTransfer.files])
      },
    },
  }
}

export const Home = () => {
  const { data, error } = useQuery(flowsQuery())
  const [busy, setBusy] = useState<string>()
  const [problem, setProblem] = useState<string>()
  const chooser = useRef<HTMLInputElement>(null)
  const navigate = useNavigate()
  const client = useQueryClient()
  const take = async (files: readonly File[]): Promise<void> => {
    setProblem(undefined)
    try {
      const [first] = files
      if (first && files.length === 1 && (await isRecipe(first))) {
        const flow = await flowFromRecipe(first)
        await client.invalidateQueries({ queryKey: ['flows'] })
        await navigate(`/flows/${flow.id}`)
        return
      }
      const refs = await uploadAll(files, (file, share, at) =>
        setBusy(
          `Sending ${file.name}: ${Math.round(share * 100)} %${files.length > 1 ? `, ${at + 1} of ${files.length}` : ''}`,
        ),
      )
      await navigate('/open', { state: { files: refs } })
    } catch (error_) {
      setProblem((error_ as Error).message)
    } finally {
      setBusy(undefined)
    }
  }
  const takePasted = useEffectEvent((event: ClipboardEvent): void => {
    if (event.target instanceof HTMLElement && event.target.matches('input, textarea')) return
    const file = pastedFile(event.clipboardData)
    if (file) void take([file])
  })
  useEffect(() => {
    const hear = (event: ClipboardEvent): void => takePasted(event)
    window.addEventListener('paste', hear)
    return () => window.removeEventListener('paste', hear)
  }, [])
  const { over, handlers } = useDrop((files) => void take(files))
  return (
    <div className="flex h-full flex-col" {...handlers}>
      <SiteHeader />
      <main className="mx-auto grid w-full max-w-[1080px] flex-1 grid-cols-[1fr_400px] gap-14 px-6 py-12">
        <section>
          <h1 className="font-serif text-[28px] leading-tight font-semibold">
            Tell once how an export becomes a tidy table.
          </h1>
          <p className="mt-2 mb-8 max-w-[52ch] font-serif text-[15px] text-ink-2">
            Each step is one plain sentence that says what it did to your rows. Next month, drop the new export and the
            story is told again.
          </p>
          <h2 className="mb-1 font-serif text-[16px] font-semibold">Your stories</h2>
          {error && <Notice kind="removed">{error.message}</Notice>}
          {data && <StoryList flows={data.flows} report={setProblem} />}
        </section>
        <section>{newStory(over, chooser, busy, take, problem)}</section>
      </main>
    </div>
  )
}

function newStory(
  over: boolean,
  chooser: RefObject<HTMLInputElement | null>,
  busy: string | undefined,
  take: (files: readonly File[]) => Promise<void>,
  problem: string | undefined,
) {
  return (
    <div
      data-state={over ? 'over' : 'idle'}
      className="rounded-xl border-[1.5px] border-dashed border-line-strong bg-sheet p-6 data-[state=over]:border-rubric data-[state=over]:bg-rubric-tint"
    >
      <h2 className="font-serif text-[18px] font-semibold">Start from your own file</h2>
      <p className="mt-1 mb-4 text-ink-2">
        Drop workbooks (XLSX, ODS), text files (CSV), JSON or Parquet anywhere on this page, or paste cells from a
        spreadsheet or a web page. A recipe file (.fabula.json) becomes a story too.
      </p>
      <Button look="main" onClick={() => chooser.current?.click()} disabled={busy !== undefined}>
        Choose files
      </Button>
      <input
        ref={chooser}
        type="file"
        multiple
        aria-label="A file to start from"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => event.target.files && event.target.files.length > 0 && void take([...event.target.files])}
      />
      <p className="mt-3 text-ink-2">
        Or take it{' '}
        <Link to="/sources" className="font-semibold text-rubric hover:underline">
          from a web address, an OData service or a database
        </Link>
        , or from{' '}
        <Link to="/shelf" className="font-semibold text-rubric hover:underline">
          the shelf
        </Link>
        .
      </p>
      <p role="status" className="figures mt-3 min-h-5 text-ink-2">
        {busy}
      </p>
      {problem && <Notice kind="removed">{problem}</Notice>}
    </div>
  )
}

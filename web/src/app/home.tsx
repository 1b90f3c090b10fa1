import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useEffectEvent, useRef, useState, type DragEvent } from 'react'
import { useNavigate } from 'react-router'
import { storiesQuery } from '../api/stories.ts'
import { isRecipe } from '../opening/is-recipe.ts'
import { pastedFile } from '../opening/paste.ts'
import { useFileSender } from '../opening/file-sender.tsx'
import { Notice } from '../ui/parts.tsx'
import { SiteHeader } from '../ui/site-header.tsx'
import { GuidedStory, OwnFile, SampleList } from './start-cards.tsx'
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
  const { data, error } = useQuery(storiesQuery())
  const [busy, setBusy] = useState<string>()
  const [problem, setProblem] = useState<string>()
  const chooser = useRef<HTMLInputElement>(null)
  const navigate = useNavigate()
  const client = useQueryClient()
  const { send, dialog } = useFileSender()
  const take = async (files: readonly File[]): Promise<void> => {
    setProblem(undefined)
    try {
      const [first] = files
      if (first && files.length === 1 && (await isRecipe(first))) {
        const { flowFromRecipe } = await import('../opening/open-file.ts')
        const flow = await flowFromRecipe(first)
        await client.invalidateQueries({ queryKey: ['flows'] })
        await navigate(`/flows/${flow.id}`)
        return
      }
      const sent = await send(files, setBusy)
      if (sent) await navigate('/open', { state: { files: sent } })
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
    <div className="flex h-full flex-col overflow-auto" {...handlers}>
      <SiteHeader />
      <main className="mx-auto w-full max-w-[1200px] flex-1 px-6 py-7">
        <h1 className="font-serif text-[28px] leading-tight font-semibold">
          Tell once how an export becomes a tidy table.
        </h1>
        <p className="mt-1 mb-5 max-w-[68ch] font-serif text-[15px] text-ink-2">
          Every sentence says what it did to your rows. Next month, drop the new export and the story is told again.
        </p>
        <div className="grid grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)_minmax(0,1fr)] gap-4 max-[900px]:grid-cols-1">
          <OwnFile over={over} busy={busy} choose={() => chooser.current?.click()} />
          <SampleList report={setProblem} />
          <GuidedStory report={setProblem} />
        </div>
        <input
          ref={chooser}
          type="file"
          multiple
          aria-label="A file to start from"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) =>
            event.target.files && event.target.files.length > 0 && void take([...event.target.files])
          }
        />
        {dialog}
        {problem && (
          <div className="mt-4">
            <Notice kind="removed">{problem}</Notice>
          </div>
        )}
        <section aria-label="Your stories" className="mt-7">
          {error && <Notice kind="removed">{error.message}</Notice>}
          {data && <StoryList flows={data.flows} report={setProblem} />}
        </section>
      </main>
    </div>
  )
}

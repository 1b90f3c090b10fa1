import { counted, listed, quoted } from '@fabula/core'
import type { ShelfEntry } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState, type Dispatch, type RefObject, type SetStateAction } from 'react'
import { Link, useNavigate, type NavigateFunction } from 'react-router'
import { ask, upload } from '../api/client.ts'
import { fileWords } from '../story/sample-figures.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { SiteHeader } from '../ui/site-header.tsx'

const shelfQuery = { queryKey: ['shelf'], queryFn: () => ask(api.shelfReply, 'GET', '/api/shelf') }
const when = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  })
const sizeOf = (bytes: number): string => {
  if (bytes < 1e3) return `${bytes} bytes`
  if (bytes < 1e6) return `${Math.round(bytes / 1e3)} kB`
  return `${(bytes / 1e6).toFixed(1)} MB`
}
const kinds = { web: 'web address', odata: 'OData', postgresql: 'PostgreSQL', cluster: 'the cluster' } as const

/** What would break if this file went, in a sentence. */
const breakage = ({ uses, replays }: ShelfEntry): string => {
  const stories = [...new Set(uses.map(({ name }) => name))]
  if (stories.length === 0 && replays === 0) return 'Nothing uses it.'
  return `${stories.length > 0 ? `${listed(stories.map(quoted))} ${stories.length === 1 ? 'has' : 'have'} no file any more until you give ${stories.length === 1 ? 'it' : 'them'} another. ` : ''}${replays > 0 ? `${counted(replays, 'past replay')} ${replays === 1 ? 'keeps' : 'keep'} a copy.` : ''}`
}

const Entry = ({ entry }: { entry: ShelfEntry }) => {
  const client = useQueryClient()
  const navigate = useNavigate()
  const chooser = useRef<HTMLInputElement>(null)
  const [asking, setAsking] = useState(false)
  const change = useMutation({
    mutationFn: async (work: { remove: true } | { file: File } | { again: number }) => {
      if ('remove' in work) return ask(api.shelfReply, 'DELETE', `/api/shelf/${entry.id}`)
      if ('again' in work) {
        await ask(api.takeReply, 'POST', `/api/sources/${work.again}/again`)
        return ask(api.shelfReply, 'GET', '/api/shelf')
      }
      const file = await upload(work.file, () => undefined)
      return ask(api.shelfReply, 'PUT', `/api/shelf/${entry.id}`, { file })
    },
    onSuccess: (reply) => client.setQueryData(shelfQuery.queryKey, reply),
  })
  const stories = entry.uses.filter(({ flow }, i, all) => all.findIndex((other) => other.flow === flow) === i)
  const detail = () => {
    if (entry.source) return `${kinds[entry.source.kind]}: ${entry.source.name}`
    if (entry.columns.length > 0) return entry.columns.join(', ')
    if (entry.replays > 0) return 'given to a replay'
    return 'not opened yet'
  }
  return (
    <li className="border-b border-line py-2.5">
      <div className="grid grid-cols-[minmax(0,1fr)_200px_72px_140px_348px] items-center gap-x-4 gap-y-1 max-[1100px]:flex max-[1100px]:flex-wrap">
        <span className="min-w-0 max-[1100px]:basis-full">
          <span className="block truncate font-serif text-[15px] font-medium">{fileWords(entry)}</span>
          <span className="block truncate text-[12px] text-ink-3">{detail()}</span>
        </span>
        <span className="min-w-0 truncate text-[12.5px]">
          {stories.length === 0 ? (
            <span className="text-ink-3">
              {entry.replays > 0 ? `in ${counted(entry.replays, 'past replay')}` : 'used nowhere'}
            </span>
          ) : (
            stories.map(({ flow, name }, i) => (
              <span key={flow}>
                {i > 0 && ', '}
                <Link to={`/flows/${flow}`} className="text-token hover:underline">
                  {name}
                </Link>
              </span>
            ))
          )}
        </span>
        <span className="figures text-right text-[12.5px] text-ink-3">{sizeOf(entry.size)}</span>
        <span className="figures text-[12.5px] text-ink-3">
          {when(entry.at)}
          {entry.versions > 1 && (
            <b className="block font-medium text-changed">{counted(entry.versions, 'version')} of this name</b>
          )}
        </span>
        {entryButtons(entry, navigate, change, stories, chooser, setAsking)}
      </div>
      {asking && (
        <div className="mt-2 flex items-center gap-3 rounded-lg bg-removed-tint px-3 py-2" role="alert">
          <span>
            Delete <b>{entry.name}</b>? {breakage(entry)}
          </span>
          <Button className="ml-auto" onClick={() => change.mutate({ remove: true })}>
            Delete it
          </Button>
          <Button look="quiet" onClick={() => setAsking(false)}>
            Keep it
          </Button>
        </div>
      )}
      {change.error && <Notice kind="removed">{change.error.message}</Notice>}
    </li>
  )
}

/** Every file and source ever brought in, the latest first. */
export const ShelfPage = () => {
  const { data, error } = useQuery(shelfQuery)
  const [find, setFind] = useState('')
  const word = find.toLowerCase()
  const entries = (data?.entries ?? []).filter(({ name, columns, source }) =>
    [name, source?.name ?? '', ...columns].some((text) => text.toLowerCase().includes(word)),
  )
  return (
    <div className="grid h-full grid-rows-[auto_1fr] overflow-hidden">
      <SiteHeader />
      <main className="overflow-auto" tabIndex={-1}>
        <div className="mx-auto max-w-[1180px] px-6 py-8">
          <div className="mb-4 flex flex-wrap items-end gap-4">
            <div>
              <h1 className="font-serif text-[24px] font-semibold">The shelf</h1>
              <p className="text-ink-2">Every file and source ever brought in, the latest first.</p>
            </div>
            <input
              className="field ml-auto w-[260px]"
              type="search"
              placeholder="Find by name or column"
              aria-label="Find by name or column"
              value={find}
              onChange={(event) => setFind(event.target.value)}
            />
          </div>
          {error && <Notice kind="removed">{error.message}</Notice>}
          <ul className="border-t border-line">
            {entries.map((entry) => (
              <Entry key={entry.id} entry={entry} />
            ))}
            {data && entries.length === 0 && (
              <li className="py-6 font-serif text-ink-3 italic">
                {find === ''
                  ? 'Nothing was brought in yet. Drop a file on the first page.'
                  : 'No file or column is called that.'}
              </li>
            )}
          </ul>
        </div>
      </main>
    </div>
  )
}

function entryButtons(
  entry: ShelfEntry,
  navigate: NavigateFunction,
  change: {
    readonly mutate: (asked: { remove: true } | { file: File } | { again: number }) => void
    readonly isPending: boolean
  },
  stories: { flow: string; name: string; input: string }[],
  chooser: RefObject<HTMLInputElement | null>,
  setAsking: Dispatch<SetStateAction<boolean>>,
) {
  return (
    <span className="flex justify-end gap-1">
      <Button
        look="quiet"
        className="px-2!"
        aria-label={`Begin a story with ${entry.name}`}
        onClick={() =>
          void navigate('/open', {
            state: { files: [{ name: entry.name, hash: entry.hash, size: entry.size, sample: entry.sample }] },
          })
        }
      >
        Begin a story
      </Button>
      {entry.source && (
        <Button
          look="quiet"
          className="px-2!"
          disabled={change.isPending}
          onClick={() => entry.source && change.mutate({ again: entry.source.id })}
        >
          Fetch anew
        </Button>
      )}
      <Button
        look="quiet"
        className="px-2!"
        disabled={stories.length === 0}
        aria-label={`Replace ${entry.name}`}
        onClick={() => chooser.current?.click()}
      >
        Replace…
      </Button>
      <Button look="quiet" className="px-2!" aria-label={`Delete ${entry.name}`} onClick={() => setAsking(true)}>
        Delete…
      </Button>
      <input
        ref={chooser}
        type="file"
        aria-label={`Another file for ${entry.name}`}
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => event.target.files?.[0] && change.mutate({ file: event.target.files[0] })}
      />
    </span>
  )
}

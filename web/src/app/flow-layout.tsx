import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type ComponentProps, type ReactNode } from 'react'
import { Link, Outlet, useParams } from 'react-router'
import { isFile, type Recipe } from '@fabula/core'
import { flowReply, type FlowReply } from '@fabula/core/api'
import { ask } from '../api/client.ts'
import { flowQuery, type Endpoint } from '../api/queries.ts'
import { storiesQuery } from '../api/stories.ts'
import { Comparison } from '../sharing/editions.tsx'
import { moment } from '../ui/moments.ts'
import { FlowContext } from '../story/flow-context.ts'
import { ReadingSettings } from '../ui/reading-settings.tsx'
import { HeaderLink, Mark, SkipLink } from '../ui/site-header.tsx'
import { Button, Notice } from '../ui/parts.tsx'

const waitingEvery = 15_000

/** How many exports of a story wait for an answer before it can replay itself; only its owner sees them. */
const Waiting = ({ id }: { id: string }) => {
  const { data } = useQuery({ ...storiesQuery(), refetchInterval: waitingEvery })
  const waits = data?.flows.find((flow) => flow.id === id)?.waits ?? 0
  if (waits === 0) return null
  return (
    <span className="ml-2 text-[12px] font-semibold text-changed">
      {waits === 1 ? 'an export waits' : `${waits} exports wait`}
    </span>
  )
}

/** A story that was changed by link writes no database until its owner agrees. */
const Held = ({
  since,
  from,
  to,
  endpoint,
}: {
  since: string
  from: Recipe | null
  to: Recipe
  endpoint: Endpoint
}) => {
  const [open, setOpen] = useState(false)
  const client = useQueryClient()
  const agreeing = useMutation({
    mutationFn: () => ask(flowReply, 'POST', `${endpoint.base}/agree`),
    onSuccess: (reply) => client.setQueryData(flowQuery(endpoint).queryKey, reply),
  })
  return (
    <section aria-label="Changed by a link" className="border-b border-line bg-sunk px-[18px] py-1.5 text-[12.5px]">
      <div className="flex items-center gap-3">
        <span role="status">
          Changed by a link since {moment(since)}. Until you agree, it writes no table of a database.
          {agreeing.error ? ` ${agreeing.error.message}` : ''}
        </span>
        <Button look="link" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'Hide what changed' : 'See what changed'}
        </Button>
        <Button onClick={() => agreeing.mutate()}>Agree to the story as it stands</Button>
      </div>
      {open && from && (
        <div className="mt-1.5 max-h-[40vh] overflow-auto rounded-lg border border-line bg-sheet p-3">
          <Comparison from={from} to={to} />
        </div>
      )}
    </section>
  )
}

/** What whoever came by a link may do. */
const rightsWords = (flow: FlowReply | undefined): string => {
  const words = {
    all: 'to read and replay',
    replay: 'to read and replay',
    edit: 'to read, replay and change',
    copy: 'to read, replay and copy',
  }
  return `${flow?.edition ? `${flow.edition}, ` : ''}${words[flow?.rights ?? 'replay']}`
}

const writesDatabases = ({ recipe }: FlowReply): boolean => recipe.outputs?.some((output) => !isFile(output)) ?? false

/** The page of the flow, beneath the note that a link changed it. */
const FlowPage = ({ context }: { context: ComponentProps<typeof FlowContext>['value'] }) => {
  if (!context) return null
  const { flow, endpoint } = context
  const held = flow.rights === 'all' && writesDatabases(flow) ? flow.heldSince : null
  return (
    <FlowContext value={context}>
      <div className="grid min-h-0 grid-rows-[auto_1fr] overflow-hidden">
        {held !== null ? <Held since={held} from={flow.heldFrom} to={flow.recipe} endpoint={endpoint} /> : <span />}
        <Outlet />
      </div>
    </FlowContext>
  )
}

const FlowHeader = ({
  flow,
  endpoint,
  message,
  tools,
}: {
  flow: FlowReply | undefined
  endpoint: Endpoint
  message: string
  tools: ReactNode
}) => {
  const shared = endpoint.token !== undefined
  const changes = flow ? flow.rights === 'all' || flow.rights === 'edit' : !shared
  const allowed = rightsWords(flow)
  const saysAllowed = shared && (message === '' || flow?.rights !== 'edit')
  return (
    <header className="grid min-h-[52px] grid-cols-[1fr_auto_1fr] items-center gap-x-4 border-b border-line px-[18px] max-[1000px]:flex max-[1000px]:min-h-0 max-[1000px]:flex-wrap">
      <SkipLink />
      <div className="flex min-w-0 items-center gap-3.5">
        <Mark />
        <bdi className="truncate font-serif text-[15px] font-medium">{flow?.recipe.name}</bdi>
        <span role="status" title={shared ? allowed : ''} className="truncate text-[12px] text-ink-3">
          {saysAllowed ? allowed : message}
        </span>
      </div>
      <nav aria-label="Pages" className="flex gap-[26px]">
        <HeaderLink to={endpoint.home} end>
          {changes ? 'Compose' : 'Story'}
        </HeaderLink>
        <HeaderLink to={`${endpoint.home}/replay`} end>
          Replay{flow?.rights === 'all' && <Waiting id={flow.id} />}
        </HeaderLink>
        {(changes || flow?.rights === 'copy') && (
          <HeaderLink to={`${endpoint.home}/hand-over`} end>
            Hand over
          </HeaderLink>
        )}
      </nav>
      <div className="flex items-center justify-end gap-1.5 max-[1000px]:ml-auto">
        {tools}
        <Link to="/help" className="rounded-md px-2 py-1.5 text-ink-2 hover:bg-sunk hover:text-ink">
          Help
        </Link>
        <ReadingSettings />
      </div>
    </header>
  )
}

/** The head of every page of a flow: its name, the pages, what the page itself puts beside them. */
const FlowLayout = ({ shared }: { shared: boolean }) => {
  const { id = '', token = '' } = useParams()
  const endpoint: Endpoint = shared
    ? { base: `/api/shared/${token}`, home: `/r/${token}`, token }
    : { base: `/api/flows/${id}`, home: `/flows/${id}` }
  const { data: flow, error } = useQuery(flowQuery(endpoint))
  const [tools, setTools] = useState<ReactNode>()
  const [message, setMessage] = useState('')
  const content = () => {
    if (error)
      return (
        <main className="mx-auto max-w-[560px] p-12">
          <h1 className="mb-3 font-serif text-[22px] font-semibold">This story cannot be opened</h1>
          <Notice kind="removed">{error.message}</Notice>
        </main>
      )
    if (flow) return <FlowPage context={{ flow, endpoint, setTools, setMessage }} />
    return <main className="p-12 font-serif text-ink-3 italic">Opening the story…</main>
  }
  return (
    <div className="grid h-full grid-rows-[auto_1fr] overflow-hidden">
      <title>{flow ? `${flow.recipe.name} – Fabula` : 'Fabula'}</title>
      <FlowHeader flow={flow} endpoint={endpoint} message={message} tools={tools} />
      {content()}
    </div>
  )
}

/** A story of one's own. */
export const OwnStory = () => <FlowLayout shared={false} />
/** A story as a link shows it. */
export const StoryByLink = () => <FlowLayout shared />

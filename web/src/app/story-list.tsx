import { NameField } from '../ui/name-field.tsx'
import { counted, listed } from '@fabula/core'
import { createReply, flowsReply, type FlowSummary } from '@fabula/core/api'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { DropdownMenu } from 'radix-ui'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { ask } from '../api/client.ts'
import { storiesQuery } from '../api/stories.ts'
import { moment } from '../ui/moments.ts'
import { Button } from '../ui/parts.tsx'
import { storiesShown, storyOrders, type StoryOrder } from './stories.ts'

/** What a story makes. */
const makesWords = ({ sentences, writes }: FlowSummary): string =>
  `${writes.length > 0 ? `makes ${listed(writes)} · ` : ''}${counted(sentences, 'sentence')}`

/** When a story was last replayed, on which files and to what; what waits for an answer comes first. */
const LastReplay = ({ flow: { ran, waits } }: { flow: FlowSummary }) => {
  const [first, ...others] = ran?.files ?? []
  const files =
    first === undefined ? '' : ` on ${first}${others.length > 0 ? ` and ${counted(others.length, 'other')}` : ''}`
  return (
    <span className="text-[12.5px] text-ink-2">
      {waits > 0 && (
        <b className="block font-semibold text-changed">
          {waits === 1 ? '! an export waits' : `! ${waits} exports wait`} for an answer
        </b>
      )}
      {ran === null ? (
        'not replayed yet'
      ) : (
        <>
          replayed {moment(ran.at)}
          {files}: {counted(ran.rows, 'row')}{' '}
          {ran.open === 0 ? (
            <span className="text-added">✓ nothing to look at</span>
          ) : (
            <b className="font-semibold text-changed">{counted(ran.open, 'thing')} to look at</b>
          )}
        </>
      )}
    </span>
  )
}

const item = 'cursor-pointer rounded px-2 py-1 outline-none data-highlighted:bg-token-tint'
const StoryMenu = ({
  name,
  rename,
  duplicate,
  remove,
}: {
  name: string
  rename: () => void
  duplicate: () => void
  remove: () => void
}) => (
  <DropdownMenu.Root modal={false}>
    <DropdownMenu.Trigger asChild>
      <button
        type="button"
        aria-label={`What to do with ${name}`}
        className="size-8 self-center rounded text-ink-3 hover:bg-sheet hover:text-ink"
      >
        ⋯
      </button>
    </DropdownMenu.Trigger>
    <DropdownMenu.Portal container={document.querySelector('main')}>
      <DropdownMenu.Content
        align="end"
        className="z-50 min-w-[180px] rounded-lg border border-line-strong bg-sheet p-1.5 text-[13px] text-ink"
        onCloseAutoFocus={(event) => event.preventDefault()}
      >
        <DropdownMenu.Item className={item} onSelect={rename}>
          Rename
        </DropdownMenu.Item>
        <DropdownMenu.Item className={item} onSelect={duplicate}>
          Duplicate
        </DropdownMenu.Item>
        <DropdownMenu.Item className={item} onSelect={remove}>
          Delete
        </DropdownMenu.Item>
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  </DropdownMenu.Root>
)

/** What is done with a story from the list. */
const useStoryActions = (report: (problem: string) => void) => {
  const client = useQueryClient()
  const navigate = useNavigate()
  const fresh = (): Promise<void> => client.invalidateQueries({ queryKey: ['flows'] })
  const onError = (error: Error): void => report(error.message)
  const rename = useMutation({
    mutationFn: ({ id, name }: { id: string; name: string }) =>
      ask(flowsReply, 'POST', `/api/flows/${id}/rename`, { name }),
    onSuccess: (reply) => client.setQueryData(storiesQuery().queryKey, reply),
    onError,
  })
  const duplicate = useMutation({
    mutationFn: (id: string) => ask(createReply, 'POST', `/api/flows/${id}/copy`),
    onSuccess: async ({ id }) => {
      await fresh()
      await navigate(`/flows/${id}`)
    },
    onError,
  })
  const move = useMutation({
    mutationFn: ({ id, back }: { id: string; back: boolean }) =>
      back ? ask(flowsReply, 'POST', `/api/flows/${id}/restore`) : ask(flowsReply, 'DELETE', `/api/flows/${id}`),
    onSuccess: (reply) => client.setQueryData(storiesQuery().queryKey, reply),
    onError,
  })
  return {
    rename: (id: string, name: string) => rename.mutate({ id, name }),
    duplicate: (id: string) => duplicate.mutate(id),
    remove: (id: string) => move.mutate({ id, back: false }),
    restore: (id: string) => move.mutate({ id, back: true }),
  }
}
type StoryActions = ReturnType<typeof useStoryActions>

const StoryItem = ({ flow, actions }: { flow: FlowSummary; actions: StoryActions }) => {
  const [naming, setNaming] = useState(false)
  const { id, name, changedAt } = flow
  const keep = (next: string): void => {
    setNaming(false)
    if (next.trim() !== '' && next !== name) actions.rename(id, next.trim())
  }
  if (naming)
    return (
      <li className="border-b border-line">
        <NameField
          name={name}
          className="my-2.5 w-full font-serif text-[15px]"
          keep={keep}
          leave={() => setNaming(false)}
        />
      </li>
    )
  return (
    <li className="flex border-b border-line">
      <Link
        to={`/flows/${id}`}
        className="grid min-w-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(0,320px)_150px] gap-x-6 gap-y-0.5 px-1 py-2.5 hover:bg-sheet max-[760px]:grid-cols-1"
      >
        <span className="min-w-0 font-serif text-[15px] font-semibold break-words">
          <bdi>{name}</bdi>
          <span className="mt-0.5 block font-sans text-[12.5px] font-normal text-ink-2">{makesWords(flow)}</span>
        </span>
        <LastReplay flow={flow} />
        <span className="figures text-[12.5px] text-ink-3">changed {moment(changedAt)}</span>
      </Link>
      <StoryMenu
        name={name}
        rename={() => setNaming(true)}
        duplicate={() => actions.duplicate(id)}
        remove={() => actions.remove(id)}
      />
    </li>
  )
}

const DeletedStories = ({ flows, restore }: { flows: readonly FlowSummary[]; restore: (id: string) => void }) => (
  <details className="mt-6 text-[13px] text-ink-2">
    <summary className="cursor-pointer">
      {counted(flows.length, 'deleted story', 'deleted stories')}, kept for 30 days
    </summary>
    <ul className="mt-2 border-t border-line">
      {flows.map(({ id, name, deletedAt }) => (
        <li key={id} className="flex items-center gap-3 border-b border-line px-1 py-1.5">
          <span className="min-w-0 flex-1 truncate font-serif">{name}</span>
          <span className="figures text-ink-3">{deletedAt === null ? '' : moment(deletedAt)}</span>
          <Button look="link" className="py-0!" aria-label={`Take ${name} back`} onClick={() => restore(id)}>
            Take it back
          </Button>
        </li>
      ))}
    </ul>
  </details>
)

/** Finds stories by words, and sets their order. */
const StoryFinder = ({
  text,
  find,
  order,
  sort,
}: {
  text: string
  find: (text: string) => void
  order: StoryOrder
  sort: (order: StoryOrder) => void
}) => (
  <div className="ml-auto flex gap-3">
    <input
      type="search"
      className="field w-[230px]"
      aria-label="Find a story"
      placeholder="Find a story or a table"
      value={text}
      onChange={(event) => find(event.target.value)}
    />
    <select
      className="field"
      aria-label="Order of the stories"
      value={order}
      onChange={(event) => sort(event.target.value as StoryOrder)}
    >
      {storyOrders.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  </div>
)

/** The stories: found by name or what they make, in an order, each with what is done with it; those deleted below. */
export const StoryList = ({ flows, report }: { flows: readonly FlowSummary[]; report: (problem: string) => void }) => {
  const [text, setText] = useState('')
  const [order, setOrder] = useState<StoryOrder>('opened')
  const actions = useStoryActions(report)
  const { shown, deleted } = storiesShown(flows, text, order)
  const stands = flows.length - deleted.length
  return (
    <>
      <div className="mb-1.5 flex flex-wrap items-center gap-3">
        <h2 className="font-serif text-[17px] font-semibold">Your stories</h2>
        {stands > 1 && <StoryFinder text={text} find={setText} order={order} sort={setOrder} />}
      </div>
      <ul className="border-t border-line" aria-label="Your stories">
        {shown.map((flow) => (
          <StoryItem key={flow.id} flow={flow} actions={actions} />
        ))}
        {shown.length === 0 && (
          <li className="py-4 font-serif text-ink-3 italic">
            {stands === 0 ? 'None yet. Drop an export to begin one.' : 'No story is found by these words.'}
          </li>
        )}
      </ul>
      {deleted.length > 0 && <DeletedStories flows={deleted} restore={actions.restore} />}
    </>
  )
}

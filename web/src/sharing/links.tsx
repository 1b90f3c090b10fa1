import { counted, figure } from '@fabula/core'
import type { EditionsReply, LinkAsked, LinksReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ask } from '../api/client.ts'
import { editionsQuery, linksQuery, type Endpoint } from '../api/queries.ts'
import { dayOf, moment } from '../ui/moments.ts'
import { Button, Notice } from '../ui/parts.tsx'

type LinkReply = LinksReply['links'][number]
const rightWords: Readonly<Record<LinkAsked['rights'], string>> = {
  replay: 'read and replay',
  copy: 'read, replay and take a copy',
  edit: 'read, replay, copy and change',
}
const useWords: Readonly<Record<LinkReply['uses'][number]['what'], string>> = {
  read: 'was read',
  replayed: 'was replayed',
  copied: 'was copied',
  edited: 'was changed',
}
const followWords = (follows: string, editions: EditionsReply['editions']): string => {
  if (follows === 'story') return 'the story as it stands'
  if (follows === 'newest') return 'always the newest edition'
  return `the edition ${editions.find(({ id }) => String(id) === follows)?.name ?? 'that is gone'}`
}
const megabyte = 1_000_000
const fresh: LinkAsked = {
  rights: 'replay',
  note: '',
  endsAt: null,
  follows: 'story',
  bytesADay: 1000 * megabyte,
  waiting: 3,
}

/** What a link allows, until when, and which state of the story it shows. */
const LinkForm = ({
  start,
  editions,
  done,
  words,
  close,
}: {
  start: LinkAsked
  editions: EditionsReply['editions']
  done: (asked: LinkAsked) => void
  words: string
  close?: () => void
}) => {
  const [asked, setAsked] = useState(start)
  const put = (change: Partial<LinkAsked>): void => setAsked({ ...asked, ...change })
  return (
    <form
      className="grid gap-2 rounded-lg border border-line bg-sheet p-3"
      onSubmit={(event) => {
        event.preventDefault()
        done(asked)
      }}
    >
      <label className="grid gap-0.5 text-[12px] text-ink-3">
        For whom
        <input
          className="field text-[13px]"
          placeholder="Ines at Marlpit"
          maxLength={200}
          value={asked.note}
          onChange={(event) => put({ note: event.target.value })}
        />
      </label>
      <label className="grid gap-0.5 text-[12px] text-ink-3">
        May
        <select
          className="field text-[13px]"
          value={asked.rights}
          onChange={(event) =>
            put({
              rights: event.target.value as LinkAsked['rights'],
              ...(event.target.value === 'edit' ? { follows: 'story' } : {}),
            })
          }
        >
          {api.linkRights.map((right) => (
            <option key={right} value={right}>
              {rightWords[right]}
            </option>
          ))}
        </select>
      </label>
      <label className="grid gap-0.5 text-[12px] text-ink-3">
        Shows
        <select
          className="field text-[13px]"
          disabled={asked.rights === 'edit'}
          value={asked.follows}
          onChange={(event) => put({ follows: event.target.value as LinkAsked['follows'] })}
        >
          <option value="story">the story as it stands</option>
          {editions.length > 0 && <option value="newest">always the newest edition</option>}
          {editions.map(({ id, name }) => (
            <option key={id} value={String(id)}>
              the edition {name}
            </option>
          ))}
        </select>
      </label>
      <label className="grid gap-0.5 text-[12px] text-ink-3">
        Until the end of (no day: until you end it)
        <input
          type="date"
          className="field figures text-[13px]"
          value={asked.endsAt === null ? '' : dayOf(asked.endsAt)}
          onChange={(event) =>
            put({ endsAt: event.target.value === '' ? null : new Date(`${event.target.value}T23:59:59`).toISOString() })
          }
        />
      </label>
      {rightsChoice(asked, put)}
      <div className="flex gap-2">
        <Button look="main" type="submit">
          {words}
        </Button>
        {close && <Button onClick={close}>Leave it</Button>}
      </div>
    </form>
  )
}

const LinkCard = ({
  link,
  editions,
  change,
  end,
}: {
  link: LinkReply
  editions: EditionsReply['editions']
  change: (asked: LinkAsked) => void
  end: () => void
}) => {
  const [changing, setChanging] = useState(false)
  const [copied, setCopied] = useState(false)
  const address = `${location.origin}/r/${link.token}`
  const replays = link.uses.filter(({ what }) => what === 'replayed').length
  const endText = () => {
    if (link.over) return 'Ended.'
    if (link.endsAt === null) return 'Does not end by itself.'
    return `Ends after ${moment(link.endsAt, 'day')}.`
  }
  return (
    <li
      className={`rounded-lg border border-line px-3 py-2.5 ${link.over ? 'text-ink-3' : 'bg-sheet'}`}
      aria-label={`Link for ${link.note || 'anyone'}`}
    >
      <p className="font-serif text-[14px] font-semibold">{link.note || 'Whoever has it'}</p>
      <p className="text-[12.5px]">
        {link.over ? 'Could' : 'May'} {rightWords[link.rights]}. Shows {followWords(link.follows, editions)}.{' '}
        {endText()}
      </p>
      <p className="figures text-[12px] text-ink-3">
        At most {figure(Math.round(link.bytesADay / megabyte))} MB a day (
        {figure(Math.ceil(link.bytesToday / megabyte))} today) and {counted(link.waiting, 'replay')} at a time.
      </p>
      {!link.over && (
        <>
          <input
            readOnly
            aria-label="The link"
            className="field mt-1.5 w-full font-mono text-[12px]"
            value={address}
            onFocus={(event) => event.target.select()}
          />
          <div className="mt-1.5 flex gap-2">
            <Button look="main" onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}>
              {copied ? 'Copied' : 'Copy the link'}
            </Button>
            <Button onClick={() => setChanging(!changing)}>Change</Button>
            <Button onClick={end}>End it</Button>
          </div>
        </>
      )}
      {changing && (
        <div className="mt-2">
          <LinkForm
            start={{
              rights: link.rights,
              note: link.note,
              endsAt: link.endsAt,
              follows: link.follows as LinkAsked['follows'],
              bytesADay: link.bytesADay,
              waiting: link.waiting,
            }}
            editions={editions}
            words="Keep it so"
            close={() => setChanging(false)}
            done={(asked) => (change(asked), setChanging(false))}
          />
        </div>
      )}
      <details className="mt-1.5 text-[12.5px]">
        <summary className="cursor-pointer text-ink-2">
          {link.uses.length === 0
            ? 'Not used yet'
            : `Used: ${counted(replays, 'replay')}, last on ${moment(link.uses[0]?.at ?? '')}`}
        </summary>
        <ul className="figures mt-1 text-[12px] text-ink-2">
          {link.uses.map((use, i) => (
            <li key={i}>
              {moment(use.at)}: {useWords[use.what]}
            </li>
          ))}
        </ul>
      </details>
    </li>
  )
}

/** Who may do what by which link, and what each was used for. */
export const Links = ({ endpoint }: { endpoint: Endpoint }) => {
  const client = useQueryClient()
  const { data } = useQuery(linksQuery(endpoint))
  const editions = useQuery(editionsQuery(endpoint)).data?.editions ?? []
  const [making, setMaking] = useState(false)
  const links = useMutation({
    mutationFn: ({ method, token, asked }: { method: 'POST' | 'PUT' | 'DELETE'; token?: string; asked?: LinkAsked }) =>
      ask(api.linksReply, method, `${endpoint.base}/links${token ? `/${token}` : ''}`, asked),
    onSuccess: (reply) => {
      client.setQueryData(linksQuery(endpoint).queryKey, reply)
      setMaking(false)
    },
  })
  const all = data?.links ?? []
  return (
    <section aria-label="Links">
      <h2 className="mb-1.5 font-serif text-[14.5px] font-semibold">Who may replay it</h2>
      {all.every(({ over }) => over) && !making && (
        <p className="mb-2 text-[12.5px] text-ink-2">
          Nobody else now. A link lets a colleague read the story and replay it on their own exports; whether they may
          also copy or change it, you say.
        </p>
      )}
      <ul className="mb-2 grid gap-2">
        {all
          .filter(({ over }) => !over)
          .map((link) => (
            <LinkCard
              key={link.token}
              link={link}
              editions={editions}
              change={(asked) => links.mutate({ method: 'PUT', token: link.token, asked })}
              end={() => links.mutate({ method: 'DELETE', token: link.token })}
            />
          ))}
      </ul>
      {making ? (
        <LinkForm
          start={fresh}
          editions={editions}
          words="Make the link"
          close={() => setMaking(false)}
          done={(asked) => links.mutate({ method: 'POST', asked })}
        />
      ) : (
        <Button look="main" onClick={() => setMaking(true)}>
          Make a link
        </Button>
      )}
      {links.error && <Notice kind="removed">{links.error.message}</Notice>}
      {all.some(({ over }) => over) && (
        <details className="mt-2">
          <summary className="cursor-pointer text-[12.5px] text-ink-3">
            {counted(all.filter(({ over }) => over).length, 'link')} that ended
          </summary>
          <ul className="mt-1 grid gap-2">
            {all
              .filter(({ over }) => over)
              .map((link) => (
                <LinkCard
                  key={link.token}
                  link={link}
                  editions={editions}
                  change={() => undefined}
                  end={() => undefined}
                />
              ))}
          </ul>
        </details>
      )}
    </section>
  )
}

function rightsChoice(asked: LinkAsked, put: (change: Partial<LinkAsked>) => void) {
  return (
    <fieldset className="grid grid-cols-2 gap-2">
      <legend className="mb-0.5 text-[12px] text-ink-3">At most</legend>
      <label className="grid gap-0.5 text-[12px] text-ink-3">
        MB sent a day
        <input
          type="number"
          min={0}
          max={1000000}
          className="field figures text-[13px]"
          value={Math.round(asked.bytesADay / megabyte)}
          onChange={(event) => put({ bytesADay: Math.max(0, event.target.valueAsNumber || 0) * megabyte })}
        />
      </label>
      <label className="grid gap-0.5 text-[12px] text-ink-3">
        replays at a time
        <input
          type="number"
          min={0}
          max={100}
          className="field figures text-[13px]"
          value={asked.waiting}
          onChange={(event) => put({ waiting: Math.max(0, Math.round(event.target.valueAsNumber || 0)) })}
        />
      </label>
    </fieldset>
  )
}

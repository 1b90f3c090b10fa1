import type { Parameter } from '@fabula/core'
import { ownValue } from '@fabula/core'
import type { FileRef, WatchesReply, WatchSettings } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState, type Dispatch, type SetStateAction } from 'react'
import { ask } from '../api/client.ts'
import { watchesQuery, type Endpoint } from '../api/queries.ts'
import { parameterInput } from '../sentence/parameters.tsx'
import { moment } from '../ui/moments.ts'
import { Button, Notice } from '../ui/parts.tsx'

type WatchReply = WatchesReply['watches'][number]
type ScheduleKind = WatchSettings['when']['kind']
const kindWords: Readonly<Record<ScheduleKind, string>> = {
  arrival: 'as soon as new files arrive',
  daily: 'every day',
  weekly: 'every week',
  monthly: 'every month',
}
const days = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const
const ordinal = (n: number): string =>
  `${n}${n % 100 >= 11 && n % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th')}`
const whenWords = ({ when, folder }: WatchSettings): string => {
  if (when.kind === 'arrival') return `When new files arrive in ${folder ?? ''}`
  const rhythm = () => {
    if (when.kind === 'daily') return 'Every day'
    if (when.kind === 'weekly') return `Every ${days[when.day - 1] ?? ''}`
    return `Every month on the ${ordinal(when.day)}`
  }
  return `${rhythm()} at ${when.at}, with ${folder ? `the newest files in ${folder}` : 'what is kept or fetched anew'}`
}

type ParameterRule = WatchSettings['parameters'][string]
const dayWords: Readonly<Record<Extract<ParameterRule, { day: string }>['day'], string>> = {
  today: 'the day it runs',
  yesterday: 'the day before',
  'last-month-end': 'the last day of the month before',
  'last-month-begin': 'the first day of the month before',
  'month-begin': 'the first day of the month',
}
const ruleWords = (reported: ParameterRule): string => ('value' in reported ? reported.value : dayWords[reported.day])

/** The value of a parameter in a replay by a watch. */
const RuleField = ({
  parameter: { name, type, value },
  reported,
  report,
}: {
  parameter: Parameter
  reported: ParameterRule | undefined
  report: (next: ParameterRule | undefined) => void
}) => (
  <p className="flex flex-wrap items-center gap-2">
    {name} is
    <select
      className="field font-sans text-[13px]"
      aria-label={`What ${name} is`}
      value={reported && 'value' in reported ? 'value' : (reported?.day ?? '')}
      onChange={({ target }) => {
        const rule = () => {
          if (target.value === '') return undefined
          if (target.value === 'value') return { value: String(value ?? '') }
          return { day: target.value } as ParameterRule
        }
        return report(rule())
      }}
    >
      {value !== undefined && <option value="">{`${String(value ?? 'empty')}, as the story has it`}</option>}
      {(type === 'date' || type === 'datetime') &&
        Object.entries(dayWords).map(([day, words]) => (
          <option key={day} value={day}>
            {words}
          </option>
        ))}
      <option value="value">always…</option>
    </select>
    {reported && 'value' in reported && (
      <input
        className="field figures text-[13px]"
        {...parameterInput(type)}
        aria-label={`Always, for ${name}`}
        value={reported.value}
        onChange={(event) => report({ value: event.target.value })}
      />
    )}
  </p>
)

/** When a story is to replay itself, said in one sentence of choices. */
const WatchForm = ({
  parameters,
  inputs,
  done,
  close,
}: {
  parameters: readonly Parameter[]
  /** How many inputs the story has. */
  inputs: number
  done: (settings: WatchSettings) => void
  close: () => void
}) => {
  const [reported, setRule] = useState<WatchSettings['parameters']>({})
  const [kind, setKind] = useState<ScheduleKind>('arrival')
  const [at, setAt] = useState('07:00')
  const [day, setDay] = useState(1)
  const [folder, setFolder] = useState('')
  const [mail, setMail] = useState('')
  const [together, setTogether] = useState(false)
  const chooseWhen = () => {
    if (kind === 'arrival') return { kind }
    if (kind === 'daily') return { kind, at }
    return { kind, at, day }
  }
  const when: WatchSettings['when'] = chooseWhen()
  return (
    <form
      className="grid gap-2.5 rounded-lg border border-line bg-sheet p-3 font-serif text-[14px]"
      onSubmit={(event) => {
        event.preventDefault()
        done({
          when,
          folder: folder.trim() === '' ? null : folder.trim(),
          together: together && kind === 'arrival',
          mail: mail.trim() === '' ? null : mail.trim(),
          parameters: reported,
        })
      }}
    >
      {whenFields(kind, setKind, setDay, day, at, setAt)}
      <label className="grid gap-0.5 font-sans text-[12px] text-ink-3">
        {kind === 'arrival'
          ? 'The folder of this server that is watched'
          : 'With the newest files of this folder (none: with what is kept, sources fetched anew)'}
        <input
          className="field text-[13px]"
          placeholder="/srv/exports/clinics"
          required={kind === 'arrival'}
          value={folder}
          onChange={(event) => setFolder(event.target.value)}
        />
      </label>
      {kind === 'arrival' && inputs > 1 && (
        <label className="flex items-center gap-2 font-sans text-[13px] text-ink-2">
          <input type="checkbox" checked={together} onChange={(event) => setTogether(event.target.checked)} />
          Begin only once every input has a new file
        </label>
      )}
      <label className="grid gap-0.5 font-sans text-[12px] text-ink-3">
        Who gets a notice (nobody, if empty)
        <input
          className="field text-[13px]"
          placeholder="ines@fernhollow.example"
          maxLength={320}
          value={mail}
          onChange={(event) => setMail(event.target.value)}
        />
      </label>
      {parameters.map((one) => (
        <RuleField
          key={one.name}
          parameter={one}
          reported={ownValue(reported, one.name)}
          report={(next) =>
            setRule(
              next
                ? { ...reported, [one.name]: next }
                : Object.fromEntries(Object.entries(reported).filter(([name]) => name !== one.name)),
            )
          }
        />
      ))}
      <div className="flex gap-2 font-sans">
        <Button look="main" type="submit">
          Begin
        </Button>
        <Button onClick={close}>Leave it</Button>
      </div>
    </form>
  )
}

const logLooks: Readonly<Record<WatchReply['log'][number]['what'], readonly [string, string]>> = {
  replays: ['✓', 'text-added'],
  waits: ['?', 'text-changed'],
  failed: ['!', 'text-removed'],
}

const stateOf = ({ on, nextAt }: WatchReply): string => {
  if (!on) return 'Rests.'
  return nextAt ? `Next on ${moment(nextAt)}.` : 'Watches.'
}

const WatchCard = ({
  watch,
  put,
  show,
  look,
}: {
  watch: WatchReply
  put: (change: { method: 'PUT' | 'DELETE'; on?: boolean }) => void
  show: (run: string) => void
  look: (files: Record<string, FileRef[]>) => void
}) => (
  <li className="rounded-lg border border-line bg-sheet px-3.5 py-2.5" aria-label={whenWords(watch.settings)}>
    <p className="font-serif text-[14px]">
      {whenWords(watch.settings)}
      {Object.entries(watch.settings.parameters).map(([name, reported]) => `, ${name} being ${ruleWords(reported)}`)}
      {watch.settings.mail ? `; ${watch.settings.mail} gets a notice.` : '.'}
    </p>
    <p className="mt-0.5 flex items-center gap-3 text-[12.5px] text-ink-2">
      <span className="figures">{stateOf(watch)}</span>
      <Button look="link" className="py-0!" onClick={() => put({ method: 'PUT', on: !watch.on })}>
        {watch.on ? 'Let it rest' : 'Go on'}
      </Button>
      <Button look="link" className="py-0!" onClick={() => put({ method: 'DELETE' })}>
        Take it out
      </Button>
    </p>
    <ul className="mt-1.5 grid gap-1 text-[12.5px]" aria-label="What came of it">
      {watch.log.slice(0, 6).map(({ id, at, what, sentence, run, files }) => {
        const prefix = () => {
          if (what === 'replays') return 'Replayed with '
          if (what === 'waits') return 'Waits: '
          return ''
        }
        return (
          <li key={id} className="grid grid-cols-[16px_96px_1fr] gap-1">
            <b className={logLooks[what][1]}>{logLooks[what][0]}</b>
            <span className="figures text-ink-3">{moment(at)}</span>
            <span>
              {prefix()}
              {sentence}{' '}
              {run !== null && (
                <Button look="link" className="py-0!" onClick={() => show(run)}>
                  See it
                </Button>
              )}
              {what === 'waits' && Object.keys(files).length > 0 && (
                <Button look="link" className="py-0!" onClick={() => look(files)}>
                  Answer
                </Button>
              )}
            </span>
          </li>
        )
      })}
    </ul>
  </li>
)

/** Stories that replay themselves: when, and what came of it. */
export const ByItself = ({
  endpoint,
  parameters,
  inputs,
  show,
  look,
}: {
  endpoint: Endpoint
  parameters: readonly Parameter[]
  inputs: number
  show: (run: string) => void
  look: (files: Record<string, FileRef[]>) => void
}) => {
  const client = useQueryClient()
  const { data } = useQuery(watchesQuery(endpoint))
  const [making, setMaking] = useState(false)
  const newest = Math.max(
    0,
    ...(data?.watches ?? []).flatMap(({ log }) => log.flatMap(({ id, run }) => (run === null ? [] : [id]))),
  )
  useEffect(() => {
    if (newest > 0) void client.invalidateQueries({ queryKey: ['runs', endpoint.base] })
  }, [newest, client, endpoint.base])
  const watches = useMutation({
    mutationFn: ({ method, id, body }: { method: 'POST' | 'PUT' | 'DELETE'; id?: string; body?: unknown }) =>
      ask(api.watchesReply, method, `${endpoint.base}/watches${id ? `/${id}` : ''}`, body),
    onSuccess: (reply, { method }) => {
      client.setQueryData(watchesQuery(endpoint).queryKey, reply)
      if (method === 'POST') setMaking(false)
    },
  })
  return (
    <section aria-label="By itself" className="mt-7 border-t border-line pt-4">
      <h2 className="mb-1.5 font-serif text-[15px] font-semibold">By itself</h2>
      {data?.watches.length === 0 && !making && (
        <p className="mb-2 text-[12.5px] text-ink-2">
          The story can replay itself when new exports arrive in a folder, or at a time. What does not fit waits here
          and says why.
        </p>
      )}
      <ul className="mb-2 grid gap-2">
        {data?.watches.map((watch) => (
          <WatchCard
            key={watch.id}
            watch={watch}
            show={show}
            look={look}
            put={({ method, on }) =>
              watches.mutate({ method, id: watch.id, ...(on === undefined ? {} : { body: { on } }) })
            }
          />
        ))}
      </ul>
      {making ? (
        <WatchForm
          parameters={parameters}
          inputs={inputs}
          close={() => setMaking(false)}
          done={(body) => watches.mutate({ method: 'POST', body })}
        />
      ) : (
        <Button onClick={() => setMaking(true)}>Let it replay itself…</Button>
      )}
      {watches.error && <Notice kind="removed">{watches.error.message}</Notice>}
    </section>
  )
}

function whenFields(
  kind: string,
  setKind: Dispatch<SetStateAction<'arrival' | 'daily' | 'weekly' | 'monthly'>>,
  setDay: Dispatch<SetStateAction<number>>,
  day: number,
  at: string,
  setAt: Dispatch<SetStateAction<string>>,
) {
  return (
    <p className="flex flex-wrap items-center gap-2">
      Replay the story
      <select
        className="field font-sans text-[13px]"
        aria-label="When"
        value={kind}
        onChange={(event) => (setKind(event.target.value as ScheduleKind), setDay(1))}
      >
        {(Object.keys(kindWords) as ScheduleKind[]).map((one) => (
          <option key={one} value={one}>
            {kindWords[one]}
          </option>
        ))}
      </select>
      {kind === 'weekly' && (
        <select
          className="field font-sans text-[13px]"
          aria-label="Day of the week"
          value={day}
          onChange={(event) => setDay(Number(event.target.value))}
        >
          {days.map((name, i) => (
            <option key={name} value={i + 1}>
              on {name}
            </option>
          ))}
        </select>
      )}
      {kind === 'monthly' && (
        <select
          className="field font-sans text-[13px]"
          aria-label="Day of the month"
          value={day}
          onChange={(event) => setDay(Number(event.target.value))}
        >
          {Array.from({ length: 31 }, (_, i) => (
            <option key={i} value={i + 1}>
              on the {ordinal(i + 1)}
            </option>
          ))}
        </select>
      )}
      {kind !== 'arrival' && (
        <input
          type="time"
          required
          className="field figures text-[13px]"
          aria-label="Time of day"
          value={at}
          onChange={(event) => setAt(event.target.value)}
        />
      )}
    </p>
  )
}

import { counted } from '@fabula/core'
import type {
  ConnectionsReply,
  OfferReply,
  OfferRequest,
  ProgressReply,
  SampleReply,
  SourceAsked,
  TakeReply,
} from '@fabula/core/api'
import * as api from '@fabula/core/api'
import {
  useMutation,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query'
import { useMemo, useState, type Dispatch, type ReactNode, type SetStateAction } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { ask } from '../api/client.ts'
import { connectionsQuery } from '../api/queries.ts'
import { Button, Notice, Segments } from '../ui/parts.tsx'
import { SiteHeader } from '../ui/site-header.tsx'

type OfferedTable = OfferReply['tables'][number]
const titleOf = ({ schema, name }: OfferedTable): string => (schema && schema !== 'public' ? `${schema}.${name}` : name)

const Field = ({ label, children }: { label: string; children: ReactNode }) => (
  <label className="grid gap-1">
    <span className="text-ink-2">{label}</span>
    {children}
  </label>
)

/** A table's first rows, and which of its columns are wanted. */
const Sample = ({
  sample,
  chosen,
  toggle,
}: {
  sample: SampleReply
  chosen: readonly string[] | undefined
  toggle: ((name: string) => void) | undefined
}) => (
  <div className="min-h-0 overflow-auto border border-line" tabIndex={0} aria-label="The first rows">
    <table className="figures border-collapse text-[12.5px]">
      <thead>
        <tr>
          {sample.names.map((name) => (
            <th
              key={name}
              scope="col"
              className="sticky top-0 border-r border-b border-line bg-paper px-2.5 py-1.5 text-left font-semibold whitespace-nowrap"
            >
              {toggle ? (
                <label className="flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    checked={chosen === undefined || chosen.includes(name)}
                    onChange={() => toggle(name)}
                  />{' '}
                  {name}
                </label>
              ) : (
                name
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {sample.rows.map((row, r) => (
          <tr key={r} className="h-[27px]">
            {row.map((cell, c) => (
              <td key={c} className="max-w-[240px] truncate border-r border-b border-line px-2.5">
                {cell === '' ? <span className="text-ink-3 italic">empty</span> : cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  </div>
)

const tlsWords: Readonly<Record<(typeof api.tlsModes)[number], string>> = {
  none: 'not encrypted',
  verified: 'encrypted, certificate checked',
  any: 'encrypted, any certificate',
}

const NewConnection = ({ done }: { done: (name: string) => void }) => {
  const client = useQueryClient()
  const [form, setForm] = useState({
    name: '',
    host: 'localhost',
    port: '5432',
    database: '',
    user: '',
    password: '',
    tls: undefined as (typeof api.tlsModes)[number] | undefined,
    ca: '',
  })
  const tls = form.tls ?? (/^(?:localhost|127(?:\.\d+){3}|::1)$/.test(form.host) ? 'none' : 'verified')
  const save = useMutation({
    mutationFn: () =>
      ask(api.connectionsReply, 'POST', '/api/connections', {
        ...form,
        port: Number(form.port),
        tls,
        ca: tls === 'verified' && form.ca.trim() !== '' ? form.ca : undefined,
      }),
    onSuccess: (reply) => {
      client.setQueryData(connectionsQuery.queryKey, reply)
      done(form.name)
    },
  })
  const text = (key: 'name' | 'host' | 'port' | 'database' | 'user' | 'password', label: string) => (
    <Field label={label}>
      <input
        className="field"
        type={key === 'password' ? 'password' : 'text'}
        autoComplete="off"
        value={form[key]}
        onChange={(event) => setForm({ ...form, [key]: event.target.value })}
      />
    </Field>
  )
  return (
    <form
      className="grid grid-cols-2 gap-2 rounded-lg border border-line bg-sheet p-3"
      onSubmit={(event) => {
        event.preventDefault()
        save.mutate()
      }}
    >
      {text('name', 'Call it')}
      {text('database', 'Database')}
      {text('host', 'Host')}
      {text('port', 'Port')}
      {text('user', 'User')}
      {text('password', 'Password')}
      <div className="col-span-2">
        <Field label="Protection">
          <select
            className="field"
            value={tls}
            onChange={(event) => setForm({ ...form, tls: event.target.value as (typeof api.tlsModes)[number] })}
          >
            {api.tlsModes.map((mode) => (
              <option key={mode} value={mode}>
                {tlsWords[mode]}
              </option>
            ))}
          </select>
        </Field>
      </div>
      {tls === 'verified' && (
        <details className="col-span-2 text-[12.5px]">
          <summary className="cursor-pointer text-ink-2">The authority of our own that signed its certificate</summary>
          <textarea
            className="field mt-1 h-24 w-full font-mono text-[11.5px]"
            aria-label="Certificate of the authority, in PEM"
            placeholder="-----BEGIN CERTIFICATE-----"
            value={form.ca}
            onChange={(event) => setForm({ ...form, ca: event.target.value })}
          />
        </details>
      )}
      {tls === 'any' && (
        <p className="col-span-2 text-[12px] text-ink-3">
          Encrypted, but whoever answers at this address is believed: somebody between here and there could read along
          and answer instead.
        </p>
      )}
      <Button look="main" type="submit" disabled={save.isPending || form.name === '' || form.database === ''}>
        Try and keep it
      </Button>
      {save.error && (
        <div className="col-span-2">
          <Notice kind="removed">{save.error.message}</Notice>
        </div>
      )}
      <p className="col-span-2 text-[12px] text-ink-3">
        The password is kept sealed on this server; it never stands in a recipe.
      </p>
    </form>
  )
}

type SourceKind = 'web' | 'odata' | 'postgresql'

export const SourcesPage = () => {
  const navigate = useNavigate()
  const [search] = useSearchParams()
  const flow = search.get('flow')
  const [kind, setKind] = useState<SourceKind>('web')
  const [address, setAddress] = useState('')
  const [service, setService] = useState('')
  const [connection, setConnection] = useState('')
  const [adding, setAdding] = useState(false)
  const [query, setQuery] = useState('')
  const [offer, setOffer] = useState<OfferRequest>()
  const [asked, setAsked] = useState<SourceAsked>()
  const [columns, setColumns] = useState<readonly string[]>()
  const connections = useQuery(connectionsQuery)
  const tables = useQuery({
    queryKey: ['offer', offer],
    queryFn: () => ask(api.offerReply, 'POST', '/api/sources/offer', offer),
    enabled: offer !== undefined,
  })
  const sample = useQuery({
    queryKey: ['sample', asked],
    queryFn: () => ask(api.sampleReply, 'POST', '/api/sources/look', { asked }),
    enabled: asked !== undefined,
  })
  const job = useMemo(() => crypto.randomUUID(), [asked])
  const take = useMutation({
    mutationFn: (wanted: SourceAsked) => ask(api.takeReply, 'POST', '/api/sources/take', { asked: wanted, job }),
    onSuccess: ({ file }) => void navigate(flow ? `/flows/${flow}/open` : '/open', { state: { files: [file] } }),
  })
  const progress = useQuery({
    queryKey: ['taking', job],
    queryFn: () => ask(api.progressReply, 'GET', `/api/sources/take/${job}`),
    enabled: take.isPending,
    refetchInterval: 300,
  })
  const choose = (next: SourceAsked | undefined): void => {
    setAsked(next)
    setColumns(undefined)
    take.reset()
  }
  const wanted = asked?.kind === 'odata' && columns ? { ...asked, columns: [...columns] } : asked
  const names = sample.data?.names ?? []
  const error = take.error ?? sample.error ?? tables.error ?? connections.error
  const chosenTable = (table: OfferedTable): boolean =>
    (asked?.kind === 'odata' && asked.table === table.name) ||
    (asked?.kind === 'postgresql' &&
      'table' in asked.wanted &&
      asked.wanted.table === table.name &&
      asked.wanted.schema === table.schema)
  const title = () => {
    if (asked?.kind === 'odata') return asked.table
    if (asked?.kind === 'postgresql' && 'table' in asked.wanted) return asked.wanted.table
    return 'What the query gives'
  }
  return (
    <div className="grid h-full grid-rows-[52px_1fr] overflow-hidden">
      <SiteHeader />
      <main className="grid min-h-0 grid-cols-[392px_minmax(0,1fr)]">
        <section
          aria-label="Where from"
          className="grid min-h-0 content-start gap-4 overflow-auto border-r border-line p-4"
        >
          <h1 className="font-serif text-[20px] font-semibold">Bring data in from elsewhere</h1>
          <Segments
            label="Kind of source"
            value={kind}
            of={[
              ['web', 'A web address'],
              ['odata', 'OData'],
              ['postgresql', 'PostgreSQL'],
            ]}
            onChange={(next) => {
              setKind(next)
              setOffer(undefined)
              choose(undefined)
            }}
          />
          {kind === 'web' && webForm(take, address, setAddress)}
          {kind === 'odata' && odataForm(choose, setOffer, service, setService)}
          {kind === 'postgresql' &&
            postgresqlForm(
              connections,
              connection,
              setConnection,
              choose,
              setOffer,
              adding,
              setAdding,
              query,
              setQuery,
            )}
          {tables.data && offeredTables(tables.data, chosenTable, choose, offer, connection)}
          {(tables.isFetching || sample.isFetching) && <p role="status">Asking…</p>}
          {error && <Notice kind="removed">{error.message}</Notice>}
        </section>
        {samplePane(sample, asked, title, take, columns, wanted, setColumns, names, kind, progress)}
      </main>
    </div>
  )
}

function webForm(
  take: UseMutationResult<TakeReply, Error, SourceAsked>,
  address: string,
  setAddress: Dispatch<SetStateAction<string>>,
): ReactNode {
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        take.mutate({ kind: 'web', address })
      }}
    >
      <Field label="Address of a CSV, JSON or workbook file">
        <input
          className="field"
          type="url"
          placeholder="https://"
          value={address}
          onChange={(event) => setAddress(event.target.value)}
        />
      </Field>
      <Button look="main" type="submit" className="justify-self-start" disabled={address === '' || take.isPending}>
        Fetch it
      </Button>
    </form>
  )
}

function odataForm(
  choose: (next: SourceAsked | undefined) => void,
  setOffer: Dispatch<
    SetStateAction<{ kind: 'odata'; service: string } | { kind: 'postgresql'; connection: string } | undefined>
  >,
  service: string,
  setService: Dispatch<SetStateAction<string>>,
): ReactNode {
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        choose(undefined)
        setOffer({ kind: 'odata', service })
      }}
    >
      <Field label="Address of the service (OData 4)">
        <input
          className="field"
          type="url"
          placeholder="https://"
          value={service}
          onChange={(event) => setService(event.target.value)}
        />
      </Field>
      <Button look="main" type="submit" className="justify-self-start" disabled={service === ''}>
        See what it offers
      </Button>
    </form>
  )
}

function postgresqlForm(
  connections: UseQueryResult<ConnectionsReply>,
  connection: string,
  setConnection: Dispatch<SetStateAction<string>>,
  choose: (next: SourceAsked | undefined) => void,
  setOffer: Dispatch<
    SetStateAction<{ kind: 'odata'; service: string } | { kind: 'postgresql'; connection: string } | undefined>
  >,
  adding: boolean,
  setAdding: Dispatch<SetStateAction<boolean>>,
  query: string,
  setQuery: Dispatch<SetStateAction<string>>,
): ReactNode {
  return (
    <div className="grid gap-2">
      <ul aria-label="Connections">
        {connections.data?.connections.map((one) => (
          <li key={one.name} className="flex items-center gap-2 border-b border-line py-1">
            <button
              type="button"
              aria-pressed={connection === one.name}
              className="min-w-0 flex-1 truncate text-left aria-pressed:font-semibold"
              onClick={() => {
                setConnection(one.name)
                choose(undefined)
                setOffer({ kind: 'postgresql', connection: one.name })
              }}
            >
              {one.name}
            </button>
            <span className="text-[12px] text-ink-3">
              {one.database} at {one.host}
            </span>
          </li>
        ))}
      </ul>
      {adding ? (
        <NewConnection
          done={(name) => {
            setAdding(false)
            setConnection(name)
            setOffer({ kind: 'postgresql', connection: name })
          }}
        />
      ) : (
        <Button className="justify-self-start" onClick={() => setAdding(true)}>
          New connection
        </Button>
      )}
      {connection !== '' && (
        <form
          className="grid gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            choose({ kind: 'postgresql', connection, wanted: { query } })
          }}
        >
          <Field label="Or what a query gives">
            <textarea
              className="field min-h-[64px] font-mono text-[12.5px]"
              placeholder="select …"
              value={query}
              onChange={(event) => setQuery(event.target.value)}
            />
          </Field>
          <Button type="submit" className="justify-self-start" disabled={query.trim() === ''}>
            Look at it
          </Button>
        </form>
      )}
    </div>
  )
}

function offeredTables(
  tables: OfferReply,
  chosenTable: (table: OfferedTable) => boolean,
  choose: (next: SourceAsked | undefined) => void,
  offer: { kind: 'odata'; service: string } | { kind: 'postgresql'; connection: string } | undefined,
  connection: string,
): ReactNode {
  return (
    <ul aria-label="Tables on offer">
      {tables.tables.map((table) => (
        <li key={titleOf(table)} className="border-b border-line">
          <button
            type="button"
            aria-pressed={chosenTable(table)}
            className="flex w-full items-center gap-2 py-1 text-left hover:text-token aria-pressed:font-semibold"
            onClick={() =>
              choose(
                offer?.kind === 'odata'
                  ? { kind: 'odata', service: offer.service, table: table.name, columns: [] }
                  : {
                      kind: 'postgresql',
                      connection,
                      wanted: { schema: table.schema ?? 'public', table: table.name },
                    },
              )
            }
          >
            <span className="min-w-0 flex-1 truncate">{titleOf(table)}</span>
            {table.rows !== undefined && table.rows > 0 && (
              <span className="figures text-[12px] text-ink-3">about {counted(table.rows, 'row')}</span>
            )}
          </button>
        </li>
      ))}
      {tables.tables.length === 0 && <li className="py-2 font-serif text-ink-3 italic">Nothing is on offer here.</li>}
    </ul>
  )
}

function samplePane(
  sample: UseQueryResult<SampleReply>,
  asked: SourceAsked | undefined,
  title: () => string,
  take: UseMutationResult<TakeReply, Error, SourceAsked>,
  columns: readonly string[] | undefined,
  wanted: SourceAsked | undefined,
  setColumns: Dispatch<SetStateAction<readonly string[] | undefined>>,
  names: string[],
  kind: SourceKind,
  progress: UseQueryResult<ProgressReply>,
) {
  return (
    <section aria-label="What it holds" className="flex min-h-0 min-w-0 flex-col gap-3 bg-sheet p-4">
      {sample.data && asked ? (
        <>
          <div className="flex items-center gap-3">
            <h2 className="truncate font-serif text-[15px] font-semibold">{title()}, its first rows</h2>
            <Button
              look="main"
              className="ml-auto flex-none"
              disabled={take.isPending || columns?.length === 0}
              onClick={() => wanted && take.mutate(wanted)}
            >
              Take it
            </Button>
          </div>
          <Sample
            sample={sample.data}
            chosen={columns}
            toggle={
              asked.kind === 'odata'
                ? (name) =>
                    setColumns(
                      (columns ?? names).includes(name)
                        ? (columns ?? names).filter((one) => one !== name)
                        : names.filter((one) => one === name || (columns ?? names).includes(one)),
                    )
                : undefined
            }
          />
        </>
      ) : (
        <p className="p-4 font-serif text-ink-3 italic">
          {kind === 'web'
            ? 'What is fetched opens on the sheet, where you decide how it is read.'
            : 'Choose a table to see its first rows before you take it.'}
        </p>
      )}
      {take.isPending && (
        <p role="status" className="figures text-ink-2">
          Fetching. {progress.data?.doing}
        </p>
      )}
    </section>
  )
}

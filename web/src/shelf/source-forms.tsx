import * as api from '@fabula/core/api'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ask } from '../api/client.ts'
import { connectionsQuery } from '../api/queries.ts'

import { type ConnectionsReply, type SourceAsked, type TakeReply } from '@fabula/core/api'
import { type UseMutationResult, type UseQueryResult } from '@tanstack/react-query'
import { type Dispatch, type ReactNode, type SetStateAction } from 'react'
import { Button, Notice } from '../ui/parts.tsx'

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

export function webForm(
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

export function odataForm(
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

export function postgresqlForm(
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

export const Field = ({ label, children }: { label: string; children: ReactNode }) => (
  <label className="grid gap-1">
    <span className="text-ink-2">{label}</span>
    {children}
  </label>
)

export type SourceKind = 'web' | 'odata' | 'postgresql'

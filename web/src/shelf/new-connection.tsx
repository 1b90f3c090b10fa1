import * as api from '@fabula/core/api'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ask } from '../api/client.ts'
import { connectionsQuery } from '../api/queries.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { Field } from './field.tsx'

const tlsWords: Readonly<Record<(typeof api.tlsModes)[number], string>> = {
  none: 'not encrypted',
  verified: 'encrypted, certificate checked',
  any: 'encrypted, any certificate',
}

/** A connection to a PostgreSQL server: tried before it is kept. */
export const NewConnection = ({ done }: { done: (name: string) => void }) => {
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

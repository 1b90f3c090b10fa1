import { useState, type ReactNode } from 'react'
import { RowChoiceFields, useRowChoice } from '../opening/row-choice.tsx'
import { Button } from '../ui/parts.tsx'
import { Field } from './field.tsx'
import { NewConnection } from './new-connection.tsx'
import type { Sources } from './use-sources.ts'

/** A form of one field and a button, which sends what was written. */
const FieldForm = ({
  label,
  value,
  children,
  button,
  send,
}: {
  label: string
  value: string
  children: ReactNode
  button: Parameters<typeof Button>[0]
  send: () => void
}) => (
  <form
    className="grid gap-2"
    onSubmit={(event) => {
      event.preventDefault()
      send()
    }}
  >
    <Field label={label}>{children}</Field>
    <Button
      type="submit"
      className="justify-self-start"
      {...button}
      disabled={value.trim() === '' || button.disabled}
    />
  </form>
)

const AddressField = ({ value, write }: { value: string; write: (text: string) => void }) => (
  <input
    className="field"
    type="url"
    placeholder="https://"
    value={value}
    onChange={(event) => write(event.target.value)}
  />
)

/** A file at a web address. */
export const WebForm = ({ sources: { take, written, write } }: { sources: Sources }) => (
  <FieldForm
    label="Address of a CSV, JSON or workbook file"
    value={written.web}
    button={{ look: 'main', disabled: take.isPending, children: 'Fetch it' }}
    send={() => take.mutate({ kind: 'web', address: written.web })}
  >
    <AddressField value={written.web} write={(text) => write('web', text)} />
  </FieldForm>
)

/** An OData service, which offers tables. */
export const ODataForm = ({ sources: { see, written, write } }: { sources: Sources }) => (
  <FieldForm
    label="Address of the service (OData 4)"
    value={written.odata}
    button={{ look: 'main', children: 'See what it offers' }}
    send={() => see({ kind: 'odata', service: written.odata })}
  >
    <AddressField value={written.odata} write={(text) => write('odata', text)} />
  </FieldForm>
)

const QueryForm = ({ sources: { choose, written, write }, connection }: { sources: Sources; connection: string }) => (
  <FieldForm
    label="Or what a query gives"
    value={written.query}
    button={{ children: 'Look at it' }}
    send={() => choose({ kind: 'postgresql', connection, wanted: { query: written.query } })}
  >
    <textarea
      className="field min-h-[64px] font-mono text-[12.5px]"
      placeholder="select …"
      value={written.query}
      onChange={(event) => write('query', event.target.value)}
    />
  </FieldForm>
)

/** Rows of files that the cluster reads, to build a story on. */
export const ClusterForm = ({ sources: { take, written, write } }: { sources: Sources }) => {
  const { choice, ...fields } = useRowChoice(1000, 'first')
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (choice) take.mutate({ kind: 'cluster', path: written.cluster.trim(), rows: choice })
      }}
    >
      <Field label="Path, pattern, folder or address, as the cluster reads it">
        <input
          className="field"
          placeholder="/shared/visits-2031-*.csv"
          value={written.cluster}
          onChange={(event) => write('cluster', event.target.value)}
        />
      </Field>
      <RowChoiceFields {...fields} />
      <p className="text-[12.5px] text-ink-3">
        The rows at the top, with titles and names, are in it either way. Every figure says that it is of a sample; a
        replay on the cluster reads all rows.
      </p>
      <Button
        type="submit"
        look="main"
        className="justify-self-start"
        disabled={!choice || take.isPending || written.cluster.trim() === ''}
      >
        Fetch these rows
      </Button>
    </form>
  )
}

/** The connections to PostgreSQL servers: one is chosen for its tables, or a query is asked of it. */
export const PostgresqlForm = ({ sources }: { sources: Sources }) => {
  const { connections, offer, see } = sources
  const [adding, setAdding] = useState(false)
  const connection = offer?.kind === 'postgresql' ? offer.connection : undefined
  const added = (name: string): void => {
    setAdding(false)
    see({ kind: 'postgresql', connection: name })
  }
  return (
    <div className="grid gap-2">
      <ul aria-label="Connections">
        {connections.map(({ name, database, host }) => (
          <li key={name} className="flex items-center gap-2 border-b border-line py-1">
            <button
              type="button"
              aria-pressed={connection === name}
              className="min-w-0 flex-1 truncate text-left aria-pressed:font-semibold"
              onClick={() => see({ kind: 'postgresql', connection: name })}
            >
              {name}
            </button>
            <span className="text-[12px] text-ink-3">
              {database} at {host}
            </span>
          </li>
        ))}
      </ul>
      {adding ? (
        <NewConnection done={added} />
      ) : (
        <Button className="justify-self-start" onClick={() => setAdding(true)}>
          New connection
        </Button>
      )}
      {connection !== undefined && <QueryForm sources={sources} connection={connection} />}
    </div>
  )
}

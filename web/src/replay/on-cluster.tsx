import { ownValue, type Recipe } from '@fabula/core'
import type { RunReply, RunSummary } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { ask } from '../api/client.ts'
import { clusterQuery, type Endpoint } from '../api/queries.ts'
import { Button, Notice } from '../ui/parts.tsx'

type Places = NonNullable<RunReply['cluster']>

const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '')

/** Where the cluster reads each input and writes the tables, a path a line. */
const PlacesForm = ({
  inputs,
  last,
  disabled,
  begin,
  close,
}: {
  inputs: Recipe['inputs']
  /** The places of the last replay on the cluster. */
  last: Places | undefined
  disabled: boolean
  begin: (places: Places) => void
  close: () => void
}) => {
  const [paths, setPaths] = useState<Readonly<Record<string, string>>>(
    Object.fromEntries(inputs.map(({ id }) => [id, (ownValue(last?.paths ?? {}, id) ?? []).join('\n')])),
  )
  const [folder, setFolder] = useState(last?.folder ?? '')
  const given = Object.fromEntries(inputs.map(({ id }) => [id, linesOf(ownValue(paths, id) ?? '')]))
  const lacking = inputs.filter(({ id }) => ownValue(given, id)?.length === 0)
  const reason = () => {
    if (lacking.length > 0) return `It waits for ${lacking.map(({ name }) => name).join(', ')}.`
    return folder.trim() === '' ? 'It waits for the folder to write to.' : undefined
  }
  const wait = reason()
  return (
    <form
      className="grid gap-2.5 rounded-lg border border-line bg-sheet p-3"
      onSubmit={(event) => {
        event.preventDefault()
        begin({ paths: given, folder: folder.trim() })
      }}
    >
      {inputs.map(({ id, name, files }) => (
        <label key={id} className="grid grid-cols-[120px_1fr] items-start gap-3">
          <span className="truncate pt-1">{name}</span>
          <textarea
            aria-label={`${name} on the cluster`}
            className="field figures min-h-[34px] resize-y text-[13px]"
            rows={1}
            placeholder={`/shared/${files ?? `${id}*.csv`}`}
            value={ownValue(paths, id) ?? ''}
            onChange={(event) => setPaths({ ...paths, [id]: event.target.value })}
          />
        </label>
      ))}
      <label className="grid grid-cols-[120px_1fr] items-center gap-3">
        <span className="truncate">Write to the folder</span>
        <input
          className="field figures text-[13px]"
          placeholder="/shared/results"
          value={folder}
          onChange={(event) => setFolder(event.target.value)}
        />
      </label>
      <p className="text-[12.5px] text-ink-3">
        Files, patterns with *, folders or addresses as the cluster reads them, one a line: CSV, JSON lines or Parquet.
      </p>
      <span className="flex flex-wrap items-center gap-2">
        <Button type="submit" disabled={disabled || wait !== undefined}>
          Replay on the cluster
        </Button>
        <Button look="quiet" onClick={close}>
          Leave it
        </Button>
        {wait !== undefined && <span className="text-ink-2">{wait}</span>}
      </span>
    </form>
  )
}

/** The story replayed by a cluster of Spark, on files that lie where the cluster reads them; nothing where the server knows none. */
export const OnCluster = ({
  endpoint,
  inputs,
  parameters,
  runs,
  running,
  show,
}: {
  endpoint: Endpoint
  inputs: Recipe['inputs']
  /** The values asked at replay, as they are given. */
  parameters: Readonly<Record<string, string>>
  runs: readonly RunSummary[]
  running: boolean
  show: (run: string) => void
}) => {
  const { data } = useQuery(clusterQuery(endpoint))
  const [asking, setAsking] = useState(false)
  const begin = useMutation({
    mutationFn: (places: Places) => ask(api.runReply, 'POST', `${endpoint.base}/cluster`, { ...places, parameters }),
    onSuccess: ({ id }) => {
      setAsking(false)
      show(id)
    },
  })
  if (!data || data.master === null) return null
  const last = runs.find(({ cluster }) => cluster !== null)?.cluster ?? undefined
  return (
    <section aria-label="On the cluster" className="mt-6 border-t border-line pt-3">
      <h2 className="font-serif text-[16px] font-semibold">Too large for here</h2>
      <p className="mt-0.5 mb-2 text-ink-2">
        The cluster {data.master} reads files where they lie and writes where you say; nothing is brought in.
      </p>
      {asking ? (
        <PlacesForm
          inputs={inputs}
          last={last}
          disabled={running || begin.isPending}
          begin={(places) => begin.mutate(places)}
          close={() => setAsking(false)}
        />
      ) : (
        <Button onClick={() => setAsking(true)}>Replay it on the cluster…</Button>
      )}
      {begin.error && <Notice kind="removed">{begin.error.message}</Notice>}
    </section>
  )
}

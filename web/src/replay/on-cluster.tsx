import { ownValue, type Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { ask } from '../api/client.ts'
import { clusterQuery, type Endpoint } from '../api/queries.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { pathsGiven, reasonToWait, wholeFiles, type ClusterPlaces as Places } from './cluster-model.ts'
import type { ChosenFiles } from './replay-model.ts'
import type { ReplayModel } from './use-replay.ts'

/** Where the cluster reads each input and writes the tables, a path a line; an input without one is read from the files given above. */
const PlacesForm = ({
  inputs,
  last,
  files,
  disabled,
  begin,
  tryThem,
  close,
}: {
  inputs: Recipe['inputs']
  /** The places of the last replay on the cluster. */
  last: Places | undefined
  /** The new files given above. */
  files: ChosenFiles
  disabled: boolean
  begin: (places: Places) => void
  tryThem: (paths: Places['paths']) => void
  close: () => void
}) => {
  const [paths, setPaths] = useState<Readonly<Record<string, string>>>(
    Object.fromEntries(inputs.map(({ id }) => [id, (ownValue(last?.paths ?? {}, id) ?? []).join('\n')])),
  )
  const [folder, setFolder] = useState(last?.folder ?? '')
  const given = pathsGiven(inputs, paths)
  const sent = wholeFiles(files, given)
  const wait = reasonToWait(inputs, { paths: given, files: sent, folder })
  return (
    <form
      className="grid gap-2.5 rounded-lg border border-line bg-sheet p-3"
      onSubmit={(event) => {
        event.preventDefault()
        begin({ paths: given, files: sent, folder: folder.trim() })
      }}
    >
      {inputs.map(({ id, name, files: pattern }) => (
        <label key={id} className="grid grid-cols-[120px_1fr] items-start gap-3">
          <span className="truncate pt-1">{name}</span>
          <span className="grid">
            <textarea
              aria-label={`${name} on the cluster`}
              className="field figures min-h-[34px] resize-y text-[13px]"
              rows={1}
              placeholder={`/shared/${pattern ?? `${id}*.csv`}`}
              value={ownValue(paths, id) ?? ''}
              onChange={(event) => setPaths({ ...paths, [id]: event.target.value })}
            />
            {ownValue(sent, id)?.map((file) => (
              <span key={file.hash} className="figures text-[12.5px] text-ink-2">
                {file.name}, as given above
              </span>
            ))}
          </span>
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
        An input without a path is read from its files above, which are copied to the folder that is written to.
      </p>
      <span className="flex flex-wrap items-center gap-2">
        <Button type="submit" disabled={disabled || wait !== undefined}>
          Replay on the cluster
        </Button>
        <Button disabled={disabled || Object.keys(given).length === 0} onClick={() => tryThem(given)}>
          Try it on their first rows
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
  model: { files, values, runs, running, look },
}: {
  endpoint: Endpoint
  inputs: Recipe['inputs']
  model: Pick<ReplayModel, 'files' | 'values' | 'runs' | 'running' | 'look'>
}) => {
  const { data } = useQuery(clusterQuery)
  const [asking, setAsking] = useState(false)
  const begin = useMutation({
    mutationFn: (places: Places) =>
      ask(api.runReply, 'POST', `${endpoint.base}/cluster`, { ...places, parameters: values }),
    onSuccess: ({ id }) => {
      setAsking(false)
      runs.show(id)
    },
  })
  const firstRows = useMutation({
    mutationFn: (paths: Places['paths']) =>
      ask(api.clusterLookReply, 'POST', `${endpoint.base}/cluster/look`, { paths }),
    onSuccess: (found) => look({ ...files, ...found.files }),
  })
  if (!data || data.master === null) return null
  const last = runs.runs.find(({ cluster }) => cluster !== null)?.cluster ?? undefined
  const error = begin.error ?? firstRows.error
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
          files={files}
          disabled={running || begin.isPending || firstRows.isPending}
          begin={(places) => begin.mutate(places)}
          tryThem={(paths) => firstRows.mutate(paths)}
          close={() => setAsking(false)}
        />
      ) : (
        <Button onClick={() => setAsking(true)}>Replay it on the cluster…</Button>
      )}
      {firstRows.isPending && <p role="status">The cluster reads their first rows…</p>}
      {error && <Notice kind="removed">{error.message}</Notice>}
    </section>
  )
}

import { counted, ownValue, type Recipe } from '@fabula/core'
import type { FileRef, FitReply, FlowReply, RunReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useMutation, useQueries, useQuery, useQueryClient, type UseQueryResult } from '@tanstack/react-query'
import { useEffect, useRef, useState, type Dispatch, type DragEvent, type SetStateAction } from 'react'
import { ask, upload } from '../api/client.ts'
import { editionsQuery, flowQuery, runQuery, runsQuery, storyQuery } from '../api/queries.ts'
import { parameterInput } from '../sentence/parameters.tsx'
import { useFlow } from '../story/flow-context.ts'
import { download } from '../ui/download.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { ByItself } from './by-itself.tsx'
import { verdictOf } from './findings.tsx'
import { inputCard, type AnsweredRenames } from './input-card.tsx'
import { outcome } from './outcome.tsx'

type ChosenFiles = Record<string, FileRef[]>

// eslint-disable-next-line complexity, max-lines-per-function -- markup with a condition for each optional part
export const Replay = () => {
  const { flow, place } = useFlow()
  const client = useQueryClient()
  const [files, setFiles] = useState<ChosenFiles>({})
  const [homeless, setHomeless] = useState<FileRef[]>([])
  const [renames, setRenames] = useState<AnsweredRenames>({})
  const [busy, setBusy] = useState<string>()
  const [problem, setProblem] = useState<string>()
  const [runId, setRunId] = useState('')
  const [values, setValues] = useState<Record<string, string>>({})
  const chooser = useRef<HTMLInputElement>(null)
  const runs = useQuery(runsQuery(place))
  // a replay that still runs is shown to whoever comes back to the page
  const shownId = runId === '' ? (runs.data?.runs.find(({ state: one }) => one === 'running')?.id ?? '') : runId
  const run = useQuery(runQuery(place, shownId))
  const changes = flow.rights === 'all' || flow.rights === 'edit'
  const editions = useQuery({ ...editionsQuery(place), enabled: changes }).data?.editions ?? []
  const undoAnswer = (id: string, from: string): void =>
    setRenames({
      ...renames,
      [id]: Object.fromEntries(Object.entries(ownValue(renames, id) ?? {}).filter(([key]) => key !== from)),
    })
  /** An answer for good is a change of the story. */
  const remember = useMutation({
    mutationFn: ({ recipe }: { recipe: Recipe; drop?: readonly [string, string] }) =>
      ask(api.flowReply, 'POST', `${place.base}/edit`, { recipe, what: 'an answer of a replay', after: flow.edit }),
    onSuccess: (reply, { drop: kept }) => {
      client.setQueryData(flowQuery(place).queryKey, reply)
      if (kept) undoAnswer(...kept)
    },
    onError: (error) => setProblem(error.message),
  })
  const again = useMutation({
    mutationFn: (id: string) => ask(api.runReply, 'POST', `${place.base}/runs/${id}/again`),
    onSuccess: ({ id }) => {
      setRunId(id)
      void client.invalidateQueries({ queryKey: ['runs', place.base] })
    },
    onError: (error) => setProblem(error.message),
  })
  const given = Object.keys(files).length > 0 || flow.recipe.inputs.length === 0 || Object.keys(values).length > 0
  const complete = flow.recipe.inputs.every(
    ({ id }) => (ownValue(files, id) ?? ownValue(flow.files, id) ?? []).length > 0,
  )
  const fit = useQuery({
    queryKey: ['fit', place.base, flow.edit, files, renames],
    queryFn: () => ask(api.fitReply, 'POST', `${place.base}/fit`, { files, renames }),
    enabled: given && complete,
    placeholderData: (before) => before,
  })
  const replay = useMutation({
    mutationFn: () =>
      ask(api.runReply, 'POST', `${place.base}/replay`, { files, renames, allowChanges: true, parameters: values }),
    onSuccess: ({ id }) => setRunId(id),
    onError: (error) => setProblem(error.message),
  })
  const state = run.data?.state
  useEffect(() => {
    if (state !== undefined) void client.invalidateQueries({ queryKey: ['runs', place.base] })
  }, [state, client, place.base])

  const take = async (dropped: readonly File[]): Promise<void> => {
    setProblem(undefined)
    try {
      const refs: FileRef[] = []
      for (const file of dropped)
        refs.push(await upload(file, (share) => setBusy(`Sending ${file.name}: ${Math.round(share * 100)} %`)))
      const { given: found, homeless: left } = await ask(api.placeReply, 'POST', `${place.base}/place`, { files: refs })
      setFiles({ ...files, ...found })
      setHomeless([...homeless, ...left])
      setRenames({})
      setRunId('')
    } catch (error) {
      setProblem((error as Error).message)
    } finally {
      setBusy(undefined)
    }
  }
  const house = (file: FileRef, input: string): void => {
    setFiles({ ...files, [input]: [file] })
    setHomeless(homeless.filter(({ hash }) => hash !== file.hash))
  }
  const fetchAnew = async (input: string, sources: readonly number[]): Promise<void> => {
    setProblem(undefined)
    setBusy('Fetching it anew from where it came')
    try {
      const refs: FileRef[] = []
      for (const source of sources) refs.push((await ask(api.takeReply, 'POST', `/api/sources/${source}/again`)).file)
      setFiles({ ...files, [input]: refs })
    } catch (error) {
      setProblem((error as Error).message)
    } finally {
      setBusy(undefined)
    }
  }
  const report = fit.data
  const stories = useQueries({
    queries: flow.recipe.tables.map(({ id, steps }) => ({
      ...storyQuery(place, flow.files, { recipe: flow.recipe, table: id, step: steps.at(-1)?.id ?? '' }),
      enabled: Object.keys(flow.files).length > 0,
    })),
  })
  /** The replay before this one, or where there is none what Compose showed. */
  const composed: Pick<RunReply, 'tables'> = {
    tables: flow.recipe.tables.map(({ id }, i) => ({
      id,
      steps: stories[i]?.data?.steps.flatMap(({ statistics }) => (statistics ? [statistics] : [])) ?? [],
    })),
  }
  const shownAt = runs.data?.runs.find(({ id }) => id === shownId)?.startedAt ?? new Date().toISOString()
  const lastId = runs.data?.runs.find(
    ({ id, state: ended, startedAt }) => ended === 'done' && id !== shownId && startedAt < shownAt,
  )?.id
  const last = useQuery(runQuery(place, lastId ?? '')).data ?? (lastId === undefined ? composed : undefined)
  const drop = {
    onDragOver: (event: DragEvent) => event.preventDefault(),
    onDrop: (event: DragEvent) => (event.preventDefault(), void take([...event.dataTransfer.files])),
  }
  return (
    <main className="grid min-h-0 grid-cols-[minmax(420px,560px)_1fr]" {...drop}>
      <section className="relative overflow-auto border-r border-line px-[30px] py-[26px]" aria-label="New exports">
        <h1 className="font-serif text-[22px] leading-tight font-semibold">Tell it again with new exports</h1>
        <p className="mt-1 mb-4 font-serif text-[14px] text-ink-2">
          Drop the new files here. Fabula puts each where it belongs and checks that the story still fits before
          anything runs.
        </p>
        <Button onClick={() => chooser.current?.click()}>Choose files</Button>
        <input
          ref={chooser}
          type="file"
          multiple
          aria-label="New exports"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => event.target.files && void take([...event.target.files])}
        />
        <p role="status" className="figures my-2 min-h-5 text-ink-2">
          {busy ?? (fit.isFetching ? 'Holding the new files against the story…' : '')}
        </p>
        {flow.recipe.inputs.map(({ id, name, files: pattern, columns }, i) => {
          const one = report?.inputs.find((input) => input.id === id)
          const fresh = ownValue(files, id)
          const sources = (ownValue(flow.files, id) ?? []).flatMap(({ source }) =>
            source === undefined ? [] : [source],
          )
          const own = report?.findings.filter((finding) => finding.input === id) ?? []
          const verdict = verdictOf(own)
          const filesText = () => {
            if (fresh)
              return `${fresh.map((file) => file.name).join(', ')}${one ? ` · ${counted(one.rows, 'row')}` : ''}`
            if (ownValue(flow.files, id))
              return `${ownValue(flow.files, id)
                ?.map((file) => file.name)
                .join(', ')} · kept from last time`
            return `waits for ${pattern ?? 'a file'}`
          }
          return inputCard(
            id,
            name,
            i,
            fresh,
            one,
            verdict,
            filesText,
            sources,
            place,
            fetchAnew,
            report,
            columns,
            renames,
            setRenames,
            undoAnswer,
            changes,
            remember,
            flow,
          )
        })}
        {(flow.recipe.parameters ?? []).length > 0 && askedValues(flow, values, setValues)}
        {homeless.map((file) => (
          <Notice key={file.hash}>
            {file.name} fits no input of the story by its name or its columns. It is{' '}
            {flow.recipe.inputs.map(({ id, name }) => (
              <button
                key={id}
                type="button"
                className="mr-2 font-semibold text-rubric hover:underline"
                onClick={() => house(file, id)}
              >
                {name}
              </button>
            ))}
          </Notice>
        ))}
        {(problem ?? fit.error?.message) && <Notice kind="removed">{problem ?? fit.error?.message}</Notice>}
        {replayButtons(given, complete, report, fit, state, replay, flow)}
        {report?.verdict === 'does-not-fit' && <p className="mt-2 text-ink-2">Answer what is asked above first.</p>}
        {flow.rights === 'all' && (
          <ByItself
            place={place}
            parameters={flow.recipe.parameters ?? []}
            show={setRunId}
            look={(waiting) => (setFiles(waiting), setRenames({}), setRunId(''))}
          />
        )}
      </section>
      {outcome(run, place, shownId, runs, editions, flow, again, last, setRunId)}
    </main>
  )
}

function askedValues(
  flow: FlowReply,
  values: Record<string, string>,
  setValues: Dispatch<SetStateAction<Record<string, string>>>,
) {
  return (
    <section aria-label="Asked at replay" className="mb-3 rounded-xl border border-line bg-sheet px-4 py-[13px]">
      <h2 className="mb-2 font-serif text-[14px] font-semibold">What this replay needs to know</h2>
      <div className="grid gap-2">
        {(flow.recipe.parameters ?? []).map(({ name, type, value }) => (
          <label key={name} className="grid grid-cols-[160px_1fr] items-center gap-3">
            <span className="truncate">{name}</span>
            {type === 'boolean' ? (
              <select
                className="field"
                value={ownValue(values, name) ?? String(value ?? 'false')}
                onChange={(event) => setValues({ ...values, [name]: event.target.value })}
              >
                <option>true</option>
                <option>false</option>
              </select>
            ) : (
              <input
                className="field figures"
                {...parameterInput(type)}
                value={ownValue(values, name) ?? String(value ?? '')}
                onChange={(event) => setValues({ ...values, [name]: event.target.value })}
              />
            )}
          </label>
        ))}
      </div>
    </section>
  )
}

function replayButtons(
  given: boolean,
  complete: boolean,
  report: FitReply | undefined,
  fit: UseQueryResult<FitReply>,
  state: string | undefined,
  replay: { readonly isPending: boolean; readonly mutate: () => void },
  flow: FlowReply,
) {
  return (
    <div className="mt-4 flex items-center gap-2.5">
      <Button
        look="main"
        className="px-4 py-2"
        disabled={
          !given || !complete || !report || report.verdict === 'does-not-fit' || fit.isFetching || state === 'running'
        }
        onClick={() => replay.mutate()}
      >
        Replay the story
      </Button>
      {report && (
        <Button
          onClick={() =>
            download(
              `${flow.recipe.name} fit`,
              'json',
              `data:application/json,${encodeURIComponent(JSON.stringify({ verdict: report.verdict, findings: report.findings }, null, 2))}`,
            )
          }
        >
          Download this report
        </Button>
      )}
    </div>
  )
}

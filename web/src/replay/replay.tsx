import { answered, counted, ownValue, tableNames, withoutColumnAlias, type Condition, type Recipe } from '@fabula/core'
import type { FileRef, FitReply, FlowReply, RunReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import {
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query'
import { useEffect, useRef, useState, type Dispatch, type DragEvent, type SetStateAction } from 'react'
import { ask, upload } from '../api/client.ts'
import { editionsQuery, flowQuery, runQuery, runsQuery, storyQuery, type Endpoint } from '../api/queries.ts'
import { parameterInput } from '../sentence/parameters.tsx'
import { useFlow } from '../story/flow-context.ts'
import { download } from '../ui/download.ts'
import { Button, Dot, Notice } from '../ui/parts.tsx'
import { ByItself } from './by-itself.tsx'
import { Findings, verdictOf } from './findings.tsx'
import { PastReplays, ReplayInputs } from './past.tsx'
import { DrawnPicture, Result } from './result.tsx'
import { StepStatisticsTable } from './step-statistics.tsx'

type ChosenFiles = Record<string, FileRef[]>
type AnsweredRenames = Record<string, Record<string, string>>
const verdictWords: Readonly<Record<FitReply['verdict'], readonly [string, string]>> = {
  fits: ['✓ fits', 'text-added'],
  'fits-with-changes': ['≈ fits with changes', 'text-changed'],
  'does-not-fit': ['! does not fit yet', 'text-removed'],
}

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

function inputCard(
  id: string,
  name: string,
  i: number,
  fresh: readonly FileRef[] | undefined,
  one: FitReply['inputs'][number] | undefined,
  verdict: keyof typeof verdictWords,
  filesText: () => string,
  sources: number[],
  place: Endpoint,
  fetchAnew: (input: string, sources: readonly number[]) => Promise<void>,
  report: FitReply | undefined,
  columns:
    | {
        name: string
        type: 'boolean' | 'date' | 'text' | 'integer' | 'decimal' | 'datetime' | 'time' | 'list'
        also?: string[] | undefined
      }[]
    | undefined,
  renames: AnsweredRenames,
  setRenames: Dispatch<SetStateAction<AnsweredRenames>>,
  undoAnswer: (id: string, from: string) => void,
  changes: boolean,
  remember: UseMutationResult<
    {
      id: string
      recipe: Recipe
      edit: number
      canUndo: boolean
      canRedo: boolean
      changedAt: string
      files: Record<string, { name: string; hash: string; size: number; source?: number | undefined }[]>
      rights: 'edit' | 'all' | 'replay' | 'copy'
      edition: string | null
      heldSince: string | null
      heldFrom: Recipe | null
      pictures: {
        id: string
        name: string
        table: string
        kind: 'bar' | 'stacked' | 'line' | 'pie' | 'scatter' | 'histogram'
        label: string
        how: 'count' | 'sum' | 'mean' | 'median' | 'min' | 'max' | 'distinct'
        series?: string | undefined
        column?: string | undefined
      }[]
    },
    Error,
    { recipe: Recipe; drop?: readonly [string, string] },
    unknown
  >,
  flow: FlowReply,
) {
  return (
    <section key={id} aria-label={name} className="mb-3 rounded-xl border border-line bg-sheet px-4 py-[13px]">
      <div className="flex items-center gap-[9px]">
        <Dot entry={i} />
        <b className="font-serif text-[14px]">{name}</b>
        {fresh && one && (
          <span className={`font-semibold ${verdictWords[verdict][1]}`}>{verdictWords[verdict][0]}</span>
        )}
        <span className="figures ml-auto text-[12.5px] text-ink-2">{filesText()}</span>
      </div>
      {sources.length > 0 && !place.token && (
        <Button look="link" className="py-0!" onClick={() => void fetchAnew(id, sources)}>
          Fetch it anew from where it came
        </Button>
      )}
      {fresh && report && (
        <Findings
          report={report}
          input={id}
          known={Object.fromEntries((columns ?? []).map((column) => [column.name, column.also ?? []]))}
          answers={{
            accepted: ownValue(renames, id) ?? {},
            accept: (from, to) => setRenames({ ...renames, [id]: { ...ownValue(renames, id), [from]: to } }),
            undo: (from) => undoAnswer(id, from),
            ...(changes
              ? {
                  keep: (finding, offer) =>
                    remember.mutate({
                      recipe: answered(flow.recipe, finding, offer),
                      ...(offer.do === 'rename' ? { drop: [id, offer.column] as const } : {}),
                    }),
                  forget: (from) =>
                    remember.mutate({
                      recipe: {
                        ...flow.recipe,
                        inputs: flow.recipe.inputs.map((input) =>
                          input.id === id ? withoutColumnAlias(input, from) : input,
                        ),
                      },
                    }),
                }
              : {}),
          }}
        />
      )}
    </section>
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
  replay: UseMutationResult<
    {
      id: string
      state: 'running' | 'done' | 'failed' | 'stopped'
      done: number
      of: number
      doing: string
      sentence: string | null
      startedAt: string
      edit: number
      editAt: string
      clock: number
      by: string | null
      retells: string | null
      alone: boolean
      parameters: Record<string, string>
      renames: Record<string, Record<string, string>>
      files: { input: string; name: string; hash: string; rows: number }[]
      tables: {
        id: string
        steps: {
          id: string
          kind: string
          sentence: string
          rowsIn: number
          rowsOut: number
          rowsLeft: number
          rowsCame: number
          columnsAdded: string[]
          columnsDropped: string[]
          columnsRenamed: Record<string, string>
          cellsChanged: number
          unreadable: Record<string, number>
          notes: Record<string, number>
          check?: { passed: boolean; stop: boolean; say: string; figure: number | null } | undefined
        }[]
      }[]
      outputs: {
        table: string
        file: string
        format: 'csv' | 'xlsx' | 'json' | 'parquet' | 'postgresql'
        hash: string
        into: string | null
        rows: number
        columns: number
        first: (string | null)[][]
        names: string[]
      }[]
      pictures: {
        picture: {
          id: string
          name: string
          table: string
          kind: 'bar' | 'stacked' | 'line' | 'pie' | 'scatter' | 'histogram'
          label: string
          how: 'count' | 'sum' | 'mean' | 'median' | 'min' | 'max' | 'distinct'
          series?: string | undefined
          column?: string | undefined
        }
        data: {
          labels: string[]
          series: string[]
          values: (number | null)[][]
          points: [number, number][]
          wheres: (Condition | null)[]
          beyond: number
        }
      }[]
    },
    Error,
    void,
    unknown
  >,
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

function outcome(
  run: UseQueryResult<RunReply>,
  place: Endpoint,
  shownId: string,
  runs: UseQueryResult<
    {
      runs: {
        id: string
        state: 'running' | 'done' | 'failed' | 'stopped'
        done: number
        of: number
        doing: string
        sentence: string | null
        startedAt: string
        edit: number
        editAt: string
        clock: number
        by: string | null
        retells: string | null
        alone: boolean
        parameters: Record<string, string>
        renames: Record<string, Record<string, string>>
        files: { input: string; name: string; hash: string; rows: number }[]
        outputs: {
          file: string
          format: 'csv' | 'xlsx' | 'json' | 'parquet' | 'postgresql'
          hash: string
          rows: number
          table: string
          into: string | null
          columns: number
        }[]
      }[]
    },
    Error
  >,
  editions: { id: number; edit: number; name: string; note: string; at: string; recipe: Recipe }[],
  flow: FlowReply,
  again: UseMutationResult<
    {
      id: string
      state: 'running' | 'done' | 'failed' | 'stopped'
      done: number
      of: number
      doing: string
      sentence: string | null
      startedAt: string
      edit: number
      editAt: string
      clock: number
      by: string | null
      retells: string | null
      alone: boolean
      parameters: Record<string, string>
      renames: Record<string, Record<string, string>>
      files: { input: string; name: string; hash: string; rows: number }[]
      tables: {
        id: string
        steps: {
          id: string
          kind: string
          sentence: string
          rowsIn: number
          rowsOut: number
          rowsLeft: number
          rowsCame: number
          columnsAdded: string[]
          columnsDropped: string[]
          columnsRenamed: Record<string, string>
          cellsChanged: number
          unreadable: Record<string, number>
          notes: Record<string, number>
          check?: { passed: boolean; stop: boolean; say: string; figure: number | null } | undefined
        }[]
      }[]
      outputs: {
        table: string
        file: string
        format: 'csv' | 'xlsx' | 'json' | 'parquet' | 'postgresql'
        hash: string
        into: string | null
        rows: number
        columns: number
        first: (string | null)[][]
        names: string[]
      }[]
      pictures: {
        picture: {
          id: string
          name: string
          table: string
          kind: 'bar' | 'stacked' | 'line' | 'pie' | 'scatter' | 'histogram'
          label: string
          how: 'count' | 'sum' | 'mean' | 'median' | 'min' | 'max' | 'distinct'
          series?: string | undefined
          column?: string | undefined
        }
        data: {
          labels: string[]
          series: string[]
          values: (number | null)[][]
          points: [number, number][]
          wheres: (Condition | null)[]
          beyond: number
        }
      }[]
    },
    Error,
    string,
    unknown
  >,
  last:
    | Pick<
        {
          id: string
          state: 'running' | 'done' | 'failed' | 'stopped'
          done: number
          of: number
          doing: string
          sentence: string | null
          startedAt: string
          edit: number
          editAt: string
          clock: number
          by: string | null
          retells: string | null
          alone: boolean
          parameters: Record<string, string>
          renames: Record<string, Record<string, string>>
          files: { input: string; name: string; hash: string; rows: number }[]
          tables: {
            id: string
            steps: {
              id: string
              kind: string
              sentence: string
              rowsIn: number
              rowsOut: number
              rowsLeft: number
              rowsCame: number
              columnsAdded: string[]
              columnsDropped: string[]
              columnsRenamed: Record<string, string>
              cellsChanged: number
              unreadable: Record<string, number>
              notes: Record<string, number>
              check?: { passed: boolean; stop: boolean; say: string; figure: number | null } | undefined
            }[]
          }[]
          outputs: {
            table: string
            file: string
            format: 'csv' | 'xlsx' | 'json' | 'parquet' | 'postgresql'
            hash: string
            into: string | null
            rows: number
            columns: number
            first: (string | null)[][]
            names: string[]
          }[]
          pictures: {
            picture: {
              id: string
              name: string
              table: string
              kind: 'bar' | 'stacked' | 'line' | 'pie' | 'scatter' | 'histogram'
              label: string
              how: 'count' | 'sum' | 'mean' | 'median' | 'min' | 'max' | 'distinct'
              series?: string | undefined
              column?: string | undefined
            }
            data: {
              labels: string[]
              series: string[]
              values: (number | null)[][]
              points: [number, number][]
              wheres: (Condition | null)[]
              beyond: number
            }
          }[]
        },
        'tables'
      >
    | undefined,
  setRunId: Dispatch<SetStateAction<string>>,
) {
  return (
    <section className="relative overflow-auto bg-sheet px-[30px] py-[26px]" aria-label="What happened">
      {run.data?.state === 'running' && (
        <div role="status" className="mb-4 flex items-center gap-3">
          <progress className="flex-1" aria-label="Progress" max={Math.max(1, run.data.of)} value={run.data.done} />
          <span className="figures text-ink-2">
            {run.data.done} of {run.data.of}: {run.data.doing}
          </span>
          <Button onClick={() => void ask(api.runReply, 'DELETE', `${place.base}/runs/${shownId}`)}>Stop</Button>
        </div>
      )}
      {run.data && (
        <ReplayInputs
          run={run.data}
          runs={runs.data?.runs ?? []}
          editions={editions}
          nameOf={(id) => flow.recipe.inputs.find((input) => input.id === id)?.name ?? id}
          again={() => again.mutate(run.data.id)}
        />
      )}
      {run.data && (run.data.state === 'failed' || run.data.state === 'stopped') && (
        <Notice kind="removed">{run.data.sentence}</Notice>
      )}
      {run.data?.state === 'done' ? (
        <>
          <h2 className="mb-2.5 font-serif text-[16px] font-semibold">What came out</h2>
          <Result run={run.data} base={place.base} nameOf={tableNames(flow.recipe)} />
          {run.data.pictures.map(({ picture, data }) => (
            <DrawnPicture key={picture.id} picture={picture} data={data} />
          ))}
          <h2 className="mb-2.5 font-serif text-[16px] font-semibold">What happened, sentence by sentence</h2>
          <StepStatisticsTable
            run={run.data}
            last={last}
            names={Object.fromEntries(flow.recipe.tables.map(({ id, name }) => [id, name]))}
          />
        </>
      ) : (
        !run.data && (
          <p className="mb-6 font-serif text-[14px] text-ink-3 italic">
            What the replay does to your rows will stand here, beside what it did last time.
          </p>
        )
      )}
      <PastReplays runs={runs.data?.runs ?? []} shown={shownId} show={setRunId} />
    </section>
  )
}

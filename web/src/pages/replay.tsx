import { useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useEffect, useRef, useState, type DragEvent } from 'react'
import { counted, figure, tableNames } from '@fabula/core'
import * as api from '@fabula/core/api'
import type { FileRef, FitReply, RunReply } from '@fabula/core/api'
import { ask, upload } from '../api/client.ts'
import { runQuery, runsQuery, storyQuery } from '../api/queries.ts'
import { assignFiles } from '../features/open-file.ts'
import { parameterInput } from '../features/parameters.tsx'
import { Button, Dot, Notice } from '../ui/parts.tsx'
import type { PictureHandle } from '../features/pictures/picture-chart.tsx'
import { download } from '../features/pictures/pictures-view.tsx'
import { useFlow } from './flow-layout.tsx'

const PictureChart = lazy(() => import('../features/pictures/picture-chart.tsx'))

type Files = Record<string, FileRef[]>
type Renames = Record<string, Record<string, string>>
const when = (iso: string): string => new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })
const verdictWords: Readonly<Record<FitReply['verdict'], readonly [string, string]>> = { 'fits': ['✓ fits', 'text-came'], 'fits-with-changes': ['≈ fits with changes', 'text-turned'], 'does-not-fit': ['! does not fit yet', 'text-went'] }
const marks: Readonly<Record<string, string>> = { 'new-column': '+', 'new-sheet': '+', 'missing-sheet': '!', 'missing-column': '!', 'changed-type': '≈', 'broken-step': '!', 'lacking-file': '≈', 'row-count': '≈', 'new-value': '?' }

const Findings = ({ report, input, accept, accepted, undo }: { report: FitReply; input: string; accept: (from: string, to: string) => void; accepted: Readonly<Record<string, string>>; undo: (from: string) => void }) => {
  const findings = report.findings.filter((finding) => finding.input === input)
  const answers = Object.entries(accepted)
  if (findings.length + answers.length === 0) return null
  return (
    <ul className="mt-2.5 grid gap-[7px] border-t border-line pt-2.5">
      {answers.map(([from, to]) => (
        <li key={from} className="grid grid-cols-[18px_1fr_auto] gap-2">
          <b className="text-turned">≈</b>
          <span>
            <b className="font-serif">{from}</b> is read as <b className="font-serif">{to}</b>, for this replay.
          </span>
          <Button look="link" className="py-0!" onClick={() => undo(from)}>
            take back
          </Button>
        </li>
      ))}
      {findings.map((finding) => (
        <li key={finding.sentence} className="grid grid-cols-[18px_1fr] gap-2">
          <b className={finding.code === 'new-column' || finding.code === 'new-sheet' ? 'text-came' : finding.step ? 'text-went' : 'text-turned'}>{marks[finding.code] ?? '·'}</b>
          <span>
            {finding.sentence}
            {finding.offers.map(({ column, why }) => (
              <button key={column} type="button" title={why} className="ml-2 font-semibold text-rubric hover:underline" onClick={() => accept(column, finding.column ?? '')}>
                Read {column} as {finding.column}
              </button>
            ))}
          </span>
        </li>
      ))}
    </ul>
  )
}

/** Sentence by sentence, beside last time; what stands out is tinted and marked. */
const Ledger = ({ run, last, names }: { names: Readonly<Record<string, string>>; run: RunReply; last: Pick<RunReply, 'tables'> | undefined }) => (
  <>
    {run.tables.map(({ id, steps }) => (
      <table key={id} className="figures mb-5 w-full border-collapse text-[12.5px]">
        <caption className="pb-1 text-left font-serif text-[14px] font-semibold">{names[id] ?? id}</caption>
        <thead>
          <tr className="border-b border-line-strong text-right font-sans text-[12px] text-ink-3 *:px-2 *:py-1 *:font-medium">
            <th scope="col" className="text-left">
              Sentence
            </th>
            <th scope="col">last time</th>
            <th scope="col">now</th>
            <th scope="col">came</th>
            <th scope="col">went</th>
            <th scope="col">changed</th>
            <th scope="col">unreadable</th>
          </tr>
        </thead>
        <tbody>
          {steps.map((account, i) => {
            const before = last?.tables.find((one) => one.id === id)?.steps.find((one) => one.id === account.id)
            const lost = Object.values(account.unreadable).reduce((a, b) => a + b, 0)
            const share = account.rowsIn > 0 ? account.rowsLeft / account.rowsIn : 0
            const usual = before && before.rowsIn > 0 ? before.rowsLeft / before.rowsIn : share
            const odd = account.kind === 'filter' && before !== undefined && share > 0.02 && (share > usual * 2 || share < usual / 2)
            return (
              <tr key={account.id} className={`border-b border-line text-right *:px-2 *:py-[7px] ${odd ? 'bg-turned-tint' : ''}`}>
                <th scope="row" className="text-left font-serif text-[13.5px] font-normal">
                  {i + 1} {account.sentence}
                  {account.notes.rowsWithMorePieces !== undefined && <span className="block font-sans text-[12px] text-turned">{`${counted(account.notes.rowsWithMorePieces, 'cell')} had more pieces than there are columns; what is beyond stays joined in the last`}</span>}
                  {account.notes.newLookalikes !== undefined && <span className="block font-sans text-[12px] text-turned">{`${counted(account.notes.newLookalikes, 'new value')} ${account.notes.newLookalikes === 1 ? 'looks' : 'look'} like one that was given another spelling`}</span>}
                  {odd && <span className="block font-sans text-[12px] text-turned">{`drops ${(share * 100).toFixed(1)} % of the rows; last time ${(usual * 100).toFixed(1)} %`}</span>}
                </th>
                <td>{before ? figure(before.rowsOut) : ''}</td>
                <td>{figure(account.rowsOut)}</td>
                <td className="text-came">{account.rowsCame > 0 ? `+${figure(account.rowsCame)}` : ''}</td>
                <td className="text-went">{account.rowsLeft > 0 ? `−${figure(account.rowsLeft)}` : ''}</td>
                <td className="text-turned">{account.cellsChanged > 0 ? figure(account.cellsChanged) : ''}</td>
                <td className="text-went">{lost > 0 ? figure(lost) : ''}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
    ))}
  </>
)

/** Puts the table on the clipboard as cells that a spreadsheet takes. */
const CopyTable = ({ names, rows, whole }: { names: readonly string[]; rows: readonly (readonly (string | null)[])[]; whole: boolean }) => {
  const [said, setSaid] = useState('')
  const cell = (text: string | null): string => (text === null ? '' : /[\t\n"]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)
  const copy = async (): Promise<void> => {
    await navigator.clipboard.writeText([names, ...rows].map((row) => row.map(cell).join('\t')).join('\n'))
    setSaid('copied')
    setTimeout(() => setSaid(''), 2000)
  }
  return (
    <Button className="ml-2 py-1! font-sans text-[13px] font-normal" onClick={() => void copy()}>
      {said || (whole ? 'Copy it' : `Copy the first ${rows.length}`)}
    </Button>
  )
}

const Result = ({ run, base, nameOf }: { run: RunReply; base: string; nameOf: (table: string) => string }) => (
  <>
    {run.outputs.filter(({ hash }, i) => hash !== '' && run.outputs.findIndex((other) => other.hash === hash) === i).length > 1 && (
      <p className="mb-3">
        <a className="font-semibold text-rubric hover:underline" href={`${base}/runs/${run.id}/outputs.zip`} download>
          Download all as a zip
        </a>
      </p>
    )}
    {run.outputs.map(({ table, file, hash, into, rows, columns, first, names }, at) => (
      <section key={at} className="mb-6" aria-label={`${file}, ${nameOf(table)}`}>
        <h3 className="mb-1.5 flex items-center gap-3 font-serif text-[15px] font-semibold">
          {into === null ? file : `${file} of ${into}`}
          <span className="figures font-sans text-[12px] font-normal text-ink-3">
            {counted(rows, 'row')} × {counted(columns, 'column')}{into === null ? '' : ', written'}
          </span>
          {hash !== '' && <a className="ml-auto rounded-md border border-line-strong px-3 py-1 font-sans text-[13px] font-normal text-ink-2 hover:text-ink" href={`${base}/runs/${run.id}/outputs/${at}`} download>
            Download {file}
          </a>}
          <CopyTable names={names} rows={first} whole={rows <= first.length} />
        </h3>
        <div className="max-h-[220px] overflow-auto border border-line" tabIndex={0} role="region" aria-label={`First rows of ${file}`}>
          <table className="figures w-full text-[12.5px]">
            <thead>
              <tr className="sticky top-0 bg-sunk text-left *:border-b *:border-line-strong *:px-2.5 *:py-1 *:font-semibold">
                {names.map((name) => (
                  <th key={name} scope="col">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {first.map((row, i) => (
                <tr key={i} className="*:border-b *:border-line *:px-2.5 *:py-1">
                  {row.map((cell, c) => (
                    <td key={c} className={cell !== null && /^-?[\d.]+$/.test(cell) ? 'text-right' : ''}>
                      {cell ?? <span className="text-ink-3 italic">empty</span>}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </section>
    ))}
  </>
)

/** A picture of the flow, drawn from what this replay made. */
const DrawnPicture = ({ picture, data }: RunReply['pictures'][number]) => {
  const handle = useRef<PictureHandle>(null)
  return (
    <section aria-label={picture.name} className="mb-6">
      <h3 className="mb-1 flex items-center font-serif text-[15px] font-semibold">
        {picture.name}
        <Button look="quiet" className="ml-auto py-1! font-sans text-[13px] font-normal" onClick={() => handle.current && download(picture.name, handle.current.image())}>
          Download as PNG
        </Button>
      </h3>
      <div className="h-[240px] border border-line p-2">
        <Suspense fallback={<p className="text-ink-3">Drawing…</p>}>
          <PictureChart ref={handle} picture={picture} data={data} />
        </Suspense>
      </div>
    </section>
  )
}

export const Replay = () => {
  const { flow, place } = useFlow()
  const client = useQueryClient()
  const [files, setFiles] = useState<Files>({})
  const [homeless, setHomeless] = useState<FileRef[]>([])
  const [renames, setRenames] = useState<Renames>({})
  const [busy, setBusy] = useState<string>()
  const [problem, setProblem] = useState<string>()
  const [runId, setRunId] = useState('')
  const [values, setValues] = useState<Record<string, string>>({})
  const chooser = useRef<HTMLInputElement>(null)
  const runs = useQuery(runsQuery(place))
  const run = useQuery(runQuery(place, runId))
  const given = Object.keys(files).length > 0 || flow.recipe.inputs.length === 0 || Object.keys(values).length > 0
  const complete = flow.recipe.inputs.every(({ id }) => (files[id] ?? flow.files[id] ?? []).length > 0)
  const fit = useQuery({ queryKey: ['fit', place.base, flow.edit, files, renames], queryFn: () => ask(api.fitReply, 'POST', `${place.base}/fit`, { files, renames }), enabled: given && complete, placeholderData: (before) => before })
  const replay = useMutation({
    mutationFn: () => ask(api.runReply, 'POST', `${place.base}/replay`, { files, renames, allowChanges: true, parameters: values }),
    onSuccess: ({ id }) => setRunId(id),
    onError: (error) => setProblem(error.message),
  })
  const state = run.data?.state
  useEffect(() => {
    if (state === 'done') void client.invalidateQueries({ queryKey: ['runs', place.base] })
  }, [state, client, place.base])

  const take = async (dropped: readonly File[]): Promise<void> => {
    setProblem(undefined)
    try {
      const refs: FileRef[] = []
      for (const file of dropped) refs.push(await upload(file, place.token, (share) => setBusy(`Sending ${file.name}: ${Math.round(share * 100)} %`)))
      const { given: found, homeless: left } = assignFiles(flow.recipe, refs)
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
  const again = async (input: string, sources: readonly number[]): Promise<void> => {
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
  const stories = useQueries({ queries: flow.recipe.tables.map(({ id, steps }) => ({ ...storyQuery(place, flow.files, { recipe: flow.recipe, table: id, step: steps.at(-1)?.id ?? '' }), enabled: Object.keys(flow.files).length > 0 })) })
  /** The replay before this one, or where there is none what Compose showed. */
  const composed: Pick<RunReply, 'tables'> = { tables: flow.recipe.tables.map(({ id }, i) => ({ id, steps: stories[i]?.data?.steps.flatMap(({ account }) => (account ? [account] : [])) ?? [] })) }
  const shownAt = runs.data?.runs.find(({ id }) => id === runId)?.startedAt ?? new Date().toISOString()
  const last = runs.data?.runs.find(({ id, state: ended, startedAt }) => ended === 'done' && id !== runId && startedAt < shownAt) ?? composed
  const drop = { onDragOver: (event: DragEvent) => event.preventDefault(), onDrop: (event: DragEvent) => (event.preventDefault(), void take([...event.dataTransfer.files])) }
  return (
    <main className="grid min-h-0 grid-cols-[minmax(420px,560px)_1fr]" {...drop}>
      <section className="relative overflow-auto border-r border-line px-[30px] py-[26px]" aria-label="New exports">
        <h1 className="font-serif text-[22px] leading-tight font-semibold">Tell it again with new exports</h1>
        <p className="mt-1 mb-4 font-serif text-[14px] text-ink-2">Drop the new files here. Fabula puts each where it belongs and checks that the story still fits before anything runs.</p>
        <Button onClick={() => chooser.current?.click()}>Choose files</Button>
        <input ref={chooser} type="file" multiple aria-label="New exports" className="sr-only" tabIndex={-1} onChange={(event) => event.target.files && void take([...event.target.files])} />
        <p role="status" className="figures my-2 min-h-5 text-ink-2">
          {busy ?? (fit.isFetching ? 'Holding the new files against the story…' : '')}
        </p>
        {flow.recipe.inputs.map(({ id, name, files: pattern }, i) => {
          const one = report?.inputs.find((input) => input.id === id)
          const fresh = files[id]
          const sources = (flow.files[id] ?? []).flatMap(({ source }) => (source === undefined ? [] : [source]))
          const own = report?.findings.filter((finding) => finding.input === id) ?? []
          const verdict: FitReply['verdict'] = own.some(({ step }) => step !== undefined) ? 'does-not-fit' : own.some(({ code }) => code === 'missing-column' || code === 'changed-type' || code === 'missing-sheet') ? 'fits-with-changes' : 'fits'
          return (
            <section key={id} aria-label={name} className="mb-3 rounded-xl border border-line bg-sheet px-4 py-[13px]">
              <div className="flex items-center gap-[9px]">
                <Dot strand={i} />
                <b className="font-serif text-[14px]">{name}</b>
                {fresh && one && <span className={`font-semibold ${verdictWords[verdict][1]}`}>{verdictWords[verdict][0]}</span>}
                <span className="figures ml-auto text-[12.5px] text-ink-2">
                  {fresh ? `${fresh.map((file) => file.name).join(', ')}${one ? ` · ${counted(one.rows, 'row')}` : ''}` : flow.files[id] ? `${flow.files[id].map((file) => file.name).join(', ')} · kept from last time` : `waits for ${pattern ?? 'a file'}`}
                </span>
              </div>
              {sources.length > 0 && !place.token && (
                <Button look="link" className="py-0!" onClick={() => void again(id, sources)}>
                  Fetch it anew from where it came
                </Button>
              )}
              {fresh && report && (
                <Findings
                  report={report}
                  input={id}
                  accepted={renames[id] ?? {}}
                  accept={(from, to) => setRenames({ ...renames, [id]: { ...renames[id], [from]: to } })}
                  undo={(from) => setRenames({ ...renames, [id]: Object.fromEntries(Object.entries(renames[id] ?? {}).filter(([key]) => key !== from)) })}
                />
              )}
            </section>
          )
        })}
        {(flow.recipe.parameters ?? []).length > 0 && (
          <section aria-label="Asked at replay" className="mb-3 rounded-xl border border-line bg-sheet px-4 py-[13px]">
            <h2 className="mb-2 font-serif text-[14px] font-semibold">What this replay needs to know</h2>
            <div className="grid gap-2">
              {(flow.recipe.parameters ?? []).map(({ name, type, value }) => (
                <label key={name} className="grid grid-cols-[160px_1fr] items-center gap-3">
                  <span className="truncate">{name}</span>
                  {type === 'boolean' ? (
                    <select className="field" value={values[name] ?? String(value ?? 'false')} onChange={(event) => setValues({ ...values, [name]: event.target.value })}>
                      <option>true</option>
                      <option>false</option>
                    </select>
                  ) : (
                    <input className="field figures" {...parameterInput(type)} value={values[name] ?? String(value ?? '')} onChange={(event) => setValues({ ...values, [name]: event.target.value })} />
                  )}
                </label>
              ))}
            </div>
          </section>
        )}
        {homeless.map((file) => (
          <Notice key={file.hash}>
            {file.name} fits no name that the story expects. It is{' '}
            {flow.recipe.inputs.map(({ id, name }) => (
              <button key={id} type="button" className="mr-2 font-semibold text-rubric hover:underline" onClick={() => house(file, id)}>
                {name}
              </button>
            ))}
          </Notice>
        ))}
        {(problem ?? fit.error?.message) && <Notice kind="went">{problem ?? fit.error?.message}</Notice>}
        <div className="mt-4 flex items-center gap-2.5">
          <Button look="main" className="px-4 py-2" disabled={!given || !complete || !report || report.verdict === 'does-not-fit' || fit.isFetching || state === 'running'} onClick={() => replay.mutate()}>
            Replay the story
          </Button>
          {report?.verdict === 'does-not-fit' && <span className="text-ink-2">Answer what is asked above first.</span>}
        </div>
      </section>
      <section className="relative overflow-auto bg-sheet px-[30px] py-[26px]" aria-label="What happened">
        {run.data?.state === 'running' && (
          <div role="status" className="mb-4 flex items-center gap-3">
            <progress className="flex-1" aria-label="Progress" max={Math.max(1, run.data.of)} value={run.data.done} />
            <span className="figures text-ink-2">
              {run.data.done} of {run.data.of}: {run.data.doing}
            </span>
            <Button onClick={() => void ask(api.runReply, 'DELETE', `${place.base}/runs/${runId}`)}>Stop</Button>
          </div>
        )}
        {run.data && (run.data.state === 'failed' || run.data.state === 'stopped') && <Notice kind="went">{run.data.sentence}</Notice>}
        {run.data?.state === 'done' ? (
          <>
            <h2 className="mb-2.5 font-serif text-[16px] font-semibold">What came out</h2>
            <Result run={run.data} base={place.base} nameOf={tableNames(flow.recipe)} />
            {run.data.pictures.map(({ picture, data }) => (
              <DrawnPicture key={picture.id} picture={picture} data={data} />
            ))}
            <h2 className="mb-2.5 font-serif text-[16px] font-semibold">What happened, sentence by sentence</h2>
            <Ledger run={run.data} last={last} names={Object.fromEntries(flow.recipe.tables.map(({ id, name }) => [id, name]))} />
          </>
        ) : (
          !run.data && <p className="mb-6 font-serif text-[14px] text-ink-3 italic">What the replay does to your rows will stand here, beside what it did last time.</p>
        )}
        <h2 className="mb-1 font-serif text-[16px] font-semibold">Past replays</h2>
        <ul>
          {runs.data?.runs.map((one) => (
            <li key={one.id} className="border-b border-line">
              <button type="button" className="figures grid w-full grid-cols-[110px_1fr_90px_80px] py-1.5 text-left text-[12.5px] text-ink-2 hover:text-ink" onClick={() => setRunId(one.id)}>
                <span>{when(one.startedAt)}</span>
                <span className="truncate">
                  {one.files.map((file) => `${file.name} (${file.hash.slice(0, 8)})`).join(', ')}
                </span>
                <span>{one.outputs[0] ? counted(one.outputs[0].rows, 'row') : ''}</span>
                <span className={one.state === 'done' ? 'text-came' : 'text-went'}>{one.state === 'done' ? '✓ done' : one.state}</span>
              </button>
            </li>
          ))}
          {runs.data?.runs.length === 0 && <li className="py-2 text-ink-3">None yet.</li>}
        </ul>
      </section>
    </main>
  )
}

import { figure, openFindings, tableNames, writtenTables, type Recipe } from '@fabula/core'
import type { FitReply, RunReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { ask } from '../api/client.ts'
import { editionsQuery } from '../api/queries.ts'
import { useFlow } from '../story/flow-context.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { PastReplays, ReplayInputs } from './past.tsx'
import { moment } from '../ui/moments.ts'
import { doneWords, rowsOut, trialWords } from './replay-model.ts'
import { DrawnPicture, Result } from './result.tsx'
import { RunsChart } from './runs-chart.tsx'
import { StepStatisticsTable } from './step-statistics.tsx'
import { LostRows } from './lost-rows.tsx'
import { FindingRowsLink, WithRows } from './shown-rows.tsx'
import type { Runs } from './use-runs.ts'

const Progress = ({ run, stop }: { run: RunReply; stop: () => void }) => (
  <div role="status" className="mb-4 flex items-center gap-3">
    <progress className="flex-1" aria-label="Progress" max={Math.max(1, run.of)} value={run.done} />
    <span className="figures text-ink-2">
      {run.done} of {run.of}: {run.doing}
    </span>
    <Button onClick={stop}>Stop</Button>
  </div>
)

/** What the script of a replay on a cluster said beside its counts, such as cells that it could not read. */
const SaidByScript = ({ findings }: Pick<RunReply, 'findings'>) => {
  const said = findings.filter(({ code }) => code === 'said-by-script')
  if (said.length === 0) return null
  return (
    <section aria-label="What the script said">
      <ul className="mb-3 grid gap-1.5">
        {said.map(({ sentence }) => (
          <li key={sentence} className="rounded-lg bg-changed-tint px-3 py-1.5 text-[13px]">
            {sentence}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What a run that is done wrote, what is left to look at, and what each sentence did. */
const DoneRun = ({ run, last }: { run: RunReply; last: Runs['last'] }) => {
  const { flow, endpoint } = useFlow()
  const open = openFindings(run.findings, run.answers)
  return (
    <WithRows data={run.cluster === null ? { run: run.id } : undefined}>
      <h2
        className={`mb-1 font-serif text-[20px] leading-tight font-semibold ${open.length > 0 ? 'text-changed' : ''}`}
      >
        {doneWords(run)}
      </h2>
      {open.length > 0 && (
        <ul className="mb-3 grid gap-1.5">
          {open.map((finding) => (
            <li key={finding.sentence} className="rounded-lg bg-changed-tint px-3 py-1.5 text-[13px]">
              {finding.sentence} <FindingRowsLink finding={finding} />
            </li>
          ))}
        </ul>
      )}
      <SaidByScript findings={run.findings} />
      <h3 className="mt-4 mb-2.5 font-serif text-[16px] font-semibold">What came out</h3>
      <Result run={run} base={endpoint.base} nameOf={tableNames(flow.recipe)} />
      {run.pictures.map(({ picture, data }) => (
        <DrawnPicture key={picture.id} picture={picture} data={data} />
      ))}
      <h3 className="mb-2.5 font-serif text-[16px] font-semibold">What happened, sentence by sentence</h3>
      {run.cluster === null && <LostRows data={{ run: run.id }} opened={rowsOpened(run.tables)} />}
      <StepStatisticsTable tables={run.tables} last={last} names={namesOf(flow.recipe)} findings={run.findings} />
    </WithRows>
  )
}

/** Rows that the sentences that begin a table brought. */
const rowsOpened = (tables: RunReply['tables']): number =>
  tables.reduce((sum, { steps }) => sum + (steps[0]?.rowsOut ?? 0), 0)

const namesOf = ({ tables }: Recipe): Readonly<Record<string, string>> =>
  Object.fromEntries(tables.map(({ id, name }) => [id, name]))

/** What would come out, beside last time; nothing is written yet. */
const TriedRun = ({ report }: { report: FitReply }) => {
  const { flow } = useFlow()
  const written = writtenTables(flow.recipe)
  const before = report.last && rowsOut(report.last.tables, written)
  return (
    <section aria-label="What would come out" className="mb-6">
      <h2 className="font-serif text-[20px] leading-tight font-semibold">
        {trialWords(rowsOut(report.tables, written), report)}
      </h2>
      {before && (
        <p className="mt-1 mb-3 text-ink-2">
          {report.last?.at ? `Last time, on ${moment(report.last.at)}` : 'The files the story was built on'}:{' '}
          {before.map(({ rows }) => figure(rows)).join(' + ')}{' '}
          {before.length === 1 && before[0]?.rows === 1 ? 'row' : 'rows'}.
        </p>
      )}
      <StepStatisticsTable
        tables={report.tables}
        last={report.last ?? undefined}
        names={namesOf(flow.recipe)}
        findings={report.findings}
      />
    </section>
  )
}

/** A run: how far it is, what it was given, and how it ended. */
const ShownRun = ({ runs: { run, runs, last, again }, changes }: { runs: Runs; changes: boolean }) => {
  const { flow, endpoint } = useFlow()
  const editions = useQuery({ ...editionsQuery(endpoint), enabled: changes }).data?.editions ?? []
  if (!run)
    return (
      <p className="mb-6 font-serif text-[14px] text-ink-3 italic">
        What the replay does to your rows will stand here, beside what it did last time.
      </p>
    )
  const stop = (): void => void ask(api.runReply, 'DELETE', `${endpoint.base}/runs/${run.id}`)
  return (
    <>
      {run.state === 'running' && <Progress run={run} stop={stop} />}
      <ReplayInputs
        run={run}
        runs={runs}
        editions={editions}
        nameOf={(id) => flow.recipe.inputs.find((input) => input.id === id)?.name ?? id}
        again={() => again.mutate(run.id)}
      />
      {(run.state === 'failed' || run.state === 'stopped') && <Notice kind="removed">{run.sentence}</Notice>}
      {run.state === 'done' && <DoneRun run={run} last={last} />}
    </>
  )
}

/** What happened: the trial, or the run that is shown, and those before it. */
export const Outcome = ({
  runs,
  report,
  changes,
}: {
  runs: Runs
  /** The trial of files that are given now. */
  report: FitReply | undefined
  changes: boolean
}) => (
  <section className="relative overflow-auto bg-sheet px-[30px] py-[26px]" aria-label="What happened">
    {report && !runs.run ? <TriedRun report={report} /> : <ShownRun runs={runs} changes={changes} />}
    <RunsChart runs={runs.runs} />
    <PastReplays runs={runs.runs} shown={runs.shownId} show={runs.show} />
  </section>
)

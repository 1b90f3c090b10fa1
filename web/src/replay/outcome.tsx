import { tableNames } from '@fabula/core'
import type { RunReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { ask } from '../api/client.ts'
import { editionsQuery } from '../api/queries.ts'
import { useFlow } from '../story/flow-context.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { PastReplays, ReplayInputs } from './past.tsx'
import { DrawnPicture, Result } from './result.tsx'
import { StepStatisticsTable } from './step-statistics.tsx'
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

/** What a run that is done wrote, and what each sentence did. */
const DoneRun = ({ run, last }: { run: RunReply; last: Runs['last'] }) => {
  const { flow, endpoint } = useFlow()
  return (
    <>
      <h2 className="mb-2.5 font-serif text-[16px] font-semibold">What came out</h2>
      <Result run={run} base={endpoint.base} nameOf={tableNames(flow.recipe)} />
      {run.pictures.map(({ picture, data }) => (
        <DrawnPicture key={picture.id} picture={picture} data={data} />
      ))}
      <h2 className="mb-2.5 font-serif text-[16px] font-semibold">What happened, sentence by sentence</h2>
      <StepStatisticsTable
        run={run}
        last={last}
        names={Object.fromEntries(flow.recipe.tables.map(({ id, name }) => [id, name]))}
      />
    </>
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

/** What happened: the run that is shown, and those before it. */
export const Outcome = ({ runs, changes }: { runs: Runs; changes: boolean }) => (
  <section className="relative overflow-auto bg-sheet px-[30px] py-[26px]" aria-label="What happened">
    <ShownRun runs={runs} changes={changes} />
    <PastReplays runs={runs.runs} shown={runs.shownId} show={runs.show} />
  </section>
)

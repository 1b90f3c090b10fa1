import { tableNames } from '@fabula/core'
import * as api from '@fabula/core/api'
import { type EditionsReply, type FlowReply, type RunReply, type RunsReply } from '@fabula/core/api'
import { type UseQueryResult } from '@tanstack/react-query'
import { type Dispatch, type SetStateAction } from 'react'
import { ask } from '../api/client.ts'
import { type Endpoint } from '../api/queries.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { PastReplays, ReplayInputs } from './past.tsx'
import { DrawnPicture, Result } from './result.tsx'
import { StepStatisticsTable } from './step-statistics.tsx'

export function outcome(
  run: UseQueryResult<RunReply>,
  place: Endpoint,
  shownId: string,
  runs: UseQueryResult<RunsReply>,
  editions: EditionsReply['editions'],
  flow: FlowReply,
  again: { readonly isPending: boolean; readonly mutate: (run: string) => void },
  last: Pick<RunReply, 'tables'> | undefined,
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

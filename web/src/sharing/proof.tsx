import { counted, tableNames } from '@fabula/core'
import type { FlowReply, ProofReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useMutation, useQuery } from '@tanstack/react-query'
import { ask } from '../api/client.ts'
import type { Endpoint } from '../api/queries.ts'
import { Button, Notice } from '../ui/parts.tsx'

type DialectVerdict = ProofReply['tables'][number]['proofs'][number]
const looks: Readonly<Record<DialectVerdict['state'], readonly [string, string]>> = {
  same: ['✓', 'text-added'],
  different: ['≠', 'text-removed'],
  failed: ['!', 'text-removed'],
  absent: ['·', 'text-ink-3'],
}

const Verdict = ({ verdict }: { verdict: DialectVerdict }) => (
  <li className="grid grid-cols-[16px_1fr]">
    <b aria-hidden className={looks[verdict.state][1]}>
      {looks[verdict.state][0]}
    </b>
    <span>
      <b className="font-medium">{verdict.label}</b>: {verdict.sentence}
    </span>
  </li>
)

/** Runs both scripts on the flow's own inputs and holds what they give against what Fabula gives. */
export const Proof = ({ flow, endpoint }: { flow: FlowReply; endpoint: Endpoint }) => {
  const proof = useMutation({ mutationFn: () => ask(api.proofReply, 'POST', `${endpoint.base}/prove`) })
  const progress = useQuery({
    queryKey: ['proving', endpoint.base],
    queryFn: () => ask(api.progressReply, 'GET', `${endpoint.base}/prove`),
    enabled: proof.isPending,
    refetchInterval: 250,
    gcTime: 0,
  }).data
  const nameOf = tableNames(flow.recipe)
  return (
    <section aria-label="Proof">
      <h2 className="mb-1.5 font-serif text-[14.5px] font-semibold">Do the scripts give the same?</h2>
      <p className="mb-2 text-[12.5px] text-ink-2">
        Fabula runs the Python and the SQL script on this story’s own files and compares every cell.
      </p>
      <Button disabled={proof.isPending} onClick={() => proof.mutate()}>
        Prove it
      </Button>
      <div role="status" className="mt-2">
        {proof.isPending && (
          <p className="flex items-center gap-2.5 text-[12.5px] text-ink-2">
            <progress
              className="w-[90px] flex-none"
              max={100}
              value={progress?.done ?? 0}
              aria-label="How far the proof is"
            />
            <span className="flex-1">{progress?.doing || 'Beginning'}</span>
            <Button onClick={() => void ask(api.progressReply, 'DELETE', `${endpoint.base}/prove`)}>Stop</Button>
          </p>
        )}
        {proof.error && <Notice kind="removed">{proof.error.message}</Notice>}
        {proof.data?.tables.map(({ table, rows, columns, proofs }) => (
          <div key={table} className="mb-2 text-[12.5px]">
            <p className="font-serif text-[14px] font-semibold">
              {nameOf(table)}
              <span className="figures ml-2 font-sans text-[12px] font-normal text-ink-3">
                {counted(rows, 'row')} × {counted(columns, 'column')}
              </span>
            </p>
            <ul className="grid gap-0.5">
              {proofs.map((verdict) => (
                <Verdict key={verdict.dialect} verdict={verdict} />
              ))}
            </ul>
          </div>
        ))}
      </div>
    </section>
  )
}

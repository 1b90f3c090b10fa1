import { type Recipe } from '@fabula/core'
import { type FileRef, type FitReply } from '@fabula/core/api'
import { type Endpoint } from '../api/queries.ts'

import { answered, ownValue, withoutColumnAlias } from '@fabula/core'
import { type FlowReply } from '@fabula/core/api'
import { type Dispatch, type SetStateAction } from 'react'
import { Button, Dot } from '../ui/parts.tsx'
import { Findings } from './findings.tsx'

const verdictWords: Readonly<Record<FitReply['verdict'], readonly [string, string]>> = {
  fits: ['✓ fits', 'text-added'],
  'fits-with-changes': ['≈ fits with changes', 'text-changed'],
  'does-not-fit': ['! does not fit yet', 'text-removed'],
}

export function inputCard(
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
  columns: Recipe['inputs'][number]['columns'],
  renames: AnsweredRenames,
  setRenames: Dispatch<SetStateAction<AnsweredRenames>>,
  undoAnswer: (id: string, from: string) => void,
  changes: boolean,
  remember: { readonly mutate: (asked: { recipe: Recipe; drop?: readonly [string, string] }) => void },
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

export type AnsweredRenames = Record<string, Record<string, string>>

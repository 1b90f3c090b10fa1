import { answered, ownValue, withoutColumnAlias, type Recipe } from '@fabula/core'
import type { FitReply } from '@fabula/core/api'
import { useFlow } from '../story/flow-context.ts'
import { Button, Dot } from '../ui/parts.tsx'
import { Findings, verdictOf, type FindingAnswers } from './findings.tsx'
import { filesWords } from './replay-model.ts'
import type { ReplayModel } from './use-replay.ts'

const verdictWords: Readonly<Record<FitReply['verdict'], readonly [string, string]>> = {
  fits: ['✓ fits', 'text-added'],
  'fits-with-changes': ['≈ fits with changes', 'text-changed'],
  'does-not-fit': ['! does not fit yet', 'text-removed'],
}

/** How the findings of one input can be answered: for this replay, or for good where the story may be changed. */
const useAnswers = ({ renames, accept, undo, remember, changes }: ReplayModel, input: string): FindingAnswers => {
  const { flow } = useFlow()
  const once = {
    accepted: ownValue(renames, input) ?? {},
    accept: (from: string, to: string) => accept(input, from, to),
    undo: (from: string) => undo(input, from),
  }
  if (!changes) return once
  const withoutAlias = (from: string): Recipe => ({
    ...flow.recipe,
    inputs: flow.recipe.inputs.map((one) => (one.id === input ? withoutColumnAlias(one, from) : one)),
  })
  return {
    ...once,
    keep: (finding, offer) =>
      remember.mutate(answered(flow.recipe, finding, offer), {
        onSuccess: () => {
          if (offer.do === 'rename') undo(input, offer.column)
        },
      }),
    forget: (from) => remember.mutate(withoutAlias(from)),
  }
}

/** An input of the story: its files, how they fit, and what is asked about them. */
export const InputCard = ({
  model,
  input,
  entry,
}: {
  model: ReplayModel
  input: Recipe['inputs'][number]
  entry: number
}) => {
  const { flow, endpoint } = useFlow()
  const { id, name, columns = [] } = input
  const answers = useAnswers(model, id)
  const report = model.fit.data
  const reported = report?.inputs.find((one) => one.id === id)
  const fresh = ownValue(model.files, id)
  const sources = (ownValue(flow.files, id) ?? []).flatMap(({ source }) => (source === undefined ? [] : [source]))
  const [verdict, tone] = verdictWords[verdictOf(report?.findings.filter((one) => one.input === id) ?? [])]
  return (
    <section aria-label={name} className="mb-3 rounded-xl border border-line bg-sheet px-4 py-[13px]">
      <div className="flex items-center gap-[9px]">
        <Dot entry={entry} />
        <b className="font-serif text-[14px]">{name}</b>
        {fresh && reported && <span className={`font-semibold ${tone}`}>{verdict}</span>}
        <span className="figures ml-auto text-[12.5px] text-ink-2">
          {filesWords(input, model.files, flow.files, reported?.rows)}
        </span>
      </div>
      {sources.length > 0 && !endpoint.token && (
        <Button look="link" className="py-0!" onClick={() => void model.fetchAnew(id, sources)}>
          Fetch it anew from where it came
        </Button>
      )}
      {fresh && report && (
        <Findings
          report={report}
          input={id}
          known={Object.fromEntries(columns.map((column) => [column.name, column.also ?? []]))}
          answers={answers}
        />
      )}
    </section>
  )
}

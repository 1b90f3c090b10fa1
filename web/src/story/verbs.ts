import { draftsFor, stepKinds, type DraftContext, type NewStep, type Schema, type Selection } from '@fabula/core'
import type { BuilderAnswers } from './builder.ts'
import { builders } from './builders.ts'

/** A verb begins a sentence, or a builder that writes one. */
export type Verb = {
  readonly name: string
  readonly words: readonly string[]
  readonly key?: string
  /** The sentence that it writes; absent where it draws or asks first. */
  readonly step?: NewStep
  /** What is missing before it can begin. */
  readonly needs?: string
  /** Several sentences at once. */
  readonly steps?: readonly NewStep[]
  /** Shows the selection as a chart. */
  readonly draw?: readonly string[]
  readonly builder?: {
    readonly id: string
    readonly columns: readonly string[]
    /** Answers that the verb gives itself. */ readonly answers?: BuilderAnswers
  }
  /** What is done with the story as a whole. */
  readonly command?: StoryCommand
}
/** What a verb may do beside beginning a sentence. */
export type StoryCommand = 'undo' | 'redo' | 'download' | 'replay' | 'hand over' | 'keys' | 'find' | 'map' | 'reconcile'

type RankedVerb = Verb & { readonly rank: number; readonly replacedForCell?: true }

/** The panel that makes tables of files, to stack them with this one. */
export const unionFilesId = 'lay-files'
const noOtherTable =
  'There is no other table in this story yet. Below it, under “Another table”, one comes from a file, from elsewhere, from this one, or is typed in.'

const kindVerbs = (selection: Selection, context: DraftContext): RankedVerb[] =>
  draftsFor(selection, context).map(({ kind, draft }) => {
    // a kind and params of that kind
    const step = { kind, ...(draft.params as object) } as NewStep
    return {
      rank: draft.rank,
      name: draft.verb ?? stepKinds[kind].verb,
      words: [...(draft.words ?? []), ...stepKinds[kind].words, kind],
      step,
      ...(draft.key === undefined ? {} : { key: draft.key }),
      ...(draft.then ? { steps: [step, ...(draft.then as readonly NewStep[])] } : {}),
      ...(draft.needs === 'table' ? { needs: noOtherTable } : {}),
      ...(draft.needs === 'files' ? { builder: { id: unionFilesId, columns: [] } } : {}),
      ...(draft.replacedForCell ? { replacedForCell: true as const } : {}),
    }
  })

const drawVerb = (columns: readonly string[]): RankedVerb => ({
  rank: 90,
  name: columns.length === 1 ? 'Draw it…' : 'Draw them…',
  words: ['chart', 'graph', 'plot', 'bar', 'line', 'pie', 'picture', 'diagram', 'visualise', 'histogram', 'scatter'],
  draw: columns,
})

const builderVerbs = (columns: readonly string[], schema: Schema): RankedVerb[] =>
  builders
    .filter((builder) => builder.fits(columns, schema))
    .map(({ id, verb, words }) => ({ rank: 100, name: verb, words, builder: { id, columns } }))

const columnVerbs = (columns: readonly string[], context: DraftContext): RankedVerb[] => [
  ...kindVerbs({ kind: 'columns', columns }, context),
  drawVerb(columns),
  ...builderVerbs(columns, context.schema),
]

const verbsOfSelection = (selection: Selection, context: DraftContext): RankedVerb[] => {
  if (selection.kind === 'columns') return columnVerbs(selection.columns, context)
  const own = kindVerbs(selection, context)
  if (selection.kind !== 'cell') return own
  return [...own, ...columnVerbs([selection.column], context).filter((verb) => !verb.replacedForCell)]
}

/** The verbs for a selection, in the order of their ranks, as drafts of the sentences they begin. */
export const verbsFor = (selection: Selection, context: DraftContext): Verb[] =>
  context.schema.length === 0
    ? []
    : verbsOfSelection(selection, context)
        .sort((a, b) => a.rank - b.rank)
        .map(({ rank: _rank, replacedForCell: _replaced, ...verb }) => verb)

import {
  nextStepId,
  ownValue,
  type DraftContext,
  type NewStep,
  type Recipe,
  type RecipeTable,
  type Schema,
  type Step,
} from '@fabula/core'
import type { ColumnFacts, FlowReply, StoryStep } from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useEffectEvent, useMemo, useReducer, type Dispatch } from 'react'
import { headFactsQuery, storyQuery, type Cursor, type Endpoint } from '../api/queries.ts'
import { useFlow } from './flow-context.ts'
import { keptDraft } from './kept-draft.ts'
import {
  draftIds,
  initialStoryState,
  likelyTables,
  newDraft,
  shownStep,
  storyReducer,
  usableTables,
  withDraft,
  type StoryAction,
  type StoryState,
} from './story-state.ts'
import { branched } from './tables.ts'
import { keepPlace, placeLeft } from './place-left.ts'
import { useSaving } from './use-saving.ts'
import type { Verb } from './verbs.ts'

/** The last step of a table of the saved recipe. */
const lastStep = (recipe: Recipe, table: RecipeTable | undefined): Cursor => ({
  recipe,
  table: table?.id ?? '',
  step: table?.steps.at(-1)?.id ?? '',
})

/** What the server says of each step of the shown table, of the saved recipe and with the draft in its place. */
const useStorySteps = (flow: FlowReply, endpoint: Endpoint, { draft, at }: StoryState) => {
  const recipe = useMemo(() => (draft ? withDraft(flow.recipe, draft) : flow.recipe), [flow.recipe, draft])
  const { table, step } = shownStep(recipe, at)
  const cursor = { recipe, table: table?.id ?? '', step: step?.id ?? '', drafts: draftIds(draft) }
  const saved = flow.recipe.tables.find(({ id }) => id === table?.id)
  const story = useQuery(storyQuery(endpoint, flow.files, lastStep(flow.recipe, saved)))
  const drafted = useQuery({ ...storyQuery(endpoint, flow.files, cursor), enabled: draft !== undefined })
  const steps: readonly StoryStep[] = (draft ? drafted : story).data?.steps ?? []
  const draftState = steps.find(({ id }) => id === draft?.step.id)?.state
  const canKeep = draftState === 'fine' && !drafted.isFetching
  return { recipe, table, step, cursor, story, steps, draftError: drafted.error ?? undefined, canKeep }
}
type StorySteps = ReturnType<typeof useStorySteps>
type Saving = ReturnType<typeof useSaving>

/** One function for each action that needs nothing but its own arguments. */
const plainActions = (dispatch: Dispatch<StoryAction>) => ({
  goTo: (table: string, step: string) => dispatch({ type: 'goTo', table, step }),
  setDiffMode: (diffMode: StoryState['diffMode']) => dispatch({ type: 'showDiff', diffMode }),
  setOnly: (only: StoryState['only']) => dispatch({ type: 'showOnly', only }),
  setStageView: (stageView: StoryState['stageView']) => dispatch({ type: 'showStage', stageView }),
  setOutcome: (outcome: boolean) => dispatch({ type: 'showOutcome', outcome }),
  setFinding: (finding: boolean) => dispatch({ type: 'find', finding }),
  setSelection: (selection: StoryState['selection']) => dispatch({ type: 'select', selection }),
  setProblem: (problem: string | undefined) => dispatch({ type: 'report', problem }),
  discard: () => dispatch({ type: 'discard' }),
})

/** What begins a draft and changes it. */
const draftActions = (
  flow: FlowReply,
  { draft }: StoryState,
  { recipe, table, step }: StorySteps,
  saving: boolean,
  dispatch: Dispatch<StoryAction>,
) => {
  /** One step, or several of which the last is shown; `further`: how many were made since the story was drawn. */
  const begin = (params: NewStep | readonly NewStep[], further = 0): void => {
    if (!table || !step) return
    const steps = [params].flat() as readonly NewStep[]
    // its id and its place are those of the recipe that is being saved
    if (saving) return dispatch({ type: 'queue', verb: { name: '', words: [], steps } })
    const made = newDraft(flow.recipe, table.id, draft?.isNew ? draft.after : step.id, steps, further)
    if (made) dispatch({ type: 'begin', draft: made })
  }
  /** A verb of the card or the list: its sentence, or the builder that writes it. */
  const act = (verb: Verb): void => {
    if (saving) return dispatch({ type: 'queue', verb })
    dispatch({ type: 'report', problem: verb.needs })
    if (verb.needs !== undefined) return
    dispatch({ type: 'discard' })
    if (verb.draw) return dispatch({ type: 'draw', columns: verb.draw })
    if (verb.builder) return dispatch({ type: 'build', builder: verb.builder })
    begin(verb.steps ?? verb.step ?? [])
  }
  const withId = (params: NewStep): Step => ({ ...params, id: nextStepId(recipe) }) as Step
  return {
    begin,
    act,
    reword: (next: Step): void => {
      if (table) dispatch({ type: 'reword', table: table.id, step: next })
    },
    /** A step that the draft needs, before it or at the end of another table; saved or discarded with it. */
    addBefore: (params: NewStep) => dispatch({ type: 'addBefore', step: withId(params) }),
    addElsewhere: (table: string, params: NewStep) => dispatch({ type: 'addElsewhere', table, step: withId(params) }),
  }
}

/** What changes the saved recipe. */
const savingActions = (
  flow: FlowReply,
  { draft }: StoryState,
  { table, steps, story, canKeep }: StorySteps,
  { save, travel }: Saving,
  dispatch: Dispatch<StoryAction>,
) => ({
  keep: async (): Promise<void> => {
    if (!draft) return
    // who asks while the draft is being looked at is not asked twice
    if (!canKeep) return dispatch({ type: 'keepOnceFine', step: draft.step.id })
    const { recipe, pictures } = keptDraft(flow, draft, story.data?.steps ?? [], steps)
    await save(recipe, draft.isNew ? 'a new sentence' : 'a sentence reworded', pictures)
    dispatch({ type: 'kept', draft })
  },
  changeSteps: async (what: string, change: (steps: readonly Step[]) => readonly Step[]): Promise<void> => {
    if (!table) return
    dispatch({ type: 'stepsChanged' })
    const tables = flow.recipe.tables.map((one) => (one.id === table.id ? { ...one, steps: change(one.steps) } : one))
    await save({ ...flow.recipe, tables }, what)
  },
  /** A new table that continues from a step of another, which is shown then. */
  branch: async (tableId: string, stepId: string): Promise<void> => {
    const from = flow.recipe.tables.find(({ id }) => id === tableId)
    if (!from) return
    const { recipe: next, id } = branched(flow.recipe, from, stepId)
    await save(next, 'a new table')
    dispatch({ type: 'goTo', table: id, step: next.tables.find((one) => one.id === id)?.steps.at(-1)?.id ?? '' })
  },
  travel: async (way: 'undo' | 'redo'): Promise<void> => {
    dispatch({ type: 'travelled' })
    await travel(way)
  },
})

/** Schemas of the shown table, and the other tables a step of it may use. */
const storySelectors = (recipe: Recipe, { table, step, steps }: StorySteps) => {
  const here = steps.find(({ id }) => id === step?.id)
  return {
    schemaHere: here?.columns ?? [],
    /** What the shown step did; nothing until the server has said. */
    statisticsHere: here?.statistics ?? undefined,
    /** The position of the shown step in its table. */
    stepIndex: table?.steps.findIndex(({ id }) => id === step?.id) ?? 0,
    /** The schema that a step works on: the result of the step before it. */
    schemaBefore: (stepId: string): Schema => {
      const index = steps.findIndex(({ id }) => id === stepId)
      return index > 0 ? (steps[index - 1]?.columns ?? []) : []
    },
    usableTables: usableTables(recipe, table),
    likelyTables: likelyTables(recipe, table),
  }
}

/** What drafts are made from: the shown columns, what their heads show of their values, and the other tables. */
const useDraftContext = (
  flow: FlowReply,
  endpoint: Endpoint,
  cursor: Cursor,
  { schemaHere, likelyTables: tables }: ReturnType<typeof storySelectors>,
): { readonly draftContext: DraftContext; readonly headFacts: Readonly<Record<string, ColumnFacts>> } => {
  const facts = useQuery(headFactsQuery(endpoint, flow.files, cursor, schemaHere)).data?.facts
  const draftContext = useMemo(
    (): DraftContext => ({
      schema: schemaHere,
      tables,
      sample: (column) => {
        const known = ownValue(facts, column)
        return known && { texts: known.common.map(({ label }) => label), least: known.least }
      },
    }),
    [schemaHere, tables, facts],
  )
  return { draftContext, headFacts: facts ?? {} }
}

/** All that Compose works with: the flow, the state of the page, what the server says of its steps, and the actions. */
export const useStory = () => {
  const { flow, endpoint } = useFlow()
  const [state, dispatch] = useReducer(
    storyReducer,
    { recipe: flow.recipe, left: placeLeft(flow.id) },
    initialStoryState,
  )
  const shown = useStorySteps(flow, endpoint, state)
  const { table, step } = shownStep(flow.recipe, state.at)
  useEffect(() => keepPlace(flow.id, { table: table?.id ?? '', step: step?.id ?? '' }), [flow.id, table?.id, step?.id])
  const plain = plainActions(dispatch)
  const saving = useSaving(plain.setProblem)
  const drafting = draftActions(flow, state, shown, saving.saving, dispatch)
  const actQueued = useEffectEvent(() => {
    if (saving.saving || !state.queued) return
    dispatch({ type: 'queue', verb: undefined })
    drafting.act(state.queued)
  })
  useEffect(() => actQueued(), [saving.saving, state.queued])
  const savingWays = savingActions(flow, state, shown, saving, dispatch)
  const keepAsked = useEffectEvent(() => {
    if (shown.canKeep && state.keepOnceFine === state.draft?.step.id) void savingWays.keep()
  })
  useEffect(() => keepAsked(), [shown.canKeep, state.keepOnceFine, state.draft?.step.id])
  const selected = storySelectors(flow.recipe, shown)
  const known = useDraftContext(flow, endpoint, shown.cursor, selected)
  return {
    flow,
    endpoint,
    ...known,
    ...state,
    ...shown,
    ...plain,
    ...drafting,
    ...savingWays,
    ...selected,
    save: saving.save,
    saving: saving.saving,
  }
}
export type Story = ReturnType<typeof useStory>

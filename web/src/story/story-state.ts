import {
  nextStepId,
  stepKinds,
  tablesNeeded,
  type NewStep,
  type Recipe,
  type RecipeTable,
  type Selection,
  type Step,
  writtenTables,
} from '@fabula/core'
import type { PreviewRequest } from '@fabula/core/api'
import { feedersOf } from './tables.ts'
import type { Verb } from './verbs.ts'

/** What stands beside the story: the rows, the columns side by side, a chart, the map of tables, a reconciliation. */
export type StageView = 'rows' | 'columns' | 'picture' | 'map' | 'reconcile'

/** A step not saved yet: new after another, or another's new wording. */
export type Draft = {
  readonly table: string
  readonly step: Step
  /** Steps saved together with it, before it. */
  readonly before?: readonly Step[]
  /** The id of the step that a new one follows. */
  readonly after: string | undefined
  readonly isNew: boolean
  /** Steps saved together with it, at the end of other tables. */
  readonly elsewhere?: readonly { readonly table: string; readonly step: Step }[]
}

/** The state of Compose that is not in the saved flow. */
export type StoryState = {
  /** The ids of the table and the step whose result is shown; where one is gone, the last one is shown. */
  readonly at: { readonly table: string; readonly step: string }
  readonly draft: Draft | undefined
  readonly diffMode: PreviewRequest['diffMode']
  /** Which rows of the result are shown. */
  readonly only: PreviewRequest['only']
  readonly selection: Selection
  /** A refusal to show above the table. */
  readonly problem: string | undefined
  /** Columns to draw; a new object for each request. */
  readonly drawing: { readonly columns: readonly string[] } | undefined
  readonly stageView: StageView
  /** Whether a workbench of several tables shows its result in place of the tables. */
  readonly outcome: boolean
  /** The builder that asks for what a verb needs, and the columns it was opened with. */
  readonly building: Verb['builder']
  /** The draft that is to be kept as soon as it may be. */
  readonly keepOnceFine: string | undefined
  /** Whether a column or a value is looked for. */
  readonly finding: boolean
  /** A verb that was chosen while a change was being saved: it begins once the saved recipe is there. */
  readonly queued: Verb | undefined
}

export type StoryAction =
  | { readonly type: 'goTo'; readonly table: string; readonly step: string }
  | { readonly type: 'begin'; readonly draft: Draft }
  | { readonly type: 'reword'; readonly table: string; readonly step: Step }
  | { readonly type: 'addBefore'; readonly step: Step }
  | { readonly type: 'addElsewhere'; readonly table: string; readonly step: Step }
  | { readonly type: 'discard' }
  /** The draft was saved. */
  | { readonly type: 'kept'; readonly draft: Draft }
  | { readonly type: 'keepOnceFine'; readonly step: string }
  | { readonly type: 'queue'; readonly verb: Verb | undefined }
  /** The steps are changed in another way: the draft goes, the position stays. */
  | { readonly type: 'stepsChanged' }
  /** Undo or redo. */
  | { readonly type: 'travelled' }
  | { readonly type: 'build'; readonly builder: Verb['builder'] }
  | { readonly type: 'draw'; readonly columns: readonly string[] }
  | { readonly type: 'showDiff'; readonly diffMode: PreviewRequest['diffMode'] }
  | { readonly type: 'showOnly'; readonly only: PreviewRequest['only'] }
  | { readonly type: 'showStage'; readonly stageView: StageView }
  | { readonly type: 'showOutcome'; readonly outcome: boolean }
  | { readonly type: 'find'; readonly finding: boolean }
  | { readonly type: 'select'; readonly selection: Selection }
  | { readonly type: 'report'; readonly problem: string | undefined }

/** The last step of the last table that is written; of the last table where none is. */
const writtenEnd = (recipe: Recipe): StoryState['at'] => {
  const written = writtenTables(recipe)
  const last = recipe.tables.findLast(({ id }) => written.includes(id)) ?? recipe.tables.at(-1)
  return { table: last?.id ?? '', step: last?.steps.at(-1)?.id ?? '' }
}

/** Compose as it opens: where it was left, else at the end of what the story writes. */
export const initialStoryState = ({
  recipe,
  left,
}: {
  readonly recipe: Recipe
  readonly left?: StoryState['at'] | undefined
}): StoryState => {
  const isThere =
    left !== undefined &&
    recipe.tables.some(({ id, steps }) => id === left.table && steps.some((step) => step.id === left.step))
  return {
    at: isThere ? left : writtenEnd(recipe),
    draft: undefined,
    diffMode: 'changes',
    only: 'all',
    selection: { kind: 'table' },
    problem: undefined,
    drawing: undefined,
    stageView: 'rows',
    outcome: false,
    building: undefined,
    keepOnceFine: undefined,
    finding: false,
    queued: undefined,
  }
}

/** A filter of rows belongs to the diff mode it was chosen in. */
const withDiffMode = (state: StoryState, diffMode: StoryState['diffMode']): StoryState =>
  state.diffMode === diffMode ? state : { ...state, diffMode, only: 'all' }

const withoutDraft = (state: StoryState): StoryState => ({
  ...state,
  draft: undefined,
  keepOnceFine: undefined,
  outcome: false,
})

const discarded = (state: StoryState): StoryState => {
  const { draft } = state
  if (!draft) return { ...state, building: undefined }
  return {
    ...withoutDraft(state),
    building: undefined,
    at: { table: draft.table, step: draft.isNew ? (draft.after ?? '') : draft.step.id },
    only: 'all',
  }
}

const begun = (state: StoryState, draft: Draft): StoryState => ({
  ...state,
  draft,
  at: { table: draft.table, step: draft.step.id },
  // where every row is made anew, the result says more than the difference
  diffMode: stepKinds[draft.step.kind].shownAfter ? 'after' : 'changes',
  only: 'all',
  stageView: 'rows',
  outcome: false,
})

const reworded = (state: StoryState, table: string, step: Step): StoryState => {
  const at = { table, step: step.id }
  if (state.draft?.step.id === step.id)
    // another wording is another thing to keep
    return withDiffMode({ ...state, draft: { ...state.draft, step }, keepOnceFine: undefined, at }, 'changes')
  const draft = { table, step, after: undefined, isNew: false }
  return withDiffMode({ ...state, draft, at, stageView: 'rows', outcome: false }, 'changes')
}

const changed = (state: StoryState, change: (draft: Draft) => Draft): StoryState =>
  state.draft ? { ...state, draft: change(state.draft) } : state

/** The next state. Pure: the same state where an action has nothing to act on. */
export const storyReducer = (state: StoryState, action: StoryAction): StoryState => {
  switch (action.type) {
    case 'goTo':
      return {
        ...state,
        building: undefined,
        at: { table: action.table, step: action.step },
        stageView: state.stageView === 'map' ? 'rows' : state.stageView,
        only: 'all',
        selection: { kind: 'table' },
      }
    case 'begin':
      return begun(state, action.draft)
    case 'reword':
      return reworded(state, action.table, action.step)
    case 'discard':
      return discarded(state)
    case 'kept':
      // a rewording that was made while it was saved stays
      if (state.draft !== action.draft) return state
      return { ...withoutDraft(state), building: undefined, selection: { kind: 'table' } }
    case 'queue':
      return { ...state, queued: action.verb }
    case 'stepsChanged':
      return withoutDraft(state)
    case 'travelled':
      return { ...withoutDraft(state), selection: { kind: 'table' } }
    case 'build':
      return { ...state, building: action.builder }
    case 'draw':
      return { ...state, drawing: { columns: action.columns }, stageView: 'picture' }
    default:
      return drafted(state, action)
  }
}

type HandledFirst =
  'goTo' | 'begin' | 'reword' | 'discard' | 'kept' | 'queue' | 'stepsChanged' | 'travelled' | 'build' | 'draw'

/** The actions that change the draft that stands. */
const drafted = (state: StoryState, action: Exclude<StoryAction, { readonly type: HandledFirst }>): StoryState => {
  switch (action.type) {
    case 'addBefore':
      return changed(state, (draft) => ({ ...draft, before: [...(draft.before ?? []), action.step] }))
    case 'addElsewhere': {
      const more = { table: action.table, step: action.step }
      return changed(state, (draft) => ({ ...draft, elsewhere: [...(draft.elsewhere ?? []), more] }))
    }
    case 'keepOnceFine':
      return { ...state, keepOnceFine: action.step }
    default:
      return shown(state, action)
  }
}

/** The actions that change what is shown and nothing else. */
const shown = (
  state: StoryState,
  action: Extract<
    StoryAction,
    { readonly type: 'showDiff' | 'showOnly' | 'showStage' | 'showOutcome' | 'find' | 'select' | 'report' }
  >,
): StoryState => {
  switch (action.type) {
    case 'showDiff':
      return withDiffMode(state, action.diffMode)
    case 'showOnly':
      return { ...state, only: action.only }
    case 'showStage':
      return { ...state, stageView: action.stageView }
    case 'showOutcome':
      return { ...state, outcome: action.outcome }
    case 'find':
      return { ...state, finding: action.finding, stageView: action.finding ? 'rows' : state.stageView }
    case 'select':
      return { ...state, selection: action.selection }
    case 'report':
      return { ...state, problem: action.problem }
  }
}

/** The recipe with the draft in its place, as if it were saved. */
export const withDraft = (
  recipe: Recipe,
  { table, step, before = [], after, isNew, elsewhere = [] }: Draft,
): Recipe => ({
  ...recipe,
  tables: recipe.tables.map((one) => {
    if (one.id !== table)
      return {
        ...one,
        steps: [...one.steps, ...elsewhere.flatMap((more) => (more.table === one.id ? [more.step] : []))],
      }
    if (!isNew) return { ...one, steps: one.steps.flatMap((old) => (old.id === step.id ? [...before, step] : [old])) }
    const at = one.steps.findIndex(({ id }) => id === after) + 1
    return { ...one, steps: [...one.steps.slice(0, at), ...before, step, ...one.steps.slice(at)] }
  }),
})

/** The ids of all steps of a draft: the server forgets their results first. */
export const draftIds = (draft: Draft | undefined): string[] =>
  draft
    ? [draft.step, ...(draft.before ?? []), ...(draft.elsewhere ?? []).map((one) => one.step)].map(({ id }) => id)
    : []

/**
 * A new draft of one step, or of several of which the last is shown.
 * @param after the id of the step it follows
 * @param further how many steps were added to the recipe since `recipe` was read, so that no id is given twice
 */
export const newDraft = (
  recipe: Recipe,
  table: string,
  after: string | undefined,
  params: readonly NewStep[],
  further = 0,
): Draft | undefined => {
  const made = params.map((one, i) => ({ ...one, id: nextStepId(recipe, further + i) }) as Step)
  const last = made.at(-1)
  return last && { table, step: last, before: made.slice(0, -1), after, isNew: true }
}

/** The table and the step that are shown; the last ones where those of the position are gone. */
export const shownStep = (
  { tables }: Pick<Recipe, 'tables'>,
  at: StoryState['at'],
): { readonly table: RecipeTable | undefined; readonly step: Step | undefined } => {
  const table = tables.find(({ id }) => id === at.table) ?? tables.at(-1)
  return { table, step: table?.steps.find(({ id }) => id === at.step) ?? table?.steps.at(-1) }
}

/** Tables that a step of `table` may use: those that do not use it themselves, directly or through others. */
export const usableTables = (recipe: Recipe, table: RecipeTable | undefined): RecipeTable[] =>
  recipe.tables.filter(({ id }) => id !== table?.id && !tablesNeeded(recipe, id).includes(table?.id ?? ''))

/** The usable tables, those first that `table` does not use yet, newer ones before older. */
export const likelyTables = (recipe: Recipe, table: RecipeTable | undefined): RecipeTable[] => {
  const used = feedersOf(table)
  return usableTables(recipe, table)
    .reverse()
    .sort((a, b) => Number(used.includes(a.id)) - Number(used.includes(b.id)))
}

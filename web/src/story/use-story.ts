import {
  followPictures,
  followRenames,
  nextStepId,
  renamesBetween,
  stepKinds,
  tablesNeeded,
  type NewStep,
  type Recipe,
  type Schema,
  type Step,
} from '@fabula/core'
import type { PreviewRequest, StoryStep } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useState } from 'react'
import { ask, ServerError } from '../api/client.ts'
import { flowQuery, storyQuery } from '../api/queries.ts'
import { useFlow } from './flow-context.ts'
import { branched, feedersOf } from './tables.ts'
import type { Selection, Verb } from './verbs.ts'

/** What the stage shows. */
export type StageView = 'rows' | 'columns' | 'picture' | 'map' | 'reconcile'

/** A sentence not kept yet: new after another, or another's new wording. */
export type Draft = {
  readonly table: string
  readonly step: Step
  /** Sentences that come along, before this one. */ readonly before?: readonly Step[]
  readonly after: string | undefined
  readonly isNew: boolean
  /** Sentences that other tables end with from then on. */ readonly elsewhere?: readonly {
    readonly table: string
    readonly step: Step
  }[]
}

const withStep = (recipe: Recipe, { table, step, before = [], after, isNew, elsewhere = [] }: Draft): Recipe => ({
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

/** All that Compose holds: where one stands, what is drafted, what is selected. */
// eslint-disable-next-line complexity, max-lines-per-function -- the state of the page and what changes it
export const useStory = () => {
  const { flow, place, setMessage } = useFlow()
  const client = useQueryClient()
  const last = flow.recipe.tables.at(-1)
  const [at, setAt] = useState({ table: last?.id ?? '', step: last?.steps.at(-1)?.id ?? '' })
  const [draft, setDraft] = useState<Draft>()
  const [diffMode, setDiffMode] = useState<PreviewRequest['diffMode']>('changes')
  const [only, setOnly] = useState<PreviewRequest['only']>('all')
  const [selection, setSelection] = useState<Selection>({ kind: 'table' })
  const [problem, setProblem] = useState<string>()
  /** Columns that are to be drawn, and when that was asked. */
  const [drawing, setDrawing] = useState<{ readonly columns: readonly string[]; readonly at: number }>()
  const [stageView, setStageView] = useState<StageView>('rows')
  const [building, setBuilding] = useState<{ readonly id: string; readonly columns: readonly string[] }>()

  const recipe = useMemo(() => (draft ? withStep(flow.recipe, draft) : flow.recipe), [flow.recipe, draft])
  const table = recipe.tables.find(({ id }) => id === at.table) ?? recipe.tables.at(-1)
  const step = table?.steps.find(({ id }) => id === at.step) ?? table?.steps.at(-1)
  const cursor = {
    recipe,
    table: table?.id ?? '',
    step: step?.id ?? '',
    drafts: draft
      ? [draft.step, ...(draft.before ?? []), ...(draft.elsewhere ?? []).map((one) => one.step)].map(({ id }) => id)
      : [],
  }
  const savedTable = flow.recipe.tables.find(({ id }) => id === table?.id)
  const story = useQuery(
    storyQuery(place, flow.files, {
      recipe: flow.recipe,
      table: savedTable?.id ?? '',
      step: savedTable?.steps.at(-1)?.id ?? '',
    }),
  )
  const drafted = useQuery({ ...storyQuery(place, flow.files, cursor), enabled: draft !== undefined })
  const steps: readonly StoryStep[] = (draft ? drafted.data?.steps : story.data?.steps) ?? []

  const saving = useMutation({
    mutationFn: ({
      way,
      next,
      what,
      pictures,
    }: {
      way: 'edit' | 'undo' | 'redo'
      next?: Recipe
      what?: string
      pictures?: readonly api.Picture[] | undefined
    }) =>
      ask(
        api.flowReply,
        'POST',
        `${place.base}/${way}`,
        way === 'edit'
          ? { recipe: next, what, after: flow.edit, ...(pictures ? { pictures } : {}) }
          : { after: flow.edit },
      ),
    onSuccess: (reply) => {
      client.setQueryData(flowQuery(place).queryKey, reply)
      setMessage('saved a moment ago')
      setProblem(undefined)
    },
    onError: (error) =>
      setProblem(error instanceof ServerError ? error.message : 'The change could not be saved. Try again.'),
  })
  const { mutateAsync } = saving
  const save = useCallback(
    (next: Recipe, what: string, pictures?: readonly api.Picture[]) =>
      mutateAsync({ way: 'edit', next, what, pictures }),
    [mutateAsync],
  )

  const goTo = (tableId: string, stepId: string): void => {
    setBuilding(undefined)
    setAt({ table: tableId, step: stepId })
    if (stageView === 'map') setStageView('rows')
    setOnly('all')
    setSelection({ kind: 'table' })
  }
  /** One sentence, or several of which the last is shown while they are drafts; `further`: how many sentences were made since the story was drawn. */
  const begin = (params: NewStep | readonly NewStep[], further = 0): void => {
    if (!table || !step) return
    const all = (Array.isArray(params) ? params : [params]) as readonly NewStep[]
    const made = all.map((one, i) => ({ ...one, id: nextStepId(flow.recipe, further + i) }) as Step)
    const last = made.at(-1)
    if (!last) return
    const after = draft?.isNew ? draft.after : step.id
    setDraft({ table: table.id, step: last, before: made.slice(0, -1), after, isNew: true })
    setAt({ table: table.id, step: last.id })
    // where every row is made anew, what comes out says more than what changed
    setDiffMode(stepKinds[last.kind].shownAfter ? 'after' : 'changes')
    setOnly('all')
  }
  /** A verb of the card or the list: its sentence, or the builder that writes it. */
  const act = (verb: Verb): void => {
    if (verb.needs !== undefined) return setProblem(verb.needs)
    setProblem(undefined)
    if (draft) discard()
    setBuilding(verb.builder)
    if (verb.draw) setDrawing({ columns: verb.draw, at: Date.now() })
    else if (!verb.builder) begin(verb.steps ?? verb.step ?? [])
  }
  const reword = (next: Step): void => {
    if (!table) return
    if (draft?.step.id === next.id) setDraft({ ...draft, step: next })
    else setDraft({ table: table.id, step: next, after: undefined, isNew: false })
    setAt({ table: table.id, step: next.id })
    setDiffMode('changes')
  }
  /** A sentence that the draft needs: before it, or at the end of another table. They are kept with it, or go with it. */
  const addBefore = (params: NewStep): void => {
    if (draft) setDraft({ ...draft, before: [...(draft.before ?? []), { ...params, id: nextStepId(recipe) } as Step] })
  }
  const addElsewhere = (tableId: string, params: NewStep): void => {
    if (draft)
      setDraft({
        ...draft,
        elsewhere: [
          ...(draft.elsewhere ?? []),
          { table: tableId, step: { ...params, id: nextStepId(recipe) } as Step },
        ],
      })
  }
  const draftState = draft ? steps.find(({ id }) => id === draft.step.id)?.state : undefined
  const canKeep = draft !== undefined && draftState === 'fine' && !drafted.isFetching
  const keep = async (): Promise<void> => {
    if (!draft || !canKeep) return
    const columnsOf = (reported: readonly StoryStep[], id: string) => {
      const at = reported.findIndex((one) => one.id === id)
      return { input: reported[at - 1]?.columns ?? [], output: reported[at]?.columns ?? [] }
    }
    const was = draft.isNew ? undefined : savedTable?.steps.find(({ id }) => id === draft.step.id)
    const now = columnsOf(steps, draft.step.id)
    const renames = renamesBetween(was && { step: was, ...columnsOf(story.data?.steps ?? [], was.id) }, {
      step: draft.step,
      ...now,
    })
    const seen = Object.fromEntries(
      (story.data?.steps ?? []).filter(({ state }) => state === 'fine').map(({ id, columns }) => [id, columns]),
    )
    const next = followRenames(flow.recipe, withStep(flow.recipe, draft), renames, seen, {
      id: draft.step.id,
      columns: now.output,
    })
    await save(
      next,
      draft.isNew ? 'a new sentence' : 'a sentence reworded',
      Object.keys(renames).length > 0 && flow.pictures.length > 0
        ? followPictures(flow.pictures, next, draft.table, renames)
        : undefined,
    )
    setDraft(undefined)
    setBuilding(undefined)
    setSelection({ kind: 'table' })
  }
  const discard = (): void => {
    setBuilding(undefined)
    if (!draft) return
    setAt({ table: draft.table, step: draft.isNew ? (draft.after ?? '') : draft.step.id })
    setDraft(undefined)
    setOnly('all')
  }
  const changeSteps = async (what: string, change: (steps: readonly Step[]) => readonly Step[]): Promise<void> => {
    if (!table) return
    setDraft(undefined)
    await save(
      {
        ...flow.recipe,
        tables: flow.recipe.tables.map((one) => (one.id === table.id ? { ...one, steps: change(one.steps) } : one)),
      },
      what,
    )
  }
  /** A new table that continues from a sentence; one stands in it then. */
  const branch = async (tableId: string, stepId: string): Promise<void> => {
    const from = flow.recipe.tables.find(({ id }) => id === tableId)
    if (!from) return
    const { recipe: next, id } = branched(flow.recipe, from, stepId)
    await save(next, 'a new table')
    goTo(id, next.tables.find((one) => one.id === id)?.steps.at(-1)?.id ?? '')
  }
  const travel = async (way: 'undo' | 'redo'): Promise<void> => {
    setDraft(undefined)
    setSelection({ kind: 'table' })
    await mutateAsync({ way })
  }
  useEffect(() => {
    setOnly('all')
  }, [diffMode])

  /** The schema that a step works on: what stands before it. */
  const schemaBefore = (stepId: string): Schema => {
    const index = steps.findIndex(({ id }) => id === stepId)
    return index > 0 ? (steps[index - 1]?.columns ?? []) : []
  }
  /** Other tables that may be used here: those that do not use this one. */
  const usableTables = flow.recipe.tables.filter(
    ({ id }) => id !== table?.id && !tablesNeeded(flow.recipe, id).includes(table?.id ?? ''),
  )
  /** The same, those first that this table does not use yet, the newest before the older. */
  const likelyTables = [...usableTables]
    .reverse()
    .sort((a, b) => Number(feedersOf(table).includes(a.id)) - Number(feedersOf(table).includes(b.id)))
  const schemaHere: Schema = steps.find(({ id }) => id === step?.id)?.columns ?? []
  return {
    flow,
    place,
    recipe,
    table,
    step,
    cursor,
    story,
    steps,
    draft,
    draftError: drafted.error ?? undefined,
    diffMode,
    setDiffMode,
    only,
    setOnly,
    selection,
    setSelection,
    problem,
    setProblem,
    building,
    drawing,
    stageView,
    setStageView,
    branch,
    goTo,
    begin,
    act,
    reword,
    addBefore,
    addElsewhere,
    keep,
    canKeep,
    discard,
    changeSteps,
    travel,
    save,
    saving: saving.isPending,
    schemaBefore,
    schemaHere,
    usableTables,
    likelyTables,
  }
}
export type Story = ReturnType<typeof useStory>

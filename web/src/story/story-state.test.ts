import type { Recipe, Step } from '@fabula/core'
import { describe, expect, test } from 'vitest'
import {
  draftIds,
  initialStoryState,
  likelyTables,
  newDraft,
  shownStep,
  storyReducer,
  usableTables,
  withDraft,
  type Draft,
  type StoryAction,
  type StoryState,
} from './story-state.ts'

const column = (name: string) => ({ name, type: 'text' as const })
const recipe: Recipe = {
  fabula: 1,
  name: 'Fernhollow visits',
  inputs: [
    { id: 'visits', name: 'Visits', columns: [column('Clinic'), column('Fee')] },
    { id: 'prices', name: 'Prices', columns: [column('Code')] },
  ],
  tables: [
    { id: 'prices', name: 'Prices', steps: [{ id: 's1', kind: 'open', input: 'prices' }] },
    {
      id: 'visits',
      name: 'Visits',
      steps: [
        { id: 's2', kind: 'open', input: 'visits' },
        { id: 's3', kind: 'drop', columns: ['Fee'] },
      ],
    },
  ],
}
const visits = recipe.tables[1]
const start = initialStoryState({ recipe })
const after = (...actions: StoryAction[]): StoryState => actions.reduce(storyReducer, start)
const sorted: Step = { id: 's4', kind: 'sort', by: [{ column: 'Clinic' }] }
const begin = (step: Step = sorted, last = 's3'): StoryAction => ({
  type: 'begin',
  draft: { table: 'visits', step, after: last, isNew: true },
})

describe('where Compose opens and goes', () => {
  test('it opens at the last step of the last table, with nothing selected', () => {
    expect(start).toMatchObject({
      at: { table: 'visits', step: 's3' },
      selection: { kind: 'table' },
      stageView: 'rows',
    })
  })
  test('it opens where it was left, while that sentence is there', () => {
    const [first] = recipe.tables
    const left = { table: first?.id ?? '', step: first?.steps[0]?.id ?? '' }
    expect(initialStoryState({ recipe, left }).at).toEqual(left)
    expect(initialStoryState({ recipe, left: { ...left, step: 'gone' } }).at).toEqual(start.at)
  })
  test('it opens on a table that is written, never on a helper', () => {
    const [first] = recipe.tables
    const written: Recipe = { ...recipe, outputs: [{ table: first?.id ?? '', format: 'csv', file: 'out.csv' }] }
    expect(initialStoryState({ recipe: written }).at.table).toBe(first?.id)
  })
  test('a flow without a table opens all the same', () => {
    const state = initialStoryState({ recipe: { ...recipe, tables: [] } })
    expect(state.at).toEqual({ table: '', step: '' })
    expect(shownStep({ tables: [] }, state.at)).toEqual({ table: undefined, step: undefined })
  })
  test('going to another step selects the table, shows all rows and leaves the map', () => {
    const state = after(
      { type: 'select', selection: { kind: 'columns', columns: ['Clinic'] } },
      { type: 'showOnly', only: 'changed' },
      { type: 'showStage', stageView: 'map' },
      { type: 'goTo', table: 'prices', step: 's1' },
    )
    expect(state).toMatchObject({
      at: { table: 'prices', step: 's1' },
      selection: { kind: 'table' },
      only: 'all',
      stageView: 'rows',
    })
  })
  test('going to another step keeps the columns side by side', () => {
    const state = after({ type: 'showStage', stageView: 'columns' }, { type: 'goTo', table: 'prices', step: 's1' })
    expect(state.stageView).toBe('columns')
  })
  test('a position whose step is gone shows the last step, one whose table is gone the last table', () => {
    expect(shownStep(recipe, { table: 'visits', step: 's9' }).step?.id).toBe('s3')
    expect(shownStep(recipe, { table: 'gone', step: 's9' }).table?.id).toBe('visits')
  })
})

describe('a new draft', () => {
  test('is shown at once, in the rows, with what it changes', () => {
    const state = after({ type: 'showStage', stageView: 'columns' }, begin())
    expect(state).toMatchObject({ at: { table: 'visits', step: 's4' }, diffMode: 'changes', stageView: 'rows' })
  })
  test('of a step that makes every row anew is shown by its result', () => {
    const state = after(begin({ id: 's4', kind: 'transpose' }))
    expect(state.diffMode).toBe('after')
  })
  test('is discarded to where one was, with all rows shown', () => {
    const state = after(begin(), { type: 'showOnly', only: 'changed' }, { type: 'discard' })
    expect(state).toMatchObject({ draft: undefined, at: { table: 'visits', step: 's3' }, only: 'all' })
  })
  test('is kept where it stands, with nothing selected', () => {
    const drafted = after(begin(), { type: 'select', selection: { kind: 'columns', columns: ['Clinic'] } })
    const state = storyReducer(drafted, { type: 'kept', draft: drafted.draft as Draft })
    expect(state).toMatchObject({ draft: undefined, at: { table: 'visits', step: 's4' }, selection: { kind: 'table' } })
  })
  test('that was reworded while it was saved stays a draft', () => {
    const drafted = after(begin())
    const reworded = storyReducer(drafted, { type: 'reword', table: 'visits', step: { ...sorted, off: true } })
    expect(storyReducer(reworded, { type: 'kept', draft: drafted.draft as Draft })).toBe(reworded)
  })
  test('of a verb that was chosen while a change was saved waits for it', () => {
    const verb = { name: 'Drop Fee', words: [] }
    expect(after({ type: 'queue', verb }).queued).toBe(verb)
    expect(after({ type: 'queue', verb }, { type: 'queue', verb: undefined }).queued).toBeUndefined()
  })
  test('goes when the steps change in another way or by undo; the selection goes with undo alone', () => {
    const select: StoryAction = { type: 'select', selection: { kind: 'columns', columns: ['Clinic'] } }
    expect(after(begin(), select, { type: 'stepsChanged' })).toMatchObject({
      draft: undefined,
      selection: { kind: 'columns' },
    })
    expect(after(begin(), select, { type: 'travelled' })).toMatchObject({
      draft: undefined,
      selection: { kind: 'table' },
    })
  })
  test('closes the result of the workbench before it', () => {
    const state = after(begin(), { type: 'showOutcome', outcome: true }, begin({ ...sorted, id: 's5' }))
    expect(state.outcome).toBe(false)
  })
  test('several steps have ids one after another, the last is shown and the others come before it', () => {
    const draft = newDraft(recipe, 'visits', 's3', [
      { kind: 'number', name: 'No.' } as never,
      { kind: 'drop', columns: ['Clinic'] },
    ])
    expect(draft?.before?.map(({ id }) => id)).toEqual(['s4'])
    expect(draft?.step).toMatchObject({ id: 's5', kind: 'drop' })
    expect(draftIds(draft)).toEqual(['s5', 's4'])
  })
  test('no id is given twice when steps were added since the recipe was read', () => {
    expect(newDraft(recipe, 'visits', 's3', [{ kind: 'drop', columns: ['Clinic'] }], 2)?.step.id).toBe('s6')
  })
  test('of no step is no draft', () => {
    expect(newDraft(recipe, 'visits', 's3', [])).toBeUndefined()
  })
})

describe('a rewording', () => {
  const dropClinic: Step = { id: 's3', kind: 'drop', columns: ['Clinic'] }
  test('of a saved step is a draft of that step, discarded to that step', () => {
    const state = after({ type: 'reword', table: 'visits', step: dropClinic })
    expect(state.draft).toMatchObject({ isNew: false, step: dropClinic })
    expect(storyReducer(state, { type: 'discard' })).toMatchObject({
      draft: undefined,
      at: { table: 'visits', step: 's3' },
    })
  })
  test('of the draft keeps what comes with it and the rows that are shown', () => {
    const state = after(
      begin(),
      { type: 'addBefore', step: { id: 's5', kind: 'drop', columns: ['Fee'] } },
      { type: 'showOnly', only: 'changed' },
      { type: 'reword', table: 'visits', step: { ...sorted, by: [{ column: 'Fee' }] } as Step },
    )
    expect(state.draft?.before).toHaveLength(1)
    expect(state.draft?.step).toMatchObject({ by: [{ column: 'Fee' }] })
    expect(state.only).toBe('changed')
  })
  test('shows what changes again, and then all rows', () => {
    const state = after(
      begin(),
      { type: 'showDiff', diffMode: 'before' },
      { type: 'showOnly', only: 'changed' },
      { type: 'reword', table: 'visits', step: sorted },
    )
    expect(state).toMatchObject({ diffMode: 'changes', only: 'all' })
  })
  test('of another step closes the view that is not the rows', () => {
    const state = after(
      { type: 'showStage', stageView: 'picture' },
      { type: 'reword', table: 'visits', step: dropClinic },
    )
    expect(state.stageView).toBe('rows')
  })
})

describe('what is shown', () => {
  test('a filter of rows ends with the diff mode it was chosen in, and not when the mode stays', () => {
    const filtered = after({ type: 'showOnly', only: 'changed' })
    expect(storyReducer(filtered, { type: 'showDiff', diffMode: 'after' }).only).toBe('all')
    expect(storyReducer(filtered, { type: 'showDiff', diffMode: 'changes' }).only).toBe('changed')
  })
  test('drawing shows the picture, and the same columns asked for again are a new request', () => {
    const first = after({ type: 'draw', columns: ['Fee'] })
    const second = storyReducer(first, { type: 'draw', columns: ['Fee'] })
    expect(first).toMatchObject({ stageView: 'picture', drawing: { columns: ['Fee'] } })
    expect(second.drawing).not.toBe(first.drawing)
  })
  test('a builder ends by going elsewhere, by discarding and by keeping', () => {
    const build: StoryAction = { type: 'build', builder: { id: 'share', columns: ['Fee'] } }
    expect(after(build).building).toEqual({ id: 'share', columns: ['Fee'] })
    const built = after(build, begin())
    expect(storyReducer(built, { type: 'kept', draft: built.draft as Draft }).building).toBeUndefined()
    for (const end of [{ type: 'goTo', table: 'prices', step: 's1' }, { type: 'discard' }] satisfies StoryAction[])
      expect(after(build, end).building).toBeUndefined()
  })
  test('a problem stays until it is answered', () => {
    const state = after(
      { type: 'report', problem: 'There is a table Visits already.' },
      { type: 'showOnly', only: 'changed' },
    )
    expect(state.problem).toBe('There is a table Visits already.')
    expect(storyReducer(state, { type: 'report', problem: undefined }).problem).toBeUndefined()
  })
  test('what a draft needs is not added where there is no draft', () => {
    expect(after({ type: 'addBefore', step: sorted })).toEqual(start)
    expect(after({ type: 'addElsewhere', table: 'prices', step: sorted })).toEqual(start)
  })
})

describe('the recipe with a draft in its place', () => {
  const idsOf = (one: Recipe, table: string) => one.tables.find(({ id }) => id === table)?.steps.map(({ id }) => id)
  test('a new step stands after the one it follows, what it needs before it', () => {
    const before: Step = { id: 's5', kind: 'drop', columns: ['Clinic'] }
    const drafted = withDraft(recipe, { table: 'visits', step: sorted, before: [before], after: 's2', isNew: true })
    expect(idsOf(drafted, 'visits')).toEqual(['s2', 's5', 's4', 's3'])
  })
  test('a new wording stands where the old one stood', () => {
    const step: Step = { id: 's2', kind: 'open', input: 'prices' }
    const drafted = withDraft(recipe, { table: 'visits', step, after: undefined, isNew: false })
    expect(idsOf(drafted, 'visits')).toEqual(['s2', 's3'])
    expect(drafted.tables[1]?.steps[0]).toBe(step)
  })
  test('what another table needs stands at its end', () => {
    const more: Step = { id: 's5', kind: 'drop', columns: ['Code'] }
    const draft = {
      table: 'visits',
      step: sorted,
      after: 's3',
      isNew: true,
      elsewhere: [{ table: 'prices', step: more }],
    }
    expect(idsOf(withDraft(recipe, draft), 'prices')).toEqual(['s1', 's5'])
    expect(draftIds(draft)).toEqual(['s4', 's5'])
  })
  test('the saved recipe stays as it is', () => {
    const copy = structuredClone(recipe)
    withDraft(recipe, { table: 'visits', step: sorted, after: 's3', isNew: true })
    expect(recipe).toEqual(copy)
  })
})

describe('tables that a step may use', () => {
  const joined: Recipe = {
    ...recipe,
    tables: [
      ...recipe.tables,
      { id: 'vets', name: 'Vets', steps: [{ id: 's6', kind: 'open', input: 'visits' }] },
      {
        id: 'priced',
        name: 'Priced',
        steps: [
          { id: 's7', kind: 'start-from', table: 'visits' },
          { id: 's8', kind: 'union', with: ['vets'] },
        ],
      },
    ],
  }
  const named = (tables: readonly { readonly id: string }[]) => tables.map(({ id }) => id)
  test('are neither the table itself nor those that are made from it', () => {
    expect(named(usableTables(joined, visits))).toEqual(['prices', 'vets'])
  })
  test('stand newest first, those in use last', () => {
    const priced = joined.tables.at(-1)
    expect(named(likelyTables(joined, priced))).toEqual(['prices', 'vets', 'visits'])
  })
})

import type { Recipe, Step } from '@fabula/core'
import type { Picture } from '@fabula/core/api'
import { describe, expect, test } from 'vitest'
import { keptDraft } from './kept-draft.ts'

const text = (...names: string[]) => names.map((name) => ({ name, type: 'text' as const }))
const open: Step = { id: 's1', kind: 'open', input: 'visits' }
const rename: Step = { id: 's2', kind: 'rename', names: { Clinic: 'Practice' } }
const drop: Step = { id: 's3', kind: 'drop', columns: ['Clinic'] }
const flow = (steps: readonly Step[], pictures: readonly Picture[] = []) => ({
  recipe: {
    fabula: 1,
    name: 'Fernhollow visits',
    inputs: [{ id: 'visits', name: 'Visits', columns: text('Clinic', 'Vet') }],
    tables: [{ id: 'visits', name: 'Visits', steps }],
  } satisfies Recipe as Recipe,
  pictures,
})
const fine = (id: string, ...names: string[]) => ({ id, state: 'fine', columns: text(...names) })

describe('a kept draft', () => {
  test('that renames a column: the later step takes the new name', () => {
    const { recipe, pictures } = keptDraft(
      flow([open, drop]),
      { table: 'visits', step: rename, after: 's1', isNew: true },
      [fine('s1', 'Clinic', 'Vet'), fine('s3', 'Vet')],
      [fine('s1', 'Clinic', 'Vet'), fine('s2', 'Practice', 'Vet')],
    )
    expect(recipe.tables[0]?.steps.map(({ id }) => id)).toEqual(['s1', 's2', 's3'])
    expect(recipe.tables[0]?.steps[2]).toMatchObject({ columns: ['Practice'] })
    expect(pictures).toBeUndefined()
  })
  test('that renames a column: the charts of its table follow', () => {
    const picture: Picture = {
      id: 'p1',
      name: 'Visits by clinic',
      table: 'visits',
      kind: 'bar',
      label: 'Clinic',
      how: 'count',
    }
    const { pictures } = keptDraft(
      flow([open], [picture]),
      { table: 'visits', step: rename, after: 's1', isNew: true },
      [fine('s1', 'Clinic', 'Vet')],
      [fine('s1', 'Clinic', 'Vet'), fine('s2', 'Practice', 'Vet')],
    )
    expect(pictures).toEqual([{ ...picture, label: 'Practice' }])
  })
  test('that renames another way: the later step follows from the old new name', () => {
    const again: Step = { id: 's2', kind: 'rename', names: { Clinic: 'House' } }
    const dropPractice: Step = { id: 's3', kind: 'drop', columns: ['Practice'] }
    const { recipe } = keptDraft(
      flow([open, rename, dropPractice]),
      { table: 'visits', step: again, after: undefined, isNew: false },
      [fine('s1', 'Clinic', 'Vet'), fine('s2', 'Practice', 'Vet'), fine('s3', 'Vet')],
      [fine('s1', 'Clinic', 'Vet'), fine('s2', 'House', 'Vet')],
    )
    expect(recipe.tables[0]?.steps[2]).toMatchObject({ columns: ['House'] })
  })
  test('that renames nothing changes no other step', () => {
    const sort: Step = { id: 's2', kind: 'sort', by: [{ column: 'Vet' }] }
    const { recipe } = keptDraft(
      flow([open, drop]),
      { table: 'visits', step: sort, after: 's1', isNew: true },
      [fine('s1', 'Clinic', 'Vet'), fine('s3', 'Vet')],
      [fine('s1', 'Clinic', 'Vet'), fine('s2', 'Clinic', 'Vet')],
    )
    expect(recipe.tables[0]?.steps).toEqual([open, sort, drop])
  })
})

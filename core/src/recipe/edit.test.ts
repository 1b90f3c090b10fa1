import { describe, expect, test } from 'vitest'
import { planRecipe } from '../engine/plan.ts'
import { branchAt, nextStepId, parameterUsers, renameParameter } from './edit.ts'
import type { Recipe, Step } from './recipe.ts'

const story = (...steps: readonly Step[]): Recipe => ({
  fabula: 1,
  name: 'Fernhollow visits',
  inputs: [
    {
      id: 'visits',
      name: 'Visits',
      columns: [
        { name: 'Clinic', type: 'text' },
        { name: 'Fee', type: 'decimal' },
        { name: 'Day', type: 'date' },
      ],
    },
  ],
  tables: [{ id: 'visits', name: 'Visits', steps: [{ id: 's1', kind: 'open', input: 'visits' }, ...steps] }],
})
const drop: Step = { id: 's2', kind: 'drop', columns: ['Clinic'] }
const sort: Step = { id: 's3', kind: 'sort', by: [{ column: 'Fee' }] }
const next = { id: 'next', name: 'Visits, continued' }
const shared = { id: 'first', name: 'Visits, first part' }
const idsOf = (recipe: Recipe) => recipe.tables.map(({ id, steps }) => [id, steps.map((step) => step.id)])
const broken = (recipe: Recipe) =>
  planRecipe(recipe).tables.flatMap(({ steps }) => steps.filter(({ state }) => state !== 'fine'))

describe('ids of new steps', () => {
  test('are the next numbers after the largest of all tables', () => {
    expect(nextStepId(story(drop, sort))).toBe('s4')
    expect(nextStepId(story(drop, sort), 2)).toBe('s6')
    expect(nextStepId({ ...story(), tables: [] })).toBe('s1')
  })
  test('count ids that begin otherwise', () => {
    expect(nextStepId(story({ ...drop, id: 'targets-17' }))).toBe('s18')
  })
})

describe('a table that continues from a sentence', () => {
  test('the last one: it starts from the finished table, which stays as it is', () => {
    const recipe = branchAt(story(drop, sort), 'visits', 's3', next, shared)
    expect(idsOf(recipe)).toEqual([
      ['visits', ['s1', 's2', 's3']],
      ['next', ['s4']],
    ])
    expect(recipe.tables[1]?.steps[0]).toMatchObject({ kind: 'start-from', table: 'visits' })
  })
  test('one amid the story: what both share becomes a table of its own', () => {
    const recipe = branchAt(story(drop, sort), 'visits', 's2', next, shared)
    expect(idsOf(recipe)).toEqual([
      ['first', ['s1', 's2']],
      ['visits', ['s5', 's3']],
      ['next', ['s4']],
    ])
    expect(broken(recipe)).toEqual([])
  })
  test('both tables end with the columns they had', () => {
    const before = story(drop, sort)
    const recipe = branchAt(before, 'visits', 's2', next, shared)
    const endOf = (one: Recipe, id: string) =>
      planRecipe(one)
        .tables.find((table) => table.id === id)
        ?.steps.at(-1)?.output
    expect(endOf(recipe, 'visits')).toEqual(endOf(before, 'visits'))
    expect(endOf(recipe, 'next')).toEqual(endOf(before, 'visits'))
  })
  test('the recipe it is made from stays as it is', () => {
    const before = story(drop, sort)
    const copy = structuredClone(before)
    branchAt(before, 'visits', 's2', next, shared)
    expect(before).toEqual(copy)
  })
})

describe('a value asked at replay under another name', () => {
  const recipe: Recipe = {
    ...story(
      { id: 's2', kind: 'derive', as: 'Net', formula: "Fee * $Rate + LEN('$Rate') + $'Rate 2'" },
      { id: 's3', kind: 'filter', where: { column: 'Fee', op: 'greater', value: { parameter: 'Rate' } } },
      { id: 's4', kind: 'filter', where: { all: [{ formula: 'Fee > $Rate' }, { formula: 'Fee > 1' }] } },
      { id: 's5', kind: 'drop', columns: ['Rate'] },
    ),
    parameters: [
      { name: 'Rate', type: 'decimal', value: '0.2' },
      { name: 'Rate 2', type: 'decimal', value: '1' },
    ],
  }
  const renamed = renameParameter(recipe, 'Rate', 'VAT rate')
  const stepOf = (id: string) => renamed.tables[0]?.steps.find((step) => step.id === id)
  test('is that in formulas, where it is a parameter and not a column or another one', () => {
    expect(stepOf('s2')).toMatchObject({ formula: "Fee * $'VAT rate' + LEN('$Rate') + $'Rate 2'" })
  })
  test('and in conditions, however deep', () => {
    expect(stepOf('s3')).toMatchObject({ where: { value: { parameter: 'VAT rate' } } })
    expect(stepOf('s4')).toMatchObject({ where: { all: [{ formula: "Fee > $'VAT rate'" }, { formula: 'Fee > 1' }] } })
  })
  test('columns of that name keep it', () => {
    expect(stepOf('s5')).toEqual({ id: 's5', kind: 'drop', columns: ['Rate'] })
  })
  test('the recipe asks for it under the new name', () => {
    expect(renamed.parameters?.map(({ name }) => name)).toEqual(['VAT rate', 'Rate 2'])
  })
  test('the sentences that use it are those that would change', () => {
    expect(parameterUsers(recipe, 'Rate').map(({ id }) => id)).toEqual(['s2', 's3', 's4'])
    expect(parameterUsers(recipe, 'Rate 2').map(({ id }) => id)).toEqual(['s2'])
    expect(parameterUsers(recipe, 'Nothing')).toEqual([])
  })
})

import { describe, expect, it } from 'vitest'
import { brokenSteps, planRecipe } from '../engine/plan.ts'
import type { NewStep, Recipe, Step } from '../recipe/recipe.ts'
import { quickFixesFor } from './quick-fixes.ts'

const recipe = (step: NewStep): Recipe => ({
  fabula: 1,
  name: 'Visits',
  inputs: [
    {
      id: 'visits',
      name: 'Visits',
      columns: [
        { name: 'Clinic', type: 'text' },
        { name: 'Charged', type: 'decimal' },
        { name: 'Status', type: 'text' },
      ],
    },
  ],
  tables: [
    {
      id: 'visits',
      name: 'Visits',
      steps: [{ id: 's1', kind: 'open', input: 'visits' }, { id: 's2', ...step } as Step],
    },
  ],
})
const fixesOf = (step: NewStep) =>
  brokenSteps(planRecipe(recipe(step))).flatMap(({ step: broken, problem }) => quickFixesFor(broken, problem))

describe('a column that is not there', () => {
  it.each<[string, NewStep, NewStep]>([
    ['in a list', { kind: 'drop', columns: ['Clinics'] }, { kind: 'drop', columns: ['Clinic'] }],
    [
      'in a condition',
      { kind: 'filter', where: { column: 'Statuss', op: 'is', value: 'Done' } },
      { kind: 'filter', where: { column: 'Status', op: 'is', value: 'Done' } },
    ],
    [
      'in a condition of conditions',
      {
        kind: 'filter',
        where: {
          all: [
            { column: 'Clinic', op: 'is-filled' },
            { column: 'Chargd', op: 'is-filled' },
          ],
        },
      },
      {
        kind: 'filter',
        where: {
          all: [
            { column: 'Clinic', op: 'is-filled' },
            { column: 'Charged', op: 'is-filled' },
          ],
        },
      },
    ],
    [
      'in a formula',
      { kind: 'derive', as: 'Net', formula: 'Chargd * 0.8' },
      { kind: 'derive', as: 'Net', formula: 'Charged * 0.8' },
    ],
    [
      'as a key of pairs',
      { kind: 'rename', names: { Statos: 'State' } },
      { kind: 'rename', names: { Status: 'State' } },
    ],
    [
      'in a sort key',
      { kind: 'sort', by: [{ column: 'Clinik', descending: true }] },
      { kind: 'sort', by: [{ column: 'Clinic', descending: true }] },
    ],
    [
      'in a measure',
      { kind: 'summarise', by: ['Clinic'], measures: [{ how: 'sum', column: 'Charges', as: 'Total' }] },
      { kind: 'summarise', by: ['Clinic'], measures: [{ how: 'sum', column: 'Charged', as: 'Total' }] },
    ],
  ])('%s is offered by the nearest name', (_where, wrong, right) => {
    expect(fixesOf(wrong)[0]?.step).toEqual({ id: 's2', ...right })
  })
  it('that is like no other offers nothing', () => {
    expect(fixesOf({ kind: 'drop', columns: ['Veterinarian'] })).toEqual([])
  })
})

describe('data that a step refuses', () => {
  const refused = { code: 'refused-data', sentence: 'Two values.', path: [] } as const
  const ways = (type: 'decimal' | 'date' | 'text') => {
    const pivot: Step = { id: 's2', kind: 'pivot', labels: 'Status', values: [{ column: 'Seen', how: 'only' }] }
    return quickFixesFor(pivot, refused, [{ name: 'Seen', type }])
  }
  it('is taken by a pivot in the ways that its values have', () => {
    expect(ways('decimal').map(({ words }) => words)).toEqual([
      'Take their sum',
      'Take their mean',
      'Take the largest',
      'Take the first',
      'Take the last',
      'Join them as text',
    ])
    expect(ways('date').map(({ words }) => words)).toEqual([
      'Take the latest',
      'Take the earliest',
      'Take the first',
      'Take the last',
      'Join them as text',
    ])
    expect(ways('text').map(({ words }) => words)).toEqual(['Take the first', 'Take the last', 'Join them as text'])
    expect(ways('date')[0]?.step).toMatchObject({ values: [{ column: 'Seen', how: 'max' }] })
  })
  it('is taken by a join as the first match, or every one', () => {
    const join: Step = { id: 's2', kind: 'join', with: 'prices', how: 'left', on: [], matches: 'one' }
    expect(quickFixesFor(join, refused).map(({ step }) => ('matches' in step ? step.matches : undefined))).toEqual([
      'first',
      'all',
    ])
  })
  it('has no quick fix in a check, whose author decides', () => {
    const check: Step = { id: 's2', kind: 'check', unique: ['Clinic'], else: 'stop', say: '' }
    expect(quickFixesFor(check, refused)).toEqual([])
  })
})

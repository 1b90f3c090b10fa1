import { expect, test } from 'vitest'
import { branchAt, parameterUsers, renameParameter } from '../recipe/edit.ts'
import { followPictures, followRenames, renamesBetween } from './follow-renames.ts'
import { brokenSteps, planRecipe } from '../engine/plan.ts'
import { readRecipe } from '../recipe/schema.ts'
import { type Recipe, type Step } from '../recipe/recipe.ts'

const fields = [
  { name: 'Clinic', type: 'text' },
  { name: 'Fee', type: 'integer' },
] as const
const recipe = (steps: readonly Step[], ...more: Recipe['tables']): Recipe => ({
  fabula: 1,
  name: 'R',
  inputs: [{ id: 'visits', name: 'Visits', columns: [...fields] }],
  tables: [{ id: 'visits', name: 'Visits', steps: [{ id: 's1', kind: 'open', input: 'visits' }, ...steps] }, ...more],
  outputs: [{ table: 'visits', format: 'csv', file: 'v.csv' }],
})
const twice: Step = { id: 's2', kind: 'derive', as: 'Double', formula: 'Fee * 2' }
const byClinic: Step = {
  id: 's3',
  kind: 'summarise',
  by: ['Clinic'],
  measures: [{ how: 'sum', column: 'Double', as: 'Sum' }],
}
const next = { id: 'next', name: 'Next' }
const shared = { id: 'shared', name: 'Shared' }

test('a branch from the last sentence starts from the table, one from amid the story from what both share', () => {
  const story = recipe([twice, byClinic])
  expect(
    branchAt(story, 'visits', 's3', next, shared).tables.map(({ id, steps }) => [
      id,
      steps.map((step) => (step.kind === 'start-from' ? step.table : step.kind)),
    ]),
  ).toEqual([
    ['visits', ['open', 'derive', 'summarise']],
    ['next', ['visits']],
  ])
  const amid = branchAt(story, 'visits', 's2', next, shared)
  expect(
    amid.tables.map(({ id, steps }) => [
      id,
      steps.map((step) => (step.kind === 'start-from' ? step.table : step.kind)),
    ]),
  ).toEqual([
    ['shared', ['open', 'derive']],
    ['visits', ['shared', 'summarise']],
    ['next', ['shared']],
  ])
  expect(readRecipe(amid)).toEqual({ recipe: amid })
  expect(planRecipe(amid).tables.map(({ id, output }) => [id, output?.map(({ name }) => name)])).toEqual([
    ['shared', ['Clinic', 'Fee', 'Double']],
    ['visits', ['Clinic', 'Sum']],
    ['next', ['Clinic', 'Fee', 'Double']],
  ])
})

test('a column that gets another name is called so by every sentence and table that used it', () => {
  const before = recipe([twice, byClinic], {
    id: 'best',
    name: 'Best',
    steps: [
      { id: 's4', kind: 'start-from', table: 'visits' },
      { id: 's5', kind: 'derive', as: 'Half', formula: 'Sum / 2 + LEN(Clinic)' },
      { id: 's6', kind: 'sort', by: [{ column: 'Sum' }] },
    ],
  })
  const reworded: Step = { ...byClinic, measures: [{ how: 'sum', column: 'Double', as: 'Takings of all' }] }
  const input = [...fields, { name: 'Double', type: 'integer' }] as const
  const renames = renamesBetween(
    { step: byClinic, input, output: [fields[0], { name: 'Sum', type: 'integer' }] },
    { step: reworded, input, output: [fields[0], { name: 'Takings of all', type: 'integer' }] },
  )
  expect(renames).toEqual({ Sum: 'Takings of all' })
  const after = {
    ...before,
    tables: before.tables.map((table) => ({
      ...table,
      steps: table.steps.map((step) => (step.id === 's3' ? reworded : step)),
    })),
  }
  const followed = followRenames(before, after, renames)
  expect(brokenSteps(planRecipe(followed))).toEqual([])
  expect(followed.tables[1]?.steps.slice(1)).toEqual([
    { id: 's5', kind: 'derive', as: 'Half', formula: "'Takings of all' / 2 + LEN(Clinic)" },
    { id: 's6', kind: 'sort', by: [{ column: 'Takings of all' }] },
  ])
})

test('a rename put in between is followed, and what was broken before stays so', () => {
  const before = recipe([twice, { id: 's3', kind: 'drop', columns: ['Nothing'] }])
  const step: Step = { id: 's9', kind: 'rename', names: { Fee: 'Price' } }
  const renames = renamesBetween(undefined, {
    step,
    input: fields,
    output: [fields[0], { name: 'Price', type: 'integer' }],
  })
  const after = recipe([step, twice, { id: 's3', kind: 'drop', columns: ['Nothing'] }])
  expect(followRenames(before, after, renames).tables[0]?.steps.slice(2)).toEqual([
    { ...twice, formula: 'Price * 2' },
    { id: 's3', kind: 'drop', columns: ['Nothing'] },
  ])
})

test('columns that only data can tell are followed by what was seen', () => {
  const pivoted: Step = { id: 's2', kind: 'pivot', labels: 'Clinic', values: [{ column: 'Fee', how: 'sum' }] }
  const half: Step = { id: 's3', kind: 'derive', as: 'Half', formula: 'Oxbow / 2' }
  const before = recipe([pivoted, half])
  const seen = {
    s2: [{ name: 'Oxbow', type: 'integer' }],
    s3: [
      { name: 'Oxbow', type: 'integer' },
      { name: 'Half', type: 'decimal' },
    ],
  } as const
  const step: Step = { id: 's9', kind: 'rename', names: { Oxbow: 'The Oxbow' } }
  const columns = [{ name: 'The Oxbow', type: 'integer' }] as const
  const renames = renamesBetween(undefined, { step, input: seen.s2, output: columns })
  const followed = followRenames(before, recipe([pivoted, step, half]), renames, seen, { id: 's9', columns })
  expect(followed.tables[0]?.steps.at(-1)).toEqual({ ...half, formula: "'The Oxbow' / 2" })
})

test('a picture shows a renamed column by its new name, in that table and those that use it', () => {
  const after = recipe(
    [{ id: 's9', kind: 'rename', names: { Fee: 'Price' } }],
    { id: 'other', name: 'Other', steps: [{ id: 's4', kind: 'open', input: 'visits' }] },
    { id: 'next', name: 'Next', steps: [{ id: 's5', kind: 'start-from', table: 'visits' }] },
  )
  const picture = { id: 'p1', table: 'visits', label: 'Clinic', how: 'sum', column: 'Fee' }
  expect(
    followPictures([picture, { ...picture, table: 'other' }, { ...picture, table: 'next' }], after, 'visits', {
      Fee: 'Price',
    }),
  ).toEqual([
    { ...picture, column: 'Price' },
    { ...picture, table: 'other' },
    { ...picture, table: 'next', column: 'Price' },
  ])
})

test('a value asked at replay gets another name wherever it is used, and texts that look alike stay', () => {
  const steps: Step[] = [
    { id: 's2', kind: 'derive', as: 'Since', formula: "$'As of' - $As + LEN(\"$'As of'\")" },
    {
      id: 's3',
      kind: 'filter',
      where: { any: [{ column: 'Fee', op: 'is', value: { parameter: 'As of' } }, { formula: "Fee > $'As of'" }] },
    },
    { id: 's4', kind: 'fill-empty', columns: ['Clinic'], with: 'As of' },
  ]
  const story = {
    ...recipe(steps),
    parameters: [
      { name: 'As of', type: 'integer' },
      { name: 'As', type: 'integer' },
    ],
  } as const
  // also within a condition, and “As” is not “As of”
  expect(
    [parameterUsers(story, 'As of'), parameterUsers(story, 'As')].map((users) => users.map(({ id }) => id)),
  ).toEqual([['s2', 's3'], ['s2']])
  const renamed = renameParameter(story, 'As of', 'Day')
  expect(renamed.parameters?.map(({ name }) => name)).toEqual(['Day', 'As'])
  expect(renamed.tables[0]?.steps.slice(1)).toEqual([
    { id: 's2', kind: 'derive', as: 'Since', formula: '$Day - $As + LEN("$\'As of\'")' },
    {
      id: 's3',
      kind: 'filter',
      where: { any: [{ column: 'Fee', op: 'is', value: { parameter: 'Day' } }, { formula: 'Fee > $Day' }] },
    },
    { id: 's4', kind: 'fill-empty', columns: ['Clinic'], with: 'As of' },
  ])
})

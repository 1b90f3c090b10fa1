import { expect, test } from 'vitest'
import { compareRecipes } from './compare.ts'
import type { Recipe, Step } from './recipe.ts'

const open: Step = { id: 's1', kind: 'open', input: 'visits' }
const drop: Step = { id: 's2', kind: 'drop', columns: ['Desk'] }
const sort: Step = { id: 's3', kind: 'sort', by: [{ column: 'Fee' }] }
const first = (n: number): Step => ({ id: 's4', kind: 'slice', first: n })
const story = (steps: readonly Step[], more: Partial<Recipe> = {}): Recipe => ({
  fabula: 1,
  name: 'Visits',
  inputs: [{ id: 'visits', name: 'Visits' }],
  tables: [{ id: 'visits', name: 'Visits', steps }],
  ...more,
})
const reported = (before: Recipe, after: Recipe) =>
  compareRecipes(before, after).tables[0]?.lines.map(({ mark, step }) => `${mark} ${step}`)

test('each sentence is the same, changed, moved, new or gone, and stands where it stood', () => {
  expect(reported(story([open, drop, sort]), story([open, drop, sort]))).toEqual(['same s1', 'same s2', 'same s3'])
  expect(reported(story([open, drop, first(3)]), story([open, sort, first(5)]))).toEqual([
    'same s1',
    'added s3',
    'removed s2',
    'changed s4',
  ])
  expect(reported(story([open, drop, sort, first(3)]), story([open, sort, first(3), drop]))).toEqual([
    'same s1',
    'same s3',
    'same s4',
    'moved s2',
  ])
  expect(reported(story([open, sort]), story([open, { ...sort, off: true }]))).toEqual(['same s1', 'changed s3'])
})

test('both wordings of a changed sentence are there', () => {
  const line = compareRecipes(story([open, first(3)]), story([open, first(5)])).tables[0]?.lines[1]
  expect(line?.before).toContain('3')
  expect(line?.after).toContain('5')
})

test('tables, parameters and outputs that came or went are said', () => {
  const before = story([open], {
    parameters: [{ name: 'As of', type: 'date', value: '2031-05-31' }],
    outputs: [{ table: 'visits', format: 'csv', file: 'a.csv' }],
  })
  const after: Recipe = {
    ...story([open], {
      parameters: [{ name: 'As of', type: 'date', value: '2031-06-30' }],
      outputs: [{ table: 'visits', format: 'xlsx', file: 'a.xlsx' }],
    }),
    tables: [
      { id: 'visits', name: 'All visits', steps: [open] },
      { id: 'late', name: 'Late', steps: [{ id: 's9', kind: 'start-from', table: 'visits' }] },
    ],
  }
  const { tables, around } = compareRecipes(before, after)
  expect(tables.map(({ name, mark }) => [name, mark])).toEqual([
    ['All visits, formerly Visits', 'changed'],
    ['Late', 'added'],
  ])
  expect(around.map(({ sentence }) => sentence)).toEqual([
    '“As of” is now “2031-06-30” unless told otherwise.',
    'No more: Visits is written as a.csv.',
    'All visits is written as a.xlsx.',
  ])
})

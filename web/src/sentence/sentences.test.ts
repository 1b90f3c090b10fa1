import { expect, test } from 'vitest'
import type { Recipe, RecipeTable, Step } from '@fabula/core'
import { moved, neededBy, reportedAs, whyNot, withWords } from './sentences.ts'
import { branched, fedBy, feedersOf, isWritten, outputsOf, withoutTable, withWritten } from '../story/tables.ts'

const step = (id: string, kind: string, params: Record<string, unknown>) => ({ id, kind, ...params }) as Step
const steps = [
  step('s1', 'open', { input: 'visits' }),
  step('s2', 'derive', { as: 'Twice', formula: 'Fee * 2' }),
  step('s3', 'derive', { as: 'More', formula: 'Twice + 1' }),
  step('s4', 'filter', { where: { column: 'Clinic', op: 'is-filled' } }),
  step('s5', 'sort', { by: [{ column: 'More' }] }),
]
const table: RecipeTable = { id: 'visits', name: 'Visits', steps }
const recipe: Recipe = {
  fabula: 1,
  name: 'R',
  inputs: [
    {
      id: 'visits',
      name: 'Visits',
      columns: [
        { name: 'Clinic', type: 'text' },
        { name: 'Fee', type: 'integer' },
      ],
    },
  ],
  tables: [table],
}
const ids = (all: readonly Step[]): string[] => all.map(({ id }) => id)

test('a sentence moves where it holds, and where it does not that is said with the reason', () => {
  expect(ids(moved(steps, 's4', 1))).toEqual(['s1', 's4', 's2', 's3', 's5'])
  expect(whyNot(recipe, table, moved(steps, 's4', 1))).toBeUndefined()
  expect(whyNot(recipe, table, moved(steps, 's3', 1))).toBe(
    '“Compute More as Twice + 1” would not hold there: There is no column “Twice” here.',
  )
})

test('what was broken before is no reason against a move', () => {
  const broken: RecipeTable = { ...table, steps: [...steps, step('s6', 'drop', { columns: ['Nowhere'] })] }
  expect(whyNot({ ...recipe, tables: [broken] }, broken, moved(broken.steps, 's4', 1))).toBeUndefined()
})

test('a sentence taken out takes along those that need it, however far, and no others', () => {
  expect(neededBy(recipe, table, 's2')).toEqual(['s3', 's5'])
  expect(neededBy(recipe, table, 's4')).toEqual([])
})

test('own words and a note share the note of a step and come apart again', () => {
  const reported = withWords(steps[3] as Step, 'Only rows with a clinic', 'asked for by Ines')
  expect(reported.note).toBe('“Only rows with a clinic”\nasked for by Ines')
  expect(reportedAs(reported)).toEqual({ own: 'Only rows with a clinic', note: 'asked for by Ines' })
  expect(reportedAs({ ...reported, note: 'says “more” than that' })).toEqual({ note: 'says “more” than that' })
  expect(withWords(reported, '', '  ')).toEqual(steps[3])
})

test('a table branches, feeds and is written, and is taken out with what only it needs', () => {
  const { recipe: two, id } = branched(recipe, table, 's5')
  const made = two.tables.find((one) => one.id === id) as RecipeTable
  expect([made.name, feedersOf(made), fedBy(two, 'visits').map(({ name }) => name)]).toEqual([
    'Visits, continued',
    ['visits'],
    ['Visits, continued'],
  ])
  // without outputs the last table is written; saying so of another keeps both
  expect(outputsOf(two).map((output) => output.table)).toEqual([id])
  const both = withWritten(two, 'visits', true)
  expect([isWritten(both, 'visits'), isWritten(both, id)]).toEqual([true, true])
  const without = withoutTable(both, id)
  expect([without.tables.length, without.inputs.length, without.outputs?.map((output) => output.table)]).toEqual([
    1,
    1,
    ['visits'],
  ])
  const alone: Recipe = {
    ...both,
    inputs: [...both.inputs, { id: 'extra', name: 'Extra' }],
    tables: [...both.tables, { id: 'extra', name: 'Extra', steps: [step('s9', 'open', { input: 'extra' })] }],
  }
  expect(withoutTable(alone, 'extra').inputs.map((input) => input.id)).toEqual(['visits'])
})

import { expect, test } from 'vitest'
import { columnOf, type Cell, type ColumnType } from '../table/column.ts'
import { Table } from '../table/table.ts'
import { checkCompatibility } from './compatibility.ts'
import type { CheckedInput } from './fit-context.ts'
import { answered } from './answers.ts'
import { columnAliases, storyNames } from '../recipe/column-aliases.ts'
import { quickFixesFor } from './quick-fixes.ts'
import { brokenSteps, planRecipe } from '../engine/plan.ts'
import { parameterCells } from '../recipe/parameters.ts'
import type { Recipe, Step } from '../recipe/recipe.ts'

const visits = (columns: Readonly<Record<string, readonly [ColumnType, ...Cell[]]>>): Table =>
  Table.of(
    Object.keys(columns),
    Object.values(columns).map(([type, ...cells]) => columnOf(type, cells)),
  )
const may = visits({
  Clinic: ['text', 'Oxbow', 'Marlpit'],
  Species: ['text', 'dog', 'cat'],
  Fee: ['decimal', 12.5, 30],
  Desk: ['text', 'A', 'B'],
})
const recipe = (...steps: Step[]): Recipe => ({
  fabula: 1,
  name: 'Fees',
  inputs: [{ id: 'visits', name: 'Visits', columns: [...may.schema] }],
  tables: [{ id: 'fees', name: 'Fees', steps: [{ id: 's1', kind: 'open', input: 'visits' }, ...steps] }],
})
const dropDesk: Step = { id: 's2', kind: 'drop', columns: ['Desk'] }
const cheap: Step = { id: 's3', kind: 'filter', where: { column: 'Fee', op: 'at-most', value: 20 } }
const byClinic: Step = {
  id: 's4',
  kind: 'summarise',
  by: ['Clinic'],
  measures: [{ as: 'Sum', how: 'sum', column: 'Fee' }],
}
const story = recipe(dropDesk, cheap, byClinic)
const fit = (table: Table, more: Omit<CheckedInput, 'table'> = {}) =>
  checkCompatibility(story, { visits: { table, ...more } })

test('the same columns in any order fit, and nothing is said', () => {
  expect(
    fit(visits({ Desk: ['text', 'C'], Fee: ['decimal', 1], Clinic: ['text', 'Oxbow'], Species: ['text', 'cat'] })),
  ).toEqual({ verdict: 'fits', findings: [] })
})

test('a column more is told with what becomes of it', () => {
  const { verdict, findings } = fit(
    visits({
      Clinic: ['text', 'Oxbow'],
      Species: ['text', 'cat'],
      Fee: ['decimal', 1],
      Desk: ['text', 'C'],
      Vet: ['text', 'Rusk'],
    }),
  )
  expect(verdict).toBe('fits')
  expect(findings).toMatchObject([{ code: 'new-column', column: 'Vet', input: 'visits' }])
  expect(findings[0]?.sentence).toContain('left out by Fees 4')
})

test('a column that no step needs may be missing; one that a step needs may not, and the step is named', () => {
  const unneeded = fit(visits({ Clinic: ['text', 'Oxbow'], Fee: ['decimal', 1], Desk: ['text', 'C'] }))
  expect(unneeded.verdict).toBe('fits-with-changes')
  expect(unneeded.findings.map(({ code, column, step }) => [code, column, step])).toEqual([
    ['missing-column', 'Species', undefined],
  ])
  const needed = fit(visits({ Clinic: ['text', 'Oxbow'], Species: ['text', 'cat'], Desk: ['text', 'C'] }))
  expect(needed.verdict).toBe('does-not-fit')
  expect(needed.findings).toMatchObject([{ code: 'missing-column', column: 'Fee', step: 's3' }])
})

test('a renamed column is found by its values or its name, offered and not assumed; accepted, the story fits', () => {
  const june = visits({
    Clinic: ['text', 'Oxbow', 'Marlpit'],
    'Patient kind': ['text', 'cat', 'dog'],
    Fees: ['decimal', 3, 4],
    Desk: ['text', 'A', 'Z'],
  })
  const reported = fit(june, { before: may })
  expect(reported.verdict).toBe('does-not-fit')
  const offers = Object.fromEntries(
    reported.findings
      .filter(({ code }) => code === 'missing-column')
      .map(({ column, offers: all }) => [column, all[0]]),
  )
  expect(offers.Species).toMatchObject({ do: 'rename', column: 'Patient kind' })
  expect(offers.Species?.why).toContain('100 % of its values')
  expect(offers.Fee).toMatchObject({ do: 'rename', column: 'Fees', why: 'the names are alike' })
  expect(
    fit(june.renamed(storyNames(june.names, { 'Patient kind': 'Species', Fees: 'Fee' })), { before: may }),
  ).toEqual({ verdict: 'fits', findings: [] })
})

test('a type that changed breaks the step that needs the old one', () => {
  const { verdict, findings } = fit(
    visits({ Clinic: ['text', 'Oxbow'], Species: ['text', 'cat'], Fee: ['text', '12,50'], Desk: ['text', 'C'] }),
  )
  expect(verdict).toBe('does-not-fit')
  expect(findings.map(({ code, step }) => [code, step])).toEqual([['changed-type', 's3']])
  expect(findings[0]?.sentence).toBe('“Fee” in Visits was a number and is now text. Fees 3 cannot run so.')
  // read as it was for good, with what that costs; or expected so from now on
  const [readAs, expected] = findings[0]?.offers ?? []
  expect(readAs).toEqual({
    do: 'read-as',
    column: 'Fee',
    type: 'decimal',
    why: '1 cell cannot be read so and would be empty',
  })
  if (!readAs || !expected || !findings[0]) throw new Error('nothing is offered')
  expect(answered(story, findings[0], readAs).tables[0]?.steps[0]).toMatchObject({
    kind: 'open',
    read: { types: { Fee: { type: 'decimal' } } },
  })
  expect(answered(story, findings[0], expected).inputs[0]?.columns?.find(({ name }) => name === 'Fee')).toEqual({
    name: 'Fee',
    type: 'text',
  })
})

test('a step on a column that is not there is broken, those after it wait, and each near name mends it', () => {
  const plan = planRecipe(recipe({ ...cheap, where: { column: 'Fees', op: 'at-most', value: 20 } }, byClinic))
  expect(plan.tables[0]?.steps.map(({ state }) => state)).toEqual(['fine', 'broken', 'waiting'])
  const [broken] = brokenSteps(plan)
  if (!broken) throw new Error('nothing is broken')
  const [quickFix] = quickFixesFor(broken.step, broken.problem)
  expect(quickFix).toEqual({ column: 'Fee', step: cheap })
  const wrong: Step = { id: 's2', kind: 'derive', as: 'Net', formula: "Feee * 0.8 & 'Clinic'" }
  const [formula] = brokenSteps(planRecipe(recipe(wrong)))
  expect(formula && quickFixesFor(wrong, formula.problem)[0]?.step).toHaveProperty('formula', "Fee * 0.8 & 'Clinic'")
})

test('a parameter that is wrong or unknown says so, with what there is', () => {
  const asked: Recipe = {
    ...story,
    parameters: [
      { name: 'As of', type: 'date', value: '2031-06-01' },
      { name: 'Limit', type: 'integer' },
    ],
  }
  expect(parameterCells(asked, { Limit: '20' })).toEqual({ cells: { 'As of': 22431, Limit: 20 }, faults: [] })
  const says = (given: Record<string, string>) => parameterCells(asked, given).faults.map(({ sentence }) => sentence)
  expect(says({})).toEqual(['The parameter “Limit” needs a value; it is a whole number.'])
  expect(says({ Limit: 'many' })).toEqual(['The parameter “Limit” cannot be “many”: it must be a whole number.'])
  expect(says({ Limit: '2', 'As off': '2031-01-01' })).toEqual([
    'The recipe has no parameter “As off”. It has “As of”.',
  ])
})

test('answers for good: a name kept, a column expected, one done without', () => {
  const june = visits({ Clinic: ['text', 'Oxbow'], Fees: ['decimal', 3], Desk: ['text', 'A'], Vet: ['text', 'Rusk'] })
  let reported = story
  const keep = (code: string, column: string): void => {
    const finding = checkCompatibility(reported, { visits: { table: june } }).findings.find(
      (one) => one.code === code && one.column === column,
    )
    const offer = finding?.offers[0]
    if (!finding || !offer) throw new Error(`nothing is offered for ${column}`)
    reported = answered(reported, finding, offer)
  }
  keep('missing-column', 'Fee')
  expect(reported.inputs[0]?.columns?.find(({ name }) => name === 'Fee')).toEqual({
    name: 'Fee',
    type: 'decimal',
    also: ['Fees'],
  })
  keep('new-column', 'Vet')
  keep('missing-column', 'Species')
  const known = columnAliases(reported.inputs[0])
  expect(
    checkCompatibility(reported, { visits: { table: june.renamed(storyNames(june.names, known)), renamed: known } }),
  ).toMatchObject({
    verdict: 'fits',
    findings: [
      { code: 'known-name', column: 'Fee', sentence: '“Fees” in Visits is read as “Fee”, as the recipe says.' },
    ],
  })
})

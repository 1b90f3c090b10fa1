import { expect, it } from 'vitest'
import { planRecipe } from '../../engine/plan.ts'
import type { Recipe } from '../../recipe/recipe.ts'
import type { ReadOptions } from '../../reading/read-options.ts'
import type { NewStep } from '../../recipe/recipe.ts'
import { pythonScript } from './script.ts'
import { newcomers, toldSteps } from './told.ts'
import { wrapLines } from './wrap.ts'

const fees = { name: 'Fee', type: 'decimal' } as const
const clinics = { name: 'Clinic', type: 'text' } as const
const typed: ReadOptions = {
  encoding: 'utf-8',
  delimiter: ',',
  types: { Clinic: { type: 'text' }, Fee: { type: 'decimal' } },
}
const recipe = (read: ReadOptions, ...steps: readonly NewStep[]): Recipe => ({
  fabula: 1,
  name: 'Fees',
  inputs: [{ id: 'visits', name: 'Visits', columns: [clinics, fees] }],
  tables: [
    {
      id: 'fees',
      name: 'Fees',
      steps: [
        { id: 's1', kind: 'open', input: 'visits', read },
        ...steps.map((step, i) => ({ ...step, id: `s${i + 2}` })),
      ] as Recipe['tables'][number]['steps'],
    },
  ],
  outputs: [{ table: 'fees', format: 'csv', file: 'fees.csv' }],
})
const dear: NewStep = { kind: 'filter', where: { column: 'Fee', op: 'greater', value: 5 } }
const perClinic: NewStep = {
  kind: 'summarise',
  by: ['Clinic'],
  measures: [{ how: 'sum', column: 'Fee', as: 'Takings' }],
}
/** The lines of `main` under a step's comment. */
const stepOf = (one: Recipe, step: string): string =>
  pythonScript(one).parts.find((part) => part.step === step)?.text ?? ''

it('steps are written in pandas’ own words where the recipe says the types of the columns', () => {
  expect(stepOf(recipe(typed, dear), 's2')).toContain('fees = fees[fees["Fee"] > 5].reset_index(drop=True)')
  expect(stepOf(recipe(typed, dear, perClinic), 's3')).toContain(
    'fees.groupby(["Clinic"], sort=False, dropna=False).agg(',
  )
})

it('where a file tells the types, helpers do what holds for each of them', () => {
  const detected = recipe({ ...typed, types: 'detect' }, dear)
  expect(stepOf(detected, 's2')).toContain('greater(fees["Fee"], 5.0)')
  expect([...toldSteps(detected, planRecipe(detected))]).toEqual([])
})

it('a type that only data can tell ends what the recipe says of types', () => {
  const turned = recipe(typed, { kind: 'transpose' }, { kind: 'slice', first: 3 })
  expect([...toldSteps(turned, planRecipe(turned))]).toEqual(['s1', 's2'])
})

it('new columns are given types where they reach the result or a rule takes them in', () => {
  expect([...newcomers(recipe(typed, dear)).inputs]).toEqual(['visits'])
  expect([...newcomers(recipe(typed, dear, perClinic)).inputs]).toEqual([])
  expect([...newcomers(recipe(typed, dear, perClinic, dear)).steps]).toEqual(['s2', 's3'])
  expect(stepOf(recipe(typed, dear), 's1')).toContain('detected(')
  expect(stepOf(recipe(typed, dear, perClinic), 's1')).not.toContain('detected(')
})

it('a script carries the functions that it uses, and no others', () => {
  const { text } = pythonScript(recipe(typed, dear, perClinic))
  expect(text).toContain('def read_number(')
  expect(text).not.toContain('def read_moment(')
  expect(text).not.toContain('import calendar')
})

it('long lines are broken behind commas in the fewest brackets, never in texts', () => {
  const call = `    frame = read(frame, ["${'a, b'.repeat(10)}", ["Oxbow", "Marlpit"]], lambda text: text, "${'x'.repeat(30)}")`
  const lines = wrapLines(call).split('\n')
  expect(lines.length).toBe(2)
  expect(lines[1]).toMatch(/^ {8}\S/)
  expect(lines.map((line) => line.trim()).join(' ')).toBe(call.trim())
  expect(lines[0]).toMatch(/,$/)
  expect(Math.max(...lines.map((line) => line.length))).toBeLessThanOrEqual(100)
  expect(wrapLines('    short = f(a, b)')).toBe('    short = f(a, b)')
})

it('long comments are broken between words', () => {
  const sentence = `    # s1  ${'word '.repeat(40).trim()}`
  const lines = wrapLines(sentence).split('\n')
  expect(lines.every((line) => line.startsWith('    #') && line.length <= 100)).toBe(true)
  expect(lines.map((line) => line.replace(/^ *# */, '')).join(' ')).toBe(sentence.replace(/^ *# */, ''))
})

it('columns are read in the order of the file, whatever order the recipe has their types in', () => {
  const read: ReadOptions = { ...typed, types: { 'Fee 2': { type: 'decimal' }, Fee: { type: 'decimal' } } }
  const one = recipe(read)
  const [input] = one.inputs
  const wide = {
    ...one,
    inputs: [{ ...input, columns: [fees, { name: 'Fee 2', type: 'decimal' as const }] }],
  } as Recipe
  expect(stepOf(wide, 's1')).toContain('for c in ["Fee", "Fee 2"]:')
})

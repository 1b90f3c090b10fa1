import { describe, expect, it } from 'vitest'
import type { Recipe, Step } from '../recipe/recipe.ts'
import { brokenSteps, planRecipe } from './plan.ts'

const recipe = (steps: readonly object[]): Recipe => ({
  fabula: 1,
  name: 'Plan',
  inputs: [
    {
      id: 'visits',
      name: 'Visits',
      columns: [
        { name: 'Clinic', type: 'text' },
        { name: 'Month', type: 'text' },
        { name: 'Fee', type: 'decimal' },
        { name: 'Vet', type: 'text' },
        { name: 'Day', type: 'date' },
      ],
    },
  ],
  tables: [
    {
      id: 'result',
      name: 'Result',
      steps: [{ kind: 'open', input: 'visits' }, ...steps].map((step, i) => ({ id: `s${i + 1}`, ...step }) as Step),
    },
  ],
})
const sentences = (...steps: readonly object[]): string[] =>
  brokenSteps(planRecipe(recipe(steps))).map(({ sentence }) => sentence)
const pivot = {
  kind: 'pivot',
  labels: 'Month',
  values: [
    { column: 'Fee', how: 'sum', as: 'Takings' },
    { column: 'Vet', how: 'first', as: 'First vet' },
  ],
  by: ['Clinic'],
}
const derive = (formula: string) => ({ kind: 'derive', as: 'New', formula })

describe('columns that only data can tell', () => {
  it('of a pivot have the type of the measure that they are named after', () => {
    expect(sentences(pivot, derive(`'May Takings' * 2`), derive(`LEN('May First vet')`))).toEqual([])
    expect(sentences(pivot, derive(`'May First vet' * 2`))).toEqual([expect.stringContaining('is text')])
  })
  it('of a header have the type that the sentence needs, if a column before it has one of it', () => {
    const header = { kind: 'header', row: 1 }
    expect(sentences(header, derive('A * 2'), derive('LEN(B)'), derive('YEAR(C)'))).toEqual([])
    expect(sentences(header, derive('HOUR(D)'))).toEqual([expect.stringContaining('D is text')])
  })
  it('keep the type that an earlier sentence took them for', () => {
    const header = { kind: 'header', row: 1 }
    expect(sentences(header, derive('A * 2'), derive('LEN(New)'))).toEqual([expect.stringContaining('number')])
  })
})

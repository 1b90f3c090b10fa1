import { expect, test } from 'vitest'
import type { Recipe } from '../../recipe/recipe.ts'
import { scriptVariables } from './variables.ts'

const recipe = {
  fabula: 1,
  name: 'Names',
  inputs: [
    { id: 'visits', name: 'Visits' },
    { id: 'visits-2', name: 'More' },
    { id: 'quiet', name: 'Quiet' },
    { id: 'out-takings', name: 'Out' },
  ],
  parameters: [
    { name: 'As of', type: 'date' },
    { name: 'as-of', type: 'date' },
    { name: 'Rate %', type: 'decimal' },
    { name: 'Ort ä', type: 'text' },
  ],
  tables: [{ id: 'takings', name: 'Takings', steps: [] }],
} satisfies Recipe

test('no two variables of a script meet, nor one of its options', () => {
  const { input, output, parameter } = scriptVariables(recipe)
  expect(recipe.inputs.map(({ id }) => input(id))).toEqual(['visits', 'visits_2', 'quiet_I2', 'out_takings'])
  expect(input('visits', 2)).toBe('visits_F2')
  expect(recipe.parameters.map(({ name }) => parameter(name))).toEqual(['p_as_of', 'p_as_of_P2', 'p_rate__', 'p_ort__'])
  expect(output('takings')).toBe('out_takings_O2')
})

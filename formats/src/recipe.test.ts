import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { parseRecipe, recipeJsonSchema, writeRecipe } from '@fabula/core'

const root = join(import.meta.dirname, '../..')

test('the JSON Schema in docs is the one made from the definition', () => {
  expect(JSON.parse(readFileSync(join(root, 'docs/recipe.schema.json'), 'utf8'))).toEqual(
    JSON.parse(JSON.stringify(recipeJsonSchema())),
  )
})
test('a recipe written and read again is the same, to the byte', () => {
  const read = parseRecipe(readFileSync(join(root, 'demo/monthly-takings.fabula.json'), 'utf8'))
  if ('faults' in read) throw new Error(JSON.stringify(read.faults))
  const text = writeRecipe(read.recipe)
  const again = parseRecipe(text)
  expect('recipe' in again && writeRecipe(again.recipe)).toBe(text)
})

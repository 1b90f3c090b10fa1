import { describe, expect, test } from 'vitest'
import {
  parameterCells,
  planRecipe,
  brokenSteps,
  readRecipe,
  runRecipe,
  writeCsv,
  type Recipe,
  openedInputs,
} from '@fabula/core'
import { kindExamples } from '@fabula/core/examples'
import { functionRecipes, recipeOf } from '@fabula/core/testing'
import { fileFromBytes, openInput } from './index.ts'

const ran = async (recipe: Recipe, file: string) => {
  const opened = await openInput(
    [fileFromBytes('rows.csv', Buffer.from(file))],
    openedInputs(recipe).at(-1)?.read ?? {},
  )
  const parameters = parameterCells(recipe, {}).cells
  const result = runRecipe(recipe, { sources: () => ({ ...opened, key: 'rows' }), parameters, now: 0 }).tables.at(-1)
  if (!result?.table) throw new Error(JSON.stringify(brokenSteps(planRecipe(recipe)).map(({ sentence }) => sentence)))
  return { csv: writeCsv(result.table), statistics: result.steps.at(-1)?.statistics }
}

describe.each(kindExamples)('$kind', ({ kind, examples, broken = [] }) => {
  test.each(examples)('$name', async (example) => {
    const { recipe, file } = recipeOf(example, kind)
    expect(readRecipe(recipe)).toEqual({ recipe })
    const { csv, statistics } = await ran(recipe, file)
    expect(csv).toBe(example.gives)
    if (example.statistics) expect(statistics).toMatchObject(example.statistics)
  })
  if (broken.length > 0)
    test.each(broken)('is broken by $name', (example) => {
      const sentences = brokenSteps(planRecipe(recipeOf(example, kind).recipe)).map(({ sentence }) => sentence)
      expect(sentences.join('\n')).toContain(example.says)
    })
})

test.each(functionRecipes)('$name gives what its examples say', async ({ recipe, file, gives }) => {
  expect((await ran(recipe, file)).csv).toBe(gives)
})

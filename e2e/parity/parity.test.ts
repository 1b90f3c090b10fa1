import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { Recipe } from '@fabula/core'
import { kindExamples } from '@fabula/core/examples'
import { functionRecipes, recipeOf } from '@fabula/core/testing'
import { chainCases, runOn } from './chains.ts'
import { firstDifference } from '@fabula/server/proof'
import { startRunners, type Runners } from './runners.ts'

type Case = { readonly name: string; readonly recipe: Recipe; readonly file: string; readonly gives: string }
const cases: readonly Case[] = [
  ...kindExamples.flatMap(({ kind, examples }) =>
    examples.map((example) => ({ name: `${kind}: ${example.name}`, gives: example.gives, ...recipeOf(example, kind) })),
  ),
  ...functionRecipes,
  ...chainCases,
]

let runners: Runners
beforeAll(async () => {
  runners = await startRunners()
})
afterAll(() => runners.close())

describe.each(cases)('$name', ({ recipe, file, gives }) => {
  test('in SQL', async () => {
    expect(
      firstDifference(gives, await runners.sql(recipe, (await runOn(recipe, { rows: file })).plan, { rows: file })),
    ).toBeUndefined()
  })
  test('in Python', async () => {
    expect(firstDifference(gives, await runners.python(recipe, { rows: file }))).toBeUndefined()
  })
})

import fc from 'fast-check'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { sqlScript, stepKinds } from '@fabula/core'
import { firstDifference } from '@fabula/server/proof'
import { storiesTold, storySeed } from './random.ts'
import { randomKinds } from './random-steps.ts'
import { randomStories } from './random-story.ts'
import { startRunners, type Runners } from './runners.ts'

let runners: Runners
beforeAll(async () => {
  runners = await startRunners()
})
afterAll(() => runners.close())

test('every kind that goes on from a table stands in random stories', () => {
  const starts = ['open', 'enter', 'start-from']
  const expected = Object.keys(stepKinds).filter((kind) => !starts.includes(kind))
  expect([...randomKinds].sort()).toEqual(expected.sort())
})

test(
  `${storiesTold} random stories give the same by engine, SQL and Python`,
  { timeout: 1000 * Math.max(600, storiesTold * 2) },
  async () => {
    await fc.assert(
      randomStories(async ({ recipe, plan, inputs, engine, told }) => {
        const sql = await runners
          .sql(recipe, plan, inputs)
          .catch(
            (error: unknown) => `SQL fails: ${(error as Error).message}\n${sqlScript(recipe, plan).text.slice(-1500)}`,
          )
        expect(
          firstDifference(engine, sql),
          `engine against SQL\n${told}\n${engine}\n${sql.slice(0, 2500)}`,
        ).toBeUndefined()
        const python = await runners.python(recipe, inputs, plan).catch((error: unknown) => (error as Error).message)
        expect(
          firstDifference(engine, python),
          `engine against Python\n${told}\n${engine}\n${python.slice(0, 2500)}`,
        ).toBeUndefined()
      }),
      { numRuns: storiesTold, seed: storySeed, endOnFailure: false },
    )
  },
)

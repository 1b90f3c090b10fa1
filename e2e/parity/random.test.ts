import fc from 'fast-check'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { sqlScript, stepKinds } from '@fabula/core'
import { firstDifference } from '@fabula/server/proof'
import { randomKinds } from './random-steps.ts'
import { randomStories } from './random-story.ts'
import { startRunners, type Runners } from './runners.ts'

/** How many random stories are told three ways, and from which seed; `npm run parity:long` asks for 5,000 of another seed each time. */
const runs = Number(process.env.FABULA_RANDOM_STORIES ?? 200)
const seed =
  process.env.FABULA_RANDOM_SEED === 'new' ? Date.now() % 2 ** 31 : Number(process.env.FABULA_RANDOM_SEED ?? 2031)

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
  `${runs} random stories give the same by engine, SQL and Python`,
  { timeout: 1000 * Math.max(600, runs * 2) },
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
      { numRuns: runs, seed, endOnFailure: false },
    )
  },
)

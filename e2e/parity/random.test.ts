import fc from 'fast-check'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { refusals, sqlScript, stepKinds, writeCsv } from '@fabula/core'
import { runOn } from './chains.ts'
import { firstDifference } from '@fabula/server/proof'
import { Dice, randomFiles, randomKinds, randomRecipe } from './random.ts'
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

const numbers = (count: number) => fc.array(fc.nat(1_000_000), { minLength: count, maxLength: count })

test(
  `${runs} random stories give the same by engine, SQL and Python`,
  { timeout: 1000 * Math.max(600, runs * 2) },
  async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(numbers(36), { minLength: 1, maxLength: 5 }), numbers(150), async (rolls, cells) => {
        const recipe = randomRecipe(rolls)
        const inputs = randomFiles(new Dice(cells))
        const { tables, plan } = await runOn(recipe, inputs)
        const table = tables.find(({ id }) => id === 'result')?.table
        // a story that the data refuses has no result by any way
        fc.pre(table !== undefined && refusals(plan).length === 0)
        const engine = writeCsv(table as NonNullable<typeof table>)
        const told = JSON.stringify({ steps: recipe.tables[1]?.steps.slice(1), ...inputs }, null, 1)
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

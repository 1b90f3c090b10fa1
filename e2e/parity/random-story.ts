import fc from 'fast-check'
import { refusals, writeCsv, type Plan, type Recipe } from '@fabula/core'
import { runOn } from './chains.ts'
import { randomFiles, randomRecipe } from './random.ts'
import { Dice } from './random-values.ts'

/** A random story with its files, what the engine makes of them, and all of it as text for a failing test. */
export type RandomStory = {
  readonly recipe: Recipe
  readonly plan: Plan
  readonly inputs: Readonly<Record<string, string>>
  readonly engine: string
  readonly told: string
}

const numbers = (count: number) => fc.array(fc.nat(1_000_000), { minLength: count, maxLength: count })

/** Random stories of one step or more, each told by `tell`; one that the data refuses has no result by any way and is passed over. */
export const randomStories = (tell: (story: RandomStory) => Promise<void>) =>
  fc.asyncProperty(fc.array(numbers(36), { minLength: 1, maxLength: 5 }), numbers(150), async (rolls, cells) => {
    const recipe = randomRecipe(rolls)
    const inputs = randomFiles(new Dice(cells))
    const { tables, plan } = await runOn(recipe, inputs)
    const table = tables.find(({ id }) => id === 'result')?.table
    fc.pre(table !== undefined && refusals(plan).length === 0)
    const engine = writeCsv(table as NonNullable<typeof table>)
    const told = JSON.stringify({ steps: recipe.tables[1]?.steps.slice(1), ...inputs }, null, 1)
    await tell({ recipe, plan, inputs, engine, told })
  })

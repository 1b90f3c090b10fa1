import { everyFunction, functions } from '../formula/functions/index.ts'
import type { Recipe } from '../recipe/recipe.ts'

export { patternProblem } from '../codegen/regex/engine.ts'
export { recipeOf } from './example.ts'
export { rolling, type Roll } from './rolling.ts'
export { table, type StepExample } from '../steps/shared/example.ts'

/** One recipe per function: a column for each of its examples, over a table of one row. */
export const functionRecipes: readonly {
  readonly name: string
  readonly recipe: Recipe
  readonly file: string
  readonly gives: string
}[] = everyFunction
  .filter(({ examples }) => examples.length > 0)
  .map(({ name, examples }) => ({
    name,
    file: 'Row\n1\n',
    gives: `Row,${examples.map((_, i) => `E${i + 1}`).join(',')}\n1,${examples.map(([, gives]) => (/[",]|^ | $/.test(gives) ? `"${gives.replaceAll('"', '""')}"` : gives)).join(',')}\n`,
    recipe: {
      fabula: 1,
      name,
      inputs: [{ id: 'rows', name: 'Rows', columns: [{ name: 'Row', type: 'integer' }] }],
      tables: [
        {
          id: 'result',
          name: 'Result',
          steps: [
            { id: 's0', kind: 'open', input: 'rows', read: { delimiter: ',', types: { Row: { type: 'integer' } } } },
            ...examples.map(([formula], i) => ({ id: `s${i + 1}`, kind: 'derive' as const, as: `E${i + 1}`, formula })),
          ],
        },
      ],
    },
  }))

/** What each function takes, by name: random formulas are made from it. */
export const signatures = functions.map(({ name, group, args }) => ({ name, group, args }))

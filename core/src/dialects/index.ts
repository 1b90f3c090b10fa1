import type { DialectInfo, DialectName, Script, ScriptOptions } from '../codegen/dialect.ts'
import type { Plan } from '../engine/plan.ts'
import type { Recipe } from '../recipe/recipe.ts'
import { python } from './python/index.ts'
import { spark } from './spark/index.ts'
import { sql } from './sql/index.ts'

/** A language that a story can be written in. */
export type Dialect = DialectInfo & {
  /**
   * The script of a recipe. Without a plan the recipe is planned from the columns that it lists itself.
   * @throws ScriptError where a step is broken, or columns are known by data alone and the dialect needs them.
   */
  readonly assemble: (recipe: Recipe, plan?: Plan, options?: ScriptOptions) => Script
}

/** The one list of dialects. */
export const dialects = { python, sql, spark } as const satisfies { readonly [D in DialectName]: Dialect }

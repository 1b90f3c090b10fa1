import { writeFileSync } from 'node:fs'
import { recipeJsonSchema } from '@fabula/core'

/** npm run schema: the JSON Schema of a recipe, made from its Zod schema. */
writeFileSync(
  new URL('../docs/recipe.schema.json', import.meta.url),
  `${JSON.stringify(recipeJsonSchema(), null, 2)}\n`,
)

import type { Recipe } from '@fabula/core'
import { kindExamples } from '@fabula/core/examples'
import { functionRecipes, recipeOf } from '@fabula/core/testing'
import { chainCases } from './chains.ts'

/** A recipe over one file, and the CSV that it gives. */
type Case = { readonly name: string; readonly recipe: Recipe; readonly file: string; readonly gives: string }

/** The examples of every kind and every function, and chains of steps. */
export const cases: readonly Case[] = [
  ...kindExamples.flatMap(({ kind, examples }) =>
    examples.map((example) => ({ name: `${kind}: ${example.name}`, gives: example.gives, ...recipeOf(example, kind) })),
  ),
  ...functionRecipes,
  ...chainCases,
]

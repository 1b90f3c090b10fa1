import {
  dialects,
  needsData,
  ownValue,
  parameterCells,
  planWithEntered,
  runRecipe,
  ScriptError,
  type Dialect,
  type Plan,
  type Recipe,
} from '@fabula/core'
import type { ScriptReply } from '@fabula/core/api'
import { openAll, reads, type InputFiles } from '../worker-context.ts'
import { defineTask } from './define-task.ts'

const scriptIn = (
  { name: dialect, label, fileEnding, assemble }: Dialect,
  recipe: Recipe,
  plan: Plan,
): ScriptReply['scripts'][number] => {
  try {
    return { dialect, label, fileEnding, parts: [...assemble(recipe, plan).parts], problem: null }
  } catch (error) {
    if (error instanceof ScriptError) return { dialect, label, fileEnding, parts: [], problem: error.message }
    throw error
  }
}

/** The script of every dialect; columns that only data can tell are pinned to those of the flow's own files. */
export const scripts = defineTask({
  run: async (
    { recipe, files }: { readonly recipe: Recipe; readonly files: InputFiles },
    context,
  ): Promise<ScriptReply> => {
    const ready = [...reads(recipe).keys()].every((input) => (ownValue(files, input) ?? []).length > 0)
    const parameters = parameterCells(recipe, {}).cells
    const plan =
      needsData(recipe) && ready
        ? runRecipe(recipe, {
            sources: (await openAll(recipe, files, context)).sources,
            parameters,
            now: 0,
            cache: context.inputs.steps,
            shouldStop: context.shouldStop,
          }).plan
        : planWithEntered(recipe, parameters)
    return { scripts: Object.values(dialects).map((dialect) => scriptIn(dialect, recipe, plan)) }
  },
})

import { openedInputs } from '../recipe/step-access.ts'
import { ownValue, setOwnValue } from '../table/own.ts'
import { wildcard } from '../table/text.ts'
import type { Recipe } from '../recipe/recipe.ts'

/** How many letters of a name a pattern says. */
const message = (pattern = ''): number => pattern.replace(/[*?]/g, '').length

/** Files laid with the inputs they are for by their names alone; one file and one input find each other. */
export const assignFiles = <T extends { readonly name: string }>(
  recipe: Recipe,
  files: readonly T[],
): { given: Record<string, T[]>; homeless: T[] } => {
  const given: Record<string, T[]> = {}
  const homeless: T[] = []
  for (const file of files) {
    // of several patterns that meet the name the one that says most of it
    const [first = recipe.inputs.length === 1 ? recipe.inputs[0] : undefined] = recipe.inputs
      .filter(({ files: pattern }) => pattern !== undefined && wildcard(pattern).test(file.name))
      .sort((a, b) => message(b.files) - message(a.files))
    // several tables may open one workbook, each another sheet of it
    const chooseInputs = () => {
      if (first?.files === undefined) {
        if (first) return [first]
        return []
      }
      return recipe.inputs.filter(({ files: pattern }) => pattern === first.files)
    }
    const inputs = chooseInputs()
    for (const { id } of inputs) (ownValue(given, id) ?? setOwnValue(given, id, [])).push(file)
    if (inputs.length === 0) homeless.push(file)
  }
  return { given, homeless }
}

/** A file whose names are alike by so much has the columns of an input, 0 to 1. */
export const enoughLikeness = 0.6
/** How much of what an input's columns are called stands in one row, 0 to 1. */
export const likeness = (known: readonly string[], rows: readonly (readonly string[])[]): number => {
  if (known.length === 0) return 0
  return Math.max(0, ...rows.map((cells) => known.filter((name) => cells.includes(name)).length / known.length))
}
/** The input whose columns a file has; undefined where none is alike, or two are as much so. `rows`: rows that may be its names. */
export const inputByColumns = (
  recipe: Recipe,
  rows: readonly (readonly string[])[],
  sheets: readonly string[],
): string | undefined => {
  const scored = recipe.inputs
    .map(({ id, columns = [] }) => {
      const asked = openedInputs(recipe).find(({ input }) => input === id)?.read.sheets
      const chooseNamed = () => {
        if (asked === undefined || asked === 'first') return false
        if ('like' in asked) return sheets.some((name) => wildcard(asked.like).test(name))
        return asked.some((name) => sheets.includes(name))
      }
      const named = chooseNamed()
      return {
        id,
        score:
          likeness(
            columns.map(({ name }) => name),
            rows,
          ) + (named ? 0.3 : 0),
      }
    })
    .sort((a, b) => b.score - a.score)
  const [best, next] = scored
  return best && best.score >= enoughLikeness && best.score > (next?.score ?? 0) ? best.id : undefined
}

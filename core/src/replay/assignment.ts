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
type Scored = { readonly id: string; readonly score: number; readonly sheet: string | undefined }

/** How alike a file is to an input, and the sheet of it that the input names. */
const scoreOf = (
  recipe: Recipe,
  { id, columns = [] }: Recipe['inputs'][number],
  rows: readonly (readonly string[])[],
  sheets: readonly string[],
): Scored => {
  const asked = openedInputs(recipe).find(({ input }) => input === id)?.read.sheets
  const named = (): string | undefined => {
    if (asked === undefined || asked === 'first') return undefined
    if ('like' in asked) return sheets.find((name) => wildcard(asked.like).test(name))
    return asked.find((name) => sheets.includes(name))
  }
  const sheet = named()
  const alike = likeness(
    columns.map(({ name }) => name),
    rows,
  )
  return { id, sheet, score: alike + (sheet === undefined ? 0 : 0.3) }
}

/**
 * The inputs whose columns a file has: one, or those that each take another sheet of it by name; none where no input is
 * alike, or several are as much so. `rows`: rows that may be its names.
 */
export const inputsByColumns = (
  recipe: Recipe,
  rows: readonly (readonly string[])[],
  sheets: readonly string[],
): readonly string[] => {
  const scored = recipe.inputs
    .map((input) => scoreOf(recipe, input, rows, sheets))
    .filter(({ score }) => score >= enoughLikeness)
    .sort((a, b) => b.score - a.score)
  const bySheet = scored.filter(({ sheet }) => sheet !== undefined)
  if (bySheet.length > 1 && new Set(bySheet.map(({ sheet }) => sheet)).size === bySheet.length)
    return bySheet.map(({ id }) => id)
  const [best, next] = scored
  return best && best.score > (next?.score ?? 0) ? [best.id] : []
}

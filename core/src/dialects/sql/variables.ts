import { scriptOutputs } from '../../recipe/outputs.ts'
import type { Recipe } from '../../recipe/recipe.ts'

/** The variables of psql by which a script is given its files and values. */
export type ScriptVariables = {
  /** The n-th file of an input, from 1. */
  readonly input: (id: string, n?: number) => string
  readonly output: (table: string) => string
  readonly parameter: (name: string) => string
}

/** Variables of every script. */
const options = ['now', 'quiet', 'strict', 'trace_out']
const plain = (name: string): string => name.replace(/[^A-Za-z0-9]/g, '_').toLowerCase()

/**
 * Names of variables that do not meet: an id or a name in small letters, all but letters and digits of ASCII as _; what is
 * taken gets a number behind a capital letter, which no other name has (section 8 of the recipe's specification).
 */
export const scriptVariables = (recipe: Recipe): ScriptVariables => {
  const taken = new Set(options)
  const named = (ids: readonly string[], prefix: string, mark: string, first: number): ReadonlyMap<string, string> =>
    new Map(
      ids.map((id) => {
        const stem = `${prefix}${plain(id)}`
        let name = stem
        for (let n = first; taken.has(name); n++) name = `${stem}_${mark}${n}`
        taken.add(name)
        return [id, name]
      }),
    )
  const inputs = named(
    recipe.inputs.map(({ id }) => id),
    '',
    'I',
    2,
  )
  const parameters = named(
    (recipe.parameters ?? []).map(({ name }) => name),
    'p_',
    'P',
    2,
  )
  const outputs = named(
    scriptOutputs(recipe).map(({ table }) => table),
    'out_',
    'O',
    2,
  )
  return {
    input: (id, n = 1) => `${inputs.get(id) ?? plain(id)}${n > 1 ? `_F${n}` : ''}`,
    output: (table) => outputs.get(table) ?? `out_${plain(table)}`,
    parameter: (name) => parameters.get(name) ?? `p_${plain(name)}`,
  }
}

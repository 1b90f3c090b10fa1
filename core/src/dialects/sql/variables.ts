import { scriptOutputs } from '../../recipe/outputs.ts'
import type { Recipe } from '../../recipe/recipe.ts'

/** The variables of psql by which a script is given its files and values. */
export type ScriptVariables = {
  /** The n-th file of an input, from 1. */
  readonly input: (id: string, n?: number) => string
  /** A table of the database that is read instead of files. */
  readonly inputTable: (id: string) => string
  readonly output: (table: string) => string
  /** A table of the database that a result becomes. */
  readonly outputTable: (table: string) => string
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
  const named = (
    ids: readonly string[],
    prefix: string,
    mark: string,
    first: number,
    suffix = '',
  ): ReadonlyMap<string, string> =>
    new Map(
      ids.map((id) => {
        const stem = `${prefix}${plain(id)}${suffix}`
        let name = stem
        for (let n = first; taken.has(name); n++) name = `${stem}_${mark}${n}`
        taken.add(name)
        return [id, name]
      }),
    )
  const inputIds = recipe.inputs.map(({ id }) => id)
  const inputs = named(inputIds, '', 'I', 2)
  const parameterNames = (recipe.parameters ?? []).map(({ name }) => name)
  const parameters = named(parameterNames, 'p_', 'P', 2)
  const outputIds = scriptOutputs(recipe).map(({ table }) => table)
  const outputs = named(outputIds, 'out_', 'O', 2)
  const inputTables = named(inputIds, '', 'T', 2, '_table')
  const outputTables = named(outputIds, 'out_', 'T', 2, '_table')
  return {
    inputTable: (id) => inputTables.get(id) ?? `${plain(id)}_table`,
    outputTable: (table) => outputTables.get(table) ?? `out_${plain(table)}_table`,
    input: (id, n = 1) => `${inputs.get(id) ?? plain(id)}${n > 1 ? `_F${n}` : ''}`,
    output: (table) => outputs.get(table) ?? `out_${plain(table)}`,
    parameter: (name) => parameters.get(name) ?? `p_${plain(name)}`,
  }
}

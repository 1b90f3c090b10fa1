import { type TableRun } from '../engine/run.ts'
import { counted, quoted } from '../messages/words.ts'
import { convert } from '../reading/convert.ts'
import { type Recipe } from '../recipe/recipe.ts'
import { openedBy, sentenceText, tableNames } from '../recipe/step-access.ts'
import { asDictionary } from '../table/column.ts'
import { type Table } from '../table/table.ts'
import { type CompatibilityFinding } from './finding.ts'

/** Values like those that were given one spelling, and nobody has said what they are. */
export const valueFindings = (recipe: Recipe, tables: readonly TableRun[]): CompatibilityFinding[] =>
  tables.flatMap(({ id, steps }) =>
    steps.flatMap(({ step, result }) =>
      (result?.unmappedValues ?? []).map(({ column, value, into, answer }): CompatibilityFinding => ({
        code: 'new-value',
        input: inputOf(recipe, id),
        column,
        step: step.id,
        offers: [{ do: 'change-step', params: answer, why: `write ${quoted(into)} for ${quoted(value)} from now on` }],
        sentence: `${quoted(value)} in ${column} is new and looks like ${quoted(into)}. It stays as it is until the groups of “${sentenceText(step, tableNames(recipe)).replace(/\.$/, '')}” say otherwise.`,
      })),
    ),
  )

/** Labels that a step was not told of, and told ones that are not there: what only adds changes nothing, and is said. */
export const labelFindings = (recipe: Recipe, tables: readonly TableRun[]): CompatibilityFinding[] =>
  tables.flatMap(({ id, steps }) =>
    steps.flatMap(({ step, result }): CompatibilityFinding[] => {
      if (!result?.labels) return []
      const { column, left, missing } = result.labels
      const at = { input: inputOf(recipe, id), column, step: step.id }
      const words = `“${sentenceText(step, tableNames(recipe)).replace(/\.$/, '')}”`
      return [
        ...left.map(({ label, rows, answer }): CompatibilityFinding => ({
          ...at,
          code: 'new-label',
          offers: answer
            ? [{ do: 'change-step', params: answer, why: `make a column of ${quoted(label)} from now on` }]
            : [],
          sentence: `${column} has ${quoted(label)} (${counted(rows, 'row')}), which ${words} makes no column of; these rows are left out.`,
        })),
        ...missing.map((label): CompatibilityFinding => ({
          ...at,
          offers: [],
          code: 'missing-label',
          sentence: `No row has ${quoted(label)} in ${column}; the column that ${words} makes of it stays empty.`,
        })),
      ]
    }),
  )

/** The id of the first input that a table of the recipe opens; empty where it opens none. */
export const inputOf = (recipe: Recipe, table: string): string =>
  recipe.tables.find(({ id }) => id === table)?.steps.flatMap((step) => openedBy(step)?.input ?? [])[0] ?? ''

/** The different values of a column as text, at most 5,000. */
export const words = (table: Table, name: string): Set<string> => {
  const column = convert(table.named(name), { type: 'text' }).column
  return new Set(column.type === 'text' ? asDictionary(column).dictionary.slice(1, 5000) : [])
}

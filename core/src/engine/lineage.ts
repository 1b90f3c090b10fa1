import { type Step } from '../recipe/recipe.ts'
import { kindOf, paramsOf } from '../recipe/step-access.ts'
import { type Schema } from '../table/table.ts'

/** Output column to the input column it carries on. */
export const columnLineageOf = (step: Step, input: Schema, output: Schema): Readonly<Record<string, string>> => {
  const carries = kindOf(step).columnLineage
  if (carries) return carries(paramsOf(step), input, output)
  const names = new Set(input.map((field) => field.name))
  return Object.fromEntries(output.flatMap(({ name }) => (names.has(name) ? [[name, name]] : [])))
}

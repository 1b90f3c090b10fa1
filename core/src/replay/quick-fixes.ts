import { renameInFormula } from '../formula/parse.ts'
import type { Problem } from '../steps/shared/problems.ts'
import type { Schema } from '../table/table.ts'
import type { Step } from '../recipe/recipe.ts'
import { kindOf, paramsOf } from '../recipe/step-access.ts'

/** A step as it would be with another column or param. */
export type QuickFix = {
  readonly column: string
  /** What its button says, where it is not to take a column. */ readonly words?: string
  readonly step: Step
}

const replaceAt = (value: unknown, path: readonly (string | number)[], next: (old: unknown) => unknown): unknown => {
  const [first, ...rest] = path
  if (first === undefined) return next(value)
  if (Array.isArray(value)) return value.map((one, i) => (i === first ? replaceAt(one, rest, next) : (one as unknown)))
  return Object.fromEntries(
    Object.entries(value as object).map(([key, one]) => [
      key,
      key === first ? replaceAt(one, rest, next) : (one as unknown),
    ]),
  )
}

/** Renames a key of a pairs object, in its place. */
const renameKey = (value: unknown, path: readonly (string | number)[], old: string, next: string): unknown =>
  replaceAt(value, path, (pairs) =>
    Object.fromEntries(Object.entries(pairs as object).map(([key, one]) => [key === old ? next : key, one as unknown])),
  )

/**
 * For a step that names a column that is not there: the step with each of the nearest names instead; for data that it
 * refused, the other ways that its kind offers for the columns it takes.
 */
export const quickFixesFor = (step: Step, problem: Problem, input: Schema = []): QuickFix[] => {
  if (problem.code === 'formula') {
    const missing = problem.problem
    if (missing.code !== 'missing-column') return []
    return missing.nearest.map((column) => ({
      column,
      step: replaceAt(step, problem.path, (old) =>
        renameInFormula(String(old), (name) => (name === missing.column ? column : name)),
      ) as Step,
    }))
  }
  if (problem.code === 'refused-data')
    return (kindOf(step).refusalFixes?.(paramsOf(step), input) ?? []).map(({ name, words, params }) => ({
      column: name,
      words,
      step: { ...step, ...(params as object) } as Step,
    }))
  if (problem.code !== 'missing-column' && problem.code !== 'unknown-column-of') return []
  return problem.nearest.map((column) => {
    const last = problem.path.at(-1)
    const inPairs = last === problem.column && problem.path.at(-2) === 'names'
    return {
      column,
      step: (inPairs
        ? renameKey(step, problem.path.slice(0, -1), problem.column, column)
        : replaceAt(step, problem.path, () => column)) as Step,
    }
  })
}

import { brokenFindings, stepFindings } from './step-findings.ts'
import type { Recipe } from '../recipe/recipe.ts'
import { ownValue } from '../table/own.ts'
import { columnFindings } from './column-findings.ts'
import type { CompatibilityFinding, CompatibilityReport, Verdict } from './finding.ts'
import { fitContext, type CheckedInput, type FitOptions } from './fit-context.ts'
import { parameterFindings } from './parameter-findings.ts'
import { partFindings, unclaimedSheets } from './part-findings.ts'
import { valueFindings } from './value-findings.ts'

/** The verdict of findings: broken or refused, something to answer, or nothing. */
export const verdictOf = (findings: readonly CompatibilityFinding[]): Verdict => {
  if (findings.some(({ grade }) => grade === 'breaks' || grade === 'refused')) return 'does-not-fit'
  return findings.some(({ asks }) => asks) ? 'fits-with-changes' : 'fits'
}

/**
 * New exports held against what the story was built on, against every step, and against the last accepted run. `ran` is the
 * recipe's run on them, from which nothing was written; without it only what columns tell is found.
 */
export const checkCompatibility = (
  recipe: Recipe,
  inputs: Readonly<Record<string, CheckedInput>>,
  options: FitOptions = {},
): CompatibilityReport => {
  const context = fitContext(recipe, inputs, options)
  const ofInputs = recipe.inputs.flatMap((one) => {
    const input = ownValue(inputs, one.id)
    return input ? [...columnFindings(context, one, input), ...partFindings(context, one, input)] : []
  })
  const findings = [
    ...ofInputs,
    ...unclaimedSheets(context),
    ...parameterFindings(context),
    ...brokenFindings(context, ofInputs),
    ...valueFindings(context),
    ...stepFindings(context),
  ]
  return { verdict: verdictOf(findings), findings }
}

import type { Condition, Test } from '../steps/shared/condition.ts'
import { isTest } from '../steps/shared/condition.ts'
import { seenBy } from '../steps/shared/condition-run.ts'
import { textOfCell } from '../table/cell-text.ts'
import type { Cell } from '../table/column.ts'
import { ownValue } from '../table/own.ts'
import type { Table } from '../table/table.ts'
import { valueCounts } from '../table/value-counts.ts'
import type { Recipe, Step } from '../recipe/recipe.ts'
import { withInputs } from './accounts.ts'
import type { CompatibilityFinding } from './finding.ts'
import { findingOf } from './finding-sentences.ts'
import { stepPlace, type FitContext } from './fit-context.ts'

type Parameter = NonNullable<Recipe['parameters']>[number]

const isParameter = (value: unknown, name: string): boolean =>
  typeof value === 'object' && value !== null && (value as { parameter?: unknown }).parameter === name

/** The tests of a step that look for a parameter with `is` or `is-one-of`, wherever they stand in its params. */
const testsFor = (step: Step, name: string): readonly Test[] => {
  const found: Test[] = []
  const visit = (value: unknown): void => {
    if (Array.isArray(value)) value.forEach(visit)
    else if (typeof value === 'object' && value !== null) {
      const test = value as Condition
      if (
        'op' in test &&
        isTest(test) &&
        ((test.op === 'is' && isParameter(test.value, name)) ||
          ('values' in test && test.op === 'is-one-of' && test.values.some((one) => isParameter(one, name))))
      )
        found.push(test)
      else Object.values(value).forEach(visit)
    }
  }
  visit(step)
  return found
}

const holds = (table: Table, test: Test, value: string): boolean => {
  const counts = valueCounts(table.named(test.column))
  const see = seenBy(test)
  const wanted = see(value)
  return !counts || [...counts.keys()].some((text) => see(text) === wanted)
}

const shown = ({ type }: Parameter, cell: Cell): string => (cell === null ? '' : textOfCell(type, cell))

/** Where a condition looks for the value and no row has it. */
const impossible = (context: FitContext, parameter: Parameter, cell: Exclude<Cell, null>): CompatibilityFinding[] => {
  const value = shown(parameter, cell)
  return context.tables
    .flatMap((table) =>
      withInputs(table).flatMap(({ run: { step, result }, before }): CompatibilityFinding[] => {
        if (!result || !before) return []
        const test = testsFor(step, parameter.name).find(
          (one) => before.positionOf(one.column) >= 0 && !holds(before, one, value),
        )
        if (!test) return []
        const there = [...(valueCounts(before.named(test.column))?.keys() ?? [])]
        return [
          findingOf(
            'parameter',
            'changes',
            { column: test.column, step: step.id, parameter: parameter.name },
            { name: parameter.name, value, column: test.column, step: stepPlace(context.recipe, step.id) },
            { values: there, offers: [{ do: 'accept', why: 'it is right as it is' }] },
          ),
        ]
      }),
    )
    .slice(0, 1)
}

/** Parameters without a value, or with one that the data does not have. What was so last time is not asked again. */
export const parameterFindings = (context: FitContext): CompatibilityFinding[] =>
  (context.recipe.parameters ?? []).flatMap((parameter): CompatibilityFinding[] => {
    const cell = ownValue(context.parameters, parameter.name)
    if (cell === undefined) return []
    if (cell !== null) return impossible(context, parameter, cell)
    const before = context.last && ownValue(context.last.parameters, parameter.name)
    const emptyBefore = before === null || before === ''
    return [
      findingOf(
        'parameter',
        emptyBefore ? 'fits' : 'changes',
        { parameter: parameter.name },
        { name: parameter.name },
        { offers: [{ do: 'accept', why: 'it is right that it is empty' }] },
      ),
    ]
  })

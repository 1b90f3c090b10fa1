import { ownValue } from '../table/own.ts'
import type { StepResult, TableNames } from '../steps/shared/step-kind.ts'
import type { Schema } from '../table/table.ts'
import { bitmap, isSet, set } from '../table/memory.ts'
import { sentenceText } from '../recipe/step-access.ts'
import type { Step } from '../recipe/recipe.ts'
import { columnLineageOf } from './lineage.ts'

/** What a step did, in figures. Columns renamed: old name to new. */
export type StepStatistics = {
  readonly id: string
  readonly kind: string
  readonly sentence: string
  readonly rowsIn: number
  readonly rowsOut: number
  readonly rowsLeft: number
  readonly rowsCame: number
  readonly columnsAdded: readonly string[]
  readonly columnsDropped: readonly string[]
  readonly columnsRenamed: Readonly<Record<string, string>>
  readonly cellsChanged: number
  readonly unreadable: Readonly<Record<string, number>>
  readonly notes: Readonly<Record<string, number>>
  /** Of a check: whether it holds. */
  readonly check?: {
    readonly passed: boolean
    readonly stop: boolean
    readonly say: string
    readonly figure: number | null
  }
}

/** How many of the rows that went in stand in what came out. */
const keptRows = ({ lineage }: StepResult, rowsIn: number, rowsOut: number): number => {
  if (lineage.kind === 'same') return rowsIn
  if (lineage.kind === 'source') return 0
  if (lineage.kind === 'groups') return Math.min(rowsIn, rowsOut)
  const seen = bitmap(rowsIn)
  let kept = 0
  for (const row of lineage.index) {
    if (row < 0 || isSet(seen, row)) continue
    set(seen, row)
    kept++
  }
  return kept
}

export const statisticsFor = (
  step: Step,
  rowsIn: number,
  input: Schema,
  result: StepResult,
  names: TableNames,
): StepStatistics => {
  const output = result.table.schema
  const columnLineage = columnLineageOf(step, input, output)
  const used = new Set(Object.values(columnLineage))
  const rowsOut = result.table.rowCount
  const kept = keptRows(result, rowsIn, rowsOut)
  const left = rowsIn - kept
  return {
    id: step.id,
    kind: step.kind,
    sentence: sentenceText(step, names),
    rowsIn,
    rowsOut,
    rowsLeft: left,
    rowsCame: rowsOut - kept,
    columnsAdded: output.flatMap(({ name }) => (ownValue(columnLineage, name) === undefined ? [name] : [])),
    columnsDropped: input.flatMap(({ name }) => (used.has(name) ? [] : [name])),
    columnsRenamed: Object.fromEntries(
      Object.entries(columnLineage).flatMap(([next, old]) => (next === old ? [] : [[old, next]])),
    ),
    cellsChanged: result.cellsChanged ?? 0,
    unreadable: Object.fromEntries((result.unreadable ?? []).map(({ column, rows }) => [column, rows.length])),
    notes: result.notes ?? {},
    ...(result.check
      ? {
          check: {
            passed: result.check.passed,
            stop: result.check.stop,
            say: result.check.say,
            figure: result.check.figure,
          },
        }
      : {}),
  }
}

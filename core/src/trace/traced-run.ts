import type { TableRun } from '../engine/run.ts'
import { columnLineageOf } from '../engine/lineage.ts'
import { inOrder, kindOf, openedBy, parameterTypes, paramsOf, tableNames, tablesNeeded } from '../recipe/step-access.ts'
import { takenTables } from '../recipe/used-tables.ts'
import type { Recipe, Step } from '../recipe/recipe.ts'
import type { RowLineage, RunContext, TracedStep, TraceSource } from '../steps/shared/step-kind.ts'
import type { Cell } from '../table/column.ts'
import { ownValue } from '../table/own.ts'
import { noRows, rowsOfGroups, throughIndex, type RowSet } from '../table/row-set.ts'
import { Table } from '../table/table.ts'

/** A finished run that is traced: its recipe, its tables, and what it was run with. */
export type TracedRun = {
  readonly recipe: Recipe
  readonly tables: readonly TableRun[]
  readonly parameters: Readonly<Record<string, Cell>>
  readonly now: number
}

/** A step that ran, with where it stands: `order` counts the steps of all tables in the order of running. */
export type PlacedStep = {
  readonly table: string
  readonly step: Step
  readonly order: number
  /** Its number in its table, from 1. */ readonly number: number
  readonly traced: TracedStep
}

const nothing = Table.of([], [])

const contextOf = ({ recipe, tables, parameters, now }: TracedRun, table: string): RunContext => ({
  parameters,
  parameterTypes: parameterTypes(recipe),
  now,
  opened: (input) => {
    throw new Error(`tracing does not open ${input} again`)
  },
  table: (id) => tables.find((one) => one.id === id)?.table ?? nothing,
  names: tableNames(
    recipe,
    recipe.tables.find(({ id }) => id === table),
  ),
  own: table,
})

/** Rows before a step by its row lineage. */
const backThrough =
  (lineage: RowLineage, before: Table) =>
  (rows: RowSet): RowSet => {
    if (lineage.kind === 'same') return rows
    if (lineage.kind === 'index') return throughIndex(rows, lineage.index, before.rowCount)
    return lineage.kind === 'groups' ? rowsOfGroups(rows, lineage.groups.ids) : noRows
  }

/** The steps of a table that ran, in order; those that are switched off or broken are not among them. */
const placedSteps = (run: TracedRun, table: string, from: number): PlacedStep[] => {
  const ran = run.tables.find(({ id }) => id === table)
  const context = contextOf(run, table)
  let before = nothing
  return (ran?.steps ?? []).flatMap((step, i) => {
    const { result } = step
    if (!result) return []
    const traced: TracedStep = {
      before,
      after: step.table,
      context,
      lineage: result.lineage,
      back: backThrough(result.lineage, before),
    }
    before = step.table
    return [{ table, step: step.step, order: from + i, number: i + 1, traced }]
  })
}

/** Every table of a run with its steps, in the order of running. */
export const placeSteps = (run: TracedRun): ReadonlyMap<string, readonly PlacedStep[]> => {
  let order = 0
  return new Map(
    inOrder(run.recipe).map(({ id, steps }) => {
      const placed = placedSteps(run, id, order)
      order += steps.length
      return [id, placed]
    }),
  )
}

/** The tables that a table takes rows from, itself included, in the order of running. */
export const chainOf = (run: TracedRun, table: string): readonly string[] => {
  const needed = tablesNeeded(run.recipe, table, takenTables)
  return inOrder(run.recipe)
    .map(({ id }) => id)
    .filter((id) => needed.includes(id))
}

/** The input that a step opens. */
export const inputOf = ({ step }: PlacedStep): string | undefined => openedBy(step)?.input

/** Whether a step begins a table with rows of its own: opened, or typed in. */
export const isOrigin = (placed: PlacedStep): boolean =>
  placed.traced.lineage.kind === 'source' && kindOf(placed.step).trace?.rows === undefined

/** What rows after a step were made of. */
export const rowSources = ({ step, traced }: PlacedStep, rows: RowSet): readonly TraceSource[] => {
  const own = kindOf(step).trace?.rows
  return own ? own(paramsOf(step), traced, rows) : [{ rows: traced.back(rows) }]
}

/** What the cells of a column in rows after a step were made of. */
export const cellSources = ({ step, traced }: PlacedStep, column: string, rows: RowSet): readonly TraceSource[] => {
  const own = kindOf(step).trace?.cells?.(paramsOf(step), traced, column, rows)
  if (own) return own
  const from = ownValue(columnLineageOf(step, traced.before.schema, traced.after.schema), column)
  return [{ ...(from === undefined ? {} : { column: from }), rows: traced.back(rows) }]
}

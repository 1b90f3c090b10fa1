import { DataRefused, type RunContext, type StepResult, type TableNames } from '../steps/shared/step-kind.ts'
import { type OpenedInput } from '../reading/table-builder.ts'
import { TooLarge } from '../table/limits.ts'
import { Table, type Schema } from '../table/table.ts'
import type { Cell } from '../table/column.ts'
import { statisticsFor } from './statistics.ts'
import { type StepStatistics } from '../steps/shared/statistics.ts'
import { TablePlanner, type InputSchemas, type Plan, type PlannedTable, type StepState } from './plan.ts'
import {
  inOrder,
  kindOf,
  paramsOf,
  parameterTypes,
  tableNames,
  tablesNeeded,
  openedBy,
  openedInputs,
} from '../recipe/step-access.ts'
import { StepCache, type CachedStep } from './step-cache.ts'
import { usedTables } from '../recipe/used-tables.ts'
import { type Recipe, type RecipeTable, type Step } from '../recipe/recipe.ts'

/** An input as it was opened; `key` names its content, so that equal content is computed once. */
export type OpenedSource = OpenedInput & { readonly key: string }
/** Opens an input as a table. */
export type OpenSource = (input: string, read: unknown) => OpenedSource

/** A step as it ran: its table, result and statistics. */
export type StepRun = {
  readonly step: Step
  readonly state: StepState
  readonly table: Table
  readonly result: StepResult | undefined
  readonly statistics: StepStatistics | undefined
}
/** A table as it ran. */
export type TableRun = {
  readonly id: string
  readonly name: string
  readonly steps: readonly StepRun[]
  /** Undefined where a step is broken. */ readonly table: Table | undefined
}

/** Thrown between steps where `shouldStop` says so. */
export class RunStopped extends Error {}

/** What a run is given beside its recipe. */
export type RunOptions = {
  readonly sources: OpenSource
  readonly parameters: Readonly<Record<string, Cell>>
  /** The wall clock at the start of the run, in milliseconds. */
  readonly now: number
  readonly cache?: StepCache
  /** Steps that are not kept yet, by id: their results, and those of what stands on them, leave the cache first. */
  readonly drafts?: readonly string[]
  /** Stop after this step of this table. */
  readonly until?: { readonly table: string; readonly step: string }
  readonly onStep?: (done: number, of: number, step: Step) => void
  readonly shouldStop?: () => boolean
}

/** The part of the clock that a step reads: the moment where it asks for NOW(), the day for TODAY(), else nothing. */
const momentFor = (step: Step, now: number): number => {
  const text = JSON.stringify(step)
  if (/\bNOW\s*\(/i.test(text)) return now
  return /\bTODAY\s*\(/i.test(text) ? Math.floor(now / 86_400_000) : 0
}
const usesParameter = (step: Step): boolean => /"parameter"|\$/.test(JSON.stringify(step))

/** A text beyond what a string can hold fails while it is put together, before its length can be checked. */
const tooLongText = (error: unknown): string | undefined =>
  error instanceof RangeError && /string length/i.test(error.message)
    ? 'A text longer than a cell can hold would be made. Shorten the texts before this.'
    : undefined

class Run {
  private reported = 0
  private readonly done = new Map<
    string,
    { readonly ran: TableRun; readonly planned: PlannedTable; readonly key: string; readonly draft: boolean }
  >()
  private readonly cache: StepCache
  private readonly recipe: Recipe
  private readonly schemas: InputSchemas
  private readonly options: RunOptions
  constructor(recipe: Recipe, options: RunOptions) {
    this.recipe = recipe
    this.schemas = openedSchemas(recipe, options.sources)
    this.options = options
    this.cache = options.cache ?? new StepCache(0)
  }

  private contextOf(table: RecipeTable): RunContext {
    const { sources, parameters, now } = this.options
    const finished = (id: string): Table => {
      const other = this.done.get(id)?.ran.table
      if (!other) throw new Error(`the table ${id} is not finished`)
      return other
    }
    return {
      parameters,
      parameterTypes: parameterTypes(this.recipe),
      now,
      opened: (input, read) => sources(input, read),
      table: finished,
      names: tableNames(this.recipe, table),
      own: table.id,
    }
  }

  private keyOf(step: Step, above: string, names: TableNames): string {
    const { parameters, now, sources } = this.options
    const params = paramsOf(step)
    const opened = openedBy(step)
    const source = opened ? sources(opened.input, opened.read).key : ''
    const used = usedTables(step)
    const others = used.map((id) => [this.done.get(id)?.key, names(id)])
    const own = used.length > 0 ? names('') : ''
    return this.cache.shortKey(
      JSON.stringify([
        step.kind,
        params,
        above,
        source,
        others,
        own,
        momentFor(step, now),
        usesParameter(step) ? parameters : 0,
      ]),
    )
  }

  /** Whether a step is a draft, or stands on a table that holds one. */
  private isDraft(step: Step): boolean {
    return (
      this.options.drafts?.includes(step.id) === true ||
      usedTables(step).some((id) => this.done.get(id)?.draft === true)
    )
  }

  private step(
    step: Step,
    before: Table,
    above: string,
    context: RunContext,
    draft: boolean,
  ): { entry: CachedStep; key: string } {
    const { cache, shouldStop } = this.options
    const key = this.keyOf(step, above, context.names)
    const known = cache?.get(key, draft)
    if (known) return { entry: { ...known, statistics: { ...known.statistics, id: step.id } }, key }
    if (shouldStop?.()) throw new RunStopped()
    const began = performance.now()
    const result = kindOf(step).run(paramsOf(step), before, context)
    const statistics = statisticsFor(step, before.rowCount, before.schema, result, context.names)
    const made = { result, statistics }
    return { entry: cache?.set(key, made, draft, performance.now() - began) ?? made, key }
  }

  /** Data that a step refuses breaks it, with the reason. */
  private attempt(
    step: Step,
    before: Table,
    above: string,
    context: RunContext,
    planner: TablePlanner,
    draft: boolean,
  ): { entry: CachedStep; key: string } | undefined {
    try {
      return this.step(step, before, above, context, draft)
    } catch (error) {
      const sentence = error instanceof DataRefused || error instanceof TooLarge ? error.message : tooLongText(error)
      if (sentence === undefined) throw error
      planner.refuse(sentence)
      return undefined
    }
  }

  /** Steps are checked as they run, against what really came out of the one before; after `until` they are only checked. */
  table(table: RecipeTable): { readonly ran: TableRun; readonly planned: PlannedTable } {
    const planner = new TablePlanner(
      this.recipe,
      this.schemas,
      table,
      new Map([...this.done].map(([id, { planned }]) => [id, planned])),
    )
    const context = this.contextOf(table)
    let before = Table.of([], [])
    let above = ''
    let reached = false
    let draft = false
    const steps: StepRun[] = []
    const count = this.recipe.tables.reduce((sum, one) => sum + one.steps.length, 0)
    const { until } = this.options
    for (const [i, step] of table.steps.entries()) {
      const { state } = planner.next(step)
      if (reached) continue
      draft ||= this.isDraft(step)
      const done = state === 'fine' ? this.attempt(step, before, above, context, planner, draft) : undefined
      if (done) {
        before = done.entry.result.table
        above = done.key
        planner.observe(before.schema)
        steps.push({ step, state, table: before, result: done.entry.result, statistics: done.entry.statistics })
      } else
        steps.push({
          step,
          state: planner.steps.at(-1)?.state ?? state,
          table: before,
          result: undefined,
          statistics: undefined,
        })
      this.options.onStep?.(++this.reported, count, step)
      reached = until?.table === table.id && until.step === step.id && i < table.steps.length - 1
    }
    const ran: TableRun = {
      id: table.id,
      name: table.name,
      steps,
      table: planner.stopped || reached ? undefined : before,
    }
    const planned: PlannedTable = {
      id: table.id,
      name: table.name,
      steps: planner.steps,
      output: planner.output,
      unsure: planner.unsure,
    }
    this.done.set(table.id, { ran, planned, key: above, draft })
    return { ran, planned }
  }
}

/** What really came in, for the plan: each input's schema as its `open` step made it. */
export const openedSchemas = (recipe: Recipe, sources: OpenSource): InputSchemas =>
  Object.fromEntries(
    openedInputs(recipe).map(({ input, read }): [string, Schema] => [input, sources(input, read).table.schema]),
  )

/** Runs every table, or all up to `until`. Broken steps and those that wait for them do not run; what stands before them does. */
export const runRecipe = (
  recipe: Recipe,
  options: RunOptions,
): { readonly plan: Plan; readonly tables: readonly TableRun[] } => {
  const run = new Run(recipe, options)
  const wanted = options.until ? tablesNeeded(recipe, options.until.table) : recipe.tables.map(({ id }) => id)
  const done = new Map(
    inOrder(recipe)
      .filter(({ id }) => wanted.includes(id))
      .map((table) => [table.id, run.table(table)]),
  )
  const reported = recipe.tables.flatMap(({ id }) => done.get(id) ?? [])
  return {
    plan: { inputs: recipe.inputs, tables: reported.map(({ planned }) => planned) },
    tables: reported.map(({ ran }) => ran),
  }
}

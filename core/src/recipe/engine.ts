import { DataRefused, type OpenedInput, type RunContext, type StepResult, type TableNames } from '../steps/step-kind.ts'
import { Table, type Schema } from '../table/table.ts'
import type { Cell } from '../table/column.ts'
import { accountFor, type Account } from './account.ts'
import { inOrder, kindOf, paramsOf, parameterTypes, TablePlanner, tableNames, tablesNeeded, type InputSchemas, type Plan, type PlannedTable, type StepState } from './plan.ts'
import { usedTables, type Recipe, type RecipeTable, type Step } from './schema.ts'

/** An input as it was opened; `key` names its content, so that equal content is computed once. */
export type Source = OpenedInput & { readonly key: string }
export type Sources = (input: string, read: unknown) => Source

export type RanStep = { readonly step: Step; readonly state: StepState; readonly table: Table; readonly result: StepResult | undefined; readonly account: Account | undefined }
export type RanTable = { readonly id: string; readonly name: string; readonly steps: readonly RanStep[]; /** Undefined where a step is broken. */ readonly table: Table | undefined }

export class Stopped extends Error {}

type Entry = { readonly result: StepResult; readonly account: Account; bytes: number }

/** Results of steps by content: the same step on the same input is never computed twice. The least recently used leave first. */
export class StepCache {
  private readonly entries = new Map<string, Entry>()
  private held = 0
  private readonly maxBytes: number
  constructor(maxBytes = 1.5e9) {
    this.maxBytes = maxBytes
  }
  get(key: string): Entry | undefined {
    const entry = this.entries.get(key)
    if (entry) {
      this.entries.delete(key)
      this.entries.set(key, entry)
    }
    return entry
  }
  set(key: string, result: StepResult, account: Account): Entry {
    const { origin } = result
    const bytes = result.table.bytes + (origin.kind === 'index' ? origin.index.byteLength : origin.kind === 'groups' ? origin.ids.byteLength : 0)
    const entry = { result, account, bytes }
    this.entries.set(key, entry)
    this.held += bytes
    for (const [old, { bytes: size }] of this.entries) {
      if (this.held <= this.maxBytes || old === key) break
      this.entries.delete(old)
      this.held -= size
    }
    return entry
  }
  get size(): number {
    return this.entries.size
  }
}

export type RunOptions = {
  readonly sources: Sources
  readonly parameters: Readonly<Record<string, Cell>>
  /** The wall clock at the start of the run, in milliseconds. */
  readonly now: number
  readonly cache?: StepCache
  /** Stop after this step of this table. */
  readonly until?: { readonly table: string; readonly step: string }
  readonly onStep?: (done: number, of: number, step: Step) => void
  readonly shouldStop?: () => boolean
}

/** A key that says all a result depends on. Long keys are interned as numbers. */
const interned = new Map<string, number>()
const intern = (text: string): string => {
  let known = interned.get(text)
  if (known === undefined) interned.set(text, (known = interned.size))
  return String(known)
}
const usesMoment = (step: Step): boolean => /\b(?:TODAY|NOW)\s*\(/i.test(JSON.stringify(step))
const usesParameter = (step: Step): boolean => /"parameter"|\$/.test(JSON.stringify(step))

class Run {
  private told = 0
  private readonly done = new Map<string, { readonly ran: RanTable; readonly planned: PlannedTable; readonly key: string }>()
  private readonly recipe: Recipe
  private readonly schemas: InputSchemas
  private readonly options: RunOptions
  constructor(recipe: Recipe, options: RunOptions) {
    this.recipe = recipe
    this.schemas = openedSchemas(recipe, options.sources)
    this.options = options
  }

  private contextOf(table: RecipeTable): RunContext {
    const { sources, parameters, now } = this.options
    const finished = (id: string): Table => {
      const other = this.done.get(id)?.ran.table
      if (!other) throw new Error(`the table ${id} is not finished`)
      return other
    }
    return { parameters, parameterTypes: parameterTypes(this.recipe), now, opened: (input, read) => sources(input, read), table: finished, names: tableNames(this.recipe, table), own: table.id }
  }

  private keyOf(step: Step, above: string, names: TableNames): string {
    const { parameters, now, sources } = this.options
    const params = paramsOf(step)
    const source = typeof step.input === 'string' && kindOf(step).start ? sources(step.input, step.read ?? {}).key : ''
    const used = usedTables(step)
    const others = used.map((id) => [this.done.get(id)?.key, names(id)])
    const own = used.length > 0 ? names('') : ''
    return intern(JSON.stringify([step.kind, params, above, source, others, own, usesMoment(step) ? now : 0, usesParameter(step) ? parameters : 0]))
  }

  private step(step: Step, before: Table, above: string, context: RunContext): { entry: Entry; key: string } {
    const key = this.keyOf(step, above, context.names)
    const known = this.options.cache?.get(key)
    if (known) return { entry: { ...known, account: { ...known.account, id: step.id } }, key }
    if (this.options.shouldStop?.()) throw new Stopped()
    const result = kindOf(step).run(paramsOf(step), before, context)
    const account = accountFor(step, before.rowCount, before.schema, result, context.names)
    const entry = this.options.cache?.set(key, result, account) ?? { result, account, bytes: 0 }
    return { entry, key }
  }

  /** Data that a step refuses breaks it, with the reason. */
  private attempt(step: Step, before: Table, above: string, context: RunContext, planner: TablePlanner): { entry: Entry; key: string } | undefined {
    try {
      return this.step(step, before, above, context)
    } catch (error) {
      if (!(error instanceof DataRefused)) throw error
      planner.refused(error.message)
      return undefined
    }
  }

  /** Steps are checked as they run, against what really came out of the one before; after `until` they are only checked. */
  table(table: RecipeTable): { readonly ran: RanTable; readonly planned: PlannedTable } {
    const planner = new TablePlanner(this.recipe, this.schemas, table, new Map([...this.done].map(([id, { planned }]) => [id, planned])))
    const context = this.contextOf(table)
    let before = Table.of([], [])
    let above = ''
    let reached = false
    const steps: RanStep[] = []
    const count = this.recipe.tables.reduce((sum, one) => sum + one.steps.length, 0)
    const { until } = this.options
    for (const [i, step] of table.steps.entries()) {
      const { state } = planner.next(step)
      if (reached) continue
      const done = state === 'fine' ? this.attempt(step, before, above, context, planner) : undefined
      if (done) {
        before = done.entry.result.table
        above = done.key
        planner.came(before.schema)
        steps.push({ step, state, table: before, result: done.entry.result, account: done.entry.account })
      } else steps.push({ step, state: planner.steps.at(-1)?.state ?? state, table: before, result: undefined, account: undefined })
      this.options.onStep?.(++this.told, count, step)
      reached = until?.table === table.id && until.step === step.id && i < table.steps.length - 1
    }
    const ran: RanTable = { id: table.id, name: table.name, steps, table: planner.stopped || reached ? undefined : before }
    const planned: PlannedTable = { id: table.id, name: table.name, steps: planner.steps, output: planner.output, unsure: planner.unsure }
    this.done.set(table.id, { ran, planned, key: above })
    return { ran, planned }
  }
}

/** What really came in, for the plan: each input's schema as its `open` step made it. */
export const openedSchemas = (recipe: Recipe, sources: Sources): InputSchemas =>
  Object.fromEntries(
    recipe.tables.flatMap(({ steps }) =>
      steps.flatMap((step): [string, Schema][] => (kindOf(step).start && typeof step.input === 'string' ? [[step.input, sources(step.input, step.read ?? {}).table.schema]] : [])),
    ),
  )

/** Runs every table, or all up to `until`. Broken steps and those that wait for them do not run; what stands before them does. */
export const runRecipe = (recipe: Recipe, options: RunOptions): { readonly plan: Plan; readonly tables: readonly RanTable[] } => {
  const run = new Run(recipe, options)
  const wanted = options.until ? tablesNeeded(recipe, options.until.table) : recipe.tables.map(({ id }) => id)
  const done = new Map(inOrder(recipe).filter(({ id }) => wanted.includes(id)).map((table) => [table.id, run.table(table)]))
  const told = recipe.tables.flatMap(({ id }) => done.get(id) ?? [])
  return { plan: { inputs: recipe.inputs, tables: told.map(({ planned }) => planned) }, tables: told.map(({ ran }) => ran) }
}

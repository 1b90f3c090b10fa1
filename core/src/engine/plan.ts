import { ownValue } from '../table/own.ts'
import type { CheckContext, DynamicColumns } from '../steps/shared/step-kind.ts'
import type { ColumnType } from '../table/column.ts'
import { maxColumns } from '../table/limits.ts'
import type { Schema } from '../table/table.ts'
import { missingColumn } from '../formula/problems.ts'
import { sentenceOf, type Problem } from '../steps/shared/problems.ts'
import { usedTables } from '../recipe/used-tables.ts'
import { type Recipe, type RecipeTable, type Step } from '../recipe/recipe.ts'
import {
  type NamedPart,
  kindOf,
  paramsOf,
  sentenceText,
  parameterTypes,
  inOrder,
  tableNames,
} from '../recipe/step-access.ts'

/** `waiting`: a step before it is broken. */
export type StepState = 'fine' | 'broken' | 'waiting' | 'off'
/** A step with the schemas before and after it and its problems. */
export type PlannedStep = {
  readonly step: Step
  readonly state: StepState
  readonly input: Schema
  readonly output: Schema
  readonly problems: readonly Problem[]
}
/** A table with its planned steps; `output` is undefined where one is broken. */
export type PlannedTable = {
  readonly id: string
  readonly name: string
  readonly steps: readonly PlannedStep[]
  readonly output: Schema | undefined
  /** Only data can tell all its columns. */ readonly unsure: boolean
}
/** Every table of a recipe, planned. */
export type Plan = { readonly inputs: readonly NamedPart[]; readonly tables: readonly PlannedTable[] }

/** An input whose columns nobody has written down cannot be checked; `schemas` tells what really came, where known. */
export type InputSchemas = Readonly<Record<string, Schema | undefined>>
/** The schemas of inputs as the recipe lists them. */
export const writtenSchemas = (recipe: Recipe): InputSchemas =>
  Object.fromEntries(recipe.inputs.map(({ id, columns }) => [id, columns]))

/** The column that a problem says is missing. */
const missingIn = (problem: Problem): string | undefined => {
  if (problem.code === 'missing-column') return problem.column
  if (problem.code === 'formula') return missingColumn(problem.problem)
  return undefined
}

type CheckedStep = { readonly input: Schema; readonly output: Schema; readonly problems: readonly Problem[] }

/** Columns of another table that only data can tell. */
const ofAnyType: DynamicColumns = () => ['text', 'integer', 'decimal', 'boolean', 'date', 'datetime', 'time', 'list']

/**
 * One step against the schema before it. Where columns may come that only data can tell (`open` says their types), those
 * that the step names are taken to be there, each with the first type that leaves the fewest problems.
 */
const checkStep = (
  step: Step,
  input: Schema,
  open: DynamicColumns | undefined,
  dynamicTypes: readonly string[],
  context: Omit<CheckContext, 'report'>,
): CheckedStep => {
  const problems: Problem[] = []
  const output = kindOf(step).output(paramsOf(step), input, {
    ...context,
    report: (problem, ...path) => problems.push({ ...problem, path } as Problem),
  })
  if (
    open !== undefined &&
    problems.length > 0 &&
    problems.every(({ code }) => code === 'no-columns-chosen' || code === 'no-columns-left')
  )
    return { input, output, problems: [] }
  if (problems.length > 0 && dynamicTypes.some((name) => input.some((field) => field.name === name)))
    for (const type of ['integer', 'decimal', 'boolean'] as const) {
      const tried = checkStep(
        step,
        input.map((field) => (dynamicTypes.includes(field.name) ? { name: field.name, type } : field)),
        open,
        [],
        context,
      )
      if (tried.problems.length === 0) return tried
    }
  const believed =
    open === undefined
      ? []
      : [...new Set(problems.flatMap((problem) => missingIn(problem) ?? []))].filter(
          (name) => !input.some((field) => field.name === name),
        )
  if (open === undefined || believed.length === 0) return { input, output, problems }
  const check = (types: readonly ColumnType[]): CheckedStep =>
    checkStep(
      step,
      [...input, ...believed.map((name, i) => ({ name, type: types[i] ?? 'text' }))],
      open,
      dynamicTypes,
      context,
    )
  let types: readonly ColumnType[] = believed.map((name) => open(name)[0])
  let best = check(types)
  for (const [i, name] of believed.entries())
    for (const type of open(name).slice(1)) {
      if (best.problems.length === 0) return best
      const tried = check(types.with(i, type))
      if (tried.problems.length >= best.problems.length) continue
      best = tried
      types = types.with(i, type)
    }
  return best
}

/** Tables that were planned before, by id. */
type PlannedOthers = ReadonlyMap<string, PlannedTable>

/** A table's steps checked one after the other; where data is at hand, the schema that came out of a step is reported before the next is checked. */
export class TablePlanner {
  readonly steps: PlannedStep[] = []
  private schema: Schema = []
  private open: DynamicColumns | undefined
  private dynamicTypes: readonly string[] = []
  stopped = false
  private readonly context: Omit<CheckContext, 'report'>
  private readonly others: PlannedOthers
  constructor(recipe: Recipe, schemas: InputSchemas, table: RecipeTable, others: PlannedOthers) {
    this.others = others
    this.context = {
      parameters: parameterTypes(recipe),
      inputColumns: (input) => ownValue(schemas, input),
      tableColumns: (id) => others.get(id)?.output ?? [],
      tableUnsure: (id) => others.get(id)?.unsure ?? false,
      names: tableNames(recipe, table),
      own: table.id,
    }
  }
  next(step: Step): PlannedStep {
    const planned = this.plan(step)
    this.steps.push(planned)
    return planned
  }
  private plan(step: Step): PlannedStep {
    const { schema } = this
    if (step.off || this.stopped)
      return { step, state: step.off ? 'off' : 'waiting', input: schema, output: schema, problems: [] }
    const used = usedTables(step)
    if (used.some((id) => this.others.get(id)?.output === undefined)) {
      this.stopped = true
      return { step, state: 'waiting', input: schema, output: schema, problems: [] }
    }
    const open = this.open ?? (used.some((id) => this.others.get(id)?.unsure) ? ofAnyType : undefined)
    const { input, output, problems: found } = checkStep(step, schema, open, this.dynamicTypes, this.context)
    const problems: readonly Problem[] =
      output.length > maxColumns
        ? [{ code: 'too-many-columns', columns: output.length, most: maxColumns, path: [] }]
        : found
    if (problems.length > 0) {
      this.stopped = true
      return { step, state: 'broken', input, output: input, problems }
    }
    this.schema = output
    this.open = kindOf(step).dynamicColumns?.(paramsOf(step), input) ?? open
    this.dynamicTypes = [...this.dynamicTypes, ...(kindOf(step).dynamicTypes?.(paramsOf(step)) ?? [])]
    return { step, state: 'fine', input, output, problems }
  }
  /** The schema that came out of the step reported last. */
  observe(schema: Schema): void {
    this.schema = schema
    this.open = undefined
    this.dynamicTypes = []
    const last = this.steps.at(-1)
    if (last) this.steps[this.steps.length - 1] = { ...last, output: schema }
  }
  /** The data was refused at the step reported last. */
  refuse(sentence: string): void {
    this.stopped = true
    const last = this.steps.at(-1)
    if (last)
      this.steps[this.steps.length - 1] = {
        ...last,
        state: 'broken',
        output: last.input,
        problems: [{ code: 'refused-data', sentence, path: [] }],
      }
  }
  /** Whether the schema holds columns that are only believed, or lacks some. */
  get unsure(): boolean {
    return this.open !== undefined || this.dynamicTypes.length > 0
  }
  get output(): Schema | undefined {
    return this.stopped ? undefined : this.schema
  }
}

const planTable = (
  table: RecipeTable,
  recipe: Recipe,
  schemas: InputSchemas,
  others: PlannedOthers,
  seen: SeenSchemas,
): PlannedTable => {
  const planner = new TablePlanner(recipe, schemas, table, others)
  for (const step of table.steps) {
    const { state } = planner.next(step)
    const columns = ownValue(seen, step.id)
    if (state === 'fine' && planner.unsure && columns) planner.observe(columns)
  }
  return { id: table.id, name: table.name, steps: planner.steps, output: planner.output, unsure: planner.unsure }
}

/** What came out of steps when data was last at hand, by the steps' ids: for those whose columns only data can tell. */
export type SeenSchemas = Readonly<Record<string, Schema | undefined>>

/** Which steps hold, which are broken and why, and what schema stands after each. Needs no data. */
export const planRecipe = (
  recipe: Recipe,
  schemas: InputSchemas = writtenSchemas(recipe),
  seen: SeenSchemas = {},
): Plan => {
  const planned = new Map<string, PlannedTable>()
  for (const table of inOrder(recipe)) planned.set(table.id, planTable(table, recipe, schemas, planned, seen))
  return { inputs: recipe.inputs, tables: recipe.tables.flatMap(({ id }) => planned.get(id) ?? []) }
}

/** A problem with its step and its place in the recipe’s JSON. */
export type BrokenStep = {
  readonly table: string
  readonly step: Step
  readonly problem: Problem
  readonly where: string
  readonly sentence: string
}

/** Every problem of a plan, with its place in the recipe's JSON. */
export const brokenSteps = (plan: Plan): BrokenStep[] =>
  plan.tables.flatMap((table, t) =>
    table.steps.flatMap(({ step, problems }, s) =>
      problems.map((problem) => ({
        table: table.id,
        step,
        problem,
        where: [
          '$.tables',
          `[${t}]`,
          '.steps',
          `[${s}]`,
          ...problem.path.map((part) => (typeof part === 'number' ? `[${part}]` : `.${part}`)),
        ].join(''),
        sentence: `${table.name} ${s + 1} (${sentenceText(step, tableNames(plan)).replace(/\.$/, '')}): ${sentenceOf(problem)}`,
      })),
    ),
  )

/** Whether only data can tell all columns of a recipe or their types. */
export const needsData = (recipe: Recipe): boolean =>
  recipe.tables.some(({ steps }) =>
    steps.some(
      (step) =>
        !step.off &&
        (kindOf(step).dynamicColumns?.(paramsOf(step), []) !== undefined || kindOf(step).dynamicTypes !== undefined),
    ),
  )

/** Why data was refused, each with its step; nothing may be written then. */
export const refusals = (plan: Plan): BrokenStep[] =>
  brokenSteps(plan).filter(({ problem }) => problem.code === 'refused-data')

import { kindNamed } from '../steps/index.ts'
import type { CheckContext, Sentence, StepKind } from '../steps/step-kind.ts'
import type { Schema } from '../table/table.ts'
import { sentenceOf, type Problem } from '../words.ts'
import type { Recipe, RecipeTable, Step } from './schema.ts'

export type StepState = 'fine' | 'broken' | 'waiting' | 'off'
export type PlannedStep = {
  readonly step: Step
  readonly state: StepState
  readonly input: Schema
  readonly output: Schema
  readonly problems: readonly Problem[]
}
export type PlannedTable = { readonly id: string; readonly name: string; readonly steps: readonly PlannedStep[]; readonly output: Schema | undefined }
export type Plan = { readonly tables: readonly PlannedTable[] }

export const kindOf = (step: Step): StepKind<unknown> => {
  const kind = kindNamed(step.kind)
  if (!kind) throw new Error(`no step kind ${step.kind}`)
  return kind
}

/** The step's own params, without what every step may carry. */
export const paramsOf = ({ id: _id, kind: _kind, note: _note, off: _off, ...params }: Step): unknown => params

export const sentenceFor = (step: Step): Sentence => kindOf(step).sentence(paramsOf(step))
export const sentenceText = (step: Step): string =>
  sentenceFor(step)
    .map((part) => (typeof part === 'string' ? part : part.text))
    .join('')

export const parameterTypes = (recipe: Recipe) => Object.fromEntries((recipe.parameters ?? []).map(({ name, type }) => [name, type]))

/** An input whose columns nobody has written down cannot be checked; `schemas` tells what really came, where known. */
export type InputSchemas = Readonly<Record<string, Schema | undefined>>
export const writtenSchemas = (recipe: Recipe): InputSchemas => Object.fromEntries(recipe.inputs.map(({ id, columns }) => [id, columns]))

const planTable = (table: RecipeTable, recipe: Recipe, schemas: InputSchemas): PlannedTable => {
  const parameters = parameterTypes(recipe)
  let schema: Schema = []
  let stopped = false
  const steps = table.steps.map((step): PlannedStep => {
    if (step.off) return { step, state: 'off', input: schema, output: schema, problems: [] }
    if (stopped) return { step, state: 'waiting', input: schema, output: schema, problems: [] }
    const problems: Problem[] = []
    const context: CheckContext = { parameters, report: (problem, ...path) => problems.push({ ...problem, path } as Problem), inputColumns: (input) => schemas[input] }
    const input = schema
    const output = kindOf(step).output(paramsOf(step), input, context)
    if (problems.length > 0) {
      stopped = true
      return { step, state: 'broken', input, output: input, problems }
    }
    schema = output
    return { step, state: 'fine', input, output, problems }
  })
  return { id: table.id, name: table.name, steps, output: stopped ? undefined : schema }
}

/** Which steps hold, which are broken and why, and what schema stands after each. Needs no data. */
export const planRecipe = (recipe: Recipe, schemas: InputSchemas = writtenSchemas(recipe)): Plan => ({ tables: recipe.tables.map((table) => planTable(table, recipe, schemas)) })

export type Broken = { readonly table: string; readonly step: Step; readonly problem: Problem; readonly where: string; readonly sentence: string }

/** Every problem of a plan, with its place in the recipe's JSON. */
export const brokenSteps = (plan: Plan): Broken[] =>
  plan.tables.flatMap((table, t) =>
    table.steps.flatMap(({ step, problems }, s) =>
      problems.map((problem) => ({
        table: table.id,
        step,
        problem,
        where: ['$.tables', `[${t}]`, '.steps', `[${s}]`, ...problem.path.map((part) => (typeof part === 'number' ? `[${part}]` : `.${part}`))].join(''),
        sentence: `Step ${step.id} (${sentenceText(step).replace(/\.$/, '')}): ${sentenceOf(problem)}`,
      })),
    ),
  )

/** Inputs that a table needs: those its own steps open. */
export const inputsOf = (table: RecipeTable): string[] => table.steps.flatMap((step) => (typeof step.input === 'string' && kindOf(step).start ? [step.input] : []))

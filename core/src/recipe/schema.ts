import { z } from 'zod'
import { stepKinds } from '../steps/index.ts'
import type { StepKind } from '../steps/step-kind.ts'
import { columnTypes, scalarTypes } from '../table/column.ts'
import { name } from '../steps/names.ts'
import { capital, nearest, quoted } from '../words.ts'
import { fileClashes, outputSchema, type Output } from './outputs.ts'

const id = z.string().regex(/^[a-z][a-z0-9-]*$/, 'an id is small letters, digits and hyphens, a letter first')
const cellValue = z.union([z.string(), z.number(), z.boolean(), z.null()])

const common = { id, note: z.string().optional(), off: z.boolean().optional() }

/** Each kind's params under its name, with what every step may carry. */
const stepSchemas = Object.entries(stepKinds).flatMap(([kind, { params }]) => {
  const shapes: readonly z.ZodObject[] = params instanceof z.ZodUnion ? (params.options as readonly z.ZodObject[]) : [params as unknown as z.ZodObject]
  return shapes.map((shape) => shape.extend({ ...common, kind: z.literal(kind) }))
})
const stepSchema = z.union(stepSchemas as unknown as readonly [z.ZodObject, z.ZodObject])

export type Step = { readonly id: string; readonly kind: string; readonly note?: string; readonly off?: boolean; readonly [param: string]: unknown }

const parameterSchema = z.strictObject({ name, type: z.enum(scalarTypes), value: cellValue.optional() })
const fieldSchema = z.strictObject({ name, type: z.enum(columnTypes) })
const inputSchema = z.strictObject({ id, name, files: z.string().optional(), columns: z.array(fieldSchema.extend({ /** Other names by which this column may come. */ also: z.array(name).min(1).optional() })).optional() })
const tableSchema = z.strictObject({ id, name, steps: z.array(stepSchema).min(1) })
export const recipeSchema = z
  .strictObject({
    fabula: z.literal(1),
    name,
    about: z.string().optional(),
    parameters: z.array(parameterSchema).optional(),
    inputs: z.array(inputSchema),
    tables: z.array(tableSchema).min(1),
    outputs: z.array(outputSchema).optional(),
  })
  .meta({ id: 'Recipe', title: 'Fabula recipe, version 1' })

export type Parameter = z.infer<typeof parameterSchema>
export type Input = z.infer<typeof inputSchema>
export type RecipeTable = { readonly id: string; readonly name: string; readonly steps: readonly Step[] }
export type Recipe = {
  readonly fabula: 1
  readonly name: string
  readonly about?: string
  readonly parameters?: readonly Parameter[]
  readonly inputs: readonly Input[]
  readonly tables: readonly RecipeTable[]
  readonly outputs?: readonly Output[]
}

/** The tables that a step needs; none where it is switched off. */
export const usedTables = ({ id: _id, kind, note: _note, off, ...params }: Step): readonly string[] => (off ? [] : ((stepKinds[kind as keyof typeof stepKinds] as unknown as StepKind<unknown>).uses?.(params) ?? []))

/** What is wrong with a recipe, and where: a JSON path such as $.tables[0].steps[2].columns. */
export type RecipeFault = { readonly where: string; readonly sentence: string }
export type ReadRecipe = { readonly recipe: Recipe } | { readonly faults: readonly RecipeFault[] }

const pathText = (path: readonly PropertyKey[]): string => path.reduce<string>((text, part) => (typeof part === 'number' ? `${text}[${part}]` : `${text}.${String(part)}`), '$')

/** A step is told apart by its kind first, so that what is said is about that kind alone. */
const stepFaults = (step: unknown, path: readonly PropertyKey[]): RecipeFault[] => {
  const kind = typeof step === 'object' && step !== null && 'kind' in step ? step.kind : undefined
  if (typeof kind !== 'string' || !Object.hasOwn(stepKinds, kind)) {
    const near = typeof kind === 'string' ? nearest(kind, Object.keys(stepKinds)) : []
    return [{ where: pathText([...path, 'kind']), sentence: `${kind === undefined ? 'The step has no kind' : `There is no step kind ${quoted(String(kind))}`}; expected ${near.length > 0 ? near.map(quoted).join(' or ') : `one of ${Object.keys(stepKinds).join(', ')}`}.` }]
  }
  const tries = stepSchemas.filter((schema) => schema.shape.kind?.safeParse(kind).success).map((schema) => schema.safeParse(step))
  if (tries.some((result) => result.success)) return []
  const closest = tries.flatMap((result) => (result.success ? [] : [result.error.issues])).sort((a, b) => a.length - b.length)[0] ?? []
  return closest.flatMap((issue) => issueFaults(issue, path))
}

const issueFaults = (issue: z.core.$ZodIssue, above: readonly PropertyKey[]): RecipeFault[] => {
  const path = [...above, ...issue.path]
  if (issue.code === 'unrecognized_keys') return issue.keys.map((key) => ({ where: pathText([...path, key]), sentence: `${quoted(key)} is not a key known here.` }))
  if (issue.code === 'invalid_union') {
    const best = [...issue.errors].sort((a, b) => depth(b) - depth(a) || a.length - b.length)[0]
    if (best && depth(best) > 0) return best.flatMap((inner) => issueFaults(inner, path))
    const expected = [...new Set(issue.errors.flat().flatMap((one) => ('expected' in one ? [String(one.expected)] : 'values' in one ? [one.values.map(String).join(' or ')] : [])))]
    return [{ where: pathText(path), sentence: expected.length > 0 ? `This value does not fit here; expected ${expected.join(' or ')}.` : 'This value does not fit here.' }]
  }
  const message = issue.message.replace(/^Invalid input: /, '').replace(/^Invalid option: /, '')
  return [{ where: pathText(path), sentence: `${capital(message)}.` }]
}
const depth = (issues: readonly z.core.$ZodIssue[]): number => Math.max(0, ...issues.map((issue) => issue.path.length))

const twice = (ids: readonly { readonly id: string; readonly where: string }[], what: string): RecipeFault[] =>
  ids.flatMap(({ id: one, where }, i) => (ids.findIndex((other) => other.id === one) === i ? [] : [{ where, sentence: `The ${what} id ${quoted(one)} is used twice.` }]))

/** What no schema says: ids that are unique, starts that come first, tables and parameters that exist. */
const consistency = (recipe: Recipe): RecipeFault[] => [
  ...twice(recipe.inputs.map(({ id: one }, i) => ({ id: one, where: `$.inputs[${i}].id` })), 'input'),
  ...twice(recipe.tables.map(({ id: one }, i) => ({ id: one, where: `$.tables[${i}].id` })), 'table'),
  ...twice(recipe.tables.flatMap(({ steps }, t) => steps.map((step, s) => ({ id: step.id, where: `$.tables[${t}].steps[${s}].id` }))), 'step'),
  ...twice((recipe.parameters ?? []).map(({ name: one }, i) => ({ id: one, where: `$.parameters[${i}].name` })), 'parameter'),
  ...recipe.inputs.flatMap(({ columns = [] }, i) => twice(columns.map(({ name: one }, c) => ({ id: one, where: `$.inputs[${i}].columns[${c}].name` })), 'column')),
  ...recipe.tables.flatMap(({ id: id_, steps }, t) =>
    steps.flatMap((step, s) => {
      const where = `$.tables[${t}].steps[${s}]`
      const start = stepKinds[step.kind as keyof typeof stepKinds].start === true
      if (s === 0 && !start) return [{ where, sentence: 'The first step of a table must be a start, such as “open”.' }]
      if (s > 0 && start) return [{ where, sentence: `“${step.kind}” can only be the first step of a table.` }]
      if (s === 0 && step.off) return [{ where: `${where}.off`, sentence: 'The first step of a table cannot be switched off.' }]
      const unknown = usedTables(step).filter((one) => !recipe.tables.some((other) => other.id === one))
      if (unknown.length > 0) return unknown.map((one) => ({ where, sentence: `There is no table ${quoted(one)}; expected ${recipe.tables.filter(({ id: own }) => own !== id_).map((other) => quoted(other.id)).join(' or ') || 'another table to be in the recipe'}.` }))
      const input = step.input
      return typeof input === 'string' && !recipe.inputs.some((one) => one.id === input) ? [{ where: `${where}.input`, sentence: `There is no input ${quoted(input)}; expected ${recipe.inputs.map((one) => quoted(one.id)).join(' or ') || 'one to be listed under inputs'}.` }] : []
    }),
  ),
  ...circles(recipe),
  ...(recipe.outputs ?? []).flatMap(({ table }, i) => (recipe.tables.some((one) => one.id === table) ? [] : [{ where: `$.outputs[${i}].table`, sentence: `There is no table ${quoted(table)}.` }])),
  ...fileClashes(recipe.outputs ?? []).map(({ at, sentence }) => ({ where: `$.outputs[${at}].file`, sentence })),
]

/** Tables that use each other, however indirectly, told once for each circle. */
const circles = (recipe: Recipe): RecipeFault[] => {
  const told = new Set<string>()
  const uses = (id_: string): string[] => [...new Set(recipe.tables.find((table) => table.id === id_)?.steps.flatMap(usedTables) ?? [])]
  const walk = (path: readonly string[]): RecipeFault[] =>
    uses(path.at(-1) ?? '').flatMap((next): RecipeFault[] => {
      const from = path.indexOf(next)
      if (from < 0) return walk([...path, next])
      const circle = path.slice(from)
      const key = [...circle].sort().join(' ')
      if (told.has(key)) return []
      told.add(key)
      return [{ where: `$.tables[${recipe.tables.findIndex((table) => table.id === next)}]`, sentence: circle.length === 1 ? `The table ${quoted(next)} uses itself.` : `The tables ${[...circle, next].map(quoted).join(', ')} use each other in a circle. A table can only use tables that do not need it.` }]
    })
  return recipe.tables.flatMap((table) => walk([table.id]))
}

const looksLikeRecipe = (data: unknown): data is { fabula?: unknown; tables?: unknown } => typeof data === 'object' && data !== null && !Array.isArray(data)

/** Data held against the recipe's one definition; every fault at once. */
export const readRecipe = (data: unknown): ReadRecipe => {
  if (!looksLikeRecipe(data)) return { faults: [{ where: '$', sentence: 'A recipe is one JSON object.' }] }
  if (data.fabula !== 1) return { faults: [{ where: '$.fabula', sentence: data.fabula === undefined ? 'This is not a Fabula recipe: the key “fabula” is missing; expected 1.' : `This recipe is of version ${String(data.fabula)}; expected 1.` }] }
  const parsed = recipeSchema.safeParse(data)
  if (!parsed.success) {
    const faults = parsed.error.issues.flatMap((issue) => {
      const [first, t, steps, s] = issue.path
      if (first === 'tables' && steps === 'steps' && typeof t === 'number' && typeof s === 'number') {
        const table = Array.isArray(data.tables) ? (data.tables[t] as { steps?: unknown[] }) : undefined
        return stepFaults(table?.steps?.[s], ['tables', t, 'steps', s])
      }
      return issueFaults(issue, [])
    })
    return { faults: faults.filter(({ where }, i) => faults.findIndex((other) => other.where === where) === i) }
  }
  const recipe = data as unknown as Recipe
  const faults = consistency(recipe)
  return faults.length > 0 ? { faults } : { recipe }
}

/** Text to a recipe: where the JSON itself is broken, that is said. */
export const parseRecipe = (text: string): ReadRecipe => {
  try {
    return readRecipe(JSON.parse(text.replace(/^\ufeff/, '')))
  } catch (error) {
    return { faults: [{ where: '$', sentence: `This file is not JSON: ${error instanceof Error ? error.message : String(error)}.` }] }
  }
}

const order = ['fabula', 'name', 'about', 'parameters', 'inputs', 'tables', 'outputs', 'id', 'kind', 'type']
const rank = (key: string): number => (order.includes(key) ? order.indexOf(key) : order.length)

/** JSON with keys in one stable order, so that two equal recipes are equal files. */
export const writeRecipe = (recipe: Recipe): string => {
  const sorted = (value: unknown, inRecord: boolean): unknown => {
    if (Array.isArray(value)) return value.map((one) => sorted(one, false))
    if (typeof value !== 'object' || value === null) return value
    const entries = Object.entries(value).filter(([, one]) => one !== undefined)
    const ordered = inRecord ? entries : entries.map((entry, i) => ({ entry, i })).sort((a, b) => rank(a.entry[0]) - rank(b.entry[0]) || a.i - b.i).map(({ entry }) => entry)
    return Object.fromEntries(ordered.map(([key, one]) => [key, sorted(one, key === 'names' || key === 'types')]))
  }
  return `${JSON.stringify(sorted(recipe, false), null, 2)}\n`
}

/** The JSON Schema of a recipe, made from the one definition. */
export const recipeJsonSchema = () => z.toJSONSchema(recipeSchema, { io: 'input' })

import { z } from 'zod'
import { stepKinds } from '../steps/index.ts'
import { name } from '../reading/name-schema.ts'
import { capital, nearest, quoted } from '../messages/words.ts'
import { consistencyFaults, kindNames, limitFaults } from './consistency.ts'
import { outputSchema } from './outputs.ts'
import { id, parameterSchema, inputSchema, type Recipe, type RecipeFault, type ReadRecipe } from './recipe.ts'

const common = { id, note: z.string().optional(), off: z.boolean().optional() }

/** Each kind's params under its name, with what every step may carry. */
const stepSchemas = Object.entries(stepKinds).flatMap(([kind, { params }]) => {
  const shapes = params instanceof z.ZodUnion ? params.options : [params]
  return shapes.map((shape) => shape.extend({ ...common, kind: z.literal(kind) }))
})
const schemasOfKind = new Map(
  kindNames.map((kind) => [kind, stepSchemas.filter(({ shape }) => shape.kind?.safeParse(kind).success)]),
)
const stepSchema = z.union(stepSchemas)
const tableSchema = z.strictObject({ id, name, steps: z.array(stepSchema).min(1) })
/** The one schema of recipes; docs/recipe.schema.json is written from it. */
export const recipeSchema = z
  .strictObject({
    $schema: z.string().optional(),
    fabula: z.literal(1),
    name,
    about: z.string().optional(),
    parameters: z.array(parameterSchema).optional(),
    inputs: z.array(inputSchema),
    tables: z.array(tableSchema).min(1),
    outputs: z.array(outputSchema).optional(),
  })
  .meta({ id: 'Recipe', title: 'Fabula recipe, version 1' })

const pathText = (path: readonly PropertyKey[]): string =>
  path.reduce<string>((text, part) => (typeof part === 'number' ? `${text}[${part}]` : `${text}.${String(part)}`), '$')

/** A step is discriminated by its kind first, so that faults are about that kind alone. */
const stepFaults = (step: unknown, path: readonly PropertyKey[]): RecipeFault[] => {
  const kind = typeof step === 'object' && step !== null && 'kind' in step ? step.kind : undefined
  const schemas = typeof kind === 'string' ? schemasOfKind.get(kind) : undefined
  if (!schemas) {
    const near = typeof kind === 'string' ? nearest(kind.slice(0, 60), kindNames) : []
    return [
      {
        where: pathText([...path, 'kind']),
        sentence: `${kind === undefined ? 'The step has no kind' : `There is no step kind ${quoted(String(kind))}`}; expected ${near.length > 0 ? near.map(quoted).join(' or ') : `one of ${kindNames.join(', ')}`}.`,
      },
    ]
  }
  const tries = schemas.map((schema) => schema.safeParse(step))
  if (tries.some((result) => result.success)) return []
  const closest =
    tries.flatMap((result) => (result.success ? [] : [result.error.issues])).sort((a, b) => a.length - b.length)[0] ??
    []
  return closest.flatMap((issue) => issueFaults(issue, path))
}

const issueFaults = (issue: z.core.$ZodIssue, above: readonly PropertyKey[]): RecipeFault[] => {
  const path = [...above, ...issue.path]
  if (issue.code === 'unrecognized_keys')
    return issue.keys.map((key) => ({
      where: pathText([...path, key]),
      sentence: `${quoted(key)} is not a key known here.`,
    }))
  if (issue.code === 'invalid_union') {
    const best = [...issue.errors].sort((a, b) => depth(b) - depth(a) || a.length - b.length)[0]
    if (best && depth(best) > 0) return best.flatMap((inner) => issueFaults(inner, path))
    const expected = [
      ...new Set(
        issue.errors.flat().flatMap((one) => {
          if ('expected' in one) return [String(one.expected)]
          if ('values' in one) return [one.values.map(String).join(' or ')]
          return []
        }),
      ),
    ]
    return [
      {
        where: pathText(path),
        sentence:
          expected.length > 0
            ? `This value does not fit here; expected ${expected.join(' or ')}.`
            : 'This value does not fit here.',
      },
    ]
  }
  const message = issue.message.replace(/^Invalid input: /, '').replace(/^Invalid option: /, '')
  return [{ where: pathText(path), sentence: `${capital(message)}.` }]
}
const depth = (issues: readonly z.core.$ZodIssue[]): number => Math.max(0, ...issues.map((issue) => issue.path.length))

/** A recipe without its steps, which are checked by their kinds: a union of all kinds would try each in turn. */
const frameSchema = recipeSchema.extend({
  tables: z.array(tableSchema.extend({ steps: z.array(z.unknown()).min(1) })).min(1),
})

/** Deeper than this no recipe needs to be; what checks one has a stack of limited depth. */
const mostDepth = 100

/** Whether data nests deeper than so many levels; walked level by level, not by recursion. */
const nestsDeeper = (data: unknown, most: number): boolean => {
  let level: readonly unknown[] = [data]
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > most) return true
    level = level.flatMap((value): readonly unknown[] =>
      typeof value === 'object' && value !== null ? Object.values(value) : [],
    )
  }
  return false
}

const looksLikeRecipe = (data: unknown): data is { readonly [key: string]: unknown } =>
  typeof data === 'object' && data !== null && !Array.isArray(data)

/** Data held against the recipe's one definition; every fault at once. */
export const readRecipe = (data: unknown): ReadRecipe => {
  if (!looksLikeRecipe(data)) return { faults: [{ where: '$', sentence: 'A recipe is one JSON object.' }] }
  if (data.fabula !== 1)
    return {
      faults: [
        {
          where: '$.fabula',
          sentence:
            data.fabula === undefined
              ? 'This is not a Fabula recipe: the key “fabula” is missing; expected 1.'
              : `This recipe is of version ${String(data.fabula)}; expected 1.`,
        },
      ],
    }
  const faults = shapeFaults(data)
  if (!hasRecipeShape(data, faults)) return { faults }
  const inconsistent = consistencyFaults(data)
  return inconsistent.length > 0 ? { faults: inconsistent } : { recipe: data }
}

/** What keeps data from having the form of a recipe: too much of something, or keys and values that do not belong. */
const shapeFaults = (data: { readonly [key: string]: unknown }): readonly RecipeFault[] => {
  const limits = limitFaults(data)
  if (limits.length > 0) return limits
  if (nestsDeeper(data, mostDepth))
    return [
      {
        where: '$',
        sentence: `Something in this recipe nests more than ${mostDepth} levels deep. Take it apart into several sentences.`,
      },
    ]
  const frame = frameSchema.safeParse(data)
  const tables = Array.isArray(data.tables) ? (data.tables as readonly ({ readonly steps?: unknown } | null)[]) : []
  const steps = tables.map((table) => (Array.isArray(table?.steps) ? (table.steps as readonly unknown[]) : []))
  const all = [
    ...(frame.error?.issues ?? []).flatMap((issue) => issueFaults(issue, [])),
    ...steps.flatMap((list, t) => list.flatMap((step, s) => stepFaults(step, ['tables', t, 'steps', s]))),
  ]
  const where = new Set<string>()
  return all.filter((fault) => !where.has(fault.where) && where.add(fault.where))
}

/** Data in which `shapeFaults` found nothing is a recipe. */
const hasRecipeShape = (_data: unknown, faults: readonly RecipeFault[]): _data is Recipe => faults.length === 0

/** A recipe in a request or reply; tables that a draft names and that are not there yet are the plan's to tell. */
export const recipeValue: z.ZodType<Recipe> = z.unknown().transform((data, context) => {
  const faults = looksLikeRecipe(data) ? shapeFaults(data) : [{ where: '$', sentence: 'A recipe is one JSON object.' }]
  if (hasRecipeShape(data, faults)) return data
  for (const { where, sentence } of faults.slice(0, 3))
    context.addIssue({ code: 'custom', message: `${sentence} (${where})` })
  return z.NEVER
})

/** Text to a recipe: where the JSON itself is broken, that is said. */
export const parseRecipe = (text: string): ReadRecipe => {
  try {
    return readRecipe(JSON.parse(text.replace(/^\ufeff/, '')))
  } catch (error) {
    return {
      faults: [
        { where: '$', sentence: `This file is not JSON: ${error instanceof Error ? error.message : String(error)}.` },
      ],
    }
  }
}

const order = ['$schema', 'fabula', 'name', 'about', 'parameters', 'inputs', 'tables', 'outputs', 'id', 'kind', 'type']
const rank = (key: string): number => (order.includes(key) ? order.indexOf(key) : order.length)

/** JSON with keys in one stable order, so that two equal recipes are equal files. */
export const writeRecipe = (recipe: Recipe): string => {
  const sorted = (value: unknown, inRecord: boolean): unknown => {
    if (Array.isArray(value)) return value.map((one) => sorted(one, false))
    if (typeof value !== 'object' || value === null) return value
    const entries = Object.entries(value).filter(([, one]) => one !== undefined)
    const ordered = inRecord
      ? entries
      : entries
          .map((entry, i) => ({ entry, i }))
          .sort((a, b) => rank(a.entry[0]) - rank(b.entry[0]) || a.i - b.i)
          .map(({ entry }) => entry)
    return Object.fromEntries(ordered.map(([key, one]) => [key, sorted(one, key === 'names' || key === 'types')]))
  }
  return `${JSON.stringify(sorted(recipe, false), null, 2)}\n`
}

/** The JSON Schema of a recipe, made from the one definition. */
export const recipeJsonSchema = () => z.toJSONSchema(recipeSchema, { io: 'input' })

import { openedBy } from './step-access.ts'
import { kindNamed, stepKinds } from '../steps/index.ts'
import { counted, figure, quoted } from '../messages/words.ts'
import { fileClashes } from './outputs.ts'
import type { Recipe, RecipeFault } from './recipe.ts'
import { usedTables } from './used-tables.ts'

/** How much a recipe may hold; what is more is refused before anything else is looked at. */
export const recipeLimits = { steps: 2000, tables: 200, inputs: 500, parameters: 1000 } as const

/** Arrays that are too long, found without reading what is in them. */
export const limitFaults = (data: { readonly [key: string]: unknown }): RecipeFault[] => {
  const lengthOf = (value: unknown): number => (Array.isArray(value) ? value.length : 0)
  const tables = Array.isArray(data.tables) ? (data.tables as readonly unknown[]) : []
  const steps = tables.reduce<number>(
    (sum, table) => sum + lengthOf((table as { readonly steps?: unknown } | null)?.steps),
    0,
  )
  const counts = { steps, tables: tables.length, inputs: lengthOf(data.inputs), parameters: lengthOf(data.parameters) }
  return (['steps', 'tables', 'inputs', 'parameters'] as const).flatMap((what) =>
    counts[what] <= recipeLimits[what]
      ? []
      : [
          {
            where: what === 'steps' ? '$.tables' : `$.${what}`,
            sentence: `The recipe has ${counted(counts[what], what.slice(0, -1))}; at most ${figure(recipeLimits[what])} are allowed. Split it into several recipes.`,
          },
        ],
  )
}

const twice = (ids: readonly { readonly id: string; readonly where: string }[], what: string): RecipeFault[] => {
  const seen = new Set<string>()
  return ids.flatMap(({ id, where }) => {
    if (seen.has(id)) return [{ where, sentence: `The ${what} id ${quoted(id)} is used twice.` }]
    seen.add(id)
    return []
  })
}

/** Which tables each table uses, by id. */
type UseGraph = ReadonlyMap<string, readonly string[]>

/** Groups of tables that use each other in a circle: strongly connected components in time linear in tables and uses (Tarjan, 1972). */
const componentsOf = (uses: UseGraph): string[][] => {
  const order = new Map<string, number>()
  const low = new Map<string, number>()
  const stack: string[] = []
  const onStack = new Set<string>()
  const components: string[][] = []
  const close = (id: string): void => {
    const component: string[] = []
    for (let one = ''; one !== id;) {
      one = stack.pop() ?? id
      onStack.delete(one)
      component.push(one)
    }
    components.push(component)
  }
  const visit = (id: string): void => {
    order.set(id, order.size)
    low.set(id, order.get(id) ?? 0)
    stack.push(id)
    onStack.add(id)
    for (const next of uses.get(id) ?? []) {
      if (!order.has(next)) visit(next)
      const reach = onStack.has(next) ? Math.min(low.get(next) ?? 0, order.get(next) ?? 0) : Infinity
      low.set(id, Math.min(low.get(id) ?? 0, reach))
    }
    if (low.get(id) === order.get(id)) close(id)
  }
  for (const id of uses.keys()) if (!order.has(id)) visit(id)
  return components
}

/** One way round through tables that use each other, from the first one back to it. */
const wayRound = (members: readonly string[], uses: UseGraph): string[] => {
  const inside = new Set(members)
  const path: string[] = []
  let at = members[0] ?? ''
  while (!path.includes(at)) {
    path.push(at)
    at = (uses.get(at) ?? []).find((next) => inside.has(next)) ?? at
  }
  return path.slice(path.indexOf(at))
}

/** Tables that use each other, however indirectly, reported once for each cycle. */
const circles = (recipe: Recipe): RecipeFault[] => {
  const place = new Map(recipe.tables.map(({ id }, i) => [id, i]))
  const uses: UseGraph = new Map(
    recipe.tables.map(({ id, steps }) => [id, [...new Set(steps.flatMap(usedTables))].filter((one) => place.has(one))]),
  )
  return componentsOf(uses).flatMap((members) => {
    const inOrder = [...members].sort((a, b) => (place.get(a) ?? 0) - (place.get(b) ?? 0))
    const [first = ''] = inOrder
    if (members.length === 1 && !uses.get(first)?.includes(first)) return []
    const circle = wayRound(inOrder, uses)
    const where = `$.tables[${place.get(circle[0] ?? '') ?? 0}]`
    if (circle.length === 1) return [{ where, sentence: `The table ${quoted(first)} uses itself.` }]
    return [
      {
        where,
        sentence: `The tables ${[...circle, circle[0] ?? ''].map(quoted).join(', ')} use each other in a circle. A table can only use tables that do not need it.`,
      },
    ]
  })
}

/** At most so many names are listed in a sentence. */
const mostListed = 8
const choices = (names: readonly string[]): string =>
  names.length > mostListed
    ? `one of ${names.slice(0, mostListed).map(quoted).join(', ')} and others`
    : names.map(quoted).join(' or ')

const stepFaults = (recipe: Recipe): RecipeFault[] => {
  const tables = new Set(recipe.tables.map(({ id }) => id))
  const inputs = new Set(recipe.inputs.map(({ id }) => id))
  return recipe.tables.flatMap(({ id: own, steps }, t) =>
    steps.flatMap((step, s): RecipeFault[] => {
      const where = `$.tables[${t}].steps[${s}]`
      const start = kindNamed(step.kind)?.start === true
      if (s === 0 && !start)
        return [{ where, sentence: 'The first sentence of a table must be a start, such as “open”.' }]
      if (s > 0 && start) return [{ where, sentence: `“${step.kind}” can only be the first sentence of a table.` }]
      if (s === 0 && step.off)
        return [{ where: `${where}.off`, sentence: 'The first sentence of a table cannot be switched off.' }]
      const unknown = usedTables(step).filter((one) => !tables.has(one))
      if (unknown.length > 0)
        return unknown.map((one) => ({
          where,
          sentence: `There is no table ${quoted(one)}; expected ${choices([...tables].filter((id) => id !== own)) || 'another table to be in the recipe'}.`,
        }))
      const input = openedBy(step)?.input
      return input !== undefined && !inputs.has(input)
        ? [
            {
              where: `${where}.input`,
              sentence: `There is no input ${quoted(input)}; expected ${choices([...inputs]) || 'one to be listed under inputs'}.`,
            },
          ]
        : []
    }),
  )
}

/** What no schema says: ids that are unique, starts that come first, tables, inputs and outputs that exist. */
export const consistencyFaults = (recipe: Recipe): RecipeFault[] => {
  const tables = new Set(recipe.tables.map(({ id }) => id))
  return [
    ...twice(
      recipe.inputs.map(({ id }, i) => ({ id, where: `$.inputs[${i}].id` })),
      'input',
    ),
    ...twice(
      recipe.tables.map(({ id }, i) => ({ id, where: `$.tables[${i}].id` })),
      'table',
    ),
    ...twice(
      recipe.tables.flatMap(({ steps }, t) =>
        steps.map(({ id }, s) => ({ id, where: `$.tables[${t}].steps[${s}].id` })),
      ),
      'step',
    ),
    ...twice(
      (recipe.parameters ?? []).map(({ name }, i) => ({ id: name, where: `$.parameters[${i}].name` })),
      'parameter',
    ),
    ...recipe.inputs.flatMap(({ columns = [] }, i) =>
      twice(
        columns.map(({ name }, c) => ({ id: name, where: `$.inputs[${i}].columns[${c}].name` })),
        'column',
      ),
    ),
    ...stepFaults(recipe),
    ...circles(recipe),
    ...(recipe.outputs ?? []).flatMap(({ table }, i) =>
      tables.has(table) ? [] : [{ where: `$.outputs[${i}].table`, sentence: `There is no table ${quoted(table)}.` }],
    ),
    ...fileClashes(recipe.outputs ?? []).map(({ at, sentence }) => ({ where: `$.outputs[${at}].file`, sentence })),
  ]
}

/** The names of all step kinds. */
export const kindNames: readonly string[] = Object.keys(stepKinds)

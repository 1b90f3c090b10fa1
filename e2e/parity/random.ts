import { planRecipe, readRecipe, type Recipe, type Schema, type Step, type NewStep } from '@fabula/core'
import { aside, randomStep } from './random-steps.ts'
import { Dice, texts } from './random-values.ts'

/** How many random stories the tests tell; `npm run parity:long` asks for 5,000. */
export const storiesTold = Number(process.env.FABULA_RANDOM_STORIES ?? 120)
/** The seed that they are drawn by; “new” is another each time. */
export const storySeed =
  process.env.FABULA_RANDOM_SEED === 'new' ? Date.now() % 2 ** 31 : Number(process.env.FABULA_RANDOM_SEED ?? 2031)

const pools: Readonly<Record<string, readonly string[]>> = {
  Text: texts,
  Other: texts.slice(0, 9),
  Whole: ['0', '1', '2', '-7', '', '1000000', '3'],
  Real: ['0.5', '-1.25', '', '100', '0.1', '0.2', '1e6'],
  Yes: ['true', 'false', ''],
  Day: ['2031-05-01', '2031-05-31', '', '2032-02-29', '1999-12-31'],
  Moment: ['2031-05-01T08:30:00', '', '2031-12-31T23:59:59'],
}
const columns: Schema = [
  { name: 'Text', type: 'text' },
  { name: 'Other', type: 'text' },
  { name: 'Whole', type: 'integer' },
  { name: 'Real', type: 'decimal' },
  { name: 'Yes', type: 'boolean' },
  { name: 'Day', type: 'date' },
  { name: 'Moment', type: 'datetime' },
]
const quotedCell = (text: string): string => (/[",\n]|^ | $/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)

/** Rows of the main table and of the one beside it. */
export const randomFiles = (dice: Dice): { readonly rows: string; readonly aside: string } => {
  const file = (schema: Schema, count: number): string =>
    `${[schema.map(({ name }) => name), ...Array.from({ length: count }, () => schema.map(({ name }) => quotedCell(dice.of(pools[name] ?? texts))))].map((row) => row.join(',')).join('\n')}\n`
  return { rows: file(columns, dice.upTo(14)), aside: file(aside, dice.upTo(6)) }
}

const opened = (input: string, schema: Schema): NewStep => ({
  kind: 'open',
  input,
  read: {
    encoding: 'utf-8',
    delimiter: ',',
    types: Object.fromEntries(schema.map(({ name, type }) => [name, { type }])),
  },
})
/** Why a recipe is refused, if it is. */
const refusalOf = (recipe: Recipe): string | undefined => {
  const read = readRecipe(recipe)
  if (!('recipe' in read)) return JSON.stringify(read.faults)
  const planned = planRecipe(read.recipe).tables[1]
  const problems = planned?.steps.flatMap((step) => step.problems) ?? []
  if (problems.length > 0) return JSON.stringify(problems)
  return planned?.output?.length || planned?.unsure ? undefined : 'no column is left'
}

/** A story over both files, of as many of these steps as hold one after the other. */
export const randomRecipe = (rolls: readonly (readonly number[])[]): Recipe => {
  const base = (steps: readonly Step[]): Recipe => ({
    fabula: 1,
    name: 'Random',
    inputs: [
      { id: 'rows', name: 'Rows', columns: [...columns] },
      { id: 'aside', name: 'Aside', columns: [...aside] },
    ],
    parameters: [
      { name: 'Rate %', type: 'decimal', value: 2 },
      { name: 'As of', type: 'date', value: '2031-05-31' },
    ],
    tables: [
      { id: 'aside', name: 'Aside', steps: [{ id: 'a1', ...opened('aside', aside) } as Step] },
      { id: 'result', name: 'Result', steps },
    ],
    outputs: [{ table: 'result', format: 'csv', file: 'result.csv' }],
  })
  let steps: Step[] = [{ id: 's1', ...opened('rows', columns) } as Step]
  for (const numbers of rolls) {
    const dice = new Dice(numbers)
    const schema = planRecipe(base(steps)).tables[1]?.output ?? []
    const made = schema.length === 0 ? undefined : randomStep(dice, schema)
    if (!made) continue
    const next = [...steps, { ...made, id: `s${steps.length + 1}` } as Step]
    const refused = refusalOf(base(next))
    // only of a formula it is left to the plan whether it holds
    if (refused && !/formula/.test(JSON.stringify(made)))
      throw new Error(`${JSON.stringify(made)} is refused: ${refused}`)
    if (!refused) steps = next
  }
  return base(steps)
}

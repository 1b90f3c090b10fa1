import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { stepKinds, writeCsv, type Recipe, type Step } from '@fabula/core'
import { kindExamples } from '@fabula/core/examples'
import { functionRecipes, recipeOf } from '@fabula/core/testing'
import { firstDifference } from '@fabula/server/proof'
import { runOn } from './chains.ts'
import { randomStories } from './random-story.ts'
import { sparkIsHere, startSpark } from './spark.ts'
import { storySeed } from './random.ts'

/** How many random stories are told; `npm run parity:long` asks for more. */
const stories = Number(process.env.FABULA_SPARK_STORIES ?? 10)
/** Every example of every kind, or the first of those that Spark runs as Python over some rows, which is the Python of the other tests. */
const all = process.env.FABULA_SPARK_EXAMPLES === 'all'

/** One session for all, since each takes seconds to begin and both cores. */
let spark: Awaited<ReturnType<typeof startSpark>>
beforeAll(async () => {
  if (sparkIsHere) spark = await startSpark()
}, 90_000)
afterAll(() => (sparkIsHere ? spark.close() : undefined))

const formOf = (kind: string): unknown => stepKinds[kind as keyof typeof stepKinds].scripts.spark ?? 'rows'
const examples = kindExamples.flatMap(({ kind, examples: those }) =>
  those
    .filter((_, i) => all || i === 0 || (formOf(kind) !== 'rows' && i < 2))
    .map((example) => ({ name: `${kind}: ${example.name}`, gives: example.gives, ...recipeOf(example, kind) })),
)

describe.skipIf(!sparkIsHere)('on Spark', () => {
  test.each(examples)('$name', async ({ recipe, file, gives }) => {
    const { plan } = await runOn(recipe, { rows: file })
    expect(firstDifference(gives, await spark.result(recipe, { rows: file }, plan))).toBeUndefined()
  })

  test('every function, each example a column', async () => {
    const file = 'Row\n1\n'
    const steps = functionRecipes.flatMap(({ name, recipe }) =>
      (recipe.tables[0]?.steps ?? []).flatMap((step) =>
        step.kind === 'derive' ? [{ ...step, id: `${name}${step.id}`, as: `${name} ${step.as}` } as Step] : [],
      ),
    )
    const first = functionRecipes[0]?.recipe as Recipe
    const recipe: Recipe = {
      ...first,
      tables: [{ id: 'result', name: 'Result', steps: [first.tables[0]?.steps[0] as Step, ...steps] }],
    }
    const { tables, plan } = await runOn(recipe, { rows: file })
    const engine = writeCsv(tables[0]?.table as NonNullable<(typeof tables)[0]['table']>)
    expect(steps.length).toBeGreaterThan(300)
    expect(firstDifference(engine, await spark.result(recipe, { rows: file }, plan))).toBeUndefined()
  })

  test(`${stories} random stories`, { timeout: 60_000 + stories * 20_000 }, async () => {
    await fc.assert(
      randomStories(async ({ recipe, plan, inputs, engine, told }) => {
        const made = await spark.result(recipe, inputs, plan).catch((error: unknown) => (error as Error).message)
        expect(firstDifference(engine, made), `${told}\n${engine}\n${made.slice(0, 2500)}`).toBeUndefined()
      }),
      { numRuns: stories, seed: storySeed, endOnFailure: true },
    )
  })
})

/** Rows with a fixed rule and no pattern of their own, by a linear congruential generator. */
const rolled = (count: number, row: (roll: (n: number) => number) => string): string[] => {
  let state = 7
  const roll = (n: number): number => (state = (state * 48_271) % 2_147_483_647) % n
  return Array.from({ length: count }, () => row(roll))
}
const opening = (read: object, ...steps: object[]): Recipe => ({
  fabula: 1,
  name: 'Files',
  inputs: [{ id: 'rows', name: 'Rows' }],
  tables: [
    {
      id: 'result',
      name: 'Result',
      steps: [{ kind: 'open', input: 'rows', read }, ...steps].map((step, i) => ({ id: `s${i}`, ...step }) as Step),
    },
  ],
})
const plain = [
  '\ufeffClinic,Fee,Day',
  ...rolled(3000, (roll) =>
    [
      ['Oxbow', 'oxbow ', 'Größe', '', 'Tarn'][roll(5)],
      ['1.5', '2', 'x', '£ 3.20', ''][roll(5)],
      ['2031-05-01', '2031-06-02', ''][roll(3)],
    ].join(','),
  ),
  ',,',
  '',
  'only',
  'a,1,2031-01-01,more,again',
  '',
].join('\r\n')
const quoted = [
  'Visits of May;;',
  '',
  'Clinic;Note;Fee',
  ...rolled(2000, (roll) => `C${roll(7)};${['plain', '"two\nlines; and ""q"""', '5" pipe', ''][roll(4)]};${roll(90)}`),
  'Total;;12',
  'Made by;;',
  '',
].join('\n')

describe.skipIf(!sparkIsHere)('files in many parts', () => {
  beforeAll(() => spark.cutFiles())
  test.each<[string, string | Uint8Array, Recipe]>([
    ['a mark at the start, ragged and blank rows, two bytes at the ends of lines', plain, opening({})],
    [
      'titles, records over several lines, stray quotes, rows at the foot',
      quoted,
      opening({ delimiter: ';', header: 3, footer: 2 }),
    ],
    ['an area', quoted, opening({ delimiter: ';', range: 'A3:B200' })],
    ['Windows-1252 that nobody told', Buffer.from('Clinic,Fee\nGröße,1\nTarn,2\n', 'latin1'), opening({})],
    ['UTF-16', Buffer.from('\ufeffClinic,Fee\nGröße,1\nTarn,2\n', 'utf16le'), opening({ encoding: 'utf-16le' })],
    [
      'numbers, gaps and figures over the whole table',
      plain,
      opening(
        {},
        { kind: 'number', as: 'No' },
        { kind: 'fill', columns: ['Clinic'], direction: 'down' },
        {
          kind: 'window',
          order: [{ column: 'Clinic' }],
          measures: [
            { how: 'running-sum', column: 'No', as: 'Run' },
            { how: 'rank', as: 'Rank' },
            { how: 'dense-rank', as: 'Dense' },
            { how: 'previous', column: 'No', as: 'Before' },
            { how: 'median', column: 'No', as: 'Middle' },
          ],
        },
      ),
    ],
  ])('%s', async (_name, content, recipe) => {
    const { tables, plan } = await runOn(recipe, { rows: content })
    const engine = writeCsv(tables[0]?.table as NonNullable<(typeof tables)[0]['table']>)
    expect(engine.length).toBeGreaterThan(20)
    expect(firstDifference(engine, await spark.result(recipe, { rows: content }, plan))).toBeUndefined()
  })
})

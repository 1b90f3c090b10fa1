import fc from 'fast-check'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { writeCsv, type Recipe, type Step } from '@fabula/core'
import { firstDifference } from '@fabula/server/proof'
import { runOn } from './chains.ts'
import { startRunners, type Runners } from './runners.ts'

/** How many matches are tried. */
const runs = Number(process.env.FABULA_RANDOM_JOINS ?? 60)

let runners: Runners
beforeAll(async () => void (runners = await startRunners()))
afterAll(() => runners.close())

const cells = {
  Clinic: ['Oxbow', 'Tarn', 'oxbow', '', 'None'],
  Day: ['2031-05-01', '2031-05-02', ''],
  Fee: ['1', '2.5', '', '-3'],
  Beds: ['4', '', '7'],
  Region: ['North', '', 'South'],
  Open: ['true', 'false', ''],
}
type Name = keyof typeof cells
const typeOf = {
  Clinic: 'text',
  Day: 'date',
  Fee: 'decimal',
  Beds: 'integer',
  Region: 'text',
  Open: 'boolean',
} as const
/** A file with these columns, and `more` of which the recipe does not know. */
const fileOf = (names: readonly Name[], more: readonly Name[]): fc.Arbitrary<string> =>
  fc
    .array(fc.tuple(...[...names, ...more].map((name) => fc.constantFrom(...cells[name]))), { maxLength: 9 })
    .map((rows) => [[...names, ...more], ...rows].map((row) => row.join(',')).join('\n') + '\n')
const opened = (input: string, names: readonly Name[]) => {
  const types = Object.fromEntries(names.map((name) => [name, { type: typeOf[name] }]))
  return { kind: 'open', input, read: { delimiter: ',', types } }
}
const stepsOf = (prefix: string, acts: readonly object[]): Step[] =>
  acts.map((act, i) => ({ id: `${prefix}${i}`, ...act }) as Step)

/** What is done with the matched rows, so that cells left without a match are met by other steps. */
const afterwards: readonly (readonly object[])[] = [
  [],
  [{ kind: 'sort', by: [{ column: 'Region' }] }],
  [{ kind: 'filter', where: { column: 'Region', op: 'is-filled' } }],
  [{ kind: 'derive', as: 'Made', formula: 'IF(ISBLANK(Region); "none"; Region & "!")' }],
  [{ kind: 'fill-empty', columns: ['Region'], with: 'nowhere' }],
  [{ kind: 'distinct', columns: ['Region'] }],
  [{ kind: 'clean-text', columns: ['Region'], do: ['trim'] }],
  [{ kind: 'summarise', by: ['Region'], measures: [{ how: 'count', as: 'Rows' }] }],
]
const story = fc.record({
  keys: fc.subarray(['Clinic', 'Day', 'Fee'] as const, { minLength: 1 }),
  how: fc.constantFrom('left', 'inner', 'left-only'),
  matches: fc.constantFrom('all', 'first'),
  bring: fc.constantFrom(undefined, ['Region']),
  own: fc.constantFrom<readonly Name[]>([], ['Open'], ['Beds']),
  moreThere: fc.constantFrom<readonly Name[]>([], ['Open'], ['Beds']),
  then: fc.constantFrom(...afterwards),
})
const filesOf = story.chain((told) => {
  const here: readonly Name[] = [...new Set<Name>([...told.keys, ...told.own])]
  const there: readonly Name[] = [...told.keys, 'Region']
  return fc.tuple(fc.constant({ ...told, here, there }), fileOf(here, []), fileOf(there, told.moreThere))
})

test(`${runs} matches of two files, with columns that the recipe does not know, give the same by engine and Python`, async () => {
  await fc.assert(
    fc.asyncProperty(filesOf, async ([told, rows, others]) => {
      const { keys, how, matches, bring, here, there, then } = told
      const join = {
        ...{ kind: 'join', with: 'clinics', how, matches, on: keys.map((key) => ({ left: key, right: key })) },
        ...(bring ? { bring } : {}),
      }
      const columns = (names: readonly Name[]) => names.map((name) => ({ name, type: typeOf[name] }))
      const recipe: Recipe = {
        fabula: 1,
        name: 'Matched',
        inputs: [
          { id: 'rows', name: 'Rows', columns: columns(here) },
          { id: 'others', name: 'Others', columns: columns(there) },
        ],
        tables: [
          { id: 'clinics', name: 'Clinics', steps: stepsOf('c', [opened('others', there)]) },
          {
            id: 'result',
            name: 'Result',
            steps: stepsOf('s', [opened('rows', here), join, ...(how === 'left-only' ? [] : then)]),
          },
        ],
      }
      const { tables } = await runOn(recipe, { rows, others })
      const table = tables.find(({ id }) => id === 'result')?.table
      if (!table) throw new Error(`the engine makes no table of ${JSON.stringify(recipe)}`)
      const python = await runners.python(recipe, { rows, others })
      const words = `${JSON.stringify(recipe.tables[1]?.steps)}\n${rows}\n${others}\n${python}`
      expect(firstDifference(writeCsv(table), python), words).toBeUndefined()
    }),
    { numRuns: runs, seed: 2031 },
  )
}, 600_000)

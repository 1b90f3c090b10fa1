import fc from 'fast-check'
import { afterAll, beforeAll, describe, test } from 'vitest'
import type { Recipe } from '@fabula/core'
import { fieldsOf, fileOf, opened, pandasVersions, startComparison, stepsOf, type Name } from './small-files.ts'

/** How many matches are tried. */
const runs = Number(process.env.FABULA_RANDOM_JOINS ?? 25)

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

describe.each(pandasVersions)('by pandas %s', (_version, interpreter) => {
  let python: ReturnType<typeof startComparison>
  beforeAll(() => void (python = startComparison(interpreter)))
  afterAll(() => python.close())

  test(`${runs} matches of two files, with columns that the recipe does not know, give the same by engine and Python`, async () => {
    await fc.assert(
      fc.asyncProperty(filesOf, async ([told, rows, others]) => {
        const { keys, how, matches, bring, here, there, then } = told
        const join = {
          ...{ kind: 'join', with: 'clinics', how, matches, on: keys.map((key) => ({ left: key, right: key })) },
          ...(bring ? { bring } : {}),
        }
        const recipe: Recipe = {
          fabula: 1,
          name: 'Matched',
          inputs: [
            { id: 'rows', name: 'Rows', columns: fieldsOf(here) },
            { id: 'others', name: 'Others', columns: fieldsOf(there) },
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
        await python.same(recipe, { rows, others })
      }),
      { numRuns: runs, seed: 2031 },
    )
  }, 600_000)
})

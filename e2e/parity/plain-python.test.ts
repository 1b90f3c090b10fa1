import fc from 'fast-check'
import { afterAll, beforeAll, describe, test } from 'vitest'
import type { Recipe } from '@fabula/core'
import { fieldsOf, fileOf, opened, pandasVersions, startComparison, stepsOf, type Name } from './small-files.ts'

/** How many stories are tried of each kind. */
const runs = Number(process.env.FABULA_RANDOM_PLAIN ?? 25)

const all: readonly Name[] = ['Clinic', 'Day', 'Moment', 'Hour', 'Words', 'Fee', 'Beds', 'Open']
const storyOf = (inputs: Recipe['inputs'], tables: Readonly<Record<string, readonly object[]>>): Recipe => ({
  fabula: 1,
  name: 'Story',
  inputs,
  tables: Object.entries(tables).map(([id, acts]) => ({ id, name: id, steps: stepsOf(id, acts) })),
})

const figure = fc.oneof(
  fc.record({ how: fc.constantFrom('count', 'row-number', 'rank', 'dense-rank') }),
  fc.record({
    how: fc.constantFrom('sum', 'mean', 'min', 'max', 'median', 'share', 'running-sum', 'first', 'last'),
    column: fc.constant('Fee'),
  }),
  fc.record({ how: fc.constantFrom('filled', 'distinct'), column: fc.constantFrom(...all) }),
  fc.record({ how: fc.constantFrom('mean', 'share'), column: fc.constant('Beds') }),
  fc.record({
    how: fc.constantFrom('previous', 'next'),
    column: fc.constantFrom(...all),
    offset: fc.constantFrom(1, 2),
  }),
)
const key = fc.record({ column: fc.constantFrom(...all.filter((name) => name !== 'Words')), descending: fc.boolean() })
const windows = fc.record({
  order: fc.option(fc.array(key, { minLength: 1, maxLength: 2 }), { nil: undefined }),
  figures: fc.array(figure, { minLength: 1, maxLength: 3 }),
})

/** Goes by the types that columns have, so that a key that became another type is seen. */
const texts = { kind: 'clean-text', columns: { type: 'text' }, do: ['trim'] }

describe.each(pandasVersions)('by pandas %s', (_version, interpreter) => {
  let python: ReturnType<typeof startComparison>
  beforeAll(() => void (python = startComparison(interpreter)))
  afterAll(() => python.close())

  test(`${runs} figures beside rows, of files that may have a column more, give the same by engine and Python`, async () => {
    const story = fc.tuple(
      windows,
      fc.subarray(['Clinic', 'Day', 'Beds']),
      fc.constantFrom<readonly Name[]>([], ['Region']),
      fc.constantFrom('Region', 'Figure'),
    )
    const withFile = story.chain((told) => fc.tuple(fc.constant(told), fileOf(all, told[2])))
    await fc.assert(
      fc.asyncProperty(withFile, async ([[{ order, figures }, by, , name], rows]) => {
        const measures = figures.map((one) => ({ ...one, as: name }))
        const window = { kind: 'window', by, ...(order ? { order } : {}), measures }
        const recipe = storyOf([{ id: 'rows', name: 'Rows', columns: fieldsOf(all) }], {
          result: [opened('rows', all), window],
        })
        await python.same(recipe, { rows })
      }),
      { numRuns: runs, seed: 2032 },
    )
  }, 600_000)

  test(`${runs} summaries give the same by engine and Python`, async () => {
    const measure = fc.oneof(
      fc.record({ how: fc.constantFrom('first', 'last', 'filled', 'distinct'), column: fc.constantFrom(...all) }),
      fc.record({
        how: fc.constantFrom('sum', 'mean', 'min', 'max', 'median'),
        column: fc.constantFrom('Fee', 'Beds'),
      }),
      fc.record({ how: fc.constantFrom('min', 'max'), column: fc.constantFrom('Day', 'Moment', 'Hour') }),
    )
    const measures = fc.array(measure, { minLength: 1, maxLength: 4 })
    const keys = fc.subarray(['Clinic', 'Day', 'Moment', 'Beds', 'Open'], { minLength: 1, maxLength: 2 })
    await fc.assert(
      fc.asyncProperty(keys, measures, fileOf(all, []), async (by, figures, rows) => {
        const summary = { kind: 'summarise', by, measures: figures.map((one, i) => ({ ...one, as: `Figure ${i}` })) }
        const text = { kind: 'derive', as: 'Made', formula: '"<" & \'Figure 0\' & ">"' }
        const recipe = storyOf([{ id: 'rows', name: 'Rows', columns: fieldsOf(all) }], {
          result: [opened('rows', all), summary, text, texts],
        })
        await python.same(recipe, { rows })
      }),
      { numRuns: runs, seed: 2034 },
    )
  }, 600_000)

  test(`${runs} pivots give the same by engine and Python`, async () => {
    const value = fc.oneof(
      fc.record({ how: fc.constantFrom('sum', 'mean', 'min', 'count'), column: fc.constantFrom('Fee', 'Beds') }),
      fc.record({ how: fc.constantFrom('first', 'only', 'filled'), column: fc.constantFrom('Fee', 'Day', 'Moment') }),
    )
    const params = fc.record({
      labels: fc.constantFrom('Clinic', 'Open', 'Region'),
      by: fc.constantFrom<readonly Name[] | undefined>(undefined, ['Day'], ['Moment'], ['Clinic', 'Open'], ['Beds']),
      values: fc.array(value, { minLength: 1, maxLength: 2 }),
      found: fc.constantFrom(undefined, ['Oxbow', null, 'true', 'North'], ['nowhere']),
      gaps: fc.constantFrom(undefined, 0),
    })
    const columns = [...all, 'Region'] as const
    await fc.assert(
      fc.asyncProperty(params, fileOf(columns, []), async ({ by, gaps, found, values, labels }, rows) => {
        const numbers = values.every(({ column, how }) => (column !== 'Day' && column !== 'Moment') || how === 'filled')
        const pivot = {
          ...{ kind: 'pivot', labels, values: values.map((one, i) => ({ ...one, as: `Figure ${i}` })) },
          ...(by ? { by } : {}),
          ...(found ? { found } : {}),
          ...(gaps !== undefined && numbers ? { gaps } : {}),
        }
        const recipe = storyOf([{ id: 'rows', name: 'Rows', columns: fieldsOf(columns) }], {
          result: [opened('rows', columns), pivot, texts],
        })
        await python.same(recipe, { rows })
      }),
      { numRuns: runs, seed: 2035 },
    )
  }, 600_000)

  test(`${runs} unions of two files, with columns that the recipe does not know, give the same by engine and Python`, async () => {
    const names = fc.subarray<Name>([...all], { minLength: 1 })
    const more = fc.constantFrom<readonly Name[]>([], ['Region'])
    const params = fc.record({
      columns: fc.constantFrom('all', 'shared'),
      origin: fc.constantFrom(undefined, 'Table', 'Region'),
      pair: fc.boolean(),
      again: fc.boolean(),
    })
    const then = fc.constantFrom<readonly object[]>(
      [],
      [{ kind: 'sort', by: [{ column: 'Clinic' }] }],
      [{ kind: 'summarise', by: ['Clinic'], measures: [{ how: 'count', as: 'Rows' }] }],
      [{ kind: 'fill-empty', columns: ['Clinic'], with: 'nowhere' }],
      [{ kind: 'derive', as: 'Made', formula: 'IF(ISBLANK(Clinic); "none"; Clinic & "!")' }],
    )
    const withFiles = fc.tuple(names, names, more, more, params, then).chain((told) => {
      const [here, there, moreHere, moreThere] = told
      return fc.tuple(fc.constant(told), fileOf(here, moreHere), fileOf(there, moreThere))
    })
    await fc.assert(
      fc.asyncProperty(
        withFiles,
        async ([[here, there, , , { columns, origin, pair, again }, after], rows, others]) => {
          const pairs =
            pair && here.includes('Fee') && there.includes('Beds') && !here.includes('Beds') && !there.includes('Fee')
              ? [
                  {
                    into: 'Number',
                    from: [
                      { table: 'result', column: 'Fee' },
                      { table: 'june', column: 'Beds' },
                    ],
                  },
                ]
              : undefined
          const union = {
            ...{ kind: 'union', with: again ? ['june', 'june'] : ['june'], columns },
            ...(origin === undefined ? {} : { origin }),
            ...(pairs ? { pairs } : {}),
          }
          const kept =
            columns === 'all'
              ? here.includes('Clinic') || there.includes('Clinic')
              : here.includes('Clinic') && there.includes('Clinic')
          const shared = here.some((name) => there.includes(name)) || pairs !== undefined
          if (columns === 'shared' && !shared) return
          const recipe = storyOf(
            [
              { id: 'rows', name: 'Rows', columns: fieldsOf(here) },
              { id: 'others', name: 'Others', columns: fieldsOf(there) },
            ],
            { june: [opened('others', there)], result: [opened('rows', here), union, ...(kept ? after : [])] },
          )
          await python.same(recipe, { rows, others })
        },
      ),
      { numRuns: runs, seed: 2033 },
    )
  }, 600_000)

  test('rows that two keys leave equal go by the capitals of the second', async () => {
    const names = ['Clinic', 'Open'] as const
    const keys = [{ column: 'Open', descending: true }, { column: 'Clinic' }]
    const recipe = storyOf([{ id: 'rows', name: 'Rows', columns: fieldsOf(names) }], {
      result: [opened('rows', names), { kind: 'sort', by: keys }],
    })
    await python.same(recipe, { rows: 'Clinic,Open\noxbow,true\nOxbow,true\n' })
  })
})

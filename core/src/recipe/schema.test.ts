import { describe, expect, it } from 'vitest'
import { parseRecipe, readRecipe, recipeJsonSchema, writeRecipe } from './schema.ts'

const open = { id: 's1', kind: 'open', input: 'visits' }
const recipe = (more: Readonly<Record<string, unknown>> = {}, ...steps: readonly unknown[]) => ({
  fabula: 1,
  name: 'Monthly takings',
  inputs: [{ id: 'visits', name: 'Visits' }],
  tables: [{ id: 'takings', name: 'Takings', steps: [open, ...steps] }],
  ...more,
})
const faultsOf = (data: unknown): readonly (readonly [string, string])[] => {
  const read = readRecipe(data)
  return 'faults' in read ? read.faults.map(({ where, sentence }) => [where, sentence]) : []
}

describe('a recipe', () => {
  it('is read as it stands', () => {
    expect(readRecipe(recipe())).toEqual({ recipe: recipe() })
  })
  it('comes back from its text', () => {
    const read = readRecipe(recipe({ about: 'Of each month' }, { id: 's2', kind: 'drop', columns: ['Note'] }))
    const written = 'recipe' in read ? writeRecipe(read.recipe) : ''
    expect(parseRecipe(written)).toEqual(read)
  })
  it('is read with a byte order mark in front', () => {
    expect(parseRecipe(`\ufeff${JSON.stringify(recipe())}`)).toEqual({ recipe: recipe() })
  })
  it('has a JSON Schema that names every kind', () => {
    const text = JSON.stringify(recipeJsonSchema())
    for (const kind of ['open', 'fill-empty', 'start-from', 'unpivot']) expect(text).toContain(`"const":"${kind}"`)
  })
})

describe('what is wrong is said, with its place', () => {
  it.each<[string, unknown, string, string]>([
    ['no object', [], '$', 'A recipe is one JSON object.'],
    ['no recipe at all', { name: 'x' }, '$.fabula', 'This is not a Fabula recipe'],
    ['another version', { fabula: 2 }, '$.fabula', 'This recipe is of version 2; expected 1.'],
    ['a key that is not known', recipe({ author: 'Ada' }), '$.author', '“author” is not a key known here.'],
    ['no tables', recipe({ tables: [] }), '$.tables', 'Too small'],
    [
      'a kind that is none',
      recipe({}, { id: 's2', kind: 'filtr' }),
      '$.tables[0].steps[1].kind',
      'There is no step kind “filtr”; expected “filter”',
    ],
    ['a step without a kind', recipe({}, { id: 's2' }), '$.tables[0].steps[1].kind', 'The step has no kind'],
    [
      'a param that is not known',
      recipe({}, { id: 's2', kind: 'drop', columns: ['A'], rows: 1 }),
      '$.tables[0].steps[1].rows',
      '“rows” is not a key known here.',
    ],
    [
      'a step id used twice',
      recipe({}, { id: 's1', kind: 'drop', columns: ['A'] }),
      '$.tables[0].steps[1].id',
      'The step id “s1” is used twice.',
    ],
    [
      'a start amid a table',
      recipe({}, { id: 's2', kind: 'open', input: 'visits' }),
      '$.tables[0].steps[1]',
      '“open” can only be the first sentence of a table.',
    ],
    [
      'a table that begins with no start',
      recipe({ tables: [{ id: 'a', name: 'A', steps: [{ id: 's1', kind: 'drop', columns: ['A'] }] }] }),
      '$.tables[0].steps[0]',
      'The first sentence of a table must be a start',
    ],
    [
      'a start that is switched off',
      recipe({ tables: [{ id: 'a', name: 'A', steps: [{ ...open, off: true }] }] }),
      '$.tables[0].steps[0].off',
      'The first sentence of a table cannot be switched off.',
    ],
    [
      'an input that is not listed',
      recipe({ tables: [{ id: 'a', name: 'A', steps: [{ ...open, input: 'prices' }] }] }),
      '$.tables[0].steps[0].input',
      'There is no input “prices”; expected “visits”.',
    ],
    [
      'a table that is not there',
      recipe({}, { id: 's2', kind: 'union', with: ['south'] }),
      '$.tables[0].steps[1]',
      'There is no table “south”',
    ],
    [
      'a table that uses itself',
      recipe({}, { id: 's2', kind: 'union', with: ['takings'] }),
      '$.tables[0]',
      'The table “takings” uses itself.',
    ],
    [
      'an output of no table',
      recipe({ outputs: [{ table: 'prices', format: 'csv', file: 'a.csv' }] }),
      '$.outputs[0].table',
      'There is no table “prices”.',
    ],
    [
      'a parameter of a type that is none',
      recipe({ parameters: [{ name: 'As of', type: 'day' }] }),
      '$.parameters[0].type',
      '',
    ],
  ])('%s', (_what, data, where, sentence) => {
    const faults = faultsOf(data)
    expect(faults.map(([place]) => place)).toContain(where)
    expect(faults.find(([place]) => place === where)?.[1]).toContain(sentence)
  })

  it('tables that use each other in a circle are told as the circle', () => {
    const from = (id: string, table: string) => ({
      id,
      name: id,
      steps: [{ id: `${id}-1`, kind: 'start-from', table }],
    })
    const [[where, sentence] = ['', '']] = faultsOf(
      recipe({ tables: [from('a', 'b'), from('b', 'c'), from('c', 'a')] }),
    )
    expect(where).toBe('$.tables[0]')
    expect(sentence).toContain('“a”, “b”, “c”, “a”')
  })
  it('several faults are told at once', () => {
    const faults = faultsOf(
      recipe({ author: 'Ada', tables: [{ id: 'A', name: 'A', steps: [{ id: 's1', kind: 'opn' }] }] }),
    )
    expect(faults.map(([where]) => where)).toEqual(
      expect.arrayContaining(['$.author', '$.tables[0].id', '$.tables[0].steps[0].kind']),
    )
  })
  it('text that is no JSON is told with its place', () => {
    const read = parseRecipe('{"fabula": 1,')
    expect('faults' in read && read.faults[0]?.sentence).toBeTruthy()
  })
})

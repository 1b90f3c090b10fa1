import { describe, expect, test } from 'vitest'
import type { Schema, Selection } from '@fabula/core'
import { verbGroups } from './verb-groups.ts'
import { verbsFor } from './verbs.ts'

const schema: Schema = [
  { name: 'Clinic', type: 'text' },
  { name: 'Day', type: 'date' },
  { name: 'Fee', type: 'decimal' },
  ...['2028', '2029', '2030', '2031'].map((name) => ({ name, type: 'integer' as const })),
]
const columns = (...names: readonly string[]): Selection => ({ kind: 'columns', columns: names })
const context = { schema, tables: [] }
const first = (selection: Selection): string | undefined => verbGroups(selection, context)[0]?.verbs[0]?.name

describe('the likeliest verb of a selection stands first', () => {
  test.each([
    ['four columns named by years', columns('2028', '2029', '2030', '2031'), 'Turn columns into rows'],
    ['a column of text', columns('Clinic'), 'Give one spelling…'],
    ['a column of dates', columns('Day'), 'Take a part of the date…'],
    ['a column of numbers', columns('Fee'), 'Calculate with it…'],
    ['a label and a figure', columns('Clinic', 'Fee'), 'Summarise by these columns'],
    ['the whole table', { kind: 'table' } as const, 'Keep rows where…'],
    ['a cell', { kind: 'cell', column: 'Clinic', row: 0, value: 'Oxbow' } as const, 'Keep rows where it is “Oxbow”'],
    [
      'a cell of several',
      { kind: 'cell', column: 'Clinic', row: 0, value: 'Oxbow, Marlpit' } as const,
      'Keep rows where it is “Oxbow, Marlpit”',
    ],
  ])('%s', (_words, selection, verb) => expect(first(selection)).toBe(verb))
  test('the sign that a cell holds is what it is split at', () => {
    const selection: Selection = { kind: 'cell', column: 'Clinic', row: 0, value: 'Oxbow, Marlpit' }
    expect(verbsFor(selection, context).map(({ name }) => name)).toContain('Split at every “, ”')
  })
  test('where a column is selected, the sign that most of its values hold', () => {
    const sample = () => ({ texts: ['cough, limp', 'fever, cough', 'a;b'] })
    expect(
      verbsFor(columns('Clinic'), { ...context, sample }).find(({ step }) => step?.kind === 'split')?.step,
    ).toMatchObject({ by: { delimiter: ', ' } })
  })
  test('empty dates are filled with the earliest there is', () => {
    const sample = () => ({ texts: [], least: '2030-03-04' })
    expect(
      verbsFor(columns('Day'), { ...context, sample }).find(({ step }) => step?.kind === 'fill-empty')?.step,
    ).toMatchObject({ with: '2030-03-04' })
  })
  test('years and ids are keys, not figures', () => {
    const visits: Schema = [
      { name: 'Year', type: 'integer' },
      { name: 'Patient id', type: 'integer' },
      { name: 'Fee', type: 'decimal' },
    ]
    const verb = verbsFor(columns('Year', 'Patient id', 'Fee'), { schema: visits, tables: [] }).find(
      ({ step }) => step?.kind === 'summarise',
    )
    expect(verb?.step).toMatchObject({ by: ['Year', 'Patient id'], measures: [{ how: 'count' }, { column: 'Fee' }] })
  })
})

test('every verb stands in one group, and none is lost', () => {
  for (const selection of [columns('Clinic'), columns('Day', 'Fee'), { kind: 'table' } as const]) {
    const grouped = verbGroups(selection, context).flatMap(({ verbs }) => verbs.map(({ name }) => name))
    expect(grouped.sort()).toEqual(
      verbsFor(selection, context)
        .map(({ name }) => name)
        .sort(),
    )
  }
})

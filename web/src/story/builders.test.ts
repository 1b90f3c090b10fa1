import { columnOf, factsOf, runRecipe, Table, textOfCell, type NewStep, type Recipe, type Step } from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import { describe, expect, test } from 'vitest'
import { builderNamed } from './builders.ts'
import type { BuilderAnswers } from './builder.ts'
import { edgesFor } from './number-builders.ts'

const day = (iso: string): number => Date.parse(iso) / 86_400_000
const visits = Table.of(
  ['Clinic', 'Fee', 'Day', 'Discharged', 'Signs'],
  [
    columnOf('text', ['Oxbow', 'Marlpit', 'Oxbow', 'Oxbow', null]),
    columnOf('decimal', [10, 20, 30, 40, null]),
    columnOf('date', [day('2031-05-30'), day('2031-05-31'), day('2031-06-01'), day('2031-06-02'), null]),
    columnOf('date', [day('2031-06-01'), day('2031-05-31'), null, day('2032-06-02'), null]),
    columnOf('text', ['limp, "fever"', 'Fever', 'none', 'limp', null]),
  ],
)
const facts = (column: string): ColumnFacts => factsOf(column, visits.named(column), true)

/** The steps a builder writes for its first answers changed by these. */
const steps = (id: string, columns: readonly string[], answers: BuilderAnswers = {}): readonly NewStep[] => {
  const builder = builderNamed(id)
  const [first = ''] = columns
  if (!builder?.fits(columns, visits.schema)) throw new Error(`${id} does not fit ${columns.join()}`)
  const start = builder.start(columns, visits.schema, facts(first))
  return builder.write({ ...start, ...answers }, columns, visits.schema, facts(first))
}
/** The table that those steps make: its names, and its rows as text. */
const made = (id: string, columns: readonly string[], answers?: BuilderAnswers) => {
  const recipe: Recipe = {
    fabula: 1,
    name: 'Visits',
    inputs: [{ id: 'visits', name: 'Visits', columns: [...visits.schema] }],
    tables: [
      {
        id: 'visits',
        name: 'Visits',
        steps: [
          { id: 's1', kind: 'open', input: 'visits' },
          ...steps(id, columns, answers).map((step, i) => ({ ...step, id: `s${i + 2}` }) as Step),
        ],
      },
    ],
  }
  const { tables } = runRecipe(recipe, {
    sources: (input) => ({ table: visits, notes: {}, unreadable: [], key: input }),
    parameters: {},
    now: 0,
  })
  const table = tables[0]?.table
  if (!table) throw new Error('the story broke')
  const text = (column: number, row: number): string | null => {
    const cell = table.cell(column, row)
    return cell === null ? null : textOfCell(table.schema[column]?.type ?? 'text', cell)
  }
  return {
    names: table.names,
    column: (name: string) => Array.from({ length: table.rowCount }, (_, row) => text(table.positionOf(name), row)),
  }
}

describe('yes-or-no columns', () => {
  test('one for each value, named after it, empty where the cell is', () => {
    const { names, column } = made('indicators', ['Clinic'], { values: ['Oxbow', 'Marlpit'] })
    expect(names.slice(-2)).toEqual(['Oxbow', 'Marlpit'])
    expect(column('Oxbow').slice(0, 4)).toEqual(['true', 'false', 'true', 'true'])
  })
  test('of what a cell holds somewhere, whatever its case', () => {
    const { column } = made('indicators', ['Signs'], { values: ['fever'], match: 'contains' })
    expect(column('fever')).toEqual(['true', 'true', 'false', 'false', 'false'])
  })
  test('as 1 and 0', () => {
    expect(
      made('indicators', ['Clinic'], { values: ['Oxbow'], as: 'number' })
        .column('Oxbow')
        .slice(0, 2),
    ).toEqual(['1', '0'])
  })
  test('are never compared with a number that is none, even before the columns are known', () => {
    const answers = { values: ['limp'], match: 'contains', as: 'boolean' }
    const written = builderNamed('indicators')?.write(answers, ['Signs'], [], undefined)
    expect(JSON.stringify(written)).not.toContain('NaN')
  })
  test('a value named like a column does not take its place', () => {
    const { names, column } = made('indicators', ['Clinic'], { values: ['Fee', 'Fee'] })
    expect(new Set(names).size).toBe(names.length)
    expect(column('Fee')[0]).toBe('10')
  })
})

describe('bands of numbers', () => {
  test('of equal width, between the least and the greatest', () => {
    expect(edgesFor({ how: 'width', count: 3 }, facts('Fee'))).toEqual([20, 30])
  })
  test('of equally many rows', () => {
    expect(edgesFor({ how: 'quantile', count: 2 }, facts('Fee'))).toEqual([25])
  })
  test('by hand, in order, without what is no number', () => {
    expect(edgesFor({ how: 'hand', edges: ['30', 'x', '10', ''] }, undefined)).toContain(30)
    expect(edgesFor({ how: 'hand', edges: ['30', 'x', '10'] }, undefined)).toEqual([10, 30])
  })
  test('a number on a limit belongs to the band above, an empty cell to none', () => {
    const { names, column } = made('bins', ['Fee'], { how: 'hand', edges: ['20', '40'], labels: ['low', 'middle'] })
    expect(names).toContain('Band of Fee')
    expect(column('Band of Fee')).toEqual(['low', 'middle', 'middle', '40 and more', null])
  })
  test('named by their limits where no names are given', () => {
    expect(made('bins', ['Fee'], { how: 'hand', edges: ['20'] }).column('Band of Fee')).toEqual([
      'below 20',
      '20 and more',
      '20 and more',
      '20 and more',
      null,
    ])
  })
})

describe('parts of dates and times between them', () => {
  test('a part stands beside the date, under a name of its own', () => {
    const { names, column } = made('date-part', ['Day'], { part: 'yearMonth' })
    expect(names.slice(2, 4)).toEqual(['Day', 'Month of Day'])
    expect(column('Month of Day')).toEqual(['2031-05', '2031-05', '2031-06', '2031-06', null])
  })
  test('days from one date to another', () => {
    const { names, column } = made('difference', ['Day', 'Discharged'])
    const added = names.find((name) => !visits.names.includes(name)) ?? ''
    expect(column(added)).toEqual(['2', '0', null, '366', null])
  })
  test('whole years up to a day', () => {
    const { names, column } = made('difference', ['Discharged'], { unit: 'y', until: '2033-06-01' })
    const added = names.find((name) => !visits.names.includes(name)) ?? ''
    expect(column(added)).toEqual(['2', '2', null, '0', null])
  })
})

describe('a summary by a span of time', () => {
  test('has a row for each span, in the order of time', () => {
    const { names, column } = made('period', ['Day', 'Fee'], { span: 'month', order: 'time' })
    expect(column(names[0] ?? '').filter((cell) => cell !== null)).toHaveLength(2)
    expect(column('Total Fee')).toContain('30')
    expect(column('Total Fee')).toContain('70')
  })
  test('the largest first', () => {
    const totals = made('period', ['Day', 'Fee'], { span: 'day', order: 'largest' }).column('Total Fee')
    expect(totals.filter((cell) => cell !== null)).toEqual(['40', '30', '20', '10'])
  })
})

describe('text written another way', () => {
  test('with something before and after it', () => {
    const { names, column } = made('text-pieces', ['Clinic'], { way: 'UPPER', before: 'FH "', after: '"' })
    const added = names.find((name) => !visits.names.includes(name)) ?? ''
    expect(column(added)[0]).toBe('FH "OXBOW"')
  })
  test('filled up in front to a length', () => {
    const { names, column } = made('text-pieces', ['Clinic'], { way: 'PAD', n: 7, fill: '.' })
    const added = names.find((name) => !visits.names.includes(name)) ?? ''
    expect(column(added).slice(0, 2)).toEqual(['..Oxbow', 'Marlpit'])
  })
})

describe('numbers as people type them', () => {
  const written = (by: unknown) =>
    builderNamed('calculate')?.write({ sign: '*', by, places: '2' }, ['Fee'], visits.schema, undefined)
  test.each([
    ['20%', 'ROUND(Fee * 0.2; 2)'],
    ['1,2', 'ROUND(Fee * 1.2; 2)'],
    ['£5', 'ROUND(Fee * 5; 2)'],
  ])('%s is read', (by, formula) => expect(written(by)).toMatchObject([{ formula }]))
  test('what is no number is refused with a sentence and never taken for 0', () => {
    expect(written('twenty')).toEqual([])
    expect(builderNamed('calculate')?.says?.({ by: 'twenty' }, ['Fee'])).toMatch('“twenty” is no number')
  })
  test('a limit of a band that is no number is said', () =>
    expect(builderNamed('bins')?.says?.({ how: 'hand', edges: ['10', 'ten'] }, ['Fee'])).toMatch('“ten” is no number'))
})

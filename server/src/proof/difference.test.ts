import { describe, expect, it } from 'vitest'
import { firstDifference } from './difference.ts'

const csv = (...lines: readonly string[]): string => `${lines.join('\n')}\n`
const base = csv('Clinic,Takings', 'Oxbow,12.5', 'Marlpit,')

describe('two tables as CSV', () => {
  it.each([
    ['to the letter', base],
    ['at 12 significant digits of a number', csv('Clinic,Takings', 'Oxbow,12.50000000000001', 'Marlpit,')],
    ['in another notation of a number', csv('Clinic,Takings', 'Oxbow,1.25e1', 'Marlpit,')],
    ['in quotes that need not be', csv('Clinic,"Takings"', '"Oxbow",12.5', 'Marlpit,')],
  ])('are the same %s', (_what, other) => {
    expect(firstDifference(base, other)).toBeUndefined()
  })
  it.each([
    ['a cell', csv('Clinic,Takings', 'Oxbow,13', 'Marlpit,'), 'Row 1, column “Takings”: “12.5” against “13”.'],
    [
      'an empty cell',
      csv('Clinic,Takings', 'Oxbow,12.5', 'Marlpit,0'),
      'Row 2, column “Takings”: nothing against “0”.',
    ],
    ['a name', csv('Clinic,Total', 'Oxbow,12.5', 'Marlpit,'), 'Column 2 is called “Takings” against “Total”.'],
    ['fewer rows', csv('Clinic,Takings', 'Oxbow,12.5'), '2 rows against 1.'],
    ['more rows', `${base}Wren,1\n`, '2 rows against 3.'],
    ['fewer columns', csv('Clinic', 'Oxbow', 'Marlpit'), '2 columns against 1.'],
    [
      'letters of another case',
      csv('Clinic,Takings', 'oxbow,12.5', 'Marlpit,'),
      'Row 1, column “Clinic”: “Oxbow” against “oxbow”.',
    ],
  ])('differ by %s, the first place of which is told', (_what, other, sentence) => {
    expect(firstDifference(base, other)?.sentence).toBe(sentence)
  })
})

import { type KindExamples } from '../shared/example.ts'
import { visits, rows } from '../shared/tables.examples.ts'

const where = (name: string, condition: unknown, ...kept: readonly number[]) => ({
  name,
  input: visits,
  step: { where: condition },
  gives: rows(...kept),
})

export const filterExamples: KindExamples = {
  kind: 'filter',
  examples: [
    {
      ...where('is', { column: 'Clinic', op: 'is', value: 'Oxbow' }, 1),
      statistics: { rowsIn: 5, rowsOut: 1, rowsLeft: 4, rowsCame: 0 },
    },
    where('is, whatever the case', { column: 'Clinic', op: 'is', value: 'OXBOW', ignoreCase: true }, 1, 5),
    where('is not keeps empty', { column: 'Clinic', op: 'is-not', value: 'Oxbow' }, 2, 3, 4, 5),
    where('is one of', { column: 'Clinic', op: 'is-one-of', values: ['Oxbow', 'Tarn End'] }, 1, 4),
    where('is none of keeps empty', { column: 'Clinic', op: 'is-none-of', values: ['Oxbow', 'Tarn End'] }, 2, 3, 5),
    where('contains', { column: 'Clinic', op: 'contains', value: 'ow' }, 1, 5),
    where('does not contain holds for empty', { column: 'Clinic', op: 'contains-not', value: 'ow' }, 2, 3, 4),
    where(
      'starts with, whatever the case',
      { column: 'Clinic', op: 'starts-with', value: 'ox', ignoreCase: true },
      1,
      5,
    ),
    where('does not start with', { column: 'Clinic', op: 'starts-not-with', value: 'T' }, 1, 2, 3, 5),
    where('ends with', { column: 'Clinic', op: 'ends-with', value: 'pit' }, 2),
    where('a pattern', { column: 'Clinic', op: 'matches', value: '^[A-Z]\\w+$' }, 1),
    where(
      'a pattern with a class, whatever the case',
      { column: 'Clinic', op: 'matches', value: '^\\pL+\\sEND$', ignoreCase: true },
      4,
    ),
    where('more than', { column: 'Fee', op: 'greater', value: 38.5 }, 4),
    where('at least', { column: 'Fee', op: 'at-least', value: 38.5 }, 1, 4, 5),
    where('less never holds for empty', { column: 'Fee', op: 'less', value: 38.5 }, 3),
    where('at most', { column: 'Day', op: 'at-most', value: '2031-05-02' }, 1, 3, 5),
    where('between, both ends in', { column: 'Day', op: 'between', from: '2031-05-02', to: '2031-05-03' }, 1, 2, 5),
    where('text in order', { column: 'Clinic', op: 'greater', value: 'MARLPIT' }, 1, 2, 4, 5),
    where('is empty', { column: 'Paid', op: 'is-empty' }, 3, 5),
    where('is filled', { column: 'Day', op: 'is-filled' }, 1, 2, 3, 5),
    where('true or false', { column: 'Paid', op: 'is', value: true }, 1, 4),
    where(
      'all and any and not',
      {
        all: [
          {
            any: [
              { column: 'Fee', op: 'is', value: 12 },
              { column: 'Paid', op: 'is', value: false },
            ],
          },
          { not: { column: 'Clinic', op: 'is', value: 'marlpit' } },
        ],
      },
      3,
    ),
    where('a formula', { formula: 'AND(Fee > 20; LEN(Clinic) = 5)' }, 1, 5),
    {
      name: 'dropping keeps the rest',
      input: visits,
      step: { where: { column: 'Fee', op: 'greater', value: 20 }, keep: false },
      gives: rows(2, 3),
    },
    {
      name: 'another column',
      input: 'A:integer,B:integer\n1,1\n2,1\n,\n5,9\n',
      step: { where: { column: 'A', op: 'at-least', value: { column: 'B' } } },
      gives: 'A,B\n1,1\n2,1\n',
    },
    {
      name: 'a parameter',
      input: visits,
      parameters: [{ name: 'Least fee', type: 'decimal', value: 100 }],
      step: { where: { column: 'Fee', op: 'greater', value: { parameter: 'Least fee' } } },
      gives: rows(4),
    },
    {
      name: 'a date up to a moment',
      input: visits,
      parameters: [{ name: 'Until', type: 'datetime', value: '2031-05-02T00:00:00' }],
      step: { where: { column: 'Day', op: 'between', from: '2031-05-02', to: { parameter: 'Until' } } },
      gives: rows(1, 5),
    },
    {
      name: 'spaces at the ends aside',
      input: 'A\n" x"\nx\n"  "\n',
      step: { where: { column: 'A', op: 'is', value: 'x', trim: true } },
      gives: 'A\n" x"\nx\n',
    },
  ],
  broken: [
    {
      name: 'a value of another type',
      input: visits,
      step: { where: { column: 'Fee', op: 'greater', value: 'much' } },
      says: '“much” does not read as a number',
    },
    {
      name: 'text asked of numbers',
      input: visits,
      step: { where: { column: 'Fee', op: 'contains', value: '8' } },
      says: 'needs text',
    },
    {
      name: 'a pattern that is none',
      input: visits,
      step: { where: { column: 'Clinic', op: 'matches', value: '(a' } },
      says: 'cannot be read',
    },
  ],
}

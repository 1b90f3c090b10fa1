import { type KindExamples } from '../shared/example.ts'
import { valuesVisits } from '../shared/tables.examples.ts'

export const casesExamples: KindExamples = {
  kind: 'cases',
  examples: [
    {
      name: 'the first that holds wins',
      input: valuesVisits,
      step: {
        as: 'Band',
        cases: [
          { when: { column: 'Fee', op: 'at-least', value: 100 }, then: 'high' },
          { when: { column: 'Fee', op: 'at-least', value: 20 }, then: 'middle' },
        ],
        otherwise: 'low',
        after: 'Clinic',
      },
      gives:
        'Clinic,Band,Fee,Day,Seen\nOxbow,middle,38.5,2031-05-02,2031-05-02T09:30:00\nox bow,low,12,,\n"OXBOW ",high,180,2031-05-03,2031-05-01T00:00:00\n,low,,2031-05-01,\n',
      statistics: { notes: { case1: 1, case2: 1, otherwise: 2 } },
    },
    {
      name: 'in place, numbers of both sorts, otherwise nothing',
      input: 'A:integer,B:decimal\n1,2.5\n7,1\n',
      step: {
        as: 'A',
        cases: [
          { when: { column: 'A', op: 'is', value: 1 }, then: { column: 'B' } },
          { when: { formula: 'A > 9' }, then: 0 },
        ],
        otherwise: null,
      },
      gives: 'A,B\n2.5,2.5\n,1\n',
      statistics: { cellsChanged: 2 },
    },
    {
      name: 'dates beside written dates',
      input: valuesVisits,
      step: {
        as: 'When',
        cases: [{ when: { column: 'Day', op: 'is-filled' }, then: { column: 'Day' } }],
        otherwise: '2031-01-01',
      },
      gives:
        'Clinic,Fee,Day,Seen,When\nOxbow,38.5,2031-05-02,2031-05-02T09:30:00,2031-05-02\nox bow,12,,,2031-01-01\n"OXBOW ",180,2031-05-03,2031-05-01T00:00:00,2031-05-03\n,,2031-05-01,,2031-05-01\n',
    },
    {
      name: 'dates and moments together',
      input: valuesVisits,
      step: {
        as: 'When',
        cases: [{ when: { column: 'Seen', op: 'is-filled' }, then: { column: 'Seen' } }],
        otherwise: { column: 'Day' },
      },
      gives:
        'Clinic,Fee,Day,Seen,When\nOxbow,38.5,2031-05-02,2031-05-02T09:30:00,2031-05-02T09:30:00\nox bow,12,,,\n"OXBOW ",180,2031-05-03,2031-05-01T00:00:00,2031-05-01T00:00:00\n,,2031-05-01,,2031-05-01T00:00:00\n',
    },
    {
      name: 'yes or no, and a parameter',
      input: 'A\nx\ny\n',
      parameters: [{ name: 'Limit', type: 'integer', value: 3 }],
      step: { as: 'N', cases: [{ when: { column: 'A', op: 'is', value: 'x' }, then: { parameter: 'Limit' } }] },
      gives: 'A,N\nx,3\ny,\n',
    },
    {
      name: 'dates as text where nothing says otherwise',
      input: 'A\nx\n',
      step: {
        as: 'N',
        cases: [{ when: { column: 'A', op: 'is', value: 'x' }, then: '2031-05-02' }],
        otherwise: 'never',
      },
      gives: 'A,N\nx,2031-05-02\n',
    },
  ],
  broken: [
    {
      name: 'a number among texts',
      input: valuesVisits,
      step: { as: 'N', cases: [{ when: { column: 'Fee', op: 'is-empty' }, then: 'none' }], otherwise: 3 },
      says: '“none” does not read as a whole number',
    },
    {
      name: 'a condition on a column that is not there',
      input: valuesVisits,
      step: { as: 'N', cases: [{ when: { column: 'Fees', op: 'is-empty' }, then: 1 }] },
      says: 'Did you mean “Fee”?',
    },
  ],
}

import { type KindExamples } from '../shared/example.ts'
import { visits, rows } from '../shared/tables.examples.ts'

export const sortExamples: KindExamples = {
  kind: 'sort',
  examples: [
    {
      name: 'text by small letters, empty last',
      input: visits,
      step: { by: [{ column: 'Clinic' }] },
      gives: rows(2, 1, 5, 4, 3),
      statistics: { rowsLeft: 0, rowsCame: 0 },
    },
    {
      name: 'empty last also when descending',
      input: visits,
      step: { by: [{ column: 'Fee', descending: true }] },
      gives: rows(4, 1, 5, 3, 2),
    },
    {
      name: 'two keys',
      input: visits,
      step: { by: [{ column: 'Day' }, { column: 'Clinic', descending: true }] },
      gives: rows(3, 5, 1, 2, 4),
    },
    { name: 'false before true', input: visits, step: { by: [{ column: 'Paid' }] }, gives: rows(2, 1, 4, 3, 5) },
    {
      name: 'negative numbers',
      input: 'A:decimal\n-1.5\n2\n-10\n0\n',
      step: { by: [{ column: 'A' }] },
      gives: 'A\n-10\n-1.5\n0\n2\n',
    },
    {
      name: 'numbers inside counted',
      input: 'Bed\nmarlpit 10\nmarlpit 2\nMarlpit 02\nmarlpit\n',
      step: { by: [{ column: 'Bed', natural: true }] },
      gives: 'Bed\nmarlpit\nMarlpit 02\nmarlpit 2\nmarlpit 10\n',
    },
  ],
  broken: [
    { name: 'an unknown column', input: visits, step: { by: [{ column: 'Fees' }] }, says: 'Did you mean “Fee”?' },
  ],
}

import { type KindExamples } from '../shared/example.ts'
import { visits, rows } from '../shared/tables.examples.ts'

export const sliceExamples: KindExamples = {
  kind: 'slice',
  examples: [
    { name: 'the first', input: visits, step: { first: 2 }, gives: rows(1, 2), statistics: { rowsLeft: 3 } },
    { name: 'the last', input: visits, step: { last: 2 }, gives: rows(4, 5) },
    { name: 'all but the first', input: visits, step: { skip: 3 }, gives: rows(4, 5) },
    { name: 'every other, from the first on', input: visits, step: { every: 2 }, gives: rows(1, 3, 5) },
    { name: 'more than there are', input: visits, step: { last: 9 }, gives: rows(1, 2, 3, 4, 5) },
  ],
}

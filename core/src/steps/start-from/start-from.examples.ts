import { type KindExamples } from '../shared/example.ts'
import { others } from '../shared/tables.examples.ts'

export const startFromExamples: KindExamples = {
  kind: 'start-from',
  examples: [
    {
      name: 'the rows of another table',
      input: 'Unused\n1\n',
      others,
      step: { table: 'clinics' },
      gives: 'Name,Town,Beds\nMarlpit,Ash,4\nOxbow,Elm,2\nOxbow,Oak,3\n,Nowhere,9\nLong Acre,Fir,\n',
      statistics: { rowsIn: 0, rowsOut: 5 },
    },
  ],
}

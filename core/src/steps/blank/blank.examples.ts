import { type KindExamples } from '../shared/example.ts'
import { wide } from '../shared/tables.examples.ts'

export const blankExamples: KindExamples = {
  kind: 'blank',
  examples: [
    {
      name: 'values become empty',
      input: 'A,B:integer\nn/a,1\nx,-1\n-,2\n',
      step: { columns: ['A'], values: ['n/a', '-'] },
      gives: 'A,B\n,1\nx,-1\n,2\n',
      statistics: { cellsChanged: 2 },
    },
    {
      name: 'numbers in all number columns',
      input: 'A,B:integer,C:decimal\nx,-1,-1\ny,1,-1.5\n',
      step: { columns: { type: 'number' }, values: [-1] },
      gives: 'A,B,C\nx,,\ny,1,-1.5\n',
    },
  ],
  broken: [
    {
      name: 'a value of another type',
      input: wide,
      step: { columns: ['Jan'], values: ['n/a'] },
      says: 'does not read as a whole number',
    },
  ],
}

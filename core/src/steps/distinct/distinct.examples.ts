import { type KindExamples } from '../shared/example.ts'

export const distinctExamples: KindExamples = {
  kind: 'distinct',
  examples: [
    {
      name: 'whole rows',
      input: 'A,B\nx,1\ny,\nx,1\ny,\n',
      step: {},
      gives: 'A,B\nx,1\ny,\n',
      statistics: { rowsLeft: 2 },
    },
    {
      name: 'by some columns, the first',
      input: 'A,B\nx,1\ny,2\nx,3\n',
      step: { columns: ['A'] },
      gives: 'A,B\nx,1\ny,2\n',
    },
    {
      name: 'the last, each at its own place',
      input: 'A,B\nx,1\ny,2\nx,3\n',
      step: { columns: ['A'], keep: 'last' },
      gives: 'A,B\ny,2\nx,3\n',
    },
  ],
}

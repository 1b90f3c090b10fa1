import { type KindExamples } from '../shared/example.ts'

export const numberExamples: KindExamples = {
  kind: 'number',
  examples: [
    { name: 'from one on', input: 'A\nx\ny\n', step: { as: 'No' }, gives: 'A,No\nx,1\ny,2\n' },
    {
      name: 'anew for each, from another start, beside a column',
      input: 'A,B\nx,1\ny,1\nx,2\n,3\n,4\n',
      step: { as: 'A', start: 10, within: ['A'], before: 'A' },
      gives: 'A 2,A,B\n10,x,1\n10,y,1\n11,x,2\n10,,3\n11,,4\n',
    },
  ],
}

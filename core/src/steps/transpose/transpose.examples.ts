import { type KindExamples } from '../shared/example.ts'

export const transposeExamples: KindExamples = {
  kind: 'transpose',
  examples: [
    {
      name: 'the new names from a column',
      input: 'What,Oxbow:integer,Marlpit:decimal\nVisits,1,2.5\nTakings,3,\n',
      step: { names: 'What' },
      gives: 'Name,Visits,Takings\nOxbow,1,3\nMarlpit,2.5,\n',
    },
    {
      name: 'by number, mixed types become text',
      input: 'A,B:date\nx,2031-05-02\n,2031-05-03\n',
      step: {},
      gives: 'Name,Column 1,Column 2\nA,x,\nB,2031-05-02,2031-05-03\n',
    },
    {
      name: 'names that clash or are missing',
      input: 'N,V:integer\na,1\na,2\n,3\nName,4\n',
      step: { names: 'N' },
      gives: 'Name,a,a 2,Column 3,Name 2\nV,1,2,3,4\n',
    },
    { name: 'no rows', input: 'A,B\n', step: {}, gives: 'Name\nA\nB\n' },
  ],
}

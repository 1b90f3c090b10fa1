import { table, type KindExamples } from '../shared/example.ts'

export const summariseExamples: KindExamples = {
  kind: 'summarise',
  examples: [
    {
      name: 'all measures',
      input: table`
          C,X:decimal,T,D:date
          b,0.1,z,2031-05-02
          a,5,Y,
          b,0.2,,2031-05-01
          b,,a,2031-05-01
          ,7,q,2031-01-01
        `,
      step: {
        by: ['C'],
        measures: [
          { how: 'count', as: 'n' },
          { how: 'filled', column: 'X', as: 'filled' },
          { how: 'distinct', column: 'D', as: 'days' },
          { how: 'sum', column: 'X', as: 'sum' },
          { how: 'mean', column: 'X', as: 'mean' },
          { how: 'median', column: 'X', as: 'median' },
          { how: 'min', column: 'T', as: 'least' },
          { how: 'max', column: 'D', as: 'latest' },
          { how: 'first', column: 'T', as: 'first' },
          { how: 'last', column: 'X', as: 'last' },
        ],
      },
      gives:
        'C,n,filled,days,sum,mean,median,least,latest,first,last\nb,3,2,2,0.3,0.15,0.15,a,2031-05-02,z,\na,1,1,0,5,5,5,Y,,Y,5\n,1,1,1,7,7,7,q,2031-01-01,q,7\n',
      statistics: { rowsIn: 5, rowsOut: 3, rowsLeft: 2, columnsDropped: ['X', 'T', 'D'] },
    },
    {
      name: 'ten times 0.1 is 1',
      input: `X:decimal\n${'0.1\n'.repeat(10)}`,
      step: { by: [], measures: [{ how: 'sum', column: 'X', as: 'S' }] },
      gives: 'S\n1\n',
    },
    {
      name: 'what is lost in between comes back',
      input: 'X:decimal\n1e20\n1\n-1e20\n',
      step: { by: [], measures: [{ how: 'sum', column: 'X', as: 'S' }] },
      gives: 'S\n1\n',
    },
    {
      name: 'nothing of nothing gives one row',
      input: 'X:integer\n',
      step: {
        by: [],
        measures: [
          { how: 'count', as: 'N' },
          { how: 'sum', column: 'X', as: 'S' },
        ],
      },
      gives: 'N,S\n0,\n',
    },
    {
      name: 'groups of nothing',
      input: 'C,X:integer\n',
      step: { by: ['C'], measures: [{ how: 'count', as: 'N' }] },
      gives: 'C,N\n',
    },
    {
      name: 'two keys, one empty',
      input: 'A,B:integer\nx,1\nx,\nx,1\n,1\n',
      step: { by: ['A', 'B'], measures: [{ how: 'count', as: 'N' }] },
      gives: 'A,B,N\nx,1,2\nx,,1\n,1,1\n',
    },
    {
      name: 'a name that clashes',
      input: 'A,B:integer\nx,1\n',
      step: { by: ['A'], measures: [{ how: 'max', column: 'B', as: 'A' }] },
      gives: 'A,A 2\nx,1\n',
    },
  ],
  broken: [
    {
      name: 'a sum of text',
      input: 'A,B\nx,y\n',
      step: { by: ['A'], measures: [{ how: 'sum', column: 'B', as: 'S' }] },
      says: 'this needs numbers',
    },
  ],
}

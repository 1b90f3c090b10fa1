import { type KindExamples } from '../shared/example.ts'
import { shapeVisits } from '../shared/tables.examples.ts'

export const windowExamples: KindExamples = {
  kind: 'window',
  examples: [
    {
      name: 'figures of the group beside every row',
      input: shapeVisits,
      step: {
        by: ['Animal'],
        measures: [
          { how: 'count', as: 'rows' },
          { how: 'sum', column: 'Fee', as: 'sum' },
          { how: 'distinct', column: 'Day', as: 'days' },
          { how: 'share', column: 'N', as: 'share' },
          { how: 'join', column: 'Clinic', as: 'where', separator: '/' },
        ],
        after: 'Animal',
      },
      gives:
        'Clinic,Animal,rows,sum,days,share,where,Kind,Fee,Day,Paid,N\nOxbow,Tess,2,38.5,2,0.25,Oxbow/Oxbow,dog,38.5,2031-05-02,true,1\nMarlpit,Otis,2,24,1,0.285714285714286,Marlpit,cat,12,2031-05-01,false,2\nOxbow,Tess,2,38.5,2,0.75,Oxbow/Oxbow,dog,,2031-05-03,true,3\nOxbow,Fig,1,180,0,1,Oxbow,,180,,,4\n,Otis,2,24,1,0.714285714285714,Marlpit,cat,12,2031-05-01,false,5\n',
      statistics: { notes: { groups: 3 } },
    },
    {
      name: 'running, ranks and neighbours in an order',
      input: 'G,X:integer,V:decimal\na,3,0.1\na,1,0.2\nb,1,\na,1,0.3\nb,,4\n',
      step: {
        by: ['G'],
        order: [{ column: 'X' }],
        measures: [
          { how: 'running-sum', column: 'V', as: 'run' },
          { how: 'rank', as: 'rank' },
          { how: 'dense-rank', as: 'dense' },
          { how: 'row-number', as: 'no' },
          { how: 'previous', column: 'V', as: 'prev' },
          { how: 'next', column: 'X', as: 'next' },
          { how: 'first', column: 'V', as: 'first' },
          { how: 'last', column: 'X', as: 'last' },
        ],
      },
      gives:
        'G,X,V,run,rank,dense,no,prev,next,first,last\na,3,0.1,0.6,3,2,3,0.3,,0.2,3\na,1,0.2,0.2,1,1,1,,1,0.2,3\nb,1,,,1,1,1,,,,\na,1,0.3,0.5,1,1,2,0.2,3,0.2,3\nb,,4,4,2,2,2,,,,\n',
    },
    {
      name: 'a running total by day, and the first of each group',
      input:
        'Clinic,Day:date,Fee:decimal\nOxbow,2031-05-02,12\nTarn,2031-05-01,\nOxbow,2031-05-01,40.5\nTarn,2031-05-03,8\n',
      step: {
        by: ['Clinic'],
        order: [{ column: 'Day' }],
        measures: [
          { how: 'running-sum', column: 'Fee', as: 'So far' },
          { how: 'first', column: 'Fee', as: 'First' },
          { how: 'rank', as: 'Turn' },
        ],
      },
      gives:
        'Clinic,Day,Fee,So far,First,Turn\nOxbow,2031-05-02,12,52.5,40.5,2\nTarn,2031-05-01,,,,1\nOxbow,2031-05-01,40.5,40.5,40.5,1\nTarn,2031-05-03,8,8,,2\n',
    },
    {
      name: 'over the whole table, without an order, two places away',
      input: 'X:integer,Z\n5,a\n,b\n7,c\n',
      step: {
        measures: [
          { how: 'running-sum', column: 'X', as: 'run' },
          { how: 'rank', as: 'rank' },
          { how: 'previous', column: 'X', as: 'p', offset: 2 },
          { how: 'mean', column: 'X', as: 'm' },
          { how: 'max', column: 'X', as: 'X' },
        ],
      },
      gives: 'X,Z,run,rank,p,m,X 2\n5,a,5,1,,6,7\n,b,5,1,,6,7\n7,c,12,1,5,6,7\n',
    },
    {
      name: 'a share of a group that sums to nothing is unreadable',
      input: 'G,X:integer\na,1\na,-1\n',
      step: { by: ['G'], measures: [{ how: 'share', column: 'X', as: 's' }] },
      gives: 'G,X,s\na,1,\na,-1,\n',
      statistics: { unreadable: { s: 2 } },
    },
  ],
  broken: [
    {
      name: 'a running sum of text',
      input: shapeVisits,
      step: { measures: [{ how: 'running-sum', column: 'Animal', as: 'r' }] },
      says: 'needs numbers',
    },
  ],
}

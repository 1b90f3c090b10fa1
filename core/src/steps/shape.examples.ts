import { table, type KindExamples } from './shared/example.ts'

const visits = table`
  Clinic,Animal,Kind,Fee:decimal,Day:date,Paid:boolean,N:integer
  Oxbow,Tess,dog,38.5,2031-05-02,true,1
  Marlpit,Otis,cat,12,2031-05-01,false,2
  Oxbow,Tess,dog,,2031-05-03,true,3
  Oxbow,Fig,,180,,,4
  ,Otis,cat,12,2031-05-01,false,5
`
const crosstab =
  'Clinic,Sales Jan:integer,Quantity Jan:integer,Sales Feb:decimal,Quantity Mar:integer\nOxbow,1,10,2.5,\nMarlpit,,20,3,40\nTarn,,,,\n'

export const shapeExamples: readonly KindExamples[] = [
  {
    kind: 'unpivot',
    examples: [
      {
        name: 'several groups aligned by their labels',
        input: crosstab,
        step: {
          name: 'Month',
          groups: [
            { columns: { like: 'Sales*' }, value: 'Sales' },
            { columns: { like: 'Quantity*' }, value: 'Quantity' },
          ],
          labels: { remove: { pattern: '^\\w+ ' } },
        },
        gives:
          'Clinic,Month,Sales,Quantity\nOxbow,Jan,1,10\nOxbow,Feb,2.5,\nOxbow,Mar,,\nMarlpit,Jan,,20\nMarlpit,Feb,3,\nMarlpit,Mar,,40\nTarn,Jan,,\nTarn,Feb,,\nTarn,Mar,,\n',
        statistics: { notes: { gatheredColumns: 4, emptyCells: 4 } },
      },
      {
        name: 'empty in every group is left out',
        input: crosstab,
        step: {
          name: 'Month',
          groups: [
            { columns: ['Sales Jan', 'Sales Feb'], value: 'Sales' },
            { columns: ['Quantity Jan', 'Quantity Mar'], value: 'Quantity' },
          ],
          labels: { remove: { pattern: '^\\w+ ' }, renames: { Jan: 'January' } },
          empty: 'drop',
        },
        gives:
          'Clinic,Month,Sales,Quantity\nOxbow,January,1,10\nOxbow,Feb,2.5,\nMarlpit,January,,20\nMarlpit,Feb,3,\nMarlpit,Mar,,40\n',
      },
      {
        name: 'a label cleaned and called otherwise',
        input: 'C,FY30:integer,FY31:integer\nx,1,2\n',
        step: {
          name: 'Year',
          groups: [{ columns: { except: ['C'] }, value: 'V' }],
          labels: { remove: 'FY', renames: { '30': '2030' } },
        },
        gives: 'C,Year,V\nx,2030,1\nx,31,2\n',
      },
      {
        name: 'nothing left of a label is empty',
        input: 'C,FY:integer\nx,1\n',
        step: { name: 'Year', groups: [{ columns: ['FY'], value: 'V' }], labels: { remove: 'FY' } },
        gives: 'C,Year,V\nx,,1\n',
      },
    ],
    broken: [
      {
        name: 'two columns of one label',
        input: crosstab,
        step: {
          name: 'M',
          groups: [
            { columns: { like: 'Sales*' }, value: 'S' },
            { columns: { like: 'Q*' }, value: 'Q' },
          ],
          labels: { remove: { pattern: ' .*$' } },
        },
        says: 'Two columns of one group get the label',
      },
    ],
  },
  {
    kind: 'pivot',
    examples: [
      {
        name: 'the single value, whatever labels come',
        input: 'Clinic,Month,Sales:integer\nOxbow,Jan,1\nMarlpit,Jan,\nOxbow,Feb,2\nMarlpit,,4\n',
        step: { labels: 'Month', values: [{ column: 'Sales', how: 'only' }] },
        gives: 'Clinic,Jan,Feb,Empty\nOxbow,1,2,\nMarlpit,,,4\n',
        statistics: {
          rowsIn: 4,
          rowsOut: 2,
          columnsAdded: ['Jan', 'Feb', 'Empty'],
          columnsDropped: ['Month', 'Sales'],
          notes: { labels: 3, leftOut: 0 },
        },
      },
      {
        name: 'labels that are told, in that order, others left out; a row of none stays',
        input: 'Clinic,Month,Sales:integer\nOxbow,Jan,1\nMarlpit,Apr,5\nOxbow,Feb,2\n',
        step: { labels: 'Month', values: [{ column: 'Sales', how: 'sum' }], found: ['Feb', 'Jan', 'Mar'] },
        gives: 'Clinic,Feb,Jan,Mar\nOxbow,2,1,\nMarlpit,,,\n',
        statistics: { notes: { labels: 3, leftOut: 1 } },
      },
      {
        name: 'several values, label by label, gaps filled',
        input: visits,
        step: {
          labels: 'Kind',
          values: [
            { column: 'Fee', how: 'sum', as: 'Fees' },
            { column: 'N', how: 'count', as: 'Rows' },
          ],
          by: ['Clinic'],
          gaps: 0,
        },
        gives:
          'Clinic,dog Fees,dog Rows,cat Fees,cat Rows,Empty Fees,Empty Rows\nOxbow,38.5,2,0,0,180,1\nMarlpit,0,0,12,1,0,0\n,0,0,12,1,0,0\n',
      },
      {
        name: 'a cell without rows is empty, whatever the measure',
        input: visits,
        step: { labels: 'Animal', values: [{ column: 'Fee', how: 'filled' }], by: ['Kind'] },
        gives: 'Kind,Tess,Otis,Fig\ndog,1,,\ncat,,2,\n,,,1\n',
      },
      {
        name: 'one row for the table, labels that are dates',
        input: visits,
        step: { labels: 'Day', values: [{ column: 'Fee', how: 'max' }], by: [] },
        gives: '2031-05-02,2031-05-01,2031-05-03,Empty\n38.5,12,,180\n',
      },
      {
        name: 'labels that are numbers, told as numbers',
        input: visits,
        step: { labels: 'N', values: [{ column: 'Animal', how: 'first' }], by: ['Clinic'], found: [1, 4] },
        gives: 'Clinic,1,4\nOxbow,Tess,Fig\nMarlpit,,\n,,\n',
      },
      {
        name: 'a label named like a column',
        input: 'A,L,V:integer\nx,A,1\n',
        step: { labels: 'L', values: [{ column: 'V', how: 'only' }] },
        gives: 'A,A 2\nx,1\n',
      },
      {
        name: 'lists and joined text, shares of all',
        input: visits,
        step: {
          labels: 'Paid',
          values: [
            { column: 'Animal', how: 'join', as: 'Who' },
            { column: 'Fee', how: 'share', as: 'Share' },
          ],
          by: ['Clinic'],
          found: [true, false],
        },
        gives:
          'Clinic,true Who,true Share,false Who,false Share\nOxbow,"Tess, Tess",0.158762886597938,,\nMarlpit,,,Otis,0.0494845360824742\n,,,Otis,0.0494845360824742\n',
      },
    ],
    broken: [
      {
        name: 'a sum of text',
        input: visits,
        step: { labels: 'Kind', values: [{ column: 'Animal', how: 'sum' }], found: ['dog'] },
        says: 'needs numbers',
      },
      {
        name: 'gaps of another type',
        input: visits,
        step: { labels: 'Kind', values: [{ column: 'Fee', how: 'sum' }], found: ['dog'], gaps: 'none' },
        says: 'does not read as a number',
      },
    ],
  },
  {
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
  },
  {
    kind: 'summarise',
    examples: [
      {
        name: 'equal values deviate by nothing, however their mean is rounded',
        input: 'K,V:decimal\na,0.1\na,0.1\na,0.1\nb,1000000.25\nb,1000000.75\nc,1\n',
        step: { by: ['K'], measures: [{ how: 'deviation', column: 'V', as: 'dev' }] },
        gives: 'K,dev\na,0\nb,0.353553390593274\nc,\n',
      },
      {
        name: 'the other measures',
        input: visits,
        step: {
          by: ['Animal'],
          measures: [
            { how: 'deviation', column: 'N', as: 'dev' },
            { how: 'list', column: 'Day', as: 'days' },
            { how: 'join', column: 'Clinic', as: 'where', separator: ' + ' },
            { how: 'any', column: 'Paid', as: 'any' },
            { how: 'every', column: 'Paid', as: 'every' },
            { how: 'share', column: 'N', as: 'share' },
          ],
        },
        gives:
          'Animal,dev,days,where,any,every,share\nTess,1.4142135623731,"[""2031-05-02"",""2031-05-03""]",Oxbow + Oxbow,true,true,0.266666666666667\nOtis,2.12132034355964,"[""2031-05-01"",""2031-05-01""]",Marlpit,false,false,0.466666666666667\nFig,,[],Oxbow,,,0.266666666666667\n',
      },
      {
        name: 'first, last, list and join in an order of their own',
        input: visits,
        step: {
          by: [],
          measures: [
            { how: 'first', column: 'Animal', as: 'dearest', order: [{ column: 'Fee', descending: true }] },
            {
              how: 'last',
              column: 'Animal',
              as: 'cheapest',
              order: [{ column: 'Fee', descending: true }, { column: 'N' }],
            },
            {
              how: 'list',
              column: 'N',
              as: 'numbers',
              order: [{ column: 'Clinic' }, { column: 'N', descending: true }],
            },
            { how: 'join', column: 'Animal', as: 'all', separator: '', order: [{ column: 'Animal' }] },
          ],
        },
        gives: 'dearest,cheapest,numbers,all\nFig,Tess,"[2,4,3,1,5]",FigOtisOtisTessTess\n',
      },
      {
        name: 'nothing of nothing',
        input: 'X:integer,B:boolean\n',
        step: {
          by: [],
          measures: [
            { how: 'deviation', column: 'X', as: 'd' },
            { how: 'list', column: 'X', as: 'l' },
            { how: 'join', column: 'X', as: 'j' },
            { how: 'any', column: 'B', as: 'a' },
            { how: 'share', column: 'X', as: 's' },
          ],
        },
        gives: 'd,l,j,a,s\n,[],,,\n',
      },
      {
        name: 'a share of nothing at all is unreadable',
        input: 'C,X:decimal\na,1\nb,-1\n',
        step: { by: ['C'], measures: [{ how: 'share', column: 'X', as: 's' }] },
        gives: 'C,s\na,\nb,\n',
        statistics: { unreadable: { s: 2 } },
      },
    ],
    broken: [
      {
        name: 'whether any of numbers',
        input: visits,
        step: { by: [], measures: [{ how: 'any', column: 'N', as: 'a' }] },
        says: 'needs yes or no',
      },
      {
        name: 'an order by a column that is not there',
        input: visits,
        step: { by: [], measures: [{ how: 'first', column: 'N', as: 'a', order: [{ column: 'Days' }] }] },
        says: 'Did you mean “Day”?',
      },
    ],
  },
  {
    kind: 'window',
    examples: [
      {
        name: 'figures of the group beside every row',
        input: visits,
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
        input: visits,
        step: { measures: [{ how: 'running-sum', column: 'Animal', as: 'r' }] },
        says: 'needs numbers',
      },
    ],
  },
  {
    kind: 'unroll',
    examples: [
      {
        name: 'an item a row; an empty list and an empty cell are a row of empty',
        input: 'R,Tags:list,V\n1,"[""a"",""b""]",x\n2,[],y\n3,,z\n4,"[""c"",null]",\n',
        step: { column: 'Tags' },
        gives: 'R,Tags,V\n1,a,x\n1,b,x\n2,,y\n3,,z\n4,c,\n4,,\n',
        statistics: { rowsIn: 4, rowsOut: 6, rowsCame: 2 },
      },
      {
        name: 'whole numbers and decimals',
        input: 'N:list\n"[1,2.5]"\n[3]\n',
        step: { column: 'N' },
        gives: 'N\n1\n2.5\n3\n',
      },
    ],
    broken: [{ name: 'text', input: visits, step: { column: 'Animal' }, says: 'needs lists' }],
  },
]

import { table, type KindExamples } from './shared/example.ts'

const visits = table`
  Clinic,Fee:decimal,Day:date,Paid:boolean
  Oxbow,38.5,2031-05-02,true
  marlpit,,2031-05-03,false
  ,12,2031-05-01,
  Tarn End,180,,true
  oxbow,38.5,2031-05-02,
`
const rows = (...kept: readonly number[]): string =>
  [
    'Clinic,Fee,Day,Paid',
    ...kept.map(
      (n) =>
        [
          'Oxbow,38.5,2031-05-02,true',
          'marlpit,,2031-05-03,false',
          ',12,2031-05-01,',
          'Tarn End,180,,true',
          'oxbow,38.5,2031-05-02,',
        ][n - 1],
    ),
    '',
  ].join('\n')
const where = (name: string, condition: unknown, ...kept: readonly number[]) => ({
  name,
  input: visits,
  step: { where: condition },
  gives: rows(...kept),
})

export const rowExamples: readonly KindExamples[] = [
  {
    kind: 'filter',
    examples: [
      {
        ...where('is', { column: 'Clinic', op: 'is', value: 'Oxbow' }, 1),
        statistics: { rowsIn: 5, rowsOut: 1, rowsLeft: 4, rowsCame: 0 },
      },
      where('is, whatever the case', { column: 'Clinic', op: 'is', value: 'OXBOW', ignoreCase: true }, 1, 5),
      where('is not keeps empty', { column: 'Clinic', op: 'is-not', value: 'Oxbow' }, 2, 3, 4, 5),
      where('is one of', { column: 'Clinic', op: 'is-one-of', values: ['Oxbow', 'Tarn End'] }, 1, 4),
      where('is none of keeps empty', { column: 'Clinic', op: 'is-none-of', values: ['Oxbow', 'Tarn End'] }, 2, 3, 5),
      where('contains', { column: 'Clinic', op: 'contains', value: 'ow' }, 1, 5),
      where('does not contain holds for empty', { column: 'Clinic', op: 'contains-not', value: 'ow' }, 2, 3, 4),
      where(
        'starts with, whatever the case',
        { column: 'Clinic', op: 'starts-with', value: 'ox', ignoreCase: true },
        1,
        5,
      ),
      where('does not start with', { column: 'Clinic', op: 'starts-not-with', value: 'T' }, 1, 2, 3, 5),
      where('ends with', { column: 'Clinic', op: 'ends-with', value: 'pit' }, 2),
      where('a pattern', { column: 'Clinic', op: 'matches', value: '^[A-Z]\\w+$' }, 1),
      where(
        'a pattern with a class, whatever the case',
        { column: 'Clinic', op: 'matches', value: '^\\pL+\\sEND$', ignoreCase: true },
        4,
      ),
      where('more than', { column: 'Fee', op: 'greater', value: 38.5 }, 4),
      where('at least', { column: 'Fee', op: 'at-least', value: 38.5 }, 1, 4, 5),
      where('less never holds for empty', { column: 'Fee', op: 'less', value: 38.5 }, 3),
      where('at most', { column: 'Day', op: 'at-most', value: '2031-05-02' }, 1, 3, 5),
      where('between, both ends in', { column: 'Day', op: 'between', from: '2031-05-02', to: '2031-05-03' }, 1, 2, 5),
      where('text in order', { column: 'Clinic', op: 'greater', value: 'MARLPIT' }, 1, 2, 4, 5),
      where('is empty', { column: 'Paid', op: 'is-empty' }, 3, 5),
      where('is filled', { column: 'Day', op: 'is-filled' }, 1, 2, 3, 5),
      where('true or false', { column: 'Paid', op: 'is', value: true }, 1, 4),
      where(
        'all and any and not',
        {
          all: [
            {
              any: [
                { column: 'Fee', op: 'is', value: 12 },
                { column: 'Paid', op: 'is', value: false },
              ],
            },
            { not: { column: 'Clinic', op: 'is', value: 'marlpit' } },
          ],
        },
        3,
      ),
      where('a formula', { formula: 'AND(Fee > 20; LEN(Clinic) = 5)' }, 1, 5),
      {
        name: 'dropping keeps the rest',
        input: visits,
        step: { where: { column: 'Fee', op: 'greater', value: 20 }, keep: false },
        gives: rows(2, 3),
      },
      {
        name: 'another column',
        input: 'A:integer,B:integer\n1,1\n2,1\n,\n5,9\n',
        step: { where: { column: 'A', op: 'at-least', value: { column: 'B' } } },
        gives: 'A,B\n1,1\n2,1\n',
      },
      {
        name: 'a parameter',
        input: visits,
        parameters: [{ name: 'Least fee', type: 'decimal', value: 100 }],
        step: { where: { column: 'Fee', op: 'greater', value: { parameter: 'Least fee' } } },
        gives: rows(4),
      },
      {
        name: 'a date up to a moment',
        input: visits,
        parameters: [{ name: 'Until', type: 'datetime', value: '2031-05-02T00:00:00' }],
        step: { where: { column: 'Day', op: 'between', from: '2031-05-02', to: { parameter: 'Until' } } },
        gives: rows(1, 5),
      },
      {
        name: 'spaces at the ends aside',
        input: 'A\n" x"\nx\n"  "\n',
        step: { where: { column: 'A', op: 'is', value: 'x', trim: true } },
        gives: 'A\n" x"\nx\n',
      },
    ],
    broken: [
      {
        name: 'a value of another type',
        input: visits,
        step: { where: { column: 'Fee', op: 'greater', value: 'much' } },
        says: '“much” does not read as a number',
      },
      {
        name: 'text asked of numbers',
        input: visits,
        step: { where: { column: 'Fee', op: 'contains', value: '8' } },
        says: 'needs text',
      },
      {
        name: 'a pattern that is none',
        input: visits,
        step: { where: { column: 'Clinic', op: 'matches', value: '(a' } },
        says: 'cannot be read',
      },
    ],
  },
  {
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
  },
  {
    kind: 'fill',
    examples: [
      {
        name: 'from the cell above',
        input: 'G,A:integer,B\nx,1,\nx,,q\ny,,\ny,2,r\n',
        step: { columns: ['A', 'B'], direction: 'down' },
        gives: 'G,A,B\nx,1,\nx,1,q\ny,1,q\ny,2,r\n',
        statistics: { cellsChanged: 3, rowsLeft: 0, rowsCame: 0 },
      },
      {
        name: 'from the cell below, within rows alike',
        input: 'G,A:date,B\nx,,a\ny,2031-05-02,b\n,,c\nx,2031-05-03,d\n',
        step: { columns: ['A'], direction: 'up', within: ['G'] },
        gives: 'G,A,B\nx,2031-05-03,a\ny,2031-05-02,b\n,,c\nx,2031-05-03,d\n',
      },
    ],
    broken: [
      {
        name: 'an unknown column',
        input: visits,
        step: { columns: ['Fees'], direction: 'down' },
        says: 'Did you mean “Fee”?',
      },
    ],
  },
  {
    kind: 'enter',
    examples: [
      {
        name: 'typed cells, gaps at the end',
        input: 'Unused\n1\n',
        step: {
          columns: [
            { name: 'Code', type: 'text' },
            { name: 'Fee', type: 'decimal' },
            { name: 'From', type: 'date' },
          ],
          rows: [['a', 1.5, '2031-05-02'], ['b'], [null, 2, null]],
        },
        gives: 'Code,Fee,From\na,1.5,2031-05-02\nb,,\n,2,\n',
        statistics: { rowsOut: 3, rowsCame: 3 },
      },
      {
        name: 'no rows yet',
        input: 'Unused\n1\n',
        step: {
          columns: [
            { name: 'Code', type: 'text' },
            { name: 'Paid', type: 'boolean' },
          ],
          rows: [],
        },
        gives: 'Code,Paid\n',
      },
    ],
    broken: [
      {
        name: 'a value of another type',
        input: 'Unused\n1\n',
        step: { columns: [{ name: 'Fee', type: 'decimal' }], rows: [['much']] },
        says: '“much” does not read as a number',
      },
      {
        name: 'more cells than columns',
        input: 'Unused\n1\n',
        step: { columns: [{ name: 'Fee', type: 'decimal' }], rows: [[1, 2]] },
        says: 'Row 1 has 2 cells for 1 column',
      },
    ],
  },
  {
    kind: 'slice',
    examples: [
      { name: 'the first', input: visits, step: { first: 2 }, gives: rows(1, 2), statistics: { rowsLeft: 3 } },
      { name: 'the last', input: visits, step: { last: 2 }, gives: rows(4, 5) },
      { name: 'all but the first', input: visits, step: { skip: 3 }, gives: rows(4, 5) },
      { name: 'every other, from the first on', input: visits, step: { every: 2 }, gives: rows(1, 3, 5) },
      { name: 'more than there are', input: visits, step: { last: 9 }, gives: rows(1, 2, 3, 4, 5) },
    ],
  },
  {
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
  },
  {
    kind: 'unpivot',
    examples: [
      {
        name: 'row by row, in column order',
        input: 'Clinic,Jan:integer,Feb:integer\nOxbow,1,2\nMarlpit,,4\n',
        step: { name: 'Month', groups: [{ columns: { except: ['Clinic'] }, value: 'Sales' }] },
        gives: 'Clinic,Month,Sales\nOxbow,Jan,1\nOxbow,Feb,2\nMarlpit,Jan,\nMarlpit,Feb,4\n',
        statistics: {
          rowsIn: 2,
          rowsOut: 4,
          rowsCame: 2,
          rowsLeft: 0,
          columnsAdded: ['Month', 'Sales'],
          columnsDropped: ['Jan', 'Feb'],
        },
      },
      {
        name: 'without the empty ones',
        input: 'Clinic,Jan:integer,Feb:integer\nOxbow,1,2\nMarlpit,,4\nTarn,,\n',
        step: { name: 'Month', groups: [{ columns: ['Jan', 'Feb'], value: 'Sales' }], empty: 'drop' },
        gives: 'Clinic,Month,Sales\nOxbow,Jan,1\nOxbow,Feb,2\nMarlpit,Feb,4\n',
        statistics: { rowsLeft: 1 },
      },
      {
        name: 'whole numbers and decimals',
        input: 'C,A:integer,B:decimal\nx,1,2.5\n',
        step: { name: 'N', groups: [{ columns: { type: 'number' }, value: 'V' }] },
        gives: 'C,N,V\nx,A,1\nx,B,2.5\n',
      },
      {
        name: 'numbers and dates become text',
        input: 'C,A:decimal,B:date\nx,1.50,2031-05-02\n',
        step: { name: 'N', groups: [{ columns: { from: 'A', to: 'B' }, value: 'V' }] },
        gives: 'C,N,V\nx,A,1.5\nx,B,2031-05-02\n',
      },
      {
        name: 'beside another, names that clash',
        input: 'Month,A,B\nx,1,2\n',
        step: { name: 'Month', groups: [{ columns: ['A', 'B'], value: 'V' }], before: 'Month' },
        gives: 'Month 2,V,Month\nA,1,x\nB,2,x\n',
      },
    ],
    broken: [
      {
        name: 'a rule that meets nothing',
        input: 'A,B\nx,1\n',
        step: { name: 'N', groups: [{ columns: { like: 'Q*' }, value: 'V' }] },
        says: 'Choose at least one',
      },
    ],
  },
  {
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
  },
]

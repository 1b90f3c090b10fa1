import { table, type KindExamples } from './shared/example.ts'

const visits = table`
  Ref:integer,Clinic,Kind
  1,Oxbow,dog
  2,marlpit,cat
  3,,dog
  4,Tarn,fox
  5,Oxbow,cat
`
const clinics = 'Name,Town,Beds:integer\nMarlpit,Ash,4\nOxbow,Elm,2\nOxbow,Oak,3\n,Nowhere,9\nLong Acre,Fir,\n'
const others = { clinics }
const on = [{ left: 'Clinic', right: 'Name' }]

export const tableExamples: readonly KindExamples[] = [
  {
    kind: 'join',
    examples: [
      {
        name: 'left: every row here, every match',
        input: visits,
        others,
        step: { with: 'clinics', how: 'left', on },
        gives:
          'Ref,Clinic,Kind,Town,Beds\n1,Oxbow,dog,Elm,2\n1,Oxbow,dog,Oak,3\n2,marlpit,cat,,\n3,,dog,,\n4,Tarn,fox,,\n5,Oxbow,cat,Elm,2\n5,Oxbow,cat,Oak,3\n',
        statistics: {
          rowsIn: 5,
          rowsOut: 7,
          rowsCame: 2,
          rowsLeft: 0,
          columnsAdded: ['Town', 'Beds'],
          notes: { matched: 2, unmatchedLeft: 3, unmatchedRight: 3, multiplied: 2 },
        },
      },
      {
        name: 'inner, whatever the case, only the first match',
        input: visits,
        others,
        step: { with: 'clinics', how: 'inner', on, ignoreCase: true, matches: 'first' },
        gives: 'Ref,Clinic,Kind,Town,Beds\n1,Oxbow,dog,Elm,2\n2,marlpit,cat,Ash,4\n5,Oxbow,cat,Elm,2\n',
        statistics: { rowsLeft: 2, notes: { matched: 3 } },
      },
      {
        name: 'right: rows only there last, the key from whichever side has one',
        input: visits,
        others,
        step: { with: 'clinics', how: 'right', on, ignoreCase: true },
        gives:
          'Ref,Clinic,Kind,Town,Beds\n1,Oxbow,dog,Elm,2\n1,Oxbow,dog,Oak,3\n2,marlpit,cat,Ash,4\n5,Oxbow,cat,Elm,2\n5,Oxbow,cat,Oak,3\n,,,Nowhere,9\n,Long Acre,,Fir,\n',
      },
      {
        name: 'full, a prefix, some columns brought',
        input: visits,
        others,
        step: { with: 'clinics', how: 'full', on, bring: ['Beds', 'Name'], prefix: 'Their ' },
        gives:
          'Ref,Clinic,Kind,Their Beds,Their Name\n1,Oxbow,dog,2,Oxbow\n1,Oxbow,dog,3,Oxbow\n2,marlpit,cat,,\n3,,dog,,\n4,Tarn,fox,,\n5,Oxbow,cat,2,Oxbow\n5,Oxbow,cat,3,Oxbow\n,Marlpit,,4,Marlpit\n,,,9,\n,Long Acre,,,Long Acre\n',
      },
      {
        name: 'only those without a match here',
        input: visits,
        others,
        step: { with: 'clinics', how: 'left-only', on },
        gives: 'Ref,Clinic,Kind\n2,marlpit,cat\n3,,dog\n4,Tarn,fox\n',
        statistics: { rowsLeft: 2, columnsAdded: [] },
      },
      {
        name: 'only those without a match there',
        input: visits,
        others,
        step: { with: 'clinics', how: 'right-only', on, ignoreCase: true },
        gives: 'Name,Town,Beds\n,Nowhere,9\nLong Acre,Fir,\n',
      },
      {
        name: 'every row beside every row',
        input: 'A\nx\ny\n',
        others: { more: 'A:integer\n1\n2\n' },
        step: { with: 'more', how: 'cross' },
        gives: 'A,A 2\nx,1\nx,2\ny,1\ny,2\n',
      },
      {
        name: 'two keys, whole numbers with decimals, spaces aside',
        input: 'K:integer,N,V\n1," a ",p\n1,b,q\n2,a,r\n',
        others: { more: 'K:decimal,N,W\n1,a,x\n2,b,y\n' },
        step: {
          with: 'more',
          how: 'left',
          on: [
            { left: 'K', right: 'K' },
            { left: 'N', right: 'N' },
          ],
          trim: true,
        },
        gives: 'K,N,V,W\n1," a ",p,x\n1,b,q,\n2,a,r,\n',
      },
      {
        name: 'a full join of whole numbers with decimals',
        input: 'K:integer,V\n1,p\n',
        others: { more: 'K:decimal,W\n1.5,x\n' },
        step: { with: 'more', how: 'full', on: [{ left: 'K', right: 'K' }] },
        gives: 'K,V,W\n1,p,\n1.5,,x\n',
      },
      {
        name: 'dates',
        input: 'D:date,V\n2031-05-02,p\n,q\n',
        others: { more: 'Day:date,W\n2031-05-02,x\n' },
        step: { with: 'more', how: 'left', on: [{ left: 'D', right: 'Day' }], matches: 'one' },
        gives: 'D,V,W\n2031-05-02,p,x\n,q,\n',
      },
      {
        name: 'a table without rows',
        input: visits,
        others: { none: 'Name,X\n' },
        step: { with: 'none', how: 'left', on },
        gives: 'Ref,Clinic,Kind,X\n1,Oxbow,dog,\n2,marlpit,cat,\n3,,dog,\n4,Tarn,fox,\n5,Oxbow,cat,\n',
      },
    ],
    broken: [
      {
        name: 'keys of different types',
        input: visits,
        others,
        step: { with: 'clinics', how: 'left', on: [{ left: 'Ref', right: 'Name' }] },
        says: '“Ref” is a whole number and “Name” is text; keys must be of one type.',
      },
      {
        name: 'a column that is not there',
        input: visits,
        others,
        step: { with: 'clinics', how: 'left', on: [{ left: 'Clinic', right: 'Nam' }] },
        says: 'Clinics has no column “Nam”. Did you mean “Name”?',
      },
    ],
  },
  {
    kind: 'union',
    examples: [
      {
        name: 'by name, what one lacks is empty',
        input: visits,
        others: { june: 'Kind,Ref:integer,Vet\nowl,9,Ada\n' },
        step: { with: ['june'] },
        gives: 'Ref,Clinic,Kind,Vet\n1,Oxbow,dog,\n2,marlpit,cat,\n3,,dog,\n4,Tarn,fox,\n5,Oxbow,cat,\n9,,owl,Ada\n',
        statistics: {
          rowsIn: 5,
          rowsOut: 6,
          rowsCame: 1,
          rowsLeft: 0,
          columnsAdded: ['Vet'],
          notes: { tables: 2, 'lacks Result: Vet': 5, 'lacks June: Clinic': 1 },
        },
      },
      {
        name: 'the shared columns, with the name of each table, types widened',
        input: 'A:integer,B:date,C\n1,2031-05-02,x\n',
        others: { june: 'A:decimal,B:datetime\n2.5,2031-06-01T10:00:00\n', july: 'B:date,A:text\n,z\n' },
        step: { with: ['june', 'july'], columns: 'shared', origin: 'Table' },
        gives: 'A,B,Table\n1,2031-05-02T00:00:00,Result\n2.5,2031-06-01T10:00:00,June\nz,,July\n',
        statistics: { notes: { columnsOfSeveralTypes: 2 } },
      },
      {
        name: 'differently named laid together, same-named kept apart',
        input: 'Species,Ref\ndog,1\n',
        others: { june: 'Patient kind,Ref,Note\ncat,J7,ok\n' },
        step: {
          with: ['june'],
          pairs: [
            {
              into: 'Animal',
              from: [
                { table: 'result', column: 'Species' },
                { table: 'june', column: 'Patient kind' },
              ],
            },
          ],
          apart: [{ column: 'Ref', table: 'june', as: 'June ref' }],
        },
        gives: 'Animal,Ref,June ref,Note\ndog,1,,\ncat,,J7,ok\n',
      },
      {
        name: 'the same table twice',
        input: 'A\nx\n',
        others: { more: 'A\ny\n' },
        step: { with: ['more', 'more'], origin: 'A' },
        gives: 'A,A 2\nx,Result\ny,More\ny,More\n',
      },
    ],
    broken: [
      {
        name: 'a pair of a table that is not among them',
        input: visits,
        others,
        step: { with: ['clinics'], pairs: [{ into: 'X', from: [{ table: 'june', column: 'Y' }] }] },
        says: 'is not among the tables',
      },
      {
        name: 'a pair of a column that is not there',
        input: visits,
        others,
        step: { with: ['clinics'], pairs: [{ into: 'X', from: [{ table: 'clinics', column: 'Towns' }] }] },
        says: 'Clinics has no column “Towns”. Did you mean “Town”?',
      },
    ],
  },
  {
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
  },
  {
    kind: 'check',
    examples: [
      {
        name: 'every row meets a condition',
        input: visits,
        step: {
          every: { column: 'Kind', op: 'is-one-of', values: ['dog', 'cat'] },
          else: 'warn',
          say: 'Only dogs and cats',
        },
        gives: 'Ref,Clinic,Kind\n1,Oxbow,dog\n2,marlpit,cat\n3,,dog\n4,Tarn,fox\n5,Oxbow,cat\n',
        statistics: { check: { passed: false, stop: false, say: 'Only dogs and cats', figure: 1 } },
      },
      {
        name: 'no two rows alike',
        input: visits,
        step: { unique: ['Clinic'], else: 'warn', say: '' },
        gives: 'Ref,Clinic,Kind\n1,Oxbow,dog\n2,marlpit,cat\n3,,dog\n4,Tarn,fox\n5,Oxbow,cat\n',
        statistics: { check: { passed: false, figure: 2 } },
      },
      {
        name: 'the number of rows',
        input: 'A\nx\ny\n',
        step: { rows: { 'at-least': 1, 'at-most': 2 }, else: 'stop', say: 'rows' },
        gives: 'A\nx\ny\n',
        statistics: { check: { passed: true, figure: 2 } },
      },
      {
        name: 'a total that is that of another table',
        input: 'A:decimal\n0.1\n0.2\n',
        others: { more: 'B:integer\n1\n2\n' },
        step: {
          total: { column: 'A', equals: { table: 'more', column: 'B' }, within: 3 },
          else: 'stop',
          say: 'totals',
        },
        gives: 'A\n0.1\n0.2\n',
        statistics: { check: { passed: true, figure: 0.30000000000000004 } },
      },
      {
        name: 'a total that is a number',
        input: 'A:integer\n1\n2\n',
        step: { total: { column: 'A', equals: 3.004 }, else: 'stop', say: 'totals' },
        gives: 'A\n1\n2\n',
        statistics: { check: { passed: true, figure: 3 } },
      },
      {
        name: 'a share of the rows',
        input: visits,
        step: {
          share: { where: { column: 'Clinic', op: 'is-empty' }, 'at-most': 0.1 },
          else: 'warn',
          say: 'few without a clinic',
        },
        gives: 'Ref,Clinic,Kind\n1,Oxbow,dog\n2,marlpit,cat\n3,,dog\n4,Tarn,fox\n5,Oxbow,cat\n',
        statistics: { check: { passed: false, figure: 0.2 } },
      },
    ],
    broken: [
      {
        name: 'a total of text',
        input: visits,
        step: { total: { column: 'Kind', equals: 1 }, else: 'warn', say: '' },
        says: 'needs numbers',
      },
    ],
  },
]

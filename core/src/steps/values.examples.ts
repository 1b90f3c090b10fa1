import { table, type KindExamples } from './shared/example.ts'

const visits = table`
  Clinic,Fee:decimal,Day:date,Seen:datetime
  Oxbow,38.5,2031-05-02,2031-05-02T09:30:00
  ox bow,12,,
  OXBOW ,180,2031-05-03,2031-05-01T00:00:00
  ,,2031-05-01,
`
const tags = table`
  Ref,Tags,Vet
  1,cough; limp;fever,Ada
  2,,Bo
  3,limp,
  4,a;;b;,Cy
`

export const valueExamples: readonly KindExamples[] = [
  {
    kind: 'header',
    examples: [
      {
        name: 'a row gives the names, it and those above leave',
        input: 'A,B,C\nlist of May,,\nClinic,Fee,Fee\nOxbow,12,3\n,,\n',
        step: { row: 2 },
        gives: 'Clinic,Fee,Fee 2\nOxbow,12,3\n',
        statistics: { rowsLeft: 2, columnsRenamed: { A: 'Clinic', B: 'Fee', C: 'Fee 2' } },
      },
      {
        name: 'a missing name says its position, numbers and dates are written',
        input: 'A,B:integer,C:date,D:decimal\n,2031,2031-05-02,1.50\nx,1,,2\n',
        step: { row: 1 },
        gives: 'Column 1,2031,2031-05-02,1.5\nx,1,,2\n',
      },
      { name: 'a row that is not there', input: 'A,B\nx,y\n', step: { row: 3 }, gives: 'Column 1,Column 2\n' },
      {
        name: 'names into the first row',
        input: 'A,B:integer\nx,1\ny,\n',
        step: { row: 'none' },
        gives: 'Column 1,Column 2\nA,B\nx,1\ny,\n',
        statistics: { rowsCame: 1, rowsLeft: 0 },
      },
    ],
  },
  {
    kind: 'unify',
    examples: [
      {
        name: 'groups get their name, what is in none stays',
        input: 'A,B\nOxbow,1\nox bow,2\n OXBOW,3\nTarn End,4\n,5\n',
        step: { column: 'A', groups: [{ into: 'Oxbow', from: ['Oxbow', 'ox bow', ' OXBOW'] }], judged: 'characters' },
        gives: 'A,B\nOxbow,1\nOxbow,2\nOxbow,3\nTarn End,4\n,5\n',
        statistics: { cellsChanged: 2, notes: { groups: 1 } },
      },
      {
        name: 'names that are swapped',
        input: 'A\na\nb\n',
        step: {
          column: 'A',
          groups: [
            { into: 'b', from: ['a'] },
            { into: 'a', from: ['b'] },
          ],
        },
        gives: 'A\nb\na\n',
      },
      {
        name: 'new look-alikes are counted',
        input: 'A\nMarlpit\nMarlpitt\nMarlpits\nOxbow\n',
        step: { column: 'A', groups: [{ into: 'Marlpit', from: ['Marlpit', 'Marlpitt'] }], judged: 'spelling' },
        gives: 'A\nMarlpit\nMarlpit\nMarlpits\nOxbow\n',
        statistics: { notes: { groups: 1, newLookalikes: 1 } },
      },
    ],
    broken: [{ name: 'numbers', input: visits, step: { column: 'Fee', groups: [] }, says: 'needs text' }],
  },
  {
    kind: 'cases',
    examples: [
      {
        name: 'the first that holds wins',
        input: visits,
        step: {
          as: 'Band',
          cases: [
            { when: { column: 'Fee', op: 'at-least', value: 100 }, then: 'high' },
            { when: { column: 'Fee', op: 'at-least', value: 20 }, then: 'middle' },
          ],
          otherwise: 'low',
          after: 'Clinic',
        },
        gives:
          'Clinic,Band,Fee,Day,Seen\nOxbow,middle,38.5,2031-05-02,2031-05-02T09:30:00\nox bow,low,12,,\n"OXBOW ",high,180,2031-05-03,2031-05-01T00:00:00\n,low,,2031-05-01,\n',
        statistics: { notes: { case1: 1, case2: 1, otherwise: 2 } },
      },
      {
        name: 'in place, numbers of both sorts, otherwise nothing',
        input: 'A:integer,B:decimal\n1,2.5\n7,1\n',
        step: {
          as: 'A',
          cases: [
            { when: { column: 'A', op: 'is', value: 1 }, then: { column: 'B' } },
            { when: { formula: 'A > 9' }, then: 0 },
          ],
          otherwise: null,
        },
        gives: 'A,B\n2.5,2.5\n,1\n',
        statistics: { cellsChanged: 2 },
      },
      {
        name: 'dates beside written dates',
        input: visits,
        step: {
          as: 'When',
          cases: [{ when: { column: 'Day', op: 'is-filled' }, then: { column: 'Day' } }],
          otherwise: '2031-01-01',
        },
        gives:
          'Clinic,Fee,Day,Seen,When\nOxbow,38.5,2031-05-02,2031-05-02T09:30:00,2031-05-02\nox bow,12,,,2031-01-01\n"OXBOW ",180,2031-05-03,2031-05-01T00:00:00,2031-05-03\n,,2031-05-01,,2031-05-01\n',
      },
      {
        name: 'dates and moments together',
        input: visits,
        step: {
          as: 'When',
          cases: [{ when: { column: 'Seen', op: 'is-filled' }, then: { column: 'Seen' } }],
          otherwise: { column: 'Day' },
        },
        gives:
          'Clinic,Fee,Day,Seen,When\nOxbow,38.5,2031-05-02,2031-05-02T09:30:00,2031-05-02T09:30:00\nox bow,12,,,\n"OXBOW ",180,2031-05-03,2031-05-01T00:00:00,2031-05-01T00:00:00\n,,2031-05-01,,2031-05-01T00:00:00\n',
      },
      {
        name: 'yes or no, and a parameter',
        input: 'A\nx\ny\n',
        parameters: [{ name: 'Limit', type: 'integer', value: 3 }],
        step: { as: 'N', cases: [{ when: { column: 'A', op: 'is', value: 'x' }, then: { parameter: 'Limit' } }] },
        gives: 'A,N\nx,3\ny,\n',
      },
      {
        name: 'dates as text where nothing says otherwise',
        input: 'A\nx\n',
        step: {
          as: 'N',
          cases: [{ when: { column: 'A', op: 'is', value: 'x' }, then: '2031-05-02' }],
          otherwise: 'never',
        },
        gives: 'A,N\nx,2031-05-02\n',
      },
    ],
    broken: [
      {
        name: 'a number among texts',
        input: visits,
        step: { as: 'N', cases: [{ when: { column: 'Fee', op: 'is-empty' }, then: 'none' }], otherwise: 3 },
        says: '“none” does not read as a whole number',
      },
      {
        name: 'a condition on a column that is not there',
        input: visits,
        step: { as: 'N', cases: [{ when: { column: 'Fees', op: 'is-empty' }, then: 1 }] },
        says: 'Did you mean “Fee”?',
      },
    ],
  },
  {
    kind: 'split',
    examples: [
      {
        name: 'into named columns, what is beyond stays joined',
        input: tags,
        step: { column: 'Tags', by: { delimiter: ';' }, into: { columns: ['First', 'Rest'] } },
        gives: 'Ref,First,Rest,Vet\n1,cough," limp;fever",Ada\n2,,,Bo\n3,limp,,\n4,a,;b;,Cy\n',
        statistics: {
          columnsAdded: ['First', 'Rest'],
          columnsDropped: ['Tags'],
          notes: { pieces: 4, rowsWithMorePieces: 2 },
        },
      },
      {
        name: 'into as many columns as needed, kept',
        input: tags,
        step: { column: 'Tags', by: { delimiter: ';' }, into: { columns: 'found' }, keep: true },
        gives:
          'Ref,Tags,Tags 1,Tags 2,Tags 3,Tags 4,Vet\n1,cough; limp;fever,cough," limp",fever,,Ada\n2,,,,,,Bo\n3,limp,limp,,,,\n4,a;;b;,a,,b,,Cy\n',
      },
      {
        name: 'nothing to split',
        input: 'A,B\n,1\n',
        step: { column: 'A', by: { delimiter: '-' }, into: { columns: 'found' } },
        gives: 'A 1,B\n,1\n',
      },
      {
        name: 'into rows, an empty piece and an empty cell are rows',
        input: tags,
        step: { column: 'Tags', by: { delimiter: ';' }, into: 'rows' },
        gives: 'Ref,Tags,Vet\n1,cough,Ada\n1," limp",Ada\n1,fever,Ada\n2,,Bo\n3,limp,\n4,a,Cy\n4,,Cy\n4,b,Cy\n4,,Cy\n',
        statistics: { rowsIn: 4, rowsOut: 9, rowsCame: 5, rowsLeft: 0 },
      },
      {
        name: 'into rows beside the whole text',
        input: 'A\nx-y\n',
        step: { column: 'A', by: { delimiter: '-' }, into: 'rows', keep: true },
        gives: 'A,A 2\nx-y,x\nx-y,y\n',
      },
      {
        name: 'at the first',
        input: 'A\nx-y-z\nx\n',
        step: { column: 'A', by: { delimiter: '-' }, at: 'first', into: { columns: ['A', 'B'] } },
        gives: 'A,B\nx,y-z\nx,\n',
      },
      {
        name: 'at the last, the sign of several characters',
        input: 'A\naaaXaaa\nbaaa\n',
        step: { column: 'A', by: { delimiter: 'aa' }, at: 'last', into: { columns: ['P', 'Q'] } },
        gives: 'P,Q\naaaX,a\nb,a\n',
      },
      {
        name: 'at a pattern',
        input: 'A\n"a, b;c"\nx\n',
        step: { column: 'A', by: { pattern: '\\s*[,;]\\s*' }, into: { columns: 'found' } },
        gives: 'A 1,A 2,A 3\na,b,c\nx,,\n',
      },
      {
        name: 'at the last match of a pattern',
        input: 'A\nVAC-12-b3\n',
        step: { column: 'A', by: { pattern: '[-]' }, at: 'last', into: { columns: ['P', 'Q'] } },
        gives: 'P,Q\nVAC-12,b3\n',
      },
      {
        name: 'after so many characters, the rest in the last',
        input: 'A\n20310502x9\n2031\n😀é3\n',
        step: { column: 'A', by: { widths: [4, 2, 2] }, into: { columns: ['Y', 'M', 'D'] } },
        gives: 'Y,M,D\n2031,05,02x9\n2031,,\n😀é3,,\n',
      },
      {
        name: 'by widths into rows',
        input: 'A\nabcde\n',
        step: { column: 'A', by: { widths: [2, 2] }, into: 'rows' },
        gives: 'A\nab\ncde\n',
      },
      {
        name: 'a name that clashes',
        input: 'A,B\nx-y,1\n',
        step: { column: 'A', by: { delimiter: '-' }, into: { columns: ['B', 'B'] } },
        gives: 'B 2,B 3,B\nx,y,1\n',
      },
    ],
    broken: [
      {
        name: 'numbers',
        input: visits,
        step: { column: 'Fee', by: { delimiter: '.' }, into: 'rows' },
        says: 'needs text',
      },
      {
        name: 'a pattern that is none',
        input: visits,
        step: { column: 'Clinic', by: { pattern: '(' }, into: 'rows' },
        says: 'cannot be read',
      },
    ],
  },
  {
    kind: 'extract',
    examples: [
      {
        name: 'before the first',
        input: 'A,B\nVAC-12-b,1\nnone,2\n,3\n-x,4\n',
        step: { column: 'A', as: 'P', take: { before: '-' }, after: 'A' },
        gives: 'A,P,B\nVAC-12-b,VAC,1\nnone,,2\n,,3\n-x,,4\n',
        statistics: { notes: { notFound: 2 } },
      },
      {
        name: 'before the last',
        input: 'A\nVAC-12-b\n',
        step: { column: 'A', as: 'P', take: { before: '-' }, occurrence: 'last' },
        gives: 'A,P\nVAC-12-b,VAC-12\n',
      },
      {
        name: 'after the first and the last',
        input: 'A\nVAC-12-b\n',
        step: { column: 'A', as: 'P', take: { after: '-' } },
        gives: 'A,P\nVAC-12-b,12-b\n',
      },
      {
        name: 'after the last',
        input: 'A\nVAC-12-b\nx-\n',
        step: { column: 'A', as: 'P', take: { after: '-' }, occurrence: 'last' },
        gives: 'A,P\nVAC-12-b,b\nx-,\n',
      },
      {
        name: 'between two signs',
        input: 'A\nTess (dog) (old)\nTess (dog\nTess\n',
        step: { column: 'A', as: 'P', take: { between: ['(', ')'] } },
        gives: 'A,P\nTess (dog) (old),dog\nTess (dog,\nTess,\n',
      },
      {
        name: 'between the last two signs',
        input: 'A\nTess (dog) (old)\n',
        step: { column: 'A', as: 'P', take: { between: ['(', ')'] }, occurrence: 'last' },
        gives: 'A,P\nTess (dog) (old),old\n',
      },
      {
        name: 'the first characters',
        input: 'A\n😀bc\na\n',
        step: { column: 'A', as: 'A', take: { first: 2 } },
        gives: 'A,A 2\n😀bc,😀b\na,a\n',
      },
      {
        name: 'the last characters',
        input: 'A\n😀bc\na\n',
        step: { column: 'A', as: 'P', take: { last: 2 } },
        gives: 'A,P\n😀bc,bc\na,a\n',
      },
      {
        name: 'from a place on',
        input: 'A\nabcdef\nab\n',
        step: { column: 'A', as: 'P', take: { from: 3, length: 2 } },
        gives: 'A,P\nabcdef,cd\nab,\n',
      },
      {
        name: 'a pattern',
        input: 'A\nVAC-12 of 7\nx\n',
        step: { column: 'A', as: 'P', take: { pattern: '\\d+' } },
        gives: 'A,P\nVAC-12 of 7,12\nx,\n',
      },
      {
        name: 'a group of the last match',
        input: 'A\na1 b22\nx\n',
        step: { column: 'A', as: 'P', take: { pattern: '([a-z])(\\d+)', group: 2 }, occurrence: 'last' },
        gives: 'A,P\na1 b22,22\nx,\n',
      },
    ],
    broken: [
      {
        name: 'a group that is not there',
        input: visits,
        step: { column: 'Clinic', as: 'P', take: { pattern: 'a', group: 1 } },
        says: 'it has no groups',
      },
      { name: 'numbers', input: visits, step: { column: 'Fee', as: 'P', take: { first: 1 } }, says: 'needs text' },
    ],
  },
]

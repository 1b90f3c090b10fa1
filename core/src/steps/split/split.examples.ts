import { table, type KindExamples } from '../shared/example.ts'
import { valuesVisits } from '../shared/tables.examples.ts'

const tags = table`
  Ref,Tags,Vet
  1,cough; limp;fever,Ada
  2,,Bo
  3,limp,
  4,a;;b;,Cy
`

export const splitExamples: KindExamples = {
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
      name: 'at the first of two choices that matches',
      input: 'A\na;;b\n',
      step: { column: 'A', by: { pattern: ';|;;' }, into: { columns: 'found' } },
      gives: 'A 1,A 2,A 3\na,,b\n',
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
      input: valuesVisits,
      step: { column: 'Fee', by: { delimiter: '.' }, into: 'rows' },
      says: 'needs text',
    },
    {
      name: 'by widths, the last',
      input: valuesVisits,
      step: { column: 'Clinic', by: { widths: [1, 2] }, at: 'last', into: 'rows' },
      says: 'does not go with it',
    },
    {
      name: 'a pattern that is none',
      input: valuesVisits,
      step: { column: 'Clinic', by: { pattern: '(' }, into: 'rows' },
      says: 'cannot be read',
    },
  ],
}

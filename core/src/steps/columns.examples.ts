import { table, type KindExamples } from './shared/example.ts'

const wide = table`
  Clinic,Jan:integer,Feb:decimal,Vet
  Oxbow,1,2.5,Ada
  Marlpit,,3,
`
export const columnExamples: readonly KindExamples[] = [
  {
    kind: 'select',
    examples: [
      {
        name: 'a list keeps its own order',
        input: wide,
        step: { columns: ['Vet', 'Clinic'] },
        gives: 'Vet,Clinic\nAda,Oxbow\n,Marlpit\n',
        statistics: { columnsDropped: ['Jan', 'Feb'] },
      },
      {
        name: 'the others after',
        input: wide,
        step: { columns: ['Feb'], rest: 'after' },
        gives: 'Feb,Clinic,Jan,Vet\n2.5,Oxbow,1,Ada\n3,Marlpit,,\n',
      },
      {
        name: 'by pattern, whatever the case',
        input: wide,
        step: { columns: { like: '*e?' } },
        gives: 'Feb,Vet\n2.5,Ada\n3,\n',
      },
      { name: 'numbers', input: wide, step: { columns: { type: 'number' } }, gives: 'Jan,Feb\n1,2.5\n,3\n' },
      {
        name: 'a span',
        input: wide,
        step: { columns: { from: 'Jan', to: 'Vet' } },
        gives: 'Jan,Feb,Vet\n1,2.5,Ada\n,3,\n',
      },
      {
        name: 'any of several, in table order',
        input: wide,
        step: { columns: { any: [['Vet'], { type: 'integer' }] } },
        gives: 'Jan,Vet\n1,Ada\n,\n',
      },
    ],
    broken: [
      {
        name: 'an unknown name',
        input: wide,
        step: { columns: ['Clinc', 'Vet'] },
        says: 'There is no column “Clinc” here. Did you mean “Clinic”?',
      },
      { name: 'nothing left', input: wide, step: { columns: { like: 'zz*' } }, says: 'No column would be left' },
      {
        name: 'a span the wrong way',
        input: wide,
        step: { columns: { from: 'Vet', to: 'Jan' } },
        says: 'Swap the two',
      },
    ],
  },
  {
    kind: 'drop',
    examples: [
      {
        name: 'by name',
        input: wide,
        step: { columns: ['Jan', 'Vet'] },
        gives: 'Clinic,Feb\nOxbow,2.5\nMarlpit,3\n',
        statistics: { columnsDropped: ['Jan', 'Vet'], rowsIn: 2, rowsOut: 2, rowsLeft: 0 },
      },
      {
        name: 'all but some',
        input: wide,
        step: { columns: { except: ['Clinic'] } },
        gives: 'Clinic\nOxbow\nMarlpit\n',
      },
      {
        name: 'a pattern that meets nothing drops nothing',
        input: wide,
        step: { columns: { like: 'Q*' } },
        gives: 'Clinic,Jan,Feb,Vet\nOxbow,1,2.5,Ada\nMarlpit,,3,\n',
      },
    ],
    broken: [{ name: 'all of them', input: wide, step: { columns: { all: true } }, says: 'No column would be left' }],
  },
  {
    kind: 'rename',
    examples: [
      {
        name: 'two can swap',
        input: wide,
        step: { names: { Jan: 'Feb', Feb: 'Jan' } },
        gives: 'Clinic,Feb,Jan,Vet\nOxbow,1,2.5,Ada\nMarlpit,,3,\n',
        statistics: { columnsRenamed: { Jan: 'Feb', Feb: 'Jan' } },
      },
      {
        name: 'in a clash the renamed one gives way',
        input: wide,
        step: { names: { Jan: 'Vet' } },
        gives: 'Clinic,Vet 2,Feb,Vet\nOxbow,1,2.5,Ada\nMarlpit,,3,\n',
      },
      {
        name: 'a change after the names',
        input: wide,
        step: {
          names: { Vet: 'vet name' },
          change: { find: 'n', replace: 'N', case: 'title', prefix: '<', suffix: '>' },
          columns: ['vet name', 'Jan'],
        },
        gives: 'Clinic,<Jan>,Feb,<Vet Name>\nOxbow,1,2.5,Ada\nMarlpit,,3,\n',
      },
      {
        name: 'names that become alike',
        input: table`
          A 1,A 2
          x,y
        `,
        step: { change: { find: ' 1', replace: '' } },
        gives: 'A,A 2\nx,y\n',
      },
    ],
    broken: [{ name: 'an unknown name', input: wide, step: { names: { Febr: 'X' } }, says: 'Did you mean “Feb”?' }],
  },
  {
    kind: 'move',
    examples: [
      {
        name: 'to the front',
        input: wide,
        step: { columns: ['Vet', 'Feb'], to: 'first' },
        gives: 'Vet,Feb,Clinic,Jan\nAda,2.5,Oxbow,1\n,3,Marlpit,\n',
      },
      {
        name: 'to the end',
        input: wide,
        step: { columns: ['Clinic'], to: 'last' },
        gives: 'Jan,Feb,Vet,Clinic\n1,2.5,Ada,Oxbow\n,3,,Marlpit\n',
      },
      {
        name: 'before another',
        input: wide,
        step: { columns: ['Vet'], to: { before: 'Jan' } },
        gives: 'Clinic,Vet,Jan,Feb\nOxbow,Ada,1,2.5\nMarlpit,,,3\n',
      },
      {
        name: 'after another',
        input: wide,
        step: { columns: ['Clinic'], to: { after: 'Feb' } },
        gives: 'Jan,Feb,Clinic,Vet\n1,2.5,Oxbow,Ada\n,3,Marlpit,\n',
      },
    ],
    broken: [
      {
        name: 'beside what is not there',
        input: wide,
        step: { columns: ['Vet'], to: { after: 'March' } },
        says: 'There is no column “March” here',
      },
    ],
  },
  {
    kind: 'cast',
    examples: [
      {
        name: 'numbers as people write them',
        input: table`
          Fee
          "1,204.50"
          £ 180.00
          (12)
          5%
          dog
          "1,20"
          -€3
          1.2e3
        `,
        step: { columns: ['Fee'], type: 'decimal' },
        gives: 'Fee\n1204.5\n180\n-12\n0.05\n\n\n-3\n1200\n',
        statistics: { unreadable: { Fee: 2 }, cellsChanged: 6 },
      },
      {
        name: 'a decimal comma',
        input: 'Fee\n"1.204,50"\n"0,5"\n1.2\n',
        step: { columns: ['Fee'], type: 'decimal', locale: { decimal: ',', group: '.' } },
        gives: 'Fee\n1204.5\n0.5\n\n',
      },
      {
        name: 'decimals round to whole numbers, away from zero',
        input: 'X:decimal\n2.5\n-2.5\n3\n1e300\n',
        step: { columns: ['X'], type: 'integer' },
        gives: 'X\n3\n-3\n3\n\n',
        statistics: { cellsChanged: 2, unreadable: { X: 1 } },
      },
      {
        name: 'dates in two forms',
        input: 'Day\n02/05/2031\n2031-05-03\n31/02/2031\n 4/6/2031 \n1/2/31\n',
        step: { columns: ['Day'], type: 'date', formats: ['d/M/yyyy', 'yyyy-MM-dd', 'd/M/yy'] },
        gives: 'Day\n2031-05-02\n2031-05-03\n\n2031-06-04\n2031-02-01\n',
        statistics: { unreadable: { Day: 1 } },
      },
      {
        name: 'month names and am and pm',
        input: 'At\n2 May 2031 3:05 pm\n12 sept 2031 12:00 am\n',
        step: { columns: ['At'], type: 'datetime', formats: ['d MMM yyyy h:mm a'] },
        gives: 'At\n2031-05-02T15:05:00\n2031-09-12T00:00:00\n',
      },
      {
        name: 'times',
        input: 'At\n09:30\n09:30:05.25\n24:00\n',
        step: { columns: ['At'], type: 'time' },
        gives: 'At\n09:30:00\n09:30:05.250\n\n',
      },
      {
        name: 'yes and no',
        input: 'Paid\nYes\nn\nTRUE\n0\nmaybe\n',
        step: { columns: ['Paid'], type: 'boolean' },
        gives: 'Paid\ntrue\nfalse\ntrue\nfalse\n\n',
      },
      {
        name: 'anything to text',
        input: 'D:date,N:decimal,B:boolean,T:datetime\n2031-05-02,1.50,true,2031-05-02 09:30\n',
        step: { columns: { all: true }, type: 'text' },
        gives: 'D,N,B,T\n2031-05-02,1.5,true,2031-05-02T09:30:00\n',
      },
      {
        name: 'a date-time cut to its date',
        input: 'T:datetime\n2031-05-02T23:59:59\n',
        step: { columns: ['T'], type: 'date' },
        gives: 'T\n2031-05-02\n',
      },
    ],
    broken: [
      {
        name: 'what has no way',
        input: 'D:date\n2031-05-02\n',
        step: { columns: ['D'], type: 'integer' },
        says: 'cannot become a whole number',
      },
      {
        name: 'minutes for months',
        input: 'D\n02/05/2031\n',
        step: { columns: ['D'], type: 'date', formats: ['dd/mm/yyyy'] },
        says: 'months are MM',
      },
    ],
  },
  {
    kind: 'derive',
    examples: [
      {
        name: 'a new column stands last',
        input: 'Fee:decimal,Clinic\n10,A\n,B\n',
        step: { as: 'Gross', formula: 'Fee * 1.2' },
        gives: 'Fee,Clinic,Gross\n10,A,12\n,B,\n',
        statistics: { columnsAdded: ['Gross'] },
      },
      {
        name: 'beside another',
        input: 'Fee:decimal,Clinic\n10,A\n',
        step: { as: 'Gross', formula: 'Fee + 1', after: 'Fee' },
        gives: 'Fee,Gross,Clinic\n10,11,A\n',
      },
      {
        name: 'in place',
        input: 'Fee:integer\n10\n3\n',
        step: { as: 'Fee', formula: 'IF(Fee > 5; 5; Fee)' },
        gives: 'Fee\n5\n3\n',
        statistics: { cellsChanged: 1, columnsAdded: [] },
      },
      {
        name: 'what cannot be computed is counted',
        input: 'A:integer,B:integer\n1,0\n6,3\n1,\n',
        step: { as: 'C', formula: 'A / B' },
        gives: 'A,B,C\n1,0,\n6,3,2\n1,,\n',
        statistics: { unreadable: { C: 1 } },
      },
      {
        name: 'a branch not taken does not count',
        input: 'A:integer,B:integer\n1,0\n6,3\n',
        step: { as: 'C', formula: 'IF(B = 0; 0; A / B)' },
        gives: 'A,B,C\n1,0,0\n6,3,2\n',
        statistics: { unreadable: {} },
      },
      {
        name: 'whole numbers out of range',
        input: 'A:integer\n9007199254740991\n',
        step: { as: 'B', formula: 'A + 1' },
        gives: 'A,B\n9007199254740991,\n',
        statistics: { unreadable: { B: 1 } },
      },
      {
        name: 'decimals out of range',
        input: 'A:decimal\n1e308\n1e-308\n',
        step: { as: 'B', formula: 'A * A' },
        gives: 'A,B\n1e308,\n1e-308,0\n',
      },
      {
        name: 'columns in quotes, text and dates',
        input: "Visit date:date,Clinic's name\n2031-05-02,Oxbow\n,-\n",
        step: { as: 'Key', formula: "'Clinic''s name' & \"-\" & 'Visit date'" },
        gives: "Visit date,Clinic's name,Key\n2031-05-02,Oxbow,Oxbow-2031-05-02\n,-,--\n",
      },
      {
        name: 'dates and days',
        input: 'A:date,B:date\n2031-05-12,2031-05-02\n,2031-01-01\n',
        step: { as: 'C', formula: 'IF(A - B > 5; A + 1; B)' },
        gives: 'A,B,C\n2031-05-12,2031-05-02,2031-05-13\n,2031-01-01,2031-01-01\n',
      },
      {
        name: 'a constant text beside dates',
        input: 'A:date\n2031-05-12\n2030-01-01\n\n',
        step: { as: 'C', formula: 'A >= "2031-01-01"' },
        gives: 'A,C\n2031-05-12,true\n2030-01-01,false\n',
      },
      {
        name: 'equality with empty',
        input: 'A,B\nx,x\n,x\n,\n.,\n',
        step: { as: 'C', formula: 'A = B' },
        gives: 'A,B,C\nx,x,true\n,x,false\n.,,false\n',
      },
      {
        name: 'text goes by small letters',
        input: 'A,B\nb,A\nA,b\na,A\n',
        step: { as: 'C', formula: 'A < B' },
        gives: 'A,B,C\nb,A,false\nA,b,true\na,A,false\n',
      },
      {
        name: 'per cent and powers',
        input: 'A:decimal\n4\n',
        step: { as: 'B', formula: '-A^2 + 50% + 2^3^2' },
        gives: 'A,B\n4,80.5\n',
      },
      {
        name: 'a parameter',
        input: 'A:date\n2031-05-12\n',
        parameters: [{ name: 'As of', type: 'date', value: '2031-06-30' }],
        step: { as: 'B', formula: "$'As of' - A" },
        gives: 'A,B\n2031-05-12,49\n',
      },
    ],
    broken: [
      {
        name: 'text where numbers are needed',
        input: 'Fee:decimal,Clinic\n1,a\n',
        step: { as: 'X', formula: 'Fee + Clinic' },
        says: 'Clinic is text; + needs numbers',
      },
      {
        name: 'an unknown function',
        input: 'A\nx\n',
        step: { as: 'X', formula: 'LEFFT(A; 2)' },
        says: 'Did you mean LEFT',
      },
      {
        name: 'an open bracket',
        input: 'A\nx\n',
        step: { as: 'X', formula: 'LEFT(A; 2' },
        says: 'A closing bracket ) is missing',
      },
      {
        name: 'too few arguments',
        input: 'A\nx\n',
        step: { as: 'X', formula: 'MID(A)' },
        says: 'MID takes 3 arguments, and has 1',
      },
    ],
  },
  {
    kind: 'replace',
    examples: [
      {
        name: 'whole values at once, so that two can swap',
        input: 'A,B:integer\nx,1\ny,2\nxy,\n',
        step: {
          columns: ['A'],
          pairs: [
            { find: 'x', with: 'y' },
            { find: 'y', with: 'x' },
          ],
        },
        gives: 'A,B\ny,1\nx,2\nxy,\n',
        statistics: { cellsChanged: 2 },
      },
      {
        name: 'a value by nothing',
        input: 'A,B:integer\nx,1\ny,2\n',
        step: { columns: ['A'], find: 'x', with: null },
        gives: 'A,B\n,1\ny,2\n',
      },
      {
        name: 'whatever the case',
        input: 'A\nMARLPIT\nMarlpit\nÄx\n',
        step: {
          columns: ['A'],
          pairs: [
            { find: 'marlpit', with: 'Marlpit' },
            { find: 'äX', with: 'Oxbow' },
          ],
          ignoreCase: true,
        },
        gives: 'A\nMarlpit\nMarlpit\nOxbow\n',
        statistics: { cellsChanged: 2 },
      },
      {
        name: 'numbers and dates',
        input: 'A:decimal,D:date\n1.5,2031-05-02\n2,\n',
        step: {
          columns: ['A'],
          pairs: [
            { find: 1.5, with: 3 },
            { find: 2, with: null },
          ],
        },
        gives: 'A,D\n3,2031-05-02\n,\n',
      },
      {
        name: 'parts, one after another, nothing in them has a meaning of its own',
        input: 'A\nx1\na.b\n',
        step: {
          columns: ['A'],
          match: 'part',
          pairs: [
            { find: '.', with: '$1' },
            { find: '$', with: '\\' },
            { find: 'x1', with: '' },
          ],
        },
        gives: 'A\n\na\\1b\n',
      },
      {
        name: 'parts, whatever the case',
        input: 'A\nFern Hollow\n',
        step: { columns: ['A'], match: 'part', find: 'FERN ', with: 'Fern', ignoreCase: true },
        gives: 'A\nFernHollow\n',
      },
      {
        name: 'a pattern with groups',
        input: 'A\nVAC-12\nb\n',
        step: { columns: ['A'], match: 'pattern', find: '([A-Z]+)-(\\d)', with: '$2$1 $$' },
        gives: 'A\n1VAC $2\nb\n',
      },
    ],
    broken: [
      {
        name: 'a value of another type',
        input: wide,
        step: { columns: ['Jan'], find: 'x', with: 1 },
        says: 'does not read as a whole number',
      },
      {
        name: 'parts of numbers',
        input: wide,
        step: { columns: ['Jan'], match: 'part', find: '1', with: '2' },
        says: 'needs text',
      },
      {
        name: 'a pattern that is none',
        input: wide,
        step: { columns: ['Vet'], match: 'pattern', find: '(a', with: '' },
        says: 'cannot be read',
      },
    ],
  },
  {
    kind: 'duplicate',
    examples: [
      {
        name: 'last',
        input: wide,
        step: { column: 'Jan', as: 'Jan before' },
        gives: 'Clinic,Jan,Feb,Vet,Jan before\nOxbow,1,2.5,Ada,1\nMarlpit,,3,,\n',
        statistics: { columnsAdded: ['Jan before'] },
      },
      {
        name: 'beside another, the name giving way',
        input: wide,
        step: { column: 'Feb', as: 'Vet', before: 'Clinic' },
        gives: 'Vet 2,Clinic,Jan,Feb,Vet\n2.5,Oxbow,1,2.5,Ada\n3,Marlpit,,3,\n',
      },
    ],
    broken: [
      {
        name: 'an unknown column',
        input: wide,
        step: { column: 'March', as: 'M' },
        says: 'There is no column “March” here',
      },
    ],
  },
  {
    kind: 'combine',
    examples: [
      {
        name: 'empty is passed over, the combined go',
        input: wide,
        step: { columns: ['Clinic', 'Jan', 'Vet'], as: 'All', with: ' | ' },
        gives: 'Feb,All\n2.5,Oxbow | 1 | Ada\n3,Marlpit\n',
        statistics: { columnsAdded: ['All'], columnsDropped: ['Clinic', 'Jan', 'Vet'] },
      },
      {
        name: 'kept, with nothing between',
        input: wide,
        step: { columns: ['Jan', 'Feb'], as: 'Both', with: '', keep: true, after: 'Clinic' },
        gives: 'Clinic,Both,Jan,Feb,Vet\nOxbow,12.5,1,2.5,Ada\nMarlpit,3,,3,\n',
      },
      {
        name: 'under the name of one that goes',
        input: 'A,B\nx,y\n,\n',
        step: { columns: ['A', 'B'], as: 'A', with: '-' },
        gives: 'A\nx-y\n',
      },
    ],
  },
  {
    kind: 'clean-text',
    examples: [
      {
        name: 'in the order given',
        input: 'A,B\n"  Fern   HOLLOW ",x\n"  ",y\n',
        step: { columns: ['A'], do: ['trim', 'collapse-spaces', 'title'] },
        gives: 'A,B\nFern Hollow,x\n,y\n',
        statistics: { cellsChanged: 2 },
      },
      {
        name: 'words hold apostrophes and digits',
        input: "A\no'NEIL mc-donald 3rd é\n",
        step: { columns: ['A'], do: ['title'] },
        gives: "A\nO'neil Mc-Donald 3Rd É\n",
      },
      {
        name: 'signs taken out',
        input: 'A\nVAC-12: “à”\u200b ß%\n',
        step: { columns: ['A'], do: ['strip-digits', 'strip-punctuation', 'strip-invisible', 'upper'] },
        gives: 'A\nVAC À SS\n',
      },
      {
        name: 'nothing left is empty',
        input: 'A\nabc\na1\n',
        step: { columns: ['A'], do: ['strip-letters'] },
        gives: 'A\n\n1\n',
      },
    ],
    broken: [{ name: 'numbers', input: wide, step: { columns: ['Jan'], do: ['trim'] }, says: 'needs text' }],
  },
  {
    kind: 'fill-empty',
    examples: [
      {
        name: 'a value',
        input: wide,
        step: { columns: ['Vet'], with: 'none' },
        gives: 'Clinic,Jan,Feb,Vet\nOxbow,1,2.5,Ada\nMarlpit,,3,none\n',
        statistics: { cellsChanged: 1 },
      },
      {
        name: 'several columns, a number',
        input: 'A:integer,B:decimal\n,1.5\n2,\n',
        step: { columns: ['A', 'B'], with: 0 },
        gives: 'A,B\n0,1.5\n2,0\n',
      },
      {
        name: 'what stands in another column',
        input: 'A:decimal,B:integer\n,7\n1.5,8\n,\n',
        step: { columns: ['A'], with: { column: 'B' } },
        gives: 'A,B\n7,7\n1.5,8\n',
      },
      {
        name: 'a parameter',
        input: 'A:datetime,B\n,x\n2031-05-02T09:30:00,y\n',
        parameters: [{ name: 'Since', type: 'date', value: '2031-01-01' }],
        step: { columns: ['A'], with: { parameter: 'Since' } },
        gives: 'A,B\n2031-01-01T00:00:00,x\n2031-05-02T09:30:00,y\n',
      },
    ],
    broken: [
      {
        name: 'a value of another type',
        input: wide,
        step: { columns: ['Jan'], with: 'none' },
        says: 'does not read as a whole number',
      },
      {
        name: 'a column that does not fit',
        input: wide,
        step: { columns: ['Jan'], with: { column: 'Feb' } },
        says: 'does not read as a whole number',
      },
    ],
  },
  {
    kind: 'blank',
    examples: [
      {
        name: 'values become empty',
        input: 'A,B:integer\nn/a,1\nx,-1\n-,2\n',
        step: { columns: ['A'], values: ['n/a', '-'] },
        gives: 'A,B\n,1\nx,-1\n,2\n',
        statistics: { cellsChanged: 2 },
      },
      {
        name: 'numbers in all number columns',
        input: 'A,B:integer,C:decimal\nx,-1,-1\ny,1,-1.5\n',
        step: { columns: { type: 'number' }, values: [-1] },
        gives: 'A,B,C\nx,,\ny,1,-1.5\n',
      },
    ],
    broken: [
      {
        name: 'a value of another type',
        input: wide,
        step: { columns: ['Jan'], values: ['n/a'] },
        says: 'does not read as a whole number',
      },
    ],
  },
  {
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
  },
]

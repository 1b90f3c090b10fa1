import { type KindExamples } from '../shared/example.ts'

export const unpivotExamples: KindExamples = {
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
}

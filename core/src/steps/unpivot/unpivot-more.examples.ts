import { type KindExamples } from '../shared/example.ts'

const crosstab =
  'Clinic,Sales Jan:integer,Quantity Jan:integer,Sales Feb:decimal,Quantity Mar:integer\nOxbow,1,10,2.5,\nMarlpit,,20,3,40\nTarn,,,,\n'

export const unpivotMoreExamples: KindExamples = {
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
}

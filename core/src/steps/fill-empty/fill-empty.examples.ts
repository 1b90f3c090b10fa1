import { type KindExamples } from '../shared/example.ts'
import { wide } from '../shared/tables.examples.ts'

export const fillEmptyExamples: KindExamples = {
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
      name: 'all but one column',
      input: 'A:text,B:integer\ny,\nx,2\n',
      step: { columns: { except: ['A'] }, with: 0 },
      gives: 'A,B\ny,0\nx,2\n',
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
}

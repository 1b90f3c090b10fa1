import { type KindExamples } from '../shared/example.ts'
import { wide } from '../shared/tables.examples.ts'

export const selectExamples: KindExamples = {
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
}

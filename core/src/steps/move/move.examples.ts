import { type KindExamples } from '../shared/example.ts'
import { wide } from '../shared/tables.examples.ts'

export const moveExamples: KindExamples = {
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
}

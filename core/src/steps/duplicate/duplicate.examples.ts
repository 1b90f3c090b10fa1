import { type KindExamples } from '../shared/example.ts'
import { wide } from '../shared/tables.examples.ts'

export const duplicateExamples: KindExamples = {
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
}

import { type KindExamples } from '../shared/example.ts'
import { wide } from '../shared/tables.examples.ts'

export const dropExamples: KindExamples = {
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
}

import { table, type KindExamples } from '../shared/example.ts'
import { wide } from '../shared/tables.examples.ts'

export const renameExamples: KindExamples = {
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
}

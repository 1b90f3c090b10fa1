import { type KindExamples } from '../shared/example.ts'
import { wide } from '../shared/tables.examples.ts'

export const combineExamples: KindExamples = {
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
}

import { type KindExamples } from '../shared/example.ts'
import { valuesVisits } from '../shared/tables.examples.ts'

export const unifyExamples: KindExamples = {
  kind: 'unify',
  examples: [
    {
      name: 'groups get their name, what is in none stays',
      input: 'A,B\nOxbow,1\nox bow,2\n OXBOW,3\nTarn End,4\n,5\n',
      step: { column: 'A', groups: [{ into: 'Oxbow', from: ['Oxbow', 'ox bow', ' OXBOW'] }], judged: 'characters' },
      gives: 'A,B\nOxbow,1\nOxbow,2\nOxbow,3\nTarn End,4\n,5\n',
      statistics: { cellsChanged: 2, notes: { groups: 1 } },
    },
    {
      name: 'names that are swapped',
      input: 'A\na\nb\n',
      step: {
        column: 'A',
        groups: [
          { into: 'b', from: ['a'] },
          { into: 'a', from: ['b'] },
        ],
      },
      gives: 'A\nb\na\n',
    },
    {
      name: 'new look-alikes are counted',
      input: 'A\nMarlpit\nMarlpitt\nMarlpits\nOxbow\n',
      step: { column: 'A', groups: [{ into: 'Marlpit', from: ['Marlpit', 'Marlpitt'] }], judged: 'spelling' },
      gives: 'A\nMarlpit\nMarlpit\nMarlpits\nOxbow\n',
      statistics: { notes: { groups: 1, newLookalikes: 1 } },
    },
  ],
  broken: [{ name: 'numbers', input: valuesVisits, step: { column: 'Fee', groups: [] }, says: 'needs text' }],
}

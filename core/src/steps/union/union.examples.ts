import { type KindExamples } from '../shared/example.ts'
import { tablesVisits, others } from '../shared/tables.examples.ts'

export const unionExamples: KindExamples = {
  kind: 'union',
  examples: [
    {
      name: 'by name, what one lacks is empty',
      input: tablesVisits,
      others: { june: 'Kind,Ref:integer,Vet\nowl,9,Ada\n' },
      step: { with: ['june'] },
      gives: 'Ref,Clinic,Kind,Vet\n1,Oxbow,dog,\n2,marlpit,cat,\n3,,dog,\n4,Tarn,fox,\n5,Oxbow,cat,\n9,,owl,Ada\n',
      statistics: {
        rowsIn: 5,
        rowsOut: 6,
        rowsCame: 1,
        rowsLeft: 0,
        columnsAdded: ['Vet'],
        notes: { tables: 2, 'lacks Result: Vet': 5, 'lacks June: Clinic': 1 },
      },
    },
    {
      name: 'the shared columns, with the name of each table, types widened',
      input: 'A:integer,B:date,C\n1,2031-05-02,x\n',
      others: { june: 'A:decimal,B:datetime\n2.5,2031-06-01T10:00:00\n', july: 'B:date,A:text\n,z\n' },
      step: { with: ['june', 'july'], columns: 'shared', origin: 'Table' },
      gives: 'A,B,Table\n1,2031-05-02T00:00:00,Result\n2.5,2031-06-01T10:00:00,June\nz,,July\n',
      statistics: { notes: { columnsOfSeveralTypes: 2 } },
    },
    {
      name: 'differently named laid together, same-named kept apart',
      input: 'Species,Ref\ndog,1\n',
      others: { june: 'Patient kind,Ref,Note\ncat,J7,ok\n' },
      step: {
        with: ['june'],
        pairs: [
          {
            into: 'Animal',
            from: [
              { table: 'result', column: 'Species' },
              { table: 'june', column: 'Patient kind' },
            ],
          },
        ],
        apart: [{ column: 'Ref', table: 'june', as: 'June ref' }],
      },
      gives: 'Animal,Ref,June ref,Note\ndog,1,,\ncat,,J7,ok\n',
    },
    {
      name: 'the same table twice',
      input: 'A\nx\n',
      others: { more: 'A\ny\n' },
      step: { with: ['more', 'more'], origin: 'A' },
      gives: 'A,A 2\nx,Result\ny,More\ny,More\n',
    },
  ],
  broken: [
    {
      name: 'a pair of a table that is not among them',
      input: tablesVisits,
      others,
      step: { with: ['clinics'], pairs: [{ into: 'X', from: [{ table: 'june', column: 'Y' }] }] },
      says: 'is not among the tables',
    },
    {
      name: 'a pair of a column that is not there',
      input: tablesVisits,
      others,
      step: { with: ['clinics'], pairs: [{ into: 'X', from: [{ table: 'clinics', column: 'Towns' }] }] },
      says: 'Clinics has no column “Towns”. Did you mean “Town”?',
    },
  ],
}

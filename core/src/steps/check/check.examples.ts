import { type KindExamples } from '../shared/example.ts'
import { tablesVisits } from '../shared/tables.examples.ts'

export const checkExamples: KindExamples = {
  kind: 'check',
  examples: [
    {
      name: 'every row meets a condition',
      input: tablesVisits,
      step: {
        every: { column: 'Kind', op: 'is-one-of', values: ['dog', 'cat'] },
        else: 'warn',
        say: 'Only dogs and cats',
      },
      gives: 'Ref,Clinic,Kind\n1,Oxbow,dog\n2,marlpit,cat\n3,,dog\n4,Tarn,fox\n5,Oxbow,cat\n',
      statistics: { check: { passed: false, stop: false, say: 'Only dogs and cats', figure: 1 } },
    },
    {
      name: 'no two rows alike',
      input: tablesVisits,
      step: { unique: ['Clinic'], else: 'warn', say: '' },
      gives: 'Ref,Clinic,Kind\n1,Oxbow,dog\n2,marlpit,cat\n3,,dog\n4,Tarn,fox\n5,Oxbow,cat\n',
      statistics: { check: { passed: false, figure: 2 } },
    },
    {
      name: 'the number of rows',
      input: 'A\nx\ny\n',
      step: { rows: { 'at-least': 1, 'at-most': 2 }, else: 'stop', say: 'rows' },
      gives: 'A\nx\ny\n',
      statistics: { check: { passed: true, figure: 2 } },
    },
    {
      name: 'a total that is that of another table',
      input: 'A:decimal\n0.1\n0.2\n',
      others: { more: 'B:integer\n1\n2\n' },
      step: {
        total: { column: 'A', equals: { table: 'more', column: 'B' }, within: 3 },
        else: 'stop',
        say: 'totals',
      },
      gives: 'A\n0.1\n0.2\n',
      statistics: { check: { passed: true, figure: 0.30000000000000004 } },
    },
    {
      name: 'a total that is a number',
      input: 'A:integer\n1\n2\n',
      step: { total: { column: 'A', equals: 3.004 }, else: 'stop', say: 'totals' },
      gives: 'A\n1\n2\n',
      statistics: { check: { passed: true, figure: 3 } },
    },
    {
      name: 'a share of the rows',
      input: tablesVisits,
      step: {
        share: { where: { column: 'Clinic', op: 'is-empty' }, 'at-most': 0.1 },
        else: 'warn',
        say: 'few without a clinic',
      },
      gives: 'Ref,Clinic,Kind\n1,Oxbow,dog\n2,marlpit,cat\n3,,dog\n4,Tarn,fox\n5,Oxbow,cat\n',
      statistics: { check: { passed: false, figure: 0.2 } },
    },
  ],
  broken: [
    {
      name: 'a total of text',
      input: tablesVisits,
      step: { total: { column: 'Kind', equals: 1 }, else: 'warn', say: '' },
      says: 'needs numbers',
    },
  ],
}

import { type KindExamples } from '../shared/example.ts'

export const enterExamples: KindExamples = {
  kind: 'enter',
  examples: [
    {
      name: 'typed cells, gaps at the end',
      input: 'Unused\n1\n',
      step: {
        columns: [
          { name: 'Code', type: 'text' },
          { name: 'Fee', type: 'decimal' },
          { name: 'From', type: 'date' },
        ],
        rows: [['a', 1.5, '2031-05-02'], ['b'], [null, 2, null]],
      },
      gives: 'Code,Fee,From\na,1.5,2031-05-02\nb,,\n,2,\n',
      statistics: { rowsOut: 3, rowsCame: 3 },
    },
    {
      name: 'lists, as arrays or as their text',
      input: 'Unused\n1\n',
      step: {
        columns: [
          { name: 'Code', type: 'text' },
          { name: 'Tags', type: 'list' },
        ],
        rows: [['a', [1, null, 9007199254740991]], ['b', ['x', 'y z']], ['c', '["p", true]'], ['d', []], ['e']],
      },
      gives: 'Code,Tags\na,"[1,null,9007199254740991]"\nb,"[""x"",""y z""]"\nc,"[""p"",true]"\nd,[]\ne,\n',
    },
    {
      name: 'no rows yet',
      input: 'Unused\n1\n',
      step: {
        columns: [
          { name: 'Code', type: 'text' },
          { name: 'Paid', type: 'boolean' },
        ],
        rows: [],
      },
      gives: 'Code,Paid\n',
    },
  ],
  broken: [
    {
      name: 'a value of another type',
      input: 'Unused\n1\n',
      step: { columns: [{ name: 'Fee', type: 'decimal' }], rows: [['much']] },
      says: '“much” does not read as a number',
    },
    {
      name: 'a list in a column of text',
      input: 'Unused\n1\n',
      step: { columns: [{ name: 'Code', type: 'text' }], rows: [[['a']]] },
      says: '“["a"]”',
    },
    {
      name: 'a list that holds a record',
      input: 'Unused\n1\n',
      step: { columns: [{ name: 'Tags', type: 'list' }], rows: [['[{}]']] },
      says: '“[{}]”',
    },
    {
      name: 'more cells than columns',
      input: 'Unused\n1\n',
      step: { columns: [{ name: 'Fee', type: 'decimal' }], rows: [[1, 2]] },
      says: 'Row 1 has 2 cells for 1 column',
    },
  ],
}

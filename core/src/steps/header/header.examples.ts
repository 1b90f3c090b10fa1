import { type KindExamples } from '../shared/example.ts'

export const headerExamples: KindExamples = {
  kind: 'header',
  examples: [
    {
      name: 'a row gives the names, it and those above leave',
      input: 'A,B,C\nlist of May,,\nClinic,Fee,Fee\nOxbow,12,3\n,,\n',
      step: { row: 2 },
      gives: 'Clinic,Fee,Fee 2\nOxbow,12,3\n',
      statistics: { rowsLeft: 2, columnsRenamed: { A: 'Clinic', B: 'Fee', C: 'Fee 2' } },
    },
    {
      name: 'a missing name says its position, numbers and dates are written',
      input: 'A,B:integer,C:date,D:decimal\n,2031,2031-05-02,1.50\nx,1,,2\n',
      step: { row: 1 },
      gives: 'Column 1,2031,2031-05-02,1.5\nx,1,,2\n',
    },
    { name: 'a row that is not there', input: 'A,B\nx,y\n', step: { row: 3 }, gives: 'Column 1,Column 2\n' },
    {
      name: 'names into the first row',
      input: 'A,B:integer\nx,1\ny,\n',
      step: { row: 'none' },
      gives: 'Column 1,Column 2\nA,B\nx,1\ny,\n',
      statistics: { rowsCame: 1, rowsLeft: 0 },
    },
  ],
}

import { type KindExamples } from '../shared/example.ts'
import { visits } from '../shared/tables.examples.ts'

export const fillExamples: KindExamples = {
  kind: 'fill',
  examples: [
    {
      name: 'from the cell above',
      input: 'G,A:integer,B\nx,1,\nx,,q\ny,,\ny,2,r\n',
      step: { columns: ['A', 'B'], direction: 'down' },
      gives: 'G,A,B\nx,1,\nx,1,q\ny,1,q\ny,2,r\n',
      statistics: { cellsChanged: 3, rowsLeft: 0, rowsCame: 0 },
    },
    {
      name: 'from the cell below, within rows alike',
      input: 'G,A:date,B\nx,,a\ny,2031-05-02,b\n,,c\nx,2031-05-03,d\n',
      step: { columns: ['A'], direction: 'up', within: ['G'] },
      gives: 'G,A,B\nx,2031-05-03,a\ny,2031-05-02,b\n,,c\nx,2031-05-03,d\n',
    },
  ],
  broken: [
    {
      name: 'an unknown column',
      input: visits,
      step: { columns: ['Fees'], direction: 'down' },
      says: 'Did you mean “Fee”?',
    },
  ],
}

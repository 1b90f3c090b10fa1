import { type KindExamples } from '../shared/example.ts'
import { wide } from '../shared/tables.examples.ts'

export const cleanTextExamples: KindExamples = {
  kind: 'clean-text',
  examples: [
    {
      name: 'in the order given',
      input: 'A,B\n"  Fern   HOLLOW ",x\n"  ",y\n',
      step: { columns: ['A'], do: ['trim', 'collapse-spaces', 'title'] },
      gives: 'A,B\nFern Hollow,x\n,y\n',
      statistics: { cellsChanged: 2 },
    },
    {
      name: 'words hold apostrophes and digits',
      input: "A\no'NEIL mc-donald 3rd é\n",
      step: { columns: ['A'], do: ['title'] },
      gives: "A\nO'neil Mc-Donald 3Rd É\n",
    },
    {
      name: 'signs taken out',
      input: 'A\nVAC-12: “à”\u200b ß%\n',
      step: { columns: ['A'], do: ['strip-digits', 'strip-punctuation', 'strip-invisible', 'upper'] },
      gives: 'A\nVAC À SS\n',
    },
    {
      name: 'nothing left is empty',
      input: 'A\nabc\na1\n',
      step: { columns: ['A'], do: ['strip-letters'] },
      gives: 'A\n\n1\n',
    },
  ],
  broken: [{ name: 'numbers', input: wide, step: { columns: ['Jan'], do: ['trim'] }, says: 'needs text' }],
}

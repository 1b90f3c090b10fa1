import { type KindExamples } from '../shared/example.ts'
import { shapeVisits } from '../shared/tables.examples.ts'

export const unrollExamples: KindExamples = {
  kind: 'unroll',
  examples: [
    {
      name: 'an item a row; an empty list and an empty cell are a row of empty',
      input: 'R,Tags:list,V\n1,"[""a"",""b""]",x\n2,[],y\n3,,z\n4,"[""c"",null]",\n',
      step: { column: 'Tags' },
      gives: 'R,Tags,V\n1,a,x\n1,b,x\n2,,y\n3,,z\n4,c,\n4,,\n',
      statistics: { rowsIn: 4, rowsOut: 6, rowsCame: 2 },
    },
    {
      name: 'whole numbers and decimals',
      input: 'N:list\n"[1,2.5]"\n[3]\n',
      step: { column: 'N' },
      gives: 'N\n1\n2.5\n3\n',
    },
  ],
  broken: [{ name: 'text', input: shapeVisits, step: { column: 'Animal' }, says: 'needs lists' }],
}

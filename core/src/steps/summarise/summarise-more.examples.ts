import { type KindExamples } from '../shared/example.ts'
import { shapeVisits } from '../shared/tables.examples.ts'

export const summariseMoreExamples: KindExamples = {
  kind: 'summarise',
  examples: [
    {
      name: 'equal values deviate by nothing, however their mean is rounded',
      input: 'K,V:decimal\na,0.1\na,0.1\na,0.1\nb,1000000.25\nb,1000000.75\nc,1\n',
      step: { by: ['K'], measures: [{ how: 'deviation', column: 'V', as: 'dev' }] },
      gives: 'K,dev\na,0\nb,0.353553390593274\nc,\n',
    },
    {
      name: 'the other measures',
      input: shapeVisits,
      step: {
        by: ['Animal'],
        measures: [
          { how: 'deviation', column: 'N', as: 'dev' },
          { how: 'list', column: 'Day', as: 'days' },
          { how: 'join', column: 'Clinic', as: 'where', separator: ' + ' },
          { how: 'any', column: 'Paid', as: 'any' },
          { how: 'every', column: 'Paid', as: 'every' },
          { how: 'share', column: 'N', as: 'share' },
        ],
      },
      gives:
        'Animal,dev,days,where,any,every,share\nTess,1.4142135623731,"[""2031-05-02"",""2031-05-03""]",Oxbow + Oxbow,true,true,0.266666666666667\nOtis,2.12132034355964,"[""2031-05-01"",""2031-05-01""]",Marlpit,false,false,0.466666666666667\nFig,,[],Oxbow,,,0.266666666666667\n',
    },
    {
      name: 'first, last, list and join in an order of their own',
      input: shapeVisits,
      step: {
        by: [],
        measures: [
          { how: 'first', column: 'Animal', as: 'dearest', order: [{ column: 'Fee', descending: true }] },
          {
            how: 'last',
            column: 'Animal',
            as: 'cheapest',
            order: [{ column: 'Fee', descending: true }, { column: 'N' }],
          },
          {
            how: 'list',
            column: 'N',
            as: 'numbers',
            order: [{ column: 'Clinic' }, { column: 'N', descending: true }],
          },
          { how: 'join', column: 'Animal', as: 'all', separator: '', order: [{ column: 'Animal' }] },
        ],
      },
      gives: 'dearest,cheapest,numbers,all\nFig,Tess,"[2,4,3,1,5]",FigOtisOtisTessTess\n',
    },
    {
      name: 'nothing of nothing',
      input: 'X:integer,B:boolean\n',
      step: {
        by: [],
        measures: [
          { how: 'deviation', column: 'X', as: 'd' },
          { how: 'list', column: 'X', as: 'l' },
          { how: 'join', column: 'X', as: 'j' },
          { how: 'any', column: 'B', as: 'a' },
          { how: 'share', column: 'X', as: 's' },
        ],
      },
      gives: 'd,l,j,a,s\n,[],,,\n',
    },
    {
      name: 'a share of nothing at all is unreadable',
      input: 'C,X:decimal\na,1\nb,-1\n',
      step: { by: ['C'], measures: [{ how: 'share', column: 'X', as: 's' }] },
      gives: 'C,s\na,\nb,\n',
      statistics: { unreadable: { s: 2 } },
    },
  ],
  broken: [
    {
      name: 'whether any of numbers',
      input: shapeVisits,
      step: { by: [], measures: [{ how: 'any', column: 'N', as: 'a' }] },
      says: 'needs yes or no',
    },
    {
      name: 'an order by a column that is not there',
      input: shapeVisits,
      step: { by: [], measures: [{ how: 'first', column: 'N', as: 'a', order: [{ column: 'Days' }] }] },
      says: 'Did you mean “Day”?',
    },
  ],
}

import { type KindExamples } from '../shared/example.ts'
import { valuesVisits } from '../shared/tables.examples.ts'

export const extractExamples: KindExamples = {
  kind: 'extract',
  examples: [
    {
      name: 'before the first',
      input: 'A,B\nVAC-12-b,1\nnone,2\n,3\n-x,4\n',
      step: { column: 'A', as: 'P', take: { before: '-' }, after: 'A' },
      gives: 'A,P,B\nVAC-12-b,VAC,1\nnone,,2\n,,3\n-x,,4\n',
      statistics: { notes: { notFound: 2 } },
    },
    {
      name: 'before the last',
      input: 'A\nVAC-12-b\n',
      step: { column: 'A', as: 'P', take: { before: '-' }, occurrence: 'last' },
      gives: 'A,P\nVAC-12-b,VAC-12\n',
    },
    {
      name: 'after the first and the last',
      input: 'A\nVAC-12-b\n',
      step: { column: 'A', as: 'P', take: { after: '-' } },
      gives: 'A,P\nVAC-12-b,12-b\n',
    },
    {
      name: 'after the last',
      input: 'A\nVAC-12-b\nx-\n',
      step: { column: 'A', as: 'P', take: { after: '-' }, occurrence: 'last' },
      gives: 'A,P\nVAC-12-b,b\nx-,\n',
    },
    {
      name: 'between two signs',
      input: 'A\nTess (dog) (old)\nTess (dog\nTess\n',
      step: { column: 'A', as: 'P', take: { between: ['(', ')'] } },
      gives: 'A,P\nTess (dog) (old),dog\nTess (dog,\nTess,\n',
    },
    {
      name: 'between the last two signs',
      input: 'A\nTess (dog) (old)\n',
      step: { column: 'A', as: 'P', take: { between: ['(', ')'] }, occurrence: 'last' },
      gives: 'A,P\nTess (dog) (old),old\n',
    },
    {
      name: 'the first characters',
      input: 'A\n😀bc\na\n',
      step: { column: 'A', as: 'A', take: { first: 2 } },
      gives: 'A,A 2\n😀bc,😀b\na,a\n',
    },
    {
      name: 'the last characters',
      input: 'A\n😀bc\na\n',
      step: { column: 'A', as: 'P', take: { last: 2 } },
      gives: 'A,P\n😀bc,bc\na,a\n',
    },
    {
      name: 'from a place on',
      input: 'A\nabcdef\nab\n',
      step: { column: 'A', as: 'P', take: { from: 3, length: 2 } },
      gives: 'A,P\nabcdef,cd\nab,\n',
    },
    {
      name: 'a pattern',
      input: 'A\nVAC-12 of 7\nx\n',
      step: { column: 'A', as: 'P', take: { pattern: '\\d+' } },
      gives: 'A,P\nVAC-12 of 7,12\nx,\n',
    },
    {
      name: 'a group of the last match',
      input: 'A\na1 b22\nx\n',
      step: { column: 'A', as: 'P', take: { pattern: '([a-z])(\\d+)', group: 2 }, occurrence: 'last' },
      gives: 'A,P\na1 b22,22\nx,\n',
    },
    {
      name: 'the first of two choices that matches, not the longer one',
      input: 'A\nat Marlpit North\nx\n',
      step: { column: 'A', as: 'P', take: { pattern: 'Marlpit|Marlpit North' } },
      gives: 'A,P\nat Marlpit North,Marlpit\nx,\n',
    },
  ],
  broken: [
    {
      name: 'a group that is not there',
      input: valuesVisits,
      step: { column: 'Clinic', as: 'P', take: { pattern: 'a', group: 1 } },
      says: 'it has no groups',
    },
    { name: 'numbers', input: valuesVisits, step: { column: 'Fee', as: 'P', take: { first: 1 } }, says: 'needs text' },
  ],
}

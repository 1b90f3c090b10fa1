import { type KindExamples } from '../shared/example.ts'
import { tablesVisits, others } from '../shared/tables.examples.ts'

const on = [{ left: 'Clinic', right: 'Name' }]

export const joinExamples: KindExamples = {
  kind: 'join',
  examples: [
    {
      name: 'left: every row here, every match',
      input: tablesVisits,
      others,
      step: { with: 'clinics', how: 'left', on },
      gives:
        'Ref,Clinic,Kind,Town,Beds\n1,Oxbow,dog,Elm,2\n1,Oxbow,dog,Oak,3\n2,marlpit,cat,,\n3,,dog,,\n4,Tarn,fox,,\n5,Oxbow,cat,Elm,2\n5,Oxbow,cat,Oak,3\n',
      statistics: {
        rowsIn: 5,
        rowsOut: 7,
        rowsCame: 2,
        rowsLeft: 0,
        columnsAdded: ['Town', 'Beds'],
        notes: { matched: 2, unmatchedLeft: 3, unmatchedRight: 3, multiplied: 2 },
      },
    },
    {
      name: 'inner, whatever the case, only the first match',
      input: tablesVisits,
      others,
      step: { with: 'clinics', how: 'inner', on, ignoreCase: true, matches: 'first' },
      gives: 'Ref,Clinic,Kind,Town,Beds\n1,Oxbow,dog,Elm,2\n2,marlpit,cat,Ash,4\n5,Oxbow,cat,Elm,2\n',
      statistics: { rowsLeft: 2, notes: { matched: 3 } },
    },
    {
      name: 'right: rows only there last, the key from whichever side has one',
      input: tablesVisits,
      others,
      step: { with: 'clinics', how: 'right', on, ignoreCase: true },
      gives:
        'Ref,Clinic,Kind,Town,Beds\n1,Oxbow,dog,Elm,2\n1,Oxbow,dog,Oak,3\n2,marlpit,cat,Ash,4\n5,Oxbow,cat,Elm,2\n5,Oxbow,cat,Oak,3\n,,,Nowhere,9\n,Long Acre,,Fir,\n',
    },
    {
      name: 'full, a prefix, some columns brought',
      input: tablesVisits,
      others,
      step: { with: 'clinics', how: 'full', on, bring: ['Beds', 'Name'], prefix: 'Their ' },
      gives:
        'Ref,Clinic,Kind,Their Beds,Their Name\n1,Oxbow,dog,2,Oxbow\n1,Oxbow,dog,3,Oxbow\n2,marlpit,cat,,\n3,,dog,,\n4,Tarn,fox,,\n5,Oxbow,cat,2,Oxbow\n5,Oxbow,cat,3,Oxbow\n,Marlpit,,4,Marlpit\n,,,9,\n,Long Acre,,,Long Acre\n',
    },
    {
      name: 'only those without a match here',
      input: tablesVisits,
      others,
      step: { with: 'clinics', how: 'left-only', on },
      gives: 'Ref,Clinic,Kind\n2,marlpit,cat\n3,,dog\n4,Tarn,fox\n',
      statistics: { rowsLeft: 2, columnsAdded: [] },
    },
    {
      name: 'only those without a match there',
      input: tablesVisits,
      others,
      step: { with: 'clinics', how: 'right-only', on, ignoreCase: true },
      gives: 'Name,Town,Beds\n,Nowhere,9\nLong Acre,Fir,\n',
    },
    {
      name: 'every row beside every row',
      input: 'A\nx\ny\n',
      others: { more: 'A:integer\n1\n2\n' },
      step: { with: 'more', how: 'cross' },
      gives: 'A,A 2\nx,1\nx,2\ny,1\ny,2\n',
    },
    {
      name: 'two keys, whole numbers with decimals, spaces aside',
      input: 'K:integer,N,V\n1," a ",p\n1,b,q\n2,a,r\n',
      others: { more: 'K:decimal,N,W\n1,a,x\n2,b,y\n' },
      step: {
        with: 'more',
        how: 'left',
        on: [
          { left: 'K', right: 'K' },
          { left: 'N', right: 'N' },
        ],
        trim: true,
      },
      gives: 'K,N,V,W\n1," a ",p,x\n1,b,q,\n2,a,r,\n',
    },
    {
      name: 'a full join of whole numbers with decimals',
      input: 'K:integer,V\n1,p\n',
      others: { more: 'K:decimal,W\n1.5,x\n' },
      step: { with: 'more', how: 'full', on: [{ left: 'K', right: 'K' }] },
      gives: 'K,V,W\n1,p,\n1.5,,x\n',
    },
    {
      name: 'dates',
      input: 'D:date,V\n2031-05-02,p\n,q\n',
      others: { more: 'Day:date,W\n2031-05-02,x\n' },
      step: { with: 'more', how: 'left', on: [{ left: 'D', right: 'Day' }], matches: 'one' },
      gives: 'D,V,W\n2031-05-02,p,x\n,q,\n',
    },
    {
      name: 'a table without rows',
      input: tablesVisits,
      others: { none: 'Name,X\n' },
      step: { with: 'none', how: 'left', on },
      gives: 'Ref,Clinic,Kind,X\n1,Oxbow,dog,\n2,marlpit,cat,\n3,,dog,\n4,Tarn,fox,\n5,Oxbow,cat,\n',
    },
  ],
  broken: [
    {
      name: 'keys of different types',
      input: tablesVisits,
      others,
      step: { with: 'clinics', how: 'left', on: [{ left: 'Ref', right: 'Name' }] },
      says: '“Ref” is a whole number and “Name” is text; keys must be of one type.',
    },
    {
      name: 'a column that is not there',
      input: tablesVisits,
      others,
      step: { with: 'clinics', how: 'left', on: [{ left: 'Clinic', right: 'Nam' }] },
      says: 'Clinics has no column “Nam”. Did you mean “Name”?',
    },
  ],
}

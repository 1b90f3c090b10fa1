import { type KindExamples } from '../shared/example.ts'
import { shapeVisits } from '../shared/tables.examples.ts'

export const pivotExamples: KindExamples = {
  kind: 'pivot',
  examples: [
    {
      name: 'the single value, whatever labels come',
      input: 'Clinic,Month,Sales:integer\nOxbow,Jan,1\nMarlpit,Jan,\nOxbow,Feb,2\nMarlpit,,4\n',
      step: { labels: 'Month', values: [{ column: 'Sales', how: 'only' }] },
      gives: 'Clinic,Jan,Feb,Empty\nOxbow,1,2,\nMarlpit,,,4\n',
      statistics: {
        rowsIn: 4,
        rowsOut: 2,
        columnsAdded: ['Jan', 'Feb', 'Empty'],
        columnsDropped: ['Month', 'Sales'],
        notes: { labels: 3, leftOut: 0 },
      },
    },
    {
      name: 'labels that are told, in that order, others left out; a row of none stays',
      input: 'Clinic,Month,Sales:integer\nOxbow,Jan,1\nMarlpit,Apr,5\nOxbow,Feb,2\n',
      step: { labels: 'Month', values: [{ column: 'Sales', how: 'sum' }], found: ['Feb', 'Jan', 'Mar'] },
      gives: 'Clinic,Feb,Jan,Mar\nOxbow,2,1,\nMarlpit,,,\n',
      statistics: { notes: { labels: 3, leftOut: 1 } },
    },
    {
      name: 'several values, label by label, gaps filled',
      input: shapeVisits,
      step: {
        labels: 'Kind',
        values: [
          { column: 'Fee', how: 'sum', as: 'Fees' },
          { column: 'N', how: 'count', as: 'Rows' },
        ],
        by: ['Clinic'],
        gaps: 0,
      },
      gives:
        'Clinic,dog Fees,dog Rows,cat Fees,cat Rows,Empty Fees,Empty Rows\nOxbow,38.5,2,0,0,180,1\nMarlpit,0,0,12,1,0,0\n,0,0,12,1,0,0\n',
    },
    {
      name: 'a cell without rows is empty, whatever the measure',
      input: shapeVisits,
      step: { labels: 'Animal', values: [{ column: 'Fee', how: 'filled' }], by: ['Kind'] },
      gives: 'Kind,Tess,Otis,Fig\ndog,1,,\ncat,,2,\n,,,1\n',
    },
    {
      name: 'one row for the table, labels that are dates',
      input: shapeVisits,
      step: { labels: 'Day', values: [{ column: 'Fee', how: 'max' }], by: [] },
      gives: '2031-05-02,2031-05-01,2031-05-03,Empty\n38.5,12,,180\n',
    },
    {
      name: 'labels that are numbers, told as numbers',
      input: shapeVisits,
      step: { labels: 'N', values: [{ column: 'Animal', how: 'first' }], by: ['Clinic'], found: [1, 4] },
      gives: 'Clinic,1,4\nOxbow,Tess,Fig\nMarlpit,,\n,,\n',
    },
    {
      name: 'a label named like a column',
      input: 'A,L,V:integer\nx,A,1\n',
      step: { labels: 'L', values: [{ column: 'V', how: 'only' }] },
      gives: 'A,A 2\nx,1\n',
    },
    {
      name: 'lists and joined text, shares of all',
      input: shapeVisits,
      step: {
        labels: 'Paid',
        values: [
          { column: 'Animal', how: 'join', as: 'Who' },
          { column: 'Fee', how: 'share', as: 'Share' },
        ],
        by: ['Clinic'],
        found: [true, false],
      },
      gives:
        'Clinic,true Who,true Share,false Who,false Share\nOxbow,"Tess, Tess",0.158762886597938,,\nMarlpit,,,Otis,0.0494845360824742\n,,,Otis,0.0494845360824742\n',
    },
  ],
  broken: [
    {
      name: 'a sum of text',
      input: shapeVisits,
      step: { labels: 'Kind', values: [{ column: 'Animal', how: 'sum' }], found: ['dog'] },
      says: 'needs numbers',
    },
    {
      name: 'gaps of another type',
      input: shapeVisits,
      step: { labels: 'Kind', values: [{ column: 'Fee', how: 'sum' }], found: ['dog'], gaps: 'none' },
      says: 'does not read as a number',
    },
  ],
}

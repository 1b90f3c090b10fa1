import { type KindExamples } from '../shared/example.ts'
import { wide } from '../shared/tables.examples.ts'

export const replaceExamples: KindExamples = {
  kind: 'replace',
  examples: [
    {
      name: 'whole values at once, so that two can swap',
      input: 'A,B:integer\nx,1\ny,2\nxy,\n',
      step: {
        columns: ['A'],
        pairs: [
          { find: 'x', with: 'y' },
          { find: 'y', with: 'x' },
        ],
      },
      gives: 'A,B\ny,1\nx,2\nxy,\n',
      statistics: { cellsChanged: 2 },
    },
    {
      name: 'a value by nothing',
      input: 'A,B:integer\nx,1\ny,2\n',
      step: { columns: ['A'], find: 'x', with: null },
      gives: 'A,B\n,1\ny,2\n',
    },
    {
      name: 'whatever the case',
      input: 'A\nMARLPIT\nMarlpit\nÄx\n',
      step: {
        columns: ['A'],
        pairs: [
          { find: 'marlpit', with: 'Marlpit' },
          { find: 'äX', with: 'Oxbow' },
        ],
        ignoreCase: true,
      },
      gives: 'A\nMarlpit\nMarlpit\nOxbow\n',
      statistics: { cellsChanged: 2 },
    },
    {
      name: 'numbers and dates',
      input: 'A:decimal,D:date\n1.5,2031-05-02\n2,\n',
      step: {
        columns: ['A'],
        pairs: [
          { find: 1.5, with: 3 },
          { find: 2, with: null },
        ],
      },
      gives: 'A,D\n3,2031-05-02\n,\n',
    },
    {
      name: 'parts, one after another, nothing in them has a meaning of its own',
      input: 'A\nx1\na.b\n',
      step: {
        columns: ['A'],
        match: 'part',
        pairs: [
          { find: '.', with: '$1' },
          { find: '$', with: '\\' },
          { find: 'x1', with: '' },
        ],
      },
      gives: 'A\n\na\\1b\n',
    },
    {
      name: 'parts, whatever the case',
      input: 'A\nFern Hollow\n',
      step: { columns: ['A'], match: 'part', find: 'FERN ', with: 'Fern', ignoreCase: true },
      gives: 'A\nFernHollow\n',
    },
    {
      name: 'a pattern with groups',
      input: 'A\nVAC-12\nb\n',
      step: { columns: ['A'], match: 'pattern', find: '([A-Z]+)-(\\d)', with: '$2$1 $$' },
      gives: 'A\n1VAC $2\nb\n',
    },
    {
      name: 'a pattern that matches nothing too, and the least of a choice',
      input: 'A\nabxxd\nx\n',
      step: {
        columns: ['A'],
        match: 'pattern',
        pairs: [
          { find: '(a|ab)(b?)', with: '$1+$2' },
          { find: 'x*', with: '-' },
        ],
      },
      gives: 'A\n-a-+-b--d-\n--\n',
    },
  ],
  broken: [
    {
      name: 'a value of another type',
      input: wide,
      step: { columns: ['Jan'], find: 'x', with: 1 },
      says: 'does not read as a whole number',
    },
    {
      name: 'parts of numbers',
      input: wide,
      step: { columns: ['Jan'], match: 'part', find: '1', with: '2' },
      says: 'needs text',
    },
    {
      name: 'a pattern that is none',
      input: wide,
      step: { columns: ['Vet'], match: 'pattern', find: '(a', with: '' },
      says: 'cannot be read',
    },
  ],
}

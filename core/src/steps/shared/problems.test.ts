import { describe, expect, it } from 'vitest'
import { sentenceOf, type Problem } from './problems.ts'

describe('a problem is worded once', () => {
  it.each<[Problem, string]>([
    [
      { code: 'missing-column', column: 'Statuss', nearest: ['Status'], path: [] },
      'There is no column “Statuss” here. Did you mean “Status”?',
    ],
    [{ code: 'missing-column', column: 'Vet', nearest: [], path: [] }, 'There is no column “Vet” here.'],
    [{ code: 'no-columns-left', path: [] }, 'No column would be left. Keep at least one.'],
    [{ code: 'twice-named', column: 'Fee', path: [] }, 'The column “Fee” is named twice. Name it once.'],
    [
      { code: 'wrong-type', column: 'Fee', type: 'text', needs: 'numbers', path: [] },
      '“Fee” is text; this needs numbers. Change its type first.',
    ],
    [
      { code: 'cannot-cast', column: 'Seen', from: 'date', to: 'time', path: [] },
      '“Seen” is a date, and that cannot become a time. Choose another type.',
    ],
    [
      { code: 'keys-differ', left: 'Ref', leftType: 'integer', right: 'Booking', rightType: 'text', path: [] },
      '“Ref” is a whole number and “Booking” is text; keys must be of one type. Read one of them as the other is first.',
    ],
    [
      { code: 'bad-date-pattern', pattern: 'dd/qq', why: 'q is no letter of a date', path: [] },
      'Q is no letter of a date. Write days as d, months as M, years as yyyy.',
    ],
    [
      { code: 'too-many-columns', columns: 20_001, most: 16_384, path: [] },
      'This would make 20,001 columns, more than the 16,384 that a table can have. Keep fewer columns before it.',
    ],
    [
      {
        code: 'formula',
        problem: { code: 'missing-column', column: 'Fees', nearest: ['Fee'], from: 0, to: 4 },
        path: [],
      },
      'There is no column “Fees” here. Did you mean “Fee”?',
    ],
    [{ code: 'refused-data', sentence: 'Two prices for VAC-1.', path: [] }, 'Two prices for VAC-1.'],
  ])('%j', (problem, sentence) => {
    expect(sentenceOf(problem)).toBe(sentence)
  })
})

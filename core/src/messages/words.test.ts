import { describe, expect, it } from 'vitest'
import { capital, counted, figure, fileStem, listed, nearest, sentenceOf, type Problem } from './words.ts'

describe('words of a sentence', () => {
  it.each([
    [[], ''],
    [['a'], 'a'],
    [['a', 'b'], 'a and b'],
    [['a', 'b', 'c'], 'a, b and c'],
  ])('%j are listed as %j', (items, text) => {
    expect(listed(items)).toBe(text)
  })
  it('may be listed with another last word', () => {
    expect(listed(['python', 'sql'], 'or')).toBe('python or sql')
  })
  it.each([
    [0, '0 rows'],
    [1, '1 row'],
    [1204, '1,204 rows'],
  ])('%d is counted as %s', (n, text) => {
    expect(counted(n, 'row')).toBe(text)
  })
  it('have plurals of their own', () => {
    expect(counted(2, 'match', 'matches')).toBe('2 matches')
  })
  it('write figures with thousands apart', () => {
    expect(figure(1234567)).toBe('1,234,567')
  })
  it('begin large', () => {
    expect([capital('a date'), capital('')]).toEqual(['A date', ''])
  })
})

describe('the nearest names', () => {
  const names = ['Clinic', 'Booking status', 'Status', 'Charged', 'Vet']
  it.each([
    ['Clinik', ['Clinic']],
    ['status', ['Status', 'Booking status']],
    ['Statu', ['Status', 'Booking status']],
    ['charged', ['Charged']],
    ['Takings', []],
  ])('to %s are %j', (wanted, near) => {
    expect(nearest(wanted, names)).toEqual(near)
  })
  it('are three at most', () => {
    expect(nearest('M1', ['M1a', 'M1b', 'M1c', 'M1d'])).toHaveLength(3)
  })
})

describe('a file named after a story', () => {
  it.each([
    ['Monthly takings', 'monthly-takings'],
    ['Ümsätze 2031!', 'ms-tze-2031'],
    ['…', 'flow'],
  ])('%s is %s', (name, stem) => {
    expect(fileStem(name, 'flow')).toBe(stem)
  })
})

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
    [{ code: 'refused-data', sentence: 'Two prices for VAC-1.', path: [] }, 'Two prices for VAC-1.'],
  ])('%j', (problem, sentence) => {
    expect(sentenceOf(problem)).toBe(sentence)
  })
})

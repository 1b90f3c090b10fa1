import { describe, expect, it } from 'vitest'
import { capital, counted, figure, fileStem, listed, nearest } from './words.ts'

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

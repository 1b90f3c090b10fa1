import { describe, expect, it } from 'vitest'
import { fileName, tooLarge } from './file-name.ts'

describe('the name of an uploaded file', () => {
  it.each([
    ['visits-2031-05.csv', 'visits-2031-05.csv'],
    ['../../etc/passwd', 'passwd'],
    ['C:\\exports\\may.xlsx', 'may.xlsx'],
    ['may\r\n2031.csv', 'may 2031.csv'],
    ['may\u0000.csv', 'may .csv'],
    ['  may.csv  ', 'may.csv'],
    ['Umsätze Mai.csv', 'Umsätze Mai.csv'],
    ['right\u202eto-left.csv', 'right to-left.csv'],
    ['__proto__', '__proto__'],
  ])('%j is kept as %j', (given, kept) => {
    expect(fileName(given)).toBe(kept)
  })
  it.each(['', '.', '..', 'a/..', '\u0000', '   '])('%j is refused', (given) => {
    expect(() => fileName(given)).toThrow('The file has no name that can be kept')
  })
  it('is refused where it is longer than is kept', () => {
    expect(() => fileName(`${'a'.repeat(200)}.csv`)).toThrow('has 204 characters, more than the 200')
  })
})

it('a file that is too large is told with the limit, by its code', () => {
  const refusal = tooLarge('may.csv', 2_000_000_000)
  expect([refusal.code, refusal.message]).toEqual([
    'too-large',
    'may.csv is larger than 2,000 MB, the most this server takes.',
  ])
})

import { expect, test } from 'vitest'
import { writtenLabel, writtenValue } from './writing.ts'

test.each([
  ['2031', '2031'],
  ['12345', '12,345'],
  ['-1204500', '-1,204,500'],
  ['1204.5', '1204.5'],
  ['271662.685957142', '271,662.69'],
  ['244.300976138829', '244.30'],
  ['0.123456789', '0.1235'],
  ['-0.00123456', '-0.001235'],
  ['12.3456', '12.3456'],
  ['99.99999', '100.00'],
  ['1.5e-8', '1.5e-8'],
  ['1e21', '1e21'],
])('the number %s reads %s', (text, shown) => expect(writtenValue(text, 'decimal', 'iso')).toBe(shown))

test('moments are without a T and without seconds that are none', () => {
  expect(writtenValue('2031-05-02', 'date', 'iso')).toBe('2031-05-02')
  expect(writtenValue('2031-05-02T09:30:00', 'datetime', 'iso')).toBe('2031-05-02 09:30')
  expect(writtenValue('2031-05-02T09:30:05.250', 'datetime', 'iso')).toBe('2031-05-02 09:30:05.250')
  expect(writtenValue('09:30:00', 'time', 'iso')).toBe('09:30')
})

test('in the language of the reader dates have month names or its order, and the same day', () => {
  const shown = writtenValue('2031-05-02', 'date', 'language')
  expect(shown).toContain('2031')
  expect(shown).not.toBe('2031-05-02')
  expect(writtenValue('0001-01-01', 'date', 'language')).toContain('1')
  expect(writtenValue('00012', 'text', 'language')).toBe('00012')
})

test.each([
  ['10000 to 20000', 'decimal', '10,000 to 20,000'],
  ['week of 2031-05-05', 'date', 'week of 2031-05-05'],
  ['May 2031', 'date', 'May 2031'],
  ['09:00:00 to 10:00:00', 'time', '09:00 to 10:00'],
  ['10000 to 20000', 'text', '10000 to 20000'],
] as const)('the label %s of a %s bar reads %s', (label, type, shown) =>
  expect(writtenLabel(label, type, 'iso')).toBe(shown),
)

test('a week in the language of the reader keeps its words, a month its name', () => {
  expect(writtenLabel('week of 2031-05-05', 'date', 'language')).toMatch(/^week of (?!2031-05-05)/)
  expect(writtenLabel('May 2031', 'date', 'language')).toBe('May 2031')
})

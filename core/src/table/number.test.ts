import fc from 'fast-check'
import { expect, test } from 'vitest'
import { formatDecimal, numberReader, plainLocale } from './number.ts'

/** As the contract says it, word by word: the shortest form of the value rounded to 15 significant digits. */
const byTheLetter = (value: number): string => {
  const rounded = Number(value.toPrecision(15))
  if (rounded === 0) return '0'
  const text = String(rounded)
  if (Math.abs(rounded) >= 1e-7 && Math.abs(rounded) < 1e-6) {
    const [mantissa = '', exponent = '0'] = text.split('e')
    return `${rounded < 0 ? '-' : ''}0.${'0'.repeat(-Number(exponent) - 1)}${mantissa.replace(/[-.]/g, '')}`
  }
  return text.replace('e+', 'e')
}

test.each([
  [0.1 + 0.2, '0.3'],
  [-0, '0'],
  [1.5e-8, '1.5e-8'],
  [1.25e-7, '0.000000125'],
  [1e21, '1e21'],
  [123456789012345680000, '123456789012346000000'],
  [2.675, '2.675'],
  [-1204.5, '-1204.5'],
  [1e15, '1000000000000000'],
  [0.1234567890123456, '0.123456789012346'],
])('%d is written %s', (value, text) => {
  expect(formatDecimal(value)).toBe(text)
})

test('numbers of any size and number of places are written by the letter', () => {
  for (let i = 1; i < 60_000; i++) {
    const x = Math.sin(i * 12.9898)
    for (const value of [
      x * 10 ** ((i % 40) - 15),
      Math.round(x * 1e7) / 10 ** (i % 9),
      Math.round(x * 1e15) / 10 ** (i % 20),
      Math.round(x * 1e4) * 10 ** (i % 22),
    ])
      if (formatDecimal(value) !== byTheLetter(value))
        expect(`${value}: ${formatDecimal(value)}`).toBe(`${value}: ${byTheLetter(value)}`)
  }
})

test('numbers that are met most are read as all others are: spaces before a text make it go the long way', () => {
  const piece = fc.constantFrom(
    ...'0123456789',
    '00',
    '123',
    '4567',
    ',',
    '.',
    ',000',
    '.25',
    '£',
    '$ ',
    '€',
    ' ',
    '-',
    '−',
    '%',
    '(',
    ')',
    'e3',
  )
  const texts = fc.array(piece, { maxLength: 8 }).map((pieces) => pieces.join(''))
  for (const locale of [
    plainLocale,
    { decimal: ',', group: '.' },
    { decimal: ',', group: ' ' },
    { decimal: '.', group: '' },
  ]) {
    const read = numberReader(locale)
    fc.assert(
      fc.property(texts, (text) => {
        expect(read(text)).toBe(read(`  ${text}`))
      }),
      { numRuns: 3000 },
    )
  }
  const read = numberReader()
  expect(['£ 1,234.50', '-7', '007', '-0', '1,23', '1234,567', '12.', '1.2.3', '123456789012345678'].map(read)).toEqual(
    [1234.5, -7, 7, 0, null, null, null, null, 123456789012345680],
  )
})

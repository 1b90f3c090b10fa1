import fc from 'fast-check'
import { expect, test } from 'vitest'
import { cutRowSample, fairOneIn, isLargeText, recordCutter } from './row-sample.ts'

const bytes = (text: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(text)
const cutIn = (text: string, size: number, keep: (record: number) => boolean, quoted = true): string => {
  const cutter = recordCutter(keep, quoted)
  const all = bytes(text)
  const pieces = Array.from({ length: Math.ceil(all.length / size) }, (_, i) => all.slice(i * size, (i + 1) * size))
  return pieces
    .flatMap((piece) => cutter.take(piece))
    .map((kept) => new TextDecoder('latin1').decode(kept))
    .join('')
}

test('whole records are kept, whatever pieces the text comes in', () => {
  const cell = fc.oneof(
    fc.constantFrom('', 'Oxbow', '12.5', '5" pipe'),
    fc.constantFrom('two\nlines', 'a "word", said', '\n', '""').map((text) => `"${text.replaceAll('"', '""')}"`),
  )
  const record = fc.array(cell, { minLength: 1, maxLength: 4 }).map((cells) => `${cells.join(';')}\n`)
  fc.assert(
    fc.property(
      fc.array(record, { maxLength: 12 }),
      fc.integer({ min: 1, max: 30 }),
      fc.integer({ min: 1, max: 4 }),
      (records, size, oneIn) => {
        const expected = records.filter((_, i) => i % oneIn === 0).join('')
        expect(cutIn(records.join(''), size, (at) => at % oneIn === 0)).toBe(expected)
      },
    ),
  )
})

test('quotes within a cell and quotes in lines of JSON do not hold lines together', () => {
  expect(cutIn('a\n5" pipe,x\n7" pipe,y\n', 4, (at) => at !== 1)).toBe('a\n7" pipe,y\n')
  for (const size of [1, 3, 5, 100])
    expect(cutIn('{"a":"\\"","b":1}\n{"a":2}\n', size, (at) => at === 1, false)).toBe('{"a":2}\n')
})

test('a sample has the rows at the top, and says of how many it is', async () => {
  const rows = Array.from({ length: 1000 }, (_, i) => `Clinic ${i},${i}`)
  const file = new File([['Clinic,Fee', ...rows].join('\n')], 'visits.csv')
  const shares: number[] = []
  const thinned = await cutRowSample(file, { oneIn: 100 }, (share) => shares.push(share))
  const lines = (await thinned.file.text()).trimEnd().split('\n')
  expect(lines.slice(0, 2)).toEqual(['Clinic,Fee', 'Clinic 0,0'])
  expect(lines.slice(20)).toEqual(Array.from({ length: 10 }, (_, i) => `Clinic ${i * 100 + 19},${i * 100 + 19}`))
  expect(thinned).toMatchObject({ words: 'one row in 100 of 1,001', file: { name: 'visits.csv' } })
  expect(shares.at(-1)).toBe(1)
  const first = await cutRowSample(file, { first: 50 }, () => undefined)
  expect((await first.file.text()).trimEnd().split('\n')).toHaveLength(50)
  expect(first.words).toBe('the first 50 rows')
})

test('only large text with lines is cut', async () => {
  const sized = (name: string, start: string, size: number): File =>
    ({ name, size, slice: () => new Blob([start]) }) as unknown as File
  expect(await isLargeText(sized('a.csv', 'a,b\n1,2\n', 400e6))).toBe(true)
  expect(await isLargeText(sized('a.csv', 'a,b\n1,2\n', 299e6))).toBe(false)
  expect(await isLargeText(sized('a.xlsx', 'a\n', 400e6))).toBe(false)
  expect(await isLargeText(sized('a.csv', 'a\0,\0\n\0', 400e6))).toBe(false)
  expect(fairOneIn(4_000_000_000)).toBe(80)
})

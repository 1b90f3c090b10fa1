import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { compiledCsv } from './csv-compiled.ts'
import type { ByteSource, CsvKernel } from './csv-kernel.ts'
import { referenceCsv } from './csv-reference.ts'

const encoder = new TextEncoder()
const source = (bytes: Uint8Array): ByteSource => ({
  size: bytes.length,
  block: (from, length) => bytes.subarray(from, from + length),
  decoder: (of) => (start, end) => new TextDecoder('utf-8', { ignoreBOM: true }).decode(of.subarray(start, end)),
  bytesOf: (text) => encoder.encode(text),
})

/** All that a kernel tells of the rows of a file; a row that is not plain is passed over up to the next line feed. */
const told = (kernel: CsvKernel, bytes: Uint8Array, width: number): unknown[] => {
  const all: unknown[] = []
  const dictionaries = Array.from({ length: width }, () => kernel.dictionary())
  for (let at = 0; at < bytes.length;) {
    const rows = kernel.cut(at)
    if (rows === 0) {
      const after = bytes.indexOf(10, at)
      all.push(['odd', at])
      at = after < 0 ? bytes.length : after + 1
      continue
    }
    const columns = dictionaries.map((dictionary, column) => {
      const values = new Float64Array(rows + 1)
      const codes = new Uint32Array(rows + 1)
      const found = kernel.numbers(column, 46, values, 1)
      const flags = [...kernel.flags.subarray(0, rows)]
      dictionary.codes(column, codes, 1)
      const { bytes: texts, ends } = kernel.texts(column, 7)
      return [
        found,
        [...values].map((value) => (Object.is(value, -0) ? '-0' : value)),
        flags,
        [...codes],
        new TextDecoder().decode(texts),
        [...ends],
        kernel.firstFilled(column),
        Array.from({ length: rows }, (_, row) => kernel.text(column, row)),
      ]
    })
    all.push([rows, kernel.next, columns])
    at = kernel.next
  }
  for (const dictionary of dictionaries) {
    const { bytes: texts, ends } = dictionary.texts()
    all.push([dictionary.size, new TextDecoder().decode(texts), [...ends], dictionary.codeOf(encoder.encode('Oxbow'))])
    // some of its own texts, cut one byte further on, which makes others of them
    const moved = { bytes: texts.slice(0, -1), ends: ends.map((end, i) => (i === 0 ? 0 : end - 1)) }
    all.push([...dictionary.codesOf(moved), ...dictionary.codesOf({ bytes: texts, ends }), dictionary.size])
  }
  return all
}
const alike = (text: string, width: number): void => {
  const bytes = encoder.encode(text)
  const layout = { delimiter: 44, quote: 34, width }
  expect(told(compiledCsv(source(bytes), layout), bytes, width)).toEqual(
    told(referenceCsv(source(bytes), layout), bytes, width),
  )
}

const cell = fc.oneof(
  fc.constantFrom('', '0', '-0', '007', '-1.5', '.5', '5.', '1.2.3', '123456789012345', '1234567890123456', '-', '1e3'),
  fc.constantFrom('Marlpit', 'a cell that is longer than sixteen bytes, by far', 'Grünau', '🐇', 'x\r', '\rx', ' '),
  fc.constantFrom('""', '"a"', '"a,b"', '"a""b"', '""""', '"two\nlines"', '"\r\n"', 'a"b', '"open', '"a"b', '"q"\r'),
  fc.double().map(String),
  fc.integer().map((n) => (n / 100).toFixed(2)),
  fc.string({ maxLength: 40 }).map((text) => text.replaceAll('"', '')),
)
const row = (width: number) =>
  fc.oneof(
    { weight: 6, arbitrary: fc.array(cell, { minLength: width, maxLength: width }) },
    { weight: 1, arbitrary: fc.array(cell, { maxLength: width + 2 }) },
  )

describe('the compiled kernels of CSV', () => {
  test('give what the reference gives, whatever stands in a file', () => {
    const files = fc
      .integer({ min: 1, max: 4 })
      .chain((width) => fc.tuple(fc.constant(width), fc.array(row(width), { maxLength: 30 }), fc.boolean()))
    fc.assert(
      fc.property(files, ([width, rows, ends]) =>
        alike(rows.map((cells) => cells.join(',')).join('\n') + (ends ? '\n' : ''), width),
      ),
      { numRuns: 400 },
    )
  })
  test('over many blocks, with rows that go on from one to the next', () => {
    const rows = Array.from({ length: 30_000 }, (_, i) => `A${i % 7000},${(i / 8).toFixed(3)},"note ""${i}"", read"`)
    alike(rows.join('\n'), 3)
  })
  test('rows longer than a block', () => {
    alike(`${'x'.repeat(300_000)},1\n"${'y""'.repeat(400_000)}",2\nshort,3\n`, 2)
  })
})

describe('cells of CSV', () => {
  test.each([
    ['reference', referenceCsv],
    ['compiled', compiledCsv],
  ])('%s: doubled quotes are one, blank rows are none', (_, make) => {
    const bytes = encoder.encode('"a ""b""",1.50\r\n"",""\nlast,-2')
    const kernel = make(source(bytes), { delimiter: 44, quote: 34, width: 2 })
    const values = new Float64Array(2)
    expect(kernel.cut(0)).toBe(1)
    expect(kernel.text(0, 0)).toBe('a "b"')
    expect(kernel.numbers(1, 46, values, 0)).toBe(2)
    expect(kernel.cut(kernel.next)).toBe(0)
    expect(kernel.cut(bytes.indexOf(108))).toBe(1)
    expect(kernel.numbers(1, 46, values, 1)).toBe(0)
    expect([...values]).toEqual([1.5, -2])
  })
})

import { expect, test } from 'vitest'
import { pageClaims } from './page-headers.ts'

/** A data page of 3 values: its header in Thrift's compact protocol, with statistics, then its bytes. */
const page = (compressed: number, body = 5): number[] => [
  0x15,
  0,
  0x15,
  20,
  0x15,
  compressed * 2, // type, uncompressed_page_size 10, compressed_page_size
  0x2c,
  0x15,
  6,
  0x15,
  0,
  0x15,
  6,
  0x15,
  6, // data_page_header: num_values 3, encodings
  0x1c,
  0x18,
  3,
  97,
  98,
  99,
  0x18,
  1,
  97,
  0x16,
  0,
  0, // statistics: max, min, null_count
  0,
  0, // ends of data_page_header and of the page's own
  ...Array.from({ length: body }, () => 0xff),
]
const claims = (bytes: readonly number[]) =>
  [...pageClaims(Uint8Array.from(bytes), 0, bytes.length)].map(({ values, compressed, isData }) => ({
    values,
    compressed,
    isData,
  }))

test('the headers of pages behind one another are read, statistics passed over', () => {
  expect(claims([...page(5), ...page(5)])).toEqual([
    { values: 3, compressed: 5, isData: true },
    { values: 3, compressed: 5, isData: true },
  ])
})
test('a page that goes beyond the chunk, or back, makes no sense', () => {
  expect(() => claims(page(6))).toThrow(RangeError)
  const back = page(5)
  back[5] = 9
  expect(() => claims(back)).toThrow(RangeError)
  expect(() => claims(page(5).slice(0, 9))).toThrow(RangeError)
})

// Least significant digit radix sort of keys with their rows. Knuth, The Art of Computer Programming 3, 5.2.5.
import { allocate } from './memory'

const digitBits: u32 = 11
const digits: u32 = 2048

/**
 * Sorts pairs of a 32-bit key and a row (the low and the high half of 8 bytes) by the lowest `bits` of the keys, stably.
 * `spare` is as large; where the sorted pairs are, which may be either.
 */
function sortPairs(pairs: usize, spare: usize, count: i32, bits: u32, counts: usize): usize {
  for (let shift: u32 = 0; shift < bits; shift += digitBits) {
    memory.fill(counts, 0, digits << 2)
    const mask = ((<u32>1) << min(digitBits, bits - shift)) - 1
    for (let i = 0; i < count; i++) {
      const at = counts + ((<usize>((load<u32>(pairs + ((<usize>i) << 3)) >> shift) & mask)) << 2)
      store<u32>(at, load<u32>(at) + 1)
    }
    let sum: u32 = 0
    for (let digit: u32 = 0; digit < digits; digit++) {
      const at = counts + ((<usize>digit) << 2)
      const here = load<u32>(at)
      store<u32>(at, sum)
      sum += here
    }
    for (let i = 0; i < count; i++) {
      const pair = load<u64>(pairs + ((<usize>i) << 3))
      const at = counts + ((<usize>(((<u32>pair) >> shift) & mask)) << 2)
      const to = load<u32>(at)
      store<u32>(at, to + 1)
      store<u64>(spare + ((<usize>to) << 3), pair)
    }
    const sorted = spare
    spare = pairs
    pairs = sorted
  }
  return pairs
}

/** Sorts an order of rows by one word of their keys, stably; `first`: the order is that of the rows. Only the lowest `bits` of the keys count. */
export function sortRows(order: usize, keys: usize, count: i32, bits: u32, first: bool): void {
  const pairs = allocate((<usize>count) << 3)
  const spare = allocate((<usize>count) << 3)
  for (let i = 0; i < count; i++) {
    const row = first ? <u32>i : load<u32>(order + ((<usize>i) << 2))
    store<u32>(pairs + ((<usize>i) << 3), load<u32>(keys + ((<usize>row) << 2)))
    store<u32>(pairs + ((<usize>i) << 3), row, 4)
  }
  const sorted = sortPairs(pairs, spare, count, bits, allocate(digits << 2))
  for (let i = 0; i < count; i++) store<u32>(order + ((<usize>i) << 2), load<u32>(sorted + ((<usize>i) << 3), 4))
}

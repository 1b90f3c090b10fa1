// Least significant digit radix sort of keys with their rows. Knuth, The Art of Computer Programming 3, 5.2.5.
import { allocate } from './memory'

const digitBits: u32 = 11
const digits: u32 = 2048

function addOne(counts: usize, digit: u32): void {
  const at = counts + ((<usize>digit) << 2)
  store<u32>(at, load<u32>(at) + 1)
}

/** How many keys have each digit, of all `passes` digits at once: 8192 bytes for each. */
function countDigits(keys: usize, count: i32, bits: u32, passes: u32, counts: usize): void {
  memory.fill(counts, 0, <usize>passes * (digits << 2))
  const used: u32 = bits >= 32 ? 0xffffffff : ((<u32>1) << bits) - 1
  for (let i = 0; i < count; i++) {
    const key = load<u32>(keys + ((<usize>i) << 2)) & used
    addOne(counts, key & (digits - 1))
    if (passes > 1) addOne(counts + (digits << 2), (key >> digitBits) & (digits - 1))
    if (passes > 2) addOne(counts + (digits << 3), key >> (digitBits * 2))
  }
}

/** Counts of digits become the places where those with each digit begin. */
function beginnings(counts: usize): void {
  let sum: u32 = 0
  for (let digit: u32 = 0; digit < digits; digit++) {
    const at = counts + ((<usize>digit) << 2)
    const here = load<u32>(at)
    store<u32>(at, sum)
    sum += here
  }
}

/** The next place of those with a digit. */
function nextPlace(counts: usize, digit: u32): usize {
  const at = counts + ((<usize>digit) << 2)
  const place = load<u32>(at)
  store<u32>(at, place + 1)
  return <usize>place
}

/** Sorts pairs of a key and a row (the low and the high half of 8 bytes) by one digit, into pairs, or into rows alone. */
function sortPairs(pairs: usize, count: i32, shift: u32, mask: u32, counts: usize, to: usize, rowsAlone: bool): void {
  if (rowsAlone)
    for (let i = 0; i < count; i++) {
      const pair = load<u64>(pairs + ((<usize>i) << 3))
      store<u32>(to + (nextPlace(counts, ((<u32>pair) >> shift) & mask) << 2), <u32>(pair >> 32))
    }
  else
    for (let i = 0; i < count; i++) {
      const pair = load<u64>(pairs + ((<usize>i) << 3))
      store<u64>(to + (nextPlace(counts, ((<u32>pair) >> shift) & mask) << 3), pair)
    }
}

/** As `sortPairs`, by the first digit, of rows in an order, or in that of the rows where it is 0, and their keys. */
function sortFirst(order: usize, keys: usize, count: i32, mask: u32, counts: usize, to: usize, rowsAlone: bool): void {
  for (let i = 0; i < count; i++) {
    const row = order == 0 ? <u32>i : load<u32>(order + ((<usize>i) << 2))
    const key = load<u32>(keys + ((<usize>row) << 2))
    const place = nextPlace(counts, key & mask)
    if (rowsAlone) store<u32>(to + (place << 2), row)
    else store<u64>(to + (place << 3), (<u64>key) | ((<u64>row) << 32))
  }
}

/** The address of rows sorted by the lowest `bits` of a key each, one at least, stably; `order` is that in which they stand, that of the rows where it is 0. */
export function sortRows(order: usize, keys: usize, count: i32, bits: u32): usize {
  const passes = (bits + digitBits - 1) / digitBits
  const counts = allocate(passes * (digits << 2))
  countDigits(keys, count, bits, passes, counts)
  const rows = allocate((<usize>count) << 2)
  let pairs: usize = 0
  for (let pass: u32 = 0; pass < passes; pass++) {
    const shift = pass * digitBits
    const mask = ((<u32>1) << min(digitBits, bits - shift)) - 1
    const ofPass = counts + <usize>pass * (digits << 2)
    const isLast = pass + 1 == passes
    const to: usize = isLast ? rows : allocate((<usize>count) << 3)
    beginnings(ofPass)
    if (pass == 0) sortFirst(order, keys, count, mask, ofPass, to, isLast)
    else sortPairs(pairs, count, shift, mask, ofPass, to, isLast)
    pairs = to
  }
  return rows
}

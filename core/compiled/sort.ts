// Least significant digit radix sort of keys with their rows. Knuth, The Art of Computer Programming 3, 5.2.5.
import { allocate } from './memory'

const mostDigitBits: u32 = 11
const digits: u32 = 2048

function addOne(counts: usize, digit: u32): void {
  const at = counts + ((<usize>digit) << 2)
  store<u32>(at, load<u32>(at) + 1)
}

/** How many keys have each digit, of all `passes` digits at once: 8192 bytes for each. */
function countDigits(keys: usize, count: i32, bits: u32, digitBits: u32, passes: u32, counts: usize): void {
  const mask = ((<u32>1) << digitBits) - 1
  memory.fill(counts, 0, <usize>passes * (digits << 2))
  const used: u32 = bits >= 32 ? 0xffffffff : ((<u32>1) << bits) - 1
  for (let i = 0; i < count; i++) {
    const key = load<u32>(keys + ((<usize>i) << 2)) & used
    addOne(counts, key & mask)
    if (passes > 1) addOne(counts + (digits << 2), (key >> digitBits) & mask)
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
  const passes = (bits + mostDigitBits - 1) / mostDigitBits
  // digits of like size have the fewest places to write to
  const digitBits = (bits + passes - 1) / passes
  const counts = allocate(passes * (digits << 2))
  countDigits(keys, count, bits, digitBits, passes, counts)
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

/** Puts ranks into words, above their lowest `bits`. Up to 3 more words are written. */
export function putAbove(ranks: usize, count: i32, bits: i32, words: usize): void {
  for (let i: usize = 0; i < <usize>count; i += 4) {
    const at = i << 2
    v128.store(words + at, v128.or(v128.load(words + at), i32x4.shl(v128.load(ranks + at), bits)))
  }
}

/** Ranks of two numbers: times `scale` as whole numbers, less `from` and turned by `sign`. A bit each where it is not whole then. */
function rankTwo(values: usize, scale: v128, from: v128, sign: v128, to: usize): i32 {
  const given = v128.load(values)
  const whole = f64x2.floor(f64x2.add(f64x2.mul(given, scale), f64x2.splat(0.5)))
  v128.store64_lane(to, i32x4.trunc_sat_f64x2_u_zero(f64x2.mul(f64x2.sub(whole, from), sign)), 0)
  return i64x2.bitmask(f64x2.ne(f64x2.div(whole, scale), given))
}

/**
 * Numbers times `scale` as whole numbers, less `from` and times `sign`, which is 1 or -1, to 4 bytes each; `last` where the bit of a row
 * is set in `empty`, if that is not 0. Whether all others are whole then. Reads and writes up to 7 more.
 */
export function scaledRanks(
  values: usize,
  empty: usize,
  count: i32,
  scale: f64,
  from: f64,
  sign: f64,
  last: u32,
  to: usize,
): bool {
  const scales = f64x2.splat(scale)
  const froms = f64x2.splat(from)
  const signs = f64x2.splat(sign)
  for (let i = 0; i < count; i += 8) {
    const at = values + ((<usize>i) << 3)
    const made = to + ((<usize>i) << 2)
    let odd = rankTwo(at, scales, froms, signs, made)
    odd |= rankTwo(at + 16, scales, froms, signs, made + 8) << 2
    odd |= rankTwo(at + 32, scales, froms, signs, made + 16) << 4
    odd |= rankTwo(at + 48, scales, froms, signs, made + 24) << 6
    if (count - i < 8) odd &= (1 << (count - i)) - 1
    let none = empty == 0 ? 0 : <i32>load<u8>(empty + <usize>(i >> 3))
    if ((odd & ~none) != 0) return false
    for (; none != 0; none &= none - 1) store<u32>(made + ((<usize>ctz(none)) << 2), last)
  }
  return true
}

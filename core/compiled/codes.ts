// Loops over codes: small whole numbers, one a row, that are equal where cells are equal.
import { bitsFrom } from './memory'

/** Adds how many rows have each code; four counts `stride` bytes apart take turns, so that rows alike do not wait for one another, or are one where it is 0. */
export function countCodes(codes: usize, count: i32, counts: usize, stride: usize): void {
  for (let i = 0; i < count; i++) {
    const at = counts + <usize>(i & 3) * stride + ((<usize>load<u32>(codes + ((<usize>i) << 2))) << 2)
    store<i32>(at, load<i32>(at) + 1)
  }
}

/** Codes of pairs: `a * factor + b`. Up to three codes behind the last are made too. */
export function pairCodes(a: usize, factor: u32, b: usize, count: i32, codes: usize): void {
  const factors = i32x4.splat(factor)
  const n = (<usize>count) << 2
  for (let i: usize = 0; i < n; i += 16)
    v128.store(codes + i, i32x4.add(i32x4.mul(v128.load(a + i), factors), v128.load(b + i)))
}

// what is seldom needed in the loops below lies in variables of the module, so that the rest fits the registers of the processor

/** How many different codes were met, and of each in order where it is put and the place of its first row. */
let met: i32 = 0
let metCodes: usize = 0
let metPlaces: usize = 0
export function beginCodes(codes: usize, places: usize): void {
  met = 0
  metCodes = codes
  metPlaces = places
}
function meet(code: u32, place: i32): i32 {
  store<u32>(metCodes + ((<usize>met) << 2), code)
  store<i32>(metPlaces + ((<usize>met) << 2), place)
  return met++
}

/** Meets a code whose byte in `known` is 0. */
function meetOnce(code: u32, known: usize, place: i32): void {
  const at = known + <usize>code
  if (load<u8>(at) != 0) return
  store<u8>(at, 1)
  meet(code, place)
}
/** Meets codes whose byte in `known` is 0; rows are counted from `place`. How many different ones were met up to now. */
export function newCodes(codes: usize, count: i32, known: usize, place: i32): i32 {
  for (let i = 0; i < count; i++) {
    meetOnce(load<u32>(codes + ((<usize>i) << 2)), known, place + i)
  }
  return met
}
/** As `newCodes`, of the rows that are named, counted from `first`, whose codes are put into `to`; the other rows there keep what they have. */
export function newCodesOf(
  codes: usize,
  rows: usize,
  count: i32,
  first: i32,
  known: usize,
  place: i32,
  to: usize,
): i32 {
  for (let i = 0; i < count; i++) {
    const row = (<usize>(load<i32>(rows + ((<usize>i) << 2)) - first)) << 2
    const code = load<u32>(codes + row)
    store<u32>(to + row, code)
    meetOnce(code, known, place + i)
  }
  return met
}

/** The number of a code, which is met at a place where it has none yet: -1 in `idOf`. */
function idFor(code: u32, idOf: usize, place: i32): i32 {
  const known = idOf + ((<usize>code) << 2)
  const id = load<i32>(known)
  if (id >= 0) return id
  const made = meet(code, place)
  store<i32>(known, made)
  return made
}
/** Numbers codes from 0 on in the order in which they are met: `idOf` is -1 for each at first. The number of each row into `ids`. How many there are up to now. */
export function idsInOrder(codes: usize, count: i32, idOf: usize, place: i32, ids: usize): i32 {
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 2
    store<i32>(ids + at, idFor(load<u32>(codes + at), idOf, place + i))
  }
  return met
}
/** As `idsInOrder`, of the rows that are named, counted from `first`; the other ids keep what they have. */
export function idsOfRows(codes: usize, rows: usize, count: i32, first: i32, idOf: usize, place: i32, ids: usize): i32 {
  for (let i = 0; i < count; i++) {
    const at = (<usize>(load<i32>(rows + ((<usize>i) << 2)) - first)) << 2
    store<i32>(ids + at, idFor(load<u32>(codes + at), idOf, place + i))
  }
  return met
}

/** Of each code what a table of 32-bit values holds for it. */
export function lookUp(codes: usize, count: i32, table: usize, to: usize): void {
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 2
    store<u32>(to + at, load<u32>(table + ((<usize>load<u32>(codes + at)) << 2)))
  }
}

/** The first row of each code, counted from `first`, where none is known yet: -1 at first. */
export function firstRows(codes: usize, count: i32, first: i32, firsts: usize): void {
  for (let i = 0; i < count; i++) {
    const at = firsts + ((<usize>load<u32>(codes + ((<usize>i) << 2))) << 2)
    if (load<i32>(at) < 0) store<i32>(at, first + i)
  }
}

/** The first row of each code, -1 where there is none, as at first; code 0 has no row. How many rows stand behind the first of their code. */
export function firstOfKeys(codes: usize, count: i32, firsts: usize): i32 {
  let repeated = 0
  for (let i = 0; i < count; i++) {
    const code = load<u32>(codes + ((<usize>i) << 2))
    if (code == 0) continue
    const at = firsts + ((<usize>code) << 2)
    if (load<i32>(at) < 0) store<i32>(at, i)
    else repeated++
  }
  return repeated
}
/** A byte a code: 1 where it has a row, which is -1 for none. Up to 15 bytes behind the last are written too. */
export function marksOfRows(rows: usize, count: i32, marks: usize): void {
  for (let i: usize = 0; i < <usize>count; i += 16) {
    const at = rows + (i << 2)
    const low = i16x8.narrow_i32x4_s(v128.load(at), v128.load(at, 16))
    const high = i16x8.narrow_i32x4_s(v128.load(at, 32), v128.load(at, 48))
    v128.store(marks + i, i8x16.add(i8x16.splat(1), i8x16.shr_s(i8x16.narrow_i16x8_s(low, high), 7)))
  }
}

/** Codes are met: the highest bit of the mark of each, which is 0 or 1 at first, is set. How many have a mark of 0. */
export function meetCodes(codes: usize, count: i32, marks: usize): i32 {
  let there = 0
  for (let i = 0; i < count; i++) {
    const at = marks + <usize>load<u32>(codes + ((<usize>i) << 2))
    const mark = load<u8>(at)
    there += <i32>(mark & 1)
    // without a branch, which would often be foreseen wrongly
    store<u8>(at, mark | 0x80)
  }
  return count - there
}
/** Marks of 1 that were met become 2, all others what they were before. How many became 2. Marks are read and written up to 15 bytes behind the last. */
export function metMarks(marks: usize, count: i32): i32 {
  let met = 0
  for (let i = 0; i < count; i += 16) {
    const at = marks + <usize>i
    const given = v128.load(at)
    const both = i8x16.eq(given, i8x16.splat(<i8>0x81))
    let bits = <u32>i8x16.bitmask(both)
    if (count - i < 16) bits &= (1 << (count - i)) - 1
    met += popcnt(bits)
    v128.store(at, v128.bitselect(i8x16.splat(2), v128.and(given, i8x16.splat(1)), both))
  }
  return met
}

/** As `lookUp` in a table of rows, -1 where a code has none; marks the codes by 2 in `met`, a byte a code. How many codes have no row. */
export function matchRows(codes: usize, count: i32, rows: usize, met: usize, to: usize): i32 {
  let missing = 0
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 2
    const code = <usize>load<u32>(codes + at)
    const row = load<i32>(rows + (code << 2))
    store<u8>(met + code, 2)
    store<i32>(to + at, row)
    missing += row >>> 31
  }
  return missing
}

/** Whole numbers less `below` as codes. Up to three codes behind the last are made too. */
export function floatCodes(values: usize, count: i32, below: f64, codes: usize): void {
  const less = f64x2.splat(below)
  // of a whole number below 2 ** 52 that 2 ** 52 is added to the low bits of the mantissa are the number
  const toMantissa = f64x2.splat(4503599627370496)
  for (let i: usize = 0; i < <usize>count; i += 4) {
    const at = values + (i << 3)
    const low = f64x2.add(f64x2.sub(v128.load(at), less), toMantissa)
    const high = f64x2.add(f64x2.sub(v128.load(at, 16), less), toMantissa)
    v128.store(codes + (i << 2), v128.shuffle<i32>(low, high, 0, 2, 4, 6))
  }
}

/** Codes become 0 where the bit of their row is set in `empty`. */
export function clearEmpty(codes: usize, empty: usize, count: i32): void {
  for (let i = 0; i < count; i += 64)
    for (let bits = bitsFrom(empty, i, count); bits != 0; bits &= bits - 1)
      store<u32>(codes + ((<usize>i + <usize>ctz(bits)) << 2), 0)
}

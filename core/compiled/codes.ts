// Loops over codes: small whole numbers, one a row, that are equal where cells are equal.
import { bitsFrom } from './memory'

/** Adds how many rows have each code; four counts `stride` bytes apart take turns, so that rows alike do not wait for one another, or are one where it is 0. */
export function countCodes(codes: usize, count: i32, counts: usize, stride: usize): void {
  for (let i = 0; i < count; i++) {
    const at = counts + <usize>(i & 3) * stride + ((<usize>load<u32>(codes + ((<usize>i) << 2))) << 2)
    store<i32>(at, load<i32>(at) + 1)
  }
}

/** How many different codes have been met. */
let met: i32 = 0
export function beginIds(): void {
  met = 0
}
/**
 * Numbers codes in the order in which they are met, from 0 on: `idOf` is -1 for each code at first, `ids` gets the number of each
 * row, `firsts` the place that each number is first met at, counted from `place`, `sizes` how many rows have it. A code is
 * `a * factor + b`. The rows are all, or those that `rows` names, counted from `first`; others keep what they have. How many
 * numbers there are.
 */
export function idsInOrder(
  a: usize,
  factor: u32,
  b: usize,
  rows: usize,
  count: i32,
  first: i32,
  place: i32,
  idOf: usize,
  ids: usize,
  firsts: usize,
  sizes: usize,
): i32 {
  for (let i = 0; i < count; i++) {
    const row = rows == 0 ? i : load<i32>(rows + ((<usize>i) << 2)) - first
    const at = (<usize>row) << 2
    const code = load<u32>(a + at) * factor + load<u32>(b + at)
    const known = idOf + ((<usize>code) << 2)
    let id = load<i32>(known)
    if (id < 0) {
      id = met++
      store<i32>(known, id)
      store<i32>(firsts + ((<usize>id) << 2), place + i)
      store<i32>(sizes + ((<usize>id) << 2), 0)
    }
    store<i32>(ids + at, id)
    const size = sizes + ((<usize>id) << 2)
    store<i32>(size, load<i32>(size) + 1)
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

/** The rows, counted from `first`, whose code was not met before, in order; `met` has a byte a code. How many they are. */
export function rowsOfNewCodes(codes: usize, count: i32, first: i32, met: usize, rows: usize): i32 {
  let found = 0
  for (let i = 0; i < count; i++) {
    const code = met + <usize>load<u32>(codes + ((<usize>i) << 2))
    if (load<u8>(code) != 0) continue
    store<u8>(code, 1)
    store<i32>(rows + ((<usize>found) << 2), first + i)
    found++
  }
  return found
}

/** Codes are met: the byte of each in `marks` becomes 2 where it is 1. How many have 0 there. */
export function meetCodes(codes: usize, count: i32, marks: usize): i32 {
  let missing = 0
  for (let i = 0; i < count; i++) {
    const at = marks + <usize>load<u32>(codes + ((<usize>i) << 2))
    const mark = load<u8>(at)
    missing += <i32>(mark == 0)
    // without a branch, which would often be foreseen wrongly
    store<u8>(at, mark + <u8>(mark == 1))
  }
  return missing
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

/** Whole numbers less `below` as codes, an even count of them. */
export function floatCodes(values: usize, count: i32, below: f64, codes: usize): void {
  const less = f64x2.splat(below)
  for (let i: usize = 0; i < <usize>count; i += 2) {
    const made = i32x4.trunc_sat_f64x2_u_zero(f64x2.sub(v128.load(values + (i << 3)), less))
    v128.store64_lane(codes + (i << 2), made, 0)
  }
}

/** Codes become 0 where the bit of their row is set in `empty`. */
export function clearEmpty(codes: usize, empty: usize, count: i32): void {
  for (let i = 0; i < count; i += 64)
    for (let bits = bitsFrom(empty, i, count); bits != 0; bits &= bits - 1)
      store<u32>(codes + ((<usize>i + <usize>ctz(bits)) << 2), 0)
}

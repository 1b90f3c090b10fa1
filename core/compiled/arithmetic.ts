// Blocks of numbers with blocks of numbers, and totals by group.
import { bitsFrom } from './memory'

const add: i32 = 0
const subtract: i32 = 1
const multiply: i32 = 2

/** Adds 0 to results, so that -0 becomes 0, and keeps them; which of `within` still lie no farther from 0 than the limits. */
function settled(value: v128, to: usize, within: v128, limits: v128): v128 {
  const clean = f64x2.add(value, f64x2.splat(0))
  v128.store(to, clean)
  return v128.and(within, f64x2.le(f64x2.abs(clean), limits))
}

/** Numbers with numbers, an even count of them; -0 becomes 0. Whether a result lies farther from 0 than `limit`, or is none. */
export function arithmetic(operation: i32, a: usize, b: usize, to: usize, count: i32, limit: f64): bool {
  const limits = f64x2.splat(limit)
  let within = i64x2.splat(-1)
  const n = (<usize>count) << 3
  if (operation == add)
    for (let i: usize = 0; i < n; i += 16)
      within = settled(f64x2.add(v128.load(a + i), v128.load(b + i)), to + i, within, limits)
  else if (operation == subtract)
    for (let i: usize = 0; i < n; i += 16)
      within = settled(f64x2.sub(v128.load(a + i), v128.load(b + i)), to + i, within, limits)
  else if (operation == multiply)
    for (let i: usize = 0; i < n; i += 16)
      within = settled(f64x2.mul(v128.load(a + i), v128.load(b + i)), to + i, within, limits)
  else
    for (let i: usize = 0; i < n; i += 16)
      within = settled(f64x2.div(v128.load(a + i), v128.load(b + i)), to + i, within, limits)
  return !i64x2.all_true(within)
}

/** The places of numbers that lie farther from 0 than `limit`, or are none, counted from `first`; how many they are. */
export function outsideOf(values: usize, count: i32, limit: f64, first: i32, rows: usize): i32 {
  let found = 0
  for (let i = 0; i < count; i++) {
    store<i32>(rows + ((<usize>found) << 2), first + i)
    found += i32(!(abs(load<f64>(values + ((<usize>i) << 3))) <= limit))
  }
  return found
}

/**
 * Sums of numbers by group with the compensation of Neumaier (ZAMM 54 (1974), 39–51), what is lost by Knuth's sum of two
 * (The Art of Computer Programming 2, 4.2.2), which compares nothing. `totals` holds 24 bytes a group, all 0 at first: the sum, what is
 * lost of it, and how many they are. An entry before those of the groups is for rows of none, whose id is 2 ** 32 - 1.
 */
export function addTotals(values: usize, ids: usize, count: i32, totals: usize): void {
  for (let i = 0; i < count; i++) {
    const total = totals + <usize>(load<u32>(ids + ((<usize>i) << 2)) + 1) * 24
    const x = load<f64>(values + ((<usize>i) << 3))
    const s = load<f64>(total)
    const t = s + x
    const rest = t - s
    store<f64>(total, load<f64>(total, 8) + (s - (t - rest) + (x - rest)), 8)
    store<f64>(total, t)
    store<i32>(total, load<i32>(total, 16) + 1, 16)
  }
}

/**
 * Rows whose bit is set in `empty` get the number 0, which changes no sum, and are counted for their groups in `emptied`, 4 bytes each.
 * An entry before those of the groups is for rows of none, as in `addTotals`.
 */
export function leaveOut(values: usize, empty: usize, ids: usize, count: i32, emptied: usize): void {
  for (let i = 0; i < count; i += 64) {
    for (let bits = bitsFrom(empty, i, count); bits != 0; bits &= bits - 1) {
      const row = <usize>i + <usize>ctz(bits)
      store<f64>(values + (row << 3), 0)
      const entry = emptied + ((<usize>(load<u32>(ids + (row << 2)) + 1)) << 2)
      store<i32>(entry, load<i32>(entry) + 1)
    }
  }
}

/** As `addTotals`, of two columns at once: 40 bytes a group, two sums, what is lost of each, and how many they are. */
export function addTwoTotals(values: usize, others: usize, ids: usize, count: i32, totals: usize): void {
  for (let i = 0; i < count; i++) {
    const total = totals + <usize>(load<u32>(ids + ((<usize>i) << 2)) + 1) * 40
    const at = (<usize>i) << 3
    const x = v128.load64_lane(others + at, v128.load64_zero(values + at), 1)
    const s = v128.load(total)
    const t = f64x2.add(s, x)
    const rest = f64x2.sub(t, s)
    const lost = f64x2.add(f64x2.sub(s, f64x2.sub(t, rest)), f64x2.sub(x, rest))
    v128.store(total, f64x2.add(v128.load(total, 16), lost), 16)
    v128.store(total, t)
    store<i32>(total, load<i32>(total, 32) + 1, 32)
  }
}

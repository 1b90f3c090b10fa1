// Predicates over numbers and codes, and the rows that they choose.

/** Of each number what an outcome says of less than, equal to and greater than a constant: one byte a row. Up to 3 more are written. */
export function compareFloats(values: usize, count: i32, constant: f64, low: u8, at: u8, high: u8, mask: usize): void {
  const constants = f64x2.splat(constant)
  const lows = i32x4.splat(low)
  const sames = i32x4.splat(at)
  const highs = i32x4.splat(high)
  for (let i = 0; i < count; i += 4) {
    const a = v128.load(values + ((<usize>i) << 3))
    const b = v128.load(values + ((<usize>i) << 3), 16)
    const less = v128.shuffle<i32>(f64x2.lt(a, constants), f64x2.lt(b, constants), 0, 2, 4, 6)
    const more = v128.shuffle<i32>(f64x2.gt(a, constants), f64x2.gt(b, constants), 0, 2, 4, 6)
    const words = v128.bitselect(lows, v128.bitselect(highs, sames, more), less)
    const halves = i16x8.narrow_i32x4_u(words, words)
    v128.store32_lane(mask + i, i8x16.narrow_i16x8_u(halves, halves), 0)
  }
}

/** For each set of four lanes, a bit a lane, the bytes of a vector that bring these lanes to its front. */
const toFront = memory.data<u32>([
  0, 0, 0, 0, 0x03020100, 0, 0, 0, 0x07060504, 0, 0, 0, 0x03020100, 0x07060504, 0, 0, 0x0b0a0908, 0, 0, 0, 0x03020100,
  0x0b0a0908, 0, 0, 0x07060504, 0x0b0a0908, 0, 0, 0x03020100, 0x07060504, 0x0b0a0908, 0, 0x0f0e0d0c, 0, 0, 0,
  0x03020100, 0x0f0e0d0c, 0, 0, 0x07060504, 0x0f0e0d0c, 0, 0, 0x03020100, 0x07060504, 0x0f0e0d0c, 0, 0x0b0a0908,
  0x0f0e0d0c, 0, 0, 0x03020100, 0x0b0a0908, 0x0f0e0d0c, 0, 0x07060504, 0x0b0a0908, 0x0f0e0d0c, 0, 0x03020100,
  0x07060504, 0x0b0a0908, 0x0f0e0d0c,
])
const fourRows = i32x4(0, 1, 2, 3)

/** Those of four rows, the first of which is `row`, whose bit is set, to an address; the one behind them. Always writes 16 bytes. */
function storeRows(bits: u32, row: i32, to: usize): usize {
  const rows = i32x4.add(i32x4.splat(row), fourRows)
  v128.store(to, i8x16.swizzle(rows, v128.load(toFront + ((<usize>bits) << 4))))
  return to + ((<usize>popcnt(bits)) << 2)
}

/** The rows, counted from `first`, whose byte is `wanted`, in order; how many they are. Up to 12 more bytes are written. */
export function chosenRows(mask: usize, count: i32, wanted: u8, first: i32, rows: usize): i32 {
  const wanteds = i8x16.splat(wanted)
  let to = rows
  for (let i = 0; i < count; i += 16) {
    let bits = <u32>i8x16.bitmask(i8x16.eq(v128.load(mask + i), wanteds))
    if (count - i < 16) bits &= (1 << (count - i)) - 1
    const row = first + i
    to = storeRows(bits & 15, row, to)
    to = storeRows((bits >> 4) & 15, row + 4, to)
    to = storeRows((bits >> 8) & 15, row + 8, to)
    to = storeRows(bits >> 12, row + 12, to)
  }
  return <i32>((to - rows) >> 2)
}

/** 1 where `keep` (a byte a code) calls the code at an address `wanted`. */
function isWanted(code: usize, keep: usize, wanted: u8): u32 {
  return u32(load<u8>(keep + load<u32>(code)) == wanted)
}

/** The rows whose code `keep` calls `wanted`, counted from `first`, in order; how many they are. Up to 16 more bytes are written. */
export function rowsOfCodes(codes: usize, count: i32, keep: usize, wanted: u8, first: i32, rows: usize): i32 {
  let to = rows
  let i = 0
  for (; i + 4 <= count; i += 4) {
    const at = codes + ((<usize>i) << 2)
    const low = isWanted(at, keep, wanted) | (isWanted(at + 4, keep, wanted) << 1)
    const high = isWanted(at + 8, keep, wanted) | (isWanted(at + 12, keep, wanted) << 1)
    to = storeRows(low | (high << 2), first + i, to)
  }
  for (; i < count; i++) to = storeRows(isWanted(codes + ((<usize>i) << 2), keep, wanted), first + i, to)
  return <i32>((to - rows) >> 2)
}

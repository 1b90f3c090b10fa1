// CSV (RFC 4180) from bytes: cells of a block of rows, and the numbers and texts of one column of them.

const lineFeed: u8 = 10
const carriageReturn: u8 = 13

/** A bit for each of 64 bytes that is the delimiter or a line feed. */
function breaksIn(at: usize, delimiters: v128): u64 {
  const feeds = i8x16.splat(lineFeed)
  let bits: u64 = 0
  for (let part: usize = 0; part < 64; part += 16) {
    const bytes = v128.load(at + part)
    const found = i8x16.bitmask(v128.or(i8x16.eq(bytes, delimiters), i8x16.eq(bytes, feeds)))
    bits |= (<u64>(<u32>found)) << part
  }
  return bits
}

/** The place of the next quote from `from` on; `end` where there is none. */
function quoteAt(block: usize, from: u32, end: u32, quotes: v128): u32 {
  for (let i = from; i < end; i += 16) {
    const mask = i8x16.bitmask(i8x16.eq(v128.load(block + i), quotes))
    if (mask != 0) return min(i + <u32>ctz(mask), end)
  }
  return end
}

/** Whether a block has a quote. */
function hasQuote(block: usize, end: u32, quotes: v128): bool {
  return quoteAt(block, 0, end, quotes) < end
}

/** Places of all delimiters and line feeds of a block, in order, into `places`; how many they are. Up to 8 more are written behind them. */
function breaksOf(block: usize, end: u32, delimiters: v128, places: usize): u32 {
  let count: u32 = 0
  for (let at: u32 = 0; at < end; at += 64) {
    let bits = breaksIn(block + at, delimiters)
    const found = <u32>popcnt(bits)
    // eight at a time, whether there are so many or not: a loop of a length that cannot be foretold costs more
    for (let done: u32 = 0; done < found; done += 8) {
      const to = places + ((<usize>count + done) << 2)
      for (let k: usize = 0; k < 32; k += 4) {
        store<u32>(to + k, at + <u32>ctz(bits))
        bits &= bits - 1
      }
    }
    count += found
  }
  while (count > 0 && load<u32>(places + ((<usize>(count - 1)) << 2)) >= end) count--
  return count
}

/** Rows of a block without quotes, by the places of its breaks. Stops before a row that is odd, which `odd` tells, or has no line feed; where that begins. */
function cutPlain(block: usize, places: usize, count: u32, width: u32, most: i32, cuts: usize): u32 {
  let start: u32 = 0
  let at: u32 = 0
  rowsCut = 0
  for (; rowsCut < most && at + width <= count; rowsCut++, at += width) {
    const row = start
    let wrong: u32 = 0
    for (let c: u32 = 0; c < width; c++) {
      const end = load<u32>(places + ((<usize>(at + c)) << 2))
      store<u32>(cuts, start)
      store<u32>(cuts, end, 4)
      cuts += 8
      wrong |= u32((load<u8>(block + end) == lineFeed) != (c + 1 == width))
      start = end + 1
    }
    const last = start - 1
    const returned = u32(last > load<u32>(cuts - 8) && load<u8>(block + last - 1) == carriageReturn)
    store<u32>(cuts - 4, last - returned)
    if (wrong != 0 || last - returned - row == width - 1) {
      odd = true
      return row
    }
  }
  // fewer breaks are left than a row has: a line feed among them ends a row that is too short
  if (rowsCut < most)
    for (; at < count; at++)
      if (load<u8>(block + load<u32>(places + ((<usize>at) << 2))) == lineFeed) {
        odd = true
        break
      }
  return start
}

/** How many rows were cut. */
let rowsCut: i32 = 0
/** Where the row after the block begins. */
export let next: u32 = 0
/** Whether the row at `next` is not plain; else more bytes are needed for it. */
export let odd: bool = false

/** End of a quoted cell whose first byte is at `from`, with doubled quotes made one in place: where the content ends. `next` is behind the closing quote; 0xffffffff where none closes it. */
function unquote(block: usize, from: u32, end: u32, quote: u8, quotes: v128): u32 {
  let read = quoteAt(block, from, end, quotes)
  let written = read
  for (;;) {
    if (read >= end) return 0xffffffff
    if (read + 1 >= end || load<u8>(block + read + 1) != quote) break
    // a doubled quote: one is kept
    const after = quoteAt(block, read + 2, end, quotes)
    store<u8>(block + written, quote)
    memory.copy(block + written + 1, block + read + 2, after - read - 2)
    written += after - read - 1
    read = after
  }
  next = read + 1
  return written
}

/**
 * Cuts up to `most` rows of `width` cells out of the first `end` bytes of a block, from its beginning: start and end of
 * each cell into `cuts`; `places` has room for 4 bytes a byte of the block. Stops before a row that is blank or of another width (`odd`), and before one that may go on
 * behind the block, unless the block is the `last`. Doubled quotes are made one in place.
 */
export function cut(
  block: usize,
  end: u32,
  last: bool,
  width: i32,
  most: i32,
  delimiter: u8,
  quote: u8,
  cuts: usize,
  places: usize,
): i32 {
  const delimiters = i8x16.splat(delimiter)
  const quotes = i8x16.splat(quote)
  let rows = 0
  let at: u32 = 0
  let to = cuts
  // breaks among the 64 bytes from `window` on
  let window: u32 = 0
  let breaks = breaksIn(block, delimiters)
  odd = false
  next = 0
  if (!hasQuote(block, end, quotes)) {
    at = cutPlain(block, places, breaksOf(block, end, delimiters, places), <u32>width, most, cuts)
    rows = rowsCut
    to = cuts + <usize>rows * <usize>width * 8
    // the last row of a file need not end in a line feed
    if (odd || !last || rows == most) {
      next = at
      return rows
    }
  }
  for (; rows < most && at < end; rows++) {
    let start = at
    let filled: u32 = 0
    let columns = 0
    let ended = false
    while (!ended) {
      let from = start
      let until: u32
      let i: u32
      if (load<u8>(block + start) == quote && start < end) {
        until = unquote(block, start + 1, end, quote, quotes)
        // no quote closes it, or what closes it may be the first of two
        if (until == 0xffffffff || (next >= end && !last)) {
          odd = last
          next = at
          return rows
        }
        from = start + 1
        i = next
        if (i + 1 < end && load<u8>(block + i) == carriageReturn && load<u8>(block + i + 1) == lineFeed) i++
        if (i < end && load<u8>(block + i) != delimiter && load<u8>(block + i) != lineFeed) {
          odd = true
          next = at
          return rows
        }
      } else {
        i = start
        while (i < end) {
          if (i - window >= 64) {
            window = i & ~63
            breaks = breaksIn(block + window, delimiters)
          }
          const ahead = breaks >> (<u64>(i - window))
          if (ahead != 0) {
            i += <u32>ctz(ahead)
            break
          }
          i = window + 64
        }
        if (i > end) i = end
        until = i
        if (i > start && (i >= end || load<u8>(block + i) == lineFeed) && load<u8>(block + i - 1) == carriageReturn)
          until--
      }
      ended = i >= end || load<u8>(block + i) == lineFeed
      if (i >= end && !last) {
        next = at
        return rows
      }
      if (columns == width || (ended && columns + 1 != width)) {
        odd = true
        next = at
        return rows
      }
      store<u32>(to, from)
      store<u32>(to, until, 4)
      to += 8
      columns++
      filled += until - from
      start = i + 1
    }
    if (filled == 0) {
      odd = true
      next = at
      return rows
    }
    at = start
  }
  next = min(at, end)
  return rows
}

/** 10 to the powers 0 to 15. */
const powers = memory.data<f64>([1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15])

/** What a cell is that is read as a number: a number, empty, or something else. */
const isNumber: u8 = 0
const isEmpty: u8 = 1
const isOther: u8 = 2

/** 16 bytes that are not set, then 16 that are: from byte n on they mask the last n bytes of a vector. */
const lastBytes = memory.data<u64>([0, 0, 0xffffffffffffffff, 0xffffffffffffffff])

/** The number of which a lane has a decimal digit each, the first the highest; pairs, fours and eights of digits are put together at once. */
function ofDigits(digits: v128): i64 {
  const tens = i16x8.mul(v128.and(digits, i16x8.splat(0xff)), i16x8.splat(10))
  const pairs = i16x8.add(tens, i16x8.shr_u(digits, 8))
  const fours = i32x4.dot_i16x8_s(pairs, i32x4.splat(0x10064))
  const eights = i32x4.dot_i16x8_s(i16x8.narrow_i32x4_s(fours, fours), i32x4.splat(0x12710))
  const both = i64x2.extract_lane(eights, 0)
  return (both & 0xffffffff) * 100000000 + (both >> 32)
}

/** The number of the last cell that was one, without its sign. */
let magnitude: f64 = 0
/** Whether it has a mark. */
let marked: bool = false

/** Whether a cell of 1 to 16 bytes, its sign left out, is a number; its digits are looked at together. */
function isShortNumber(first: usize, length: u32, mark: u8): bool {
  const from = first + length - 16
  let digits = v128.and(i8x16.sub(v128.load(from), i8x16.splat(48)), v128.load(lastBytes + <usize>length))
  const others = i8x16.bitmask(i8x16.gt_u(digits, i8x16.splat(9)))
  const zero = load<u8>(first) == 48
  marked = others != 0
  let place: u32 = 16
  if (marked) {
    place = <u32>ctz(others)
    if ((others & (others - 1)) != 0 || place == 15 || load<u8>(from + place) != mark) return false
    const lanes = i8x16(0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15)
    // the digits before the mark move into its place
    digits = i8x16.swizzle(digits, i8x16.add(lanes, i8x16.le_u(lanes, i8x16.splat(<i8>place))))
  } else if (length > 15) return false
  // the first of several digits ahead of the mark
  if (zero && place + length > 17) return false
  magnitude = <f64>ofDigits(digits)
  if (marked) magnitude /= load<f64>(powers + ((<usize>(15 - place)) << 3))
  return true
}

/** As `isShortNumber`, of a cell of any length. */
function isLongNumber(first: usize, length: u32, mark: u8): bool {
  let digits: u64 = 0
  let point: i32 = -1
  let k: u32 = 0
  for (; k < length; k++) {
    const byte = load<u8>(first + k)
    const digit = byte - 48
    if (digit <= 9) digits = digits * 10 + digit
    else if (byte == mark && point < 0) point = k
    else return false
  }
  marked = point >= 0
  const count = length - u32(marked)
  const ahead = marked ? <u32>point : length
  if (count < 1 || count > 15 || (ahead > 1 && load<u8>(first) == 48) || point == length - 1) return false
  magnitude = <f64>digits
  if (marked) magnitude /= load<f64>(powers + ((<usize>(length - point - 1)) << 3))
  return true
}

/**
 * Numbers of one column of a block: digits with at most one `mark`, up to 15, no leading zero, which are exact as a whole
 * number over a power of ten. `flags` says of each cell what it is. Bit 0 of the result: a flag is set; bit 1: a number has a mark.
 */
export function numbers(
  block: usize,
  cuts: usize,
  stride: usize,
  rows: i32,
  mark: u8,
  values: usize,
  flags: usize,
): i32 {
  let found = 0
  for (let i = 0; i < rows; i++, cuts += stride, values += 8) {
    const start = block + load<u32>(cuts)
    const end = block + load<u32>(cuts, 4)
    let flag = isNumber
    let value: f64 = 0
    if (start == end) flag = isEmpty
    else {
      const negative = load<u8>(start) == 45
      const first = start + usize(negative)
      const length = <u32>(end - first)
      // a sign alone is no number
      const number = length - 1 < 16 ? isShortNumber(first, length, mark) : isLongNumber(first, length, mark)
      if (!number) flag = isOther
      else {
        found |= i32(marked) << 1
        value = negative && magnitude != 0 ? -magnitude : magnitude
      }
    }
    if (flag != isNumber) found |= 1
    store<u8>(flags + i, flag)
    store<f64>(values, value)
  }
  return found
}

/** The bytes of one column's cells behind one another, and where each ends, counted on from `before`; how many bytes they are. */
export function texts(
  block: usize,
  cuts: usize,
  stride: usize,
  rows: i32,
  bytes: usize,
  ends: usize,
  before: u32,
): u32 {
  let at: u32 = 0
  for (let i = 0; i < rows; i++, cuts += stride, ends += 4) {
    const start = load<u32>(cuts)
    const length = load<u32>(cuts, 4) - start
    let done: u32 = 0
    // what is written behind the cell is written over by the next
    for (; done < length && done < 64; done += 16) v128.store(bytes + at + done, v128.load(block + start + done))
    if (length > 64) memory.copy(bytes + at + 64, block + start + 64, length - 64)
    at += length
    store<u32>(ends, before + at)
  }
  return at
}

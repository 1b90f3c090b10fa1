// Cells of a block of rows as CSV writes them, column by column, and the rows woven of them.

const comma: u8 = 44
const lineFeed: u8 = 10

/** Bytes from one place to another; up to 15 more are written behind them. */
function copyBytes(to: usize, from: usize, length: u32): void {
  // most cells are short
  v128.store(to, v128.load(from))
  if (length <= 16) return
  for (let done: u32 = 16; done < length && done < 64; done += 16) v128.store(to + done, v128.load(from + done))
  if (length > 64) memory.copy(to + 64, from + 64, length - 64)
}

const tenMillions: u64 = 10_000_000
/** The digits of a whole number that is not negative, and below 10^14; the place behind them. */
function digits(value: u64, to: usize): usize {
  if (value < tenMillions) return shortDigits(<u32>value, to)
  const upper = value / tenMillions
  to = shortDigits(<u32>upper, to)
  // the lower seven digits, with zeros before them
  let left = <u32>(value - upper * tenMillions)
  for (let at = to + 7; at > to;) {
    at--
    store<u8>(at, <u8>(48 + (left % 10)))
    left /= 10
  }
  return to + 7
}
/** As `digits`, of a number below 10^7. */
function shortDigits(value: u32, to: usize): usize {
  let length: usize = 1
  for (let power: u32 = 10; value >= power; power *= 10) length++
  for (let at = to + length; at > to;) {
    at--
    store<u8>(at, <u8>(48 + (value % 10)))
    value /= 10
  }
  return to + length
}

/** A number of at most four decimal places as it is written shortest; the place behind it, 0 where it is none. */
function number(value: f64, to: usize): usize {
  // below 10^15 a decimal of four places that gives the value back is the shortest that does
  const scaled = nearest(value * 10000)
  if (!(abs(scaled) < 1e15) || scaled / 10000 != value) return 0
  const whole = <u64>abs(scaled)
  if (scaled < 0) {
    store<u8>(to, 45)
    to++
  }
  const units = whole / 10000
  to = digits(units, to)
  let left = <u32>(whole - units * 10000)
  if (left == 0) return to
  store<u8>(to, 46)
  to++
  for (let place: u32 = 1000; left > 0; place /= 10) {
    store<u8>(to, <u8>(48 + left / place))
    left %= place
    to++
  }
  return to
}

/** Numbers behind one another, nothing for an empty one, and where each ends; how many are written before one that has more places. */
export function writeNumbers(values: usize, nulls: usize, count: i32, bytes: usize, ends: usize): i32 {
  let at = bytes
  for (let i = 0; i < count; i++) {
    if (nulls == 0 || (load<u8>(nulls + (i >> 3)) & (1 << (i & 7))) == 0) {
      const after = number(load<f64>(values + ((<usize>i) << 3)), at)
      if (after == 0) return i
      at = after
    }
    store<u32>(ends + ((<usize>i) << 2), <u32>(at - bytes))
  }
  return count
}

/** One column of a block: texts behind one another with their ends, or codes of such. */
@unmanaged
class BlockColumn {
  bytes: usize
  ends: usize
  /** 0 where there are none: the texts are those of the rows. */
  codes: usize
  /** The bytes of the longest text that has a code. */
  longest: u32
}

/** The size of what `weave` needs of a column. */
export const blockColumnBytes: i32 = 16

/** Where a comma, a quote or an end of a line is among 16 bytes, all bits of them. */
function marked(bytes: v128): v128 {
  const lines = v128.or(i8x16.eq(bytes, i8x16.splat(10)), i8x16.eq(bytes, i8x16.splat(13)))
  return v128.or(lines, v128.or(i8x16.eq(bytes, i8x16.splat(34)), i8x16.eq(bytes, i8x16.splat(44))))
}
/** A letter or a digit of ASCII. */
function isWordByte(byte: u32): bool {
  return byte - 48 < 10 || (byte | 32) - 97 < 26
}
/**
 * Whether one of some texts may need quotes: for a comma, a quote or an end of a line in it, or a blank at one of its ends; or, where
 * `guard` is set, begins with other than a letter or a digit.
 */
export function needCare(bytes: usize, ends: usize, count: i32, guard: bool): bool {
  const length: usize = count == 0 ? 0 : load<u32>(ends + ((<usize>(count - 1)) << 2))
  let i: usize = 0
  for (; i + 16 <= length; i += 16) if (v128.any_true(marked(v128.load(bytes + i)))) return true
  for (; i < length; i++) {
    const byte = <u32>load<u8>(bytes + i)
    if (byte == 34 || byte == 44 || byte == 10 || byte == 13) return true
  }
  let from: u32 = 0
  for (let row = 0; row < count; row++) {
    const end = load<u32>(ends + ((<usize>row) << 2))
    if (from != end) {
      const first = <u32>load<u8>(bytes + from)
      if (first == 32 || load<u8>(bytes + end - 1) == 32) return true
      if (guard && !isWordByte(first)) return true
    }
    from = end
  }
  return false
}

/** Texts that have codes and may be this long are counted row by row, of shorter ones the longest is taken for each. */
const longText: u32 = 256
/** At least as many bytes as rows of these columns take. */
export function wovenBytes(columns: usize, width: i32, rows: i32): f64 {
  let total: f64 = 0
  for (let c = 0; c < width; c++) {
    const column = changetype<BlockColumn>(columns + c * 16)
    if (column.codes == 0) total += <f64>load<u32>(column.ends + ((<usize>(rows - 1)) << 2))
    else if (column.longest <= longText) total += <f64>column.longest * <f64>rows
    else
      for (let i = 0; i < rows; i++) {
        const end = column.ends + ((<usize>load<u32>(column.codes + ((<usize>i) << 2))) << 2)
        total += <f64>(load<u32>(end, 4) - load<u32>(end))
      }
  }
  return total + <f64>width * <f64>rows
}

/** Rows of the cells of columns, parted by commas and ended by line feeds; how many bytes they take. The ends of coded texts have a 0 before them. */
export function weave(columns: usize, width: i32, rows: i32, out: usize): usize {
  let to = out
  for (let i = 0; i < rows; i++) {
    for (let c = 0; c < width; c++) {
      const column = changetype<BlockColumn>(columns + c * 16)
      let from: u32 = 0
      let end: u32
      if (column.codes != 0) {
        const at = column.ends + ((<usize>load<u32>(column.codes + ((<usize>i) << 2))) << 2)
        from = load<u32>(at)
        end = load<u32>(at, 4)
      } else {
        end = load<u32>(column.ends + ((<usize>i) << 2))
        if (i > 0) from = load<u32>(column.ends + ((<usize>(i - 1)) << 2))
      }
      copyBytes(to, column.bytes + from, end - from)
      to += end - from
      store<u8>(to, comma)
      to++
    }
    store<u8>(to - 1, lineFeed)
  }
  return to - out
}

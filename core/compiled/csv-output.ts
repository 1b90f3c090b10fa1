// Cells of a block of rows as CSV writes them, column by column, and the rows woven of them.

const comma: u8 = 44
const lineFeed: u8 = 10

/** Bytes from one place to another; up to 15 more are written behind them. */
function copyBytes(to: usize, from: usize, length: u32): void {
  let done: u32 = 0
  for (; done < length && done < 64; done += 16) v128.store(to + done, v128.load(from + done))
  if (length > 64) memory.copy(to + 64, from + 64, length - 64)
}

/** The digits of a whole number that is not negative; the place behind them. */
function digits(value: u64, to: usize): usize {
  let length: usize = 1
  for (let power: u64 = 10; length < 16 && value >= power; power *= 10) length++
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
  let left = <u64>abs(scaled)
  if (scaled < 0) {
    store<u8>(to, 45)
    to++
  }
  to = digits(left / 10000, to)
  left %= 10000
  if (left == 0) return to
  store<u8>(to, 46)
  to++
  for (let place: u64 = 1000; left > 0; place /= 10) {
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
}

/** The size of what `weave` needs of a column. */
export const blockColumnBytes: i32 = 12

/** The most bytes that rows of these columns may take. */
export function wovenBytes(columns: usize, width: i32, rows: i32): f64 {
  let total: f64 = 0
  for (let c = 0; c < width; c++) {
    const column = changetype<BlockColumn>(columns + c * 12)
    if (column.codes == 0) total += <f64>load<u32>(column.ends + ((<usize>(rows - 1)) << 2))
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
      const column = changetype<BlockColumn>(columns + c * 12)
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

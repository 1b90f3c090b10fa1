// Predicates over numbers, and the rows that they choose.

/** Of each number what an outcome says of less than, equal to and greater than a constant: one byte a row. */
export function compareFloats(values: usize, count: i32, constant: f64, low: u8, at: u8, high: u8, mask: usize): void {
  for (let i = 0; i < count; i++) {
    const value = load<f64>(values + ((<usize>i) << 3))
    store<u8>(mask + i, select<u8>(low, select<u8>(high, at, value > constant), value < constant))
  }
}

/** The rows, counted from `first`, whose byte is `wanted`, in order; how many they are. */
export function chosenRows(mask: usize, count: i32, wanted: u8, first: i32, rows: usize): i32 {
  let n: usize = 0
  for (let i = 0; i < count; i++) {
    store<i32>(rows + (n << 2), first + i)
    n += usize(load<u8>(mask + i) == wanted)
  }
  return <i32>n
}

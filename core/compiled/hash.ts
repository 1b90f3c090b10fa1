// Codes of numbers and of pairs of codes, in order of first appearance, by open addressing over a power of two.
// Knuth, The Art of Computer Programming 3, 6.4.
import { allocate } from './memory'

/** Slots of 16 bytes: a key and its code; code 0 is a free slot. */
let slots: usize = 0
let shift: u64 = 0
let capacity: u32 = 0
let size: u32 = 0

function begin(bits: u64): void {
  shift = 64 - bits
  capacity = (<u32>1) << (<u32>bits)
  slots = allocate((<usize>capacity) << 4)
  memory.fill(slots, 0, (<usize>capacity) << 4)
}

/** The slot of a key, or the free one where it belongs. Fibonacci hashing. */
function slotOf(key: u64): usize {
  let slot = <u32>((key * 0x9e3779b97f4a7c15) >> shift)
  let at = slots + ((<usize>slot) << 4)
  while (load<u32>(at, 8) != 0 && load<u64>(at) != key) {
    slot = (slot + 1) & (capacity - 1)
    at = slots + ((<usize>slot) << 4)
  }
  return at
}

function widen(): void {
  const old = slots
  const end = slots + ((<usize>capacity) << 4)
  begin(64 - shift + 2)
  for (let at = old; at < end; at += 16) {
    const code = load<u32>(at, 8)
    if (code == 0) continue
    const key = load<u64>(at)
    const to = slotOf(key)
    store<u64>(to, key)
    store<u32>(to, code, 8)
  }
}

/** The code of a key, from 1 on; `size` tells whether it is a new one. */
function codeOf(key: u64): u32 {
  const at = slotOf(key)
  const known = load<u32>(at, 8)
  if (known != 0) return known
  size++
  store<u64>(at, key)
  store<u32>(at, size, 8)
  if (size * 2 > capacity) widen()
  return size
}

function isSet(bits: usize, i: i32): bool {
  return bits != 0 && (load<u8>(bits + (i >> 3)) & (1 << (i & 7))) != 0
}

/** Codes of numbers from 1 on, 0 where a bit of `nulls` (0: none) is set; -0 is 0. How many different ones there are. */
export function numberCodes(values: usize, nulls: usize, count: i32, codes: usize): u32 {
  size = 0
  begin(12)
  for (let i = 0; i < count; i++) {
    let code: u32 = 0
    if (!isSet(nulls, i)) code = codeOf(reinterpret<u64>(load<f64>(values + ((<usize>i) << 3)) + 0))
    store<u32>(codes + ((<usize>i) << 2), code)
  }
  return size
}

/** Ids of pairs of codes from 0 on and the first row of each; how many there are. */
export function pairIds(a: usize, b: usize, count: i32, ids: usize, first: usize): u32 {
  size = 0
  begin(12)
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 2
    const known = size
    const code = codeOf(((<u64>load<u32>(a + at)) << 32) | (<u64>load<u32>(b + at)))
    if (size != known) store<i32>(first + ((<usize>known) << 2), i)
    store<u32>(ids + at, code - 1)
  }
  return size
}

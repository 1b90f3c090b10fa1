// Dictionaries of byte strings: codes in order of first appearance, found by open addressing over a power of two.
// Knuth, The Art of Computer Programming 3, 6.4.
import { allocate } from './memory'

/** A dictionary. Entry k: its hash, and its bytes in the arena from `offsets[k]` up to `offsets[k + 1]`; entry 0 is the empty text. */
@unmanaged
class Dictionary {
  slots: usize
  mask: u32
  entries: usize
  capacity: u32
  arena: usize
  room: u32
  size: u32
}

/** A new dictionary that holds the empty text. */
export function makeDictionary(): usize {
  const made = changetype<Dictionary>(allocate(offsetof<Dictionary>()))
  made.mask = 1023
  made.slots = allocate(4096)
  memory.fill(made.slots, 0, 4096)
  made.capacity = 512
  // entries of 8 bytes: hash, end of the bytes
  made.entries = allocate(8 * 512)
  store<u64>(made.entries, 0)
  made.room = 8192
  made.arena = allocate(8192)
  made.size = 1
  return changetype<usize>(made)
}

/** How many entries a dictionary has. */
export function dictionarySize(at: usize): u32 {
  return changetype<Dictionary>(at).size
}
/** The address of the bytes of all its entries, one behind the other. */
export function dictionaryBytes(at: usize): usize {
  return changetype<Dictionary>(at).arena
}
/** Where the bytes of an entry end, counted from the bytes of the first. */
export function dictionaryEnd(at: usize, code: u32): u32 {
  return load<u32>(changetype<Dictionary>(at).entries + ((<usize>code) << 3), 4)
}

function hashOf(at: usize, length: u32): u32 {
  let hash: u64 = <u64>length * 0x9e3779b97f4a7c15
  let i: u32 = 0
  for (; i + 8 <= length; i += 8) {
    hash = (hash ^ load<u64>(at + i)) * 0x9e3779b97f4a7c15
    hash ^= hash >> 29
  }
  const left = length - i
  if (left > 0) hash = (hash ^ (load<u64>(at + i) & (((<u64>1) << ((<u64>left) << 3)) - 1))) * 0x9e3779b97f4a7c15
  return <u32>(hash >> 32)
}

function same(a: usize, b: usize, length: u32): bool {
  let i: u32 = 0
  for (; i + 8 <= length; i += 8) if (load<u64>(a + i) != load<u64>(b + i)) return false
  const left = length - i
  return left == 0 || ((load<u64>(a + i) ^ load<u64>(b + i)) & (((<u64>1) << ((<u64>left) << 3)) - 1)) == 0
}

/** Twice as many slots, or more, with all entries seated anew. */
function rehash(dictionary: Dictionary): void {
  const mask = dictionary.mask * 4 + 3
  const bytes = (<usize>mask + 1) << 2
  const slots = allocate(bytes)
  memory.fill(slots, 0, bytes)
  for (let code: u32 = 1; code < dictionary.size; code++) {
    let slot = load<u32>(dictionary.entries + ((<usize>code) << 3)) & mask
    while (load<u32>(slots + ((<usize>slot) << 2)) != 0) slot = (slot + 1) & mask
    store<u32>(slots + ((<usize>slot) << 2), code)
  }
  dictionary.slots = slots
  dictionary.mask = mask
}

function append(dictionary: Dictionary, hash: u32, at: usize, length: u32): u32 {
  const code = dictionary.size
  if (code == dictionary.capacity) {
    const entries = allocate((<usize>dictionary.capacity) << 4)
    memory.copy(entries, dictionary.entries, (<usize>dictionary.capacity) << 3)
    dictionary.entries = entries
    dictionary.capacity <<= 1
  }
  const from = load<u32>(dictionary.entries + ((<usize>(code - 1)) << 3), 4)
  const end = from + length
  if (end > dictionary.room) {
    const room = max(end, dictionary.room * 2)
    const arena = allocate(room)
    memory.copy(arena, dictionary.arena, from)
    dictionary.arena = arena
    dictionary.room = room
  }
  memory.copy(dictionary.arena + from, at, length)
  const entry = dictionary.entries + ((<usize>code) << 3)
  store<u32>(entry, hash)
  store<u32>(entry, end, 4)
  dictionary.size = code + 1
  return code
}

function holds(dictionary: Dictionary, code: u32, at: usize, length: u32): bool {
  const entry = dictionary.entries + ((<usize>code) << 3)
  const from = load<u32>(entry - 8, 4)
  return load<u32>(entry, 4) - from == length && same(dictionary.arena + from, at, length)
}

/** The code of some bytes, which is a new one where they were not met before. Bytes behind them may be read. */
export function codeOf(at: usize, bytes: usize, length: u32): u32 {
  if (length == 0) return 0
  const dictionary = changetype<Dictionary>(at)
  const hash = hashOf(bytes, length)
  let slot = hash & dictionary.mask
  for (;;) {
    const code = load<u32>(dictionary.slots + ((<usize>slot) << 2))
    if (code == 0) break
    if (load<u32>(dictionary.entries + ((<usize>code) << 3)) == hash && holds(dictionary, code, bytes, length))
      return code
    slot = (slot + 1) & dictionary.mask
  }
  const code = append(dictionary, hash, bytes, length)
  if (code * 2 > dictionary.mask) rehash(dictionary)
  else store<u32>(dictionary.slots + ((<usize>slot) << 2), code)
  return code
}

/** Codes of the cells of one column of a block, whose starts and ends stand `stride` bytes apart from `cuts` on. */
export function codesOf(at: usize, block: usize, cuts: usize, stride: usize, rows: i32, codes: usize): void {
  const dictionary = changetype<Dictionary>(at)
  let last: u32 = 0
  for (let i = 0; i < rows; i++, cuts += stride, codes += 4) {
    const start = load<u32>(cuts)
    const length = load<u32>(cuts, 4) - start
    if (length == 0) {
      store<u32>(codes, 0)
      continue
    }
    // equal values often stand together
    if (last == 0 || !holds(dictionary, last, block + start, length)) last = codeOf(at, block + start, length)
    store<u32>(codes, last)
  }
}

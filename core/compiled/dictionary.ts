// Dictionaries of byte strings: codes in order of first appearance, found by open addressing over a power of two.
// Knuth, The Art of Computer Programming 3, 6.4. Texts of up to 16 bytes stand in their slots, so that most are found by one comparison.
import { allocate } from './memory'

/** A dictionary. Entry k: its hash (of longer texts), and where its bytes in the arena end; they begin where those of entry k - 1 end. Entry 0 is the empty text. */
@unmanaged
class Dictionary {
  /** Slots of texts longer than 16 bytes: the code, 0 in a free one. */
  slots: usize
  mask: u32
  longer: u32
  /** Slots of texts of up to 16 bytes, of 24 bytes: the text and zeros behind it, the code (0 in a free slot) and the length. */
  short: usize
  shortBits: u64
  shorter: u32
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
  made.longer = 0
  beginShort(made, 8)
  made.shorter = 0
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

/** Twice as many slots, or more, with all entries of longer texts seated anew. */
function rehash(dictionary: Dictionary): void {
  const mask = dictionary.mask * 4 + 3
  const bytes = (<usize>mask + 1) << 2
  const slots = allocate(bytes)
  memory.fill(slots, 0, bytes)
  let from: u32 = 0
  for (let code: u32 = 1; code < dictionary.size; code++) {
    const entry = dictionary.entries + ((<usize>code) << 3)
    const end = load<u32>(entry, 4)
    const longer = end - from > 16
    from = end
    if (!longer) continue
    let slot = load<u32>(entry) & mask
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

/** As `codeOf`, of more than 16 bytes. */
function longCode(dictionary: Dictionary, bytes: usize, length: u32): u32 {
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
  store<u32>(dictionary.slots + ((<usize>slot) << 2), code)
  dictionary.longer++
  if (dictionary.longer * 2 > dictionary.mask) rehash(dictionary)
  return code
}

/** 16 bytes that are set, then 16 that are not: from byte 16 - n on they mask the first n bytes of a vector. */
const masks = memory.data<u64>([0xffffffffffffffff, 0xffffffffffffffff, 0, 0])

/** The first `length` bytes, up to 16, with zeros behind them. */
function shortText(bytes: usize, length: u32): v128 {
  return v128.and(v128.load(bytes), v128.load(masks + 16 - <usize>length))
}

function beginShort(dictionary: Dictionary, bits: u64): void {
  const bytes = (<usize>24) << (<usize>bits)
  dictionary.short = allocate(bytes)
  memory.fill(dictionary.short, 0, bytes)
  dictionary.shortBits = bits
}

/** The number of the slot where a text of up to 16 bytes is looked for first. */
function firstSlot(bits: u64, text: v128, length: u32): u32 {
  let hash = ((<u64>i64x2.extract_lane(text, 0)) ^ ((<u64>length) << 56)) * 0x9e3779b97f4a7c15
  hash = (hash ^ (hash >> 32) ^ (<u64>i64x2.extract_lane(text, 1))) * 0xd6e8feb86659fd93
  return <u32>(hash >> (64 - bits))
}

/** The slot of a text of up to 16 bytes, or the free one where it belongs. */
function shortSlot(short: usize, bits: u64, text: v128, length: u32): usize {
  const mask = ((<u32>1) << (<u32>bits)) - 1
  let slot = firstSlot(bits, text, length)
  let at = short + <usize>slot * 24
  while (load<u32>(at, 16) != 0 && (load<u32>(at, 20) != length || v128.any_true(v128.xor(v128.load(at), text)))) {
    slot = (slot + 1) & mask
    at = short + <usize>slot * 24
  }
  return at
}

/** More slots, with all texts of up to 16 bytes seated anew. */
function widenShort(dictionary: Dictionary): void {
  const old = dictionary.short
  const end = old + ((<usize>24) << (<usize>dictionary.shortBits))
  beginShort(dictionary, dictionary.shortBits + (dictionary.shortBits < 16 ? 2 : 1))
  for (let at = old; at < end; at += 24) {
    if (load<u32>(at, 16) == 0) continue
    const text = v128.load(at)
    const to = shortSlot(dictionary.short, dictionary.shortBits, text, load<u32>(at, 20))
    v128.store(to, text)
    store<u64>(to, load<u64>(at, 16), 16)
  }
}

/** A text of up to 16 bytes that was not met before, into its slot; its code. */
function addShort(dictionary: Dictionary, slot: usize, text: v128, bytes: usize, length: u32): u32 {
  const code = append(dictionary, 0, bytes, length)
  v128.store(slot, text)
  store<u32>(slot, code, 16)
  store<u32>(slot, length, 20)
  dictionary.shorter++
  // three quarters full at most: what is smaller is found in nearer memory
  if (dictionary.shorter >> (<u32>(dictionary.shortBits - 2)) >= 3) widenShort(dictionary)
  return code
}

/** The code of some bytes, which is a new one where they were not met before. Bytes behind them may be read. */
export function codeOf(at: usize, bytes: usize, length: u32): u32 {
  if (length == 0) return 0
  const dictionary = changetype<Dictionary>(at)
  if (length > 16) return longCode(dictionary, bytes, length)
  const text = shortText(bytes, length)
  const slot = shortSlot(dictionary.short, dictionary.shortBits, text, length)
  const code = load<u32>(slot, 16)
  return code != 0 ? code : addShort(dictionary, slot, text, bytes, length)
}

/** Codes of the cells of one column of a block, whose starts and ends stand `stride` bytes apart from `cuts` on. */
export function codesOf(at: usize, block: usize, cuts: usize, stride: usize, rows: i32, codes: usize): void {
  const dictionary = changetype<Dictionary>(at)
  let short = dictionary.short
  let bits = dictionary.shortBits
  let last: u32 = 0
  for (let i = 0; i < rows; i++, cuts += stride, codes += 4) {
    const bytes = block + load<u32>(cuts)
    const length = load<u32>(cuts, 4) - load<u32>(cuts)
    let code: u32 = 0
    if (length <= 16) {
      if (length != 0) {
        const text = shortText(bytes, length)
        const slot = shortSlot(short, bits, text, length)
        code = load<u32>(slot, 16)
        if (code == 0) {
          code = addShort(dictionary, slot, text, bytes, length)
          short = dictionary.short
          bits = dictionary.shortBits
        }
      }
    } else {
      // equal values often stand together
      if (last == 0 || !holds(dictionary, last, bytes, length)) last = longCode(dictionary, bytes, length)
      code = last
    }
    store<u32>(codes, code)
  }
}

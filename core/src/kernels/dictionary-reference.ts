import { int32s, uint32s, uint8s } from './memory.ts'
import type { CellTexts } from './csv-kernel.ts'

/** Four bytes at a time; multiplied by 2^32 over the golden ratio. Knuth, The Art of Computer Programming 3, 6.4. */
const hashOf = (bytes: Uint8Array, start: number, end: number): number => {
  let hash = end - start
  let i = start
  for (; i + 4 <= end; i += 4)
    hash = Math.imul(
      hash ^ (bytes[i]! | (bytes[i + 1]! << 8) | (bytes[i + 2]! << 16) | (bytes[i + 3]! << 24)),
      0x9e3779b1,
    )
  for (; i < end; i++) hash = Math.imul(hash ^ bytes[i]!, 0x9e3779b1)
  return hash ^ (hash >>> 15)
}

const sameBytes = (a: Uint8Array, start: number, end: number, b: Uint8Array, from: number, to: number): boolean => {
  if (end - start !== to - from) return false
  for (let i = start, k = from; i < end; i++, k++) if (a[i] !== b[k]) return false
  return true
}

const grown = <T extends Uint8Array | Int32Array | Uint32Array>(
  make: (length: number) => T,
  old: T,
  least: number,
): T => {
  const wider = make(Math.max(least, old.length * 2))
  wider.set(old as never)
  return wider
}

/** Texts by their bytes: open addressing over a power of two, the bytes themselves in one buffer. */
export class ReferenceDictionary {
  private slots = int32s(1024)
  private hashes = int32s(512)
  private ends = uint32s(512)
  private arena = uint8s(1 << 13)
  size = 1

  codeOf(bytes: Uint8Array, start = 0, end = bytes.length, last = 0): number {
    if (start === end) return 0
    if (last > 0 && this.holds(last, bytes, start, end)) return last
    const mask = this.slots.length - 1
    const hash = hashOf(bytes, start, end)
    let slot = hash & mask
    for (let code = this.slots[slot]!; code > 0; code = this.slots[slot]!) {
      if (this.hashes[code] === hash && this.holds(code, bytes, start, end)) return code
      slot = (slot + 1) & mask
    }
    return this.append(hash, bytes.subarray(start, end))
  }
  texts(): CellTexts {
    return {
      bytes: this.arena.slice(0, this.ends[this.size - 1]),
      ends: this.ends.slice(0, this.size),
    }
  }
  private holds(code: number, bytes: Uint8Array, start: number, end: number): boolean {
    return sameBytes(bytes, start, end, this.arena, this.ends[code - 1]!, this.ends[code]!)
  }
  private append(hash: number, bytes: Uint8Array): number {
    const code = this.size++
    if (code === this.ends.length) {
      this.ends = grown(uint32s, this.ends, code + 1)
      this.hashes = grown(int32s, this.hashes, code + 1)
    }
    const from = this.ends[code - 1]!
    const end = from + bytes.length
    if (end > this.arena.length) this.arena = grown(uint8s, this.arena, end)
    this.arena.set(bytes, from)
    this.ends[code] = end
    this.hashes[code] = hash
    if (this.size * 2 > this.slots.length) this.rehash()
    else this.seat(code)
    return code
  }
  private seat(code: number): void {
    const mask = this.slots.length - 1
    let slot = this.hashes[code]! & mask
    while (this.slots[slot]! > 0) slot = (slot + 1) & mask
    this.slots[slot] = code
  }
  private rehash(): void {
    this.slots = int32s(this.slots.length * 4)
    for (let code = 1; code < this.size; code++) this.seat(code)
  }
}

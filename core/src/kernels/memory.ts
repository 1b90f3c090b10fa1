/**
 * The one allocator of column buffers. Kernels ask here and never call a typed-array
 * constructor themselves, so that columns can later move into one shared memory.
 */
export const float64s = (length: number) => new Float64Array(length)
/** A zeroed buffer. @throws TooLarge where it cannot be had. */
export const int32s = (length: number) => new Int32Array(length)
/** A zeroed buffer. @throws TooLarge where it cannot be had. */
export const uint32s = (length: number) => new Uint32Array(length)
/** A zeroed buffer. @throws TooLarge where it cannot be had. */
export const uint8s = (length: number) => new Uint8Array(length)

/** A bitmap of `length` bits, all 0. A set bit marks an empty cell. */
export type Bitmap = Uint8Array
/** A bitmap of `length` bits, none set. */
export const bitmap = (length: number): Bitmap => new Uint8Array((length + 7) >> 3)
/** Whether a bit is set; false for an absent bitmap. */
export const isSet = (map: Bitmap | undefined, i: number): boolean =>
  map !== undefined && (map[i >> 3]! & (1 << (i & 7))) !== 0
/** Sets a bit in place. */
export const set = (map: Bitmap, i: number): void => {
  map[i >> 3] = map[i >> 3]! | (1 << (i & 7))
}
/** Elements whose bit is set get a value. */
export const fillSet = (to: Uint8Array | Uint32Array | Float64Array, map: Bitmap, value: number): void => {
  const bytes = Math.min(map.length, (to.length + 7) >> 3)
  for (let byte = 0; byte < bytes; byte++)
    // from the lowest set bit on; bits behind the last element are passed over
    for (let bits = map[byte]!; bits !== 0; bits &= bits - 1) {
      const i = (byte << 3) + 31 - Math.clz32(bits & -bits)
      if (i < to.length) to[i] = value
    }
}
/** Copies `count` bits to a bitmap, none of whose bits from `at` on is set. */
export const copyBits = (to: Bitmap, at: number, from: Bitmap, count: number): void => {
  const whole = (at & 7) === 0 ? count >> 3 : 0
  to.set(from.subarray(0, whole), at >> 3)
  for (let i = whole << 3; i < count; i++) if (isSet(from, i)) set(to, at + i)
}

/** A growing buffer of 32-bit integers. */
export class IntList {
  private buffer = int32s(1024)
  length = 0
  push(value: number): void {
    if (this.length === this.buffer.length) {
      const wider = int32s(this.buffer.length * 2)
      wider.set(this.buffer)
      this.buffer = wider
    }
    this.buffer[this.length++] = value
  }
  done(): Int32Array {
    return this.buffer.slice(0, this.length)
  }
}

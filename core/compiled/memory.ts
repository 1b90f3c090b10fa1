// Memory of the module: one region that only grows. A caller that is done with all of it drops the instance, or goes back to a mark.

/** Bytes behind each buffer that may be read, but are never written: loads of 64 bytes at its end stay within memory. */
const padding: usize = 80

/** Throws where no memory is left. */
declare function outOfMemory(): void

let top: usize = (__heap_base + 15) & ~15

/** The address of `bytes` zeroed or used bytes, a multiple of 16. */
export function allocate(bytes: usize): usize {
  const at = top
  top = (at + bytes + padding + 15) & ~15
  const pages = <i32>((top + 0xffff) >>> 16)
  const held = memory.size()
  if (pages > held) {
    // by halves, as each growth may move all that is held
    const wanted = max(pages, min(held + (held >> 1), 0xffff))
    if (memory.grow(wanted - held) < 0 && memory.grow(pages - held) < 0) outOfMemory()
  }
  return at
}

/** Where the next buffer would begin. */
export function mark(): usize {
  return top
}

/** Gives back all buffers made since a mark. */
export function release(to: usize): void {
  top = to
}

/** The bits of a bitmap from element `i` on, a multiple of 8, up to 64 of those below `count`. */
export function bitsFrom(map: usize, i: i32, count: i32): u64 {
  const bits = load<u64>(map + <usize>(i >> 3))
  return count - i < 64 ? bits & (((<u64>1) << (count - i)) - 1) : bits
}

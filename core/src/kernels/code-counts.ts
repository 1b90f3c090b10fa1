import type { Instance } from './instance.ts'
import { int32s } from './memory.ts'

/** So many codes are counted four times in turns at most: several counts of more would not fit the cache of the processor. */
const mostInTurns = 4096

const countsAt = (to: Int32Array, counts: Int32Array, codes: Uint32Array): Int32Array => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = counts[codes[i]!]!
  return to
}

/** How many rows have each code below a bound, counted in the module. A code of 2 ** 32 - 1 is none. */
export class CodeCounts {
  private readonly instance: Instance
  private readonly bound: number
  private readonly turns: number
  private readonly at: number
  constructor(instance: Instance, bound: number) {
    this.instance = instance
    this.bound = bound
    this.turns = bound > mostInTurns ? 1 : 4
    // an entry before those of the codes is for rows of none
    this.at = instance.filled((bound + 1) * 4 * this.turns, 0) + 4
  }
  private get stride(): number {
    return (this.bound + 1) * 4
  }
  /** Counts the codes of a block in the module. */
  add(codes: number, count: number): void {
    this.instance.run.countCodes(codes, count, this.at, this.turns === 1 ? 0 : this.stride)
  }
  get counts(): Int32Array {
    const { instance, bound, turns, at } = this
    const sums = instance.int32s(at, bound).slice()
    for (let turn = 1; turn < turns; turn++) {
      const others = instance.int32s(at + turn * this.stride, bound)
      for (let code = 0; code < bound; code++) sums[code]! += others[code]!
    }
    return sums
  }
  /** How many rows have each of these codes. */
  of(codes: Uint32Array): Int32Array {
    return countsAt(int32s(codes.length), this.counts, codes)
  }
}

/** Draws whole numbers below a bound. */
export type Roll = (n: number) => number
/**
 * Draws whole numbers below `n`, the same every time by a seed other than 0: Marsaglia, Xorshift RNGs, Journal of Statistical
 * Software 8 (2003), 14, with a period of 2 ** 32 - 1.
 */
export const rolling = (seed: number): Roll => {
  let state = seed
  return (n) => {
    state ^= state << 13
    state ^= state >>> 17
    state ^= state << 5
    return (state >>> 0) % n
  }
}

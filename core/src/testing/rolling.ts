/** Draws whole numbers below `n`, the same every time by a seed (a linear congruential generator). */
export const rolling = (seed: number): ((n: number) => number) => {
  let state = seed
  return (n) => {
    state = (state * 1103515245 + 12345) % 2147483648
    return state % n
  }
}

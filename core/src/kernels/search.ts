/** The first of so many for which this holds, as it does for all behind that; `count` where it holds for none. By halving. */
export const firstOf = (count: number, holds: (at: number) => boolean): number => {
  let [low, high] = [0, count]
  while (low < high) {
    const middle = (low + high) >> 1
    if (holds(middle)) high = middle
    else low = middle + 1
  }
  return low
}

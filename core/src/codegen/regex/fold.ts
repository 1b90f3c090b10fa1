/** Characters from one code point to another, both included. */
export type Range = readonly [low: number, high: number]
export const lastPoint = 0x10ffff

/** The ranges in order, without overlaps. */
export const merged = (ranges: readonly Range[]): Range[] => {
  const made: [number, number][] = []
  for (const [low, high] of ranges.toSorted((a, b) => a[0] - b[0])) {
    const before = made.at(-1)
    if (before && low <= before[1] + 1) before[1] = Math.max(before[1], high)
    else made.push([low, high])
  }
  return made
}

/** Every character that is in none of the ranges. */
export const complement = (ranges: readonly Range[]): Range[] => {
  const made: Range[] = []
  let from = 0
  for (const [low, high] of merged(ranges)) {
    if (low > from) made.push([from, low - 1])
    from = high + 1
  }
  if (from <= lastPoint) made.push([from, lastPoint])
  return made
}

export const includes = (ranges: readonly Range[], point: number): boolean =>
  ranges.some(([low, high]) => low <= point && point <= high)

/** The characters that are one letter in any case: k is K and the Kelvin sign. Source: Unicode, CaseFolding.txt, status C and S. */
let orbits: ReadonlyMap<number, readonly number[]> | undefined
const caseOrbits = (): ReadonlyMap<number, readonly number[]> => {
  if (orbits) return orbits
  const near = new Map<number, Set<number>>()
  for (let point = 0; point <= 0x1ffff; point++) {
    if (point >= 0xd800 && point <= 0xdfff) continue
    const letter = String.fromCodePoint(point)
    const others = [letter.toLowerCase(), letter.toUpperCase()].filter((other) => other !== letter)
    for (const other of others) {
      const to = other.codePointAt(0) as number
      if (String.fromCodePoint(to) !== other || !new RegExp(`^${other}$`, 'iu').test(letter)) continue
      const together = new Set([point, to, ...(near.get(point) ?? []), ...(near.get(to) ?? [])])
      for (const one of together) near.set(one, together)
    }
  }
  orbits = new Map([...near].map(([point, together]) => [point, [...together]]))
  return orbits
}

/** The ranges with every other case of their letters. */
export const folded = (ranges: readonly Range[]): Range[] => {
  const made: Range[] = [...ranges]
  for (const [point, together] of caseOrbits())
    if (includes(ranges, point)) for (const other of together) made.push([other, other])
  return merged(made)
}

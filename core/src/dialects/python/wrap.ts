const width = 100

/** A place where a line may be broken, by how many brackets it stands in. */
type Place = { readonly at: number; readonly depth: number }

/** Where a line of Python may be broken: after the blank behind a comma within brackets, outside of texts. */
const breaks = (line: string): Place[] => {
  const places: Place[] = []
  let depth = 0
  for (const { 0: token, index } of line.matchAll(/"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'|[([{]|[)\]}]|, /g)) {
    if (/^[([{]/.test(token)) depth++
    else if (/^[)\]}]/.test(token)) depth--
    else if (token === ', ' && depth > 0) places.push({ at: index + token.length, depth })
  }
  return places
}

/** Where a comment may be broken: after a blank. */
const blanks = (line: string): Place[] =>
  [...line.matchAll(/(?<=\S) /g)].map(({ index }) => ({ at: index + 1, depth: 0 }))

/** Of these places the last in the fewest brackets. */
const outermost = (places: readonly Place[]): Place | undefined =>
  places.reduce<Place | undefined>((best, place) => (best && best.depth < place.depth ? best : place), undefined)

/** A line as lines of at most 100 characters where it can be broken so; those below the first are set in. */
const wrapped = (line: string): string => {
  const [indent = '', mark] = /^(\s*)(# +)?/.exec(line)?.slice(1) ?? []
  const below = indent + (mark === undefined ? '    ' : '#     ')
  const first = indent.length + (mark?.length ?? 0)
  const places = mark === undefined ? breaks(line) : blanks(line)
  const made: string[] = []
  let from = 0
  let start = ''
  while (start.length + line.length - from > width) {
    const left = places.filter(({ at }) => at > Math.max(from, first))
    const fitting = left.filter(({ at }) => start.length + at - from <= width + 1)
    const place = outermost(fitting) ?? left[0]
    if (!place) break
    made.push(start + line.slice(from, place.at).trimEnd())
    from = place.at
    start = below
  }
  return [...made, start + line.slice(from)].join('\n')
}

/** Python whose texts have no line breaks of their own, with long lines broken within brackets and long comments between words. */
export const wrapLines = (source: string): string => source.split('\n').map(wrapped).join('\n')

import { compilePattern } from '../../codegen/regex/engine.ts'

/** Where a text is cut: the spans that are taken out between two pieces, from the left, none over another. */
export type Splitter = (text: string) => readonly (readonly [from: number, to: number])[]

/** Splits at a text. */
export const cutsAtText =
  (delimiter: string): Splitter =>
  (text) => {
    const cuts: [number, number][] = []
    for (let at = text.indexOf(delimiter); at >= 0; at = text.indexOf(delimiter, at + delimiter.length))
      cuts.push([at, at + delimiter.length])
    return cuts
  }

/** Matches of no length cut nothing. */
export const cutsAtPattern = (pattern: string): Splitter => {
  const compiled = compilePattern(pattern, false)
  return (text) => {
    const cuts: [number, number][] = []
    const matcher = compiled.matcher(text)
    while (matcher.find()) if (matcher.end() > matcher.start()) cuts.push([matcher.start(), matcher.end()])
    return cuts
  }
}

/** After so many characters each; the text beyond the last width stays in the last piece. */
export const cutsAtWidths =
  (widths: readonly number[]): Splitter =>
  (text) => {
    const signs = Array.from(text)
    const cuts: [number, number][] = []
    let units = 0
    let at = 0
    for (const width of widths.slice(0, -1)) {
      for (const end = at + width; at < end && at < signs.length; at++) units += (signs[at] as string).length
      if (at >= signs.length) break
      cuts.push([units, units])
    }
    return cuts
  }

/** a-b-c, at every -, most 2 -> a, b-c: what stands beyond the last piece stays joined in it. */
export const piecesOf = (text: string, cuts: Splitter, at: 'every' | 'first' | 'last', most = Infinity): string[] => {
  const all = cuts(text)
  const chooseUsed = () => {
    if (at === 'every') return all
    if (at === 'first') return all.slice(0, 1)
    return all.slice(-1)
  }
  const used = chooseUsed()
  const pieces: string[] = []
  let from = 0
  for (const [start, end] of used) {
    if (pieces.length + 1 >= most) break
    pieces.push(text.slice(from, start))
    from = end
  }
  pieces.push(text.slice(from))
  return pieces
}

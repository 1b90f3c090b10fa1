import { compilePattern } from '../../codegen/regex/engine.ts'

/** Which part of a text is taken. */
export type Take =
  | { readonly before: string }
  | { readonly after: string }
  | { readonly between: readonly [string, string] }
  | { readonly first: number }
  | { readonly last: number }
  | { readonly from: number; readonly length: number }
  | { readonly pattern: string; readonly group?: number | undefined }

/** A way to take the selected part from every row. */
type TakeSuggestion = { readonly take: Take; readonly occurrence?: 'last' }

/** A text as a pattern that finds it. */
export const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')

/** VAC-12 -> \p{Lu}+-\d+: runs of letters and digits as classes, all else to the letter. */
export const patternOf = (text: string): string =>
  (text.match(/\p{Lu}\p{Ll}+|\p{Lu}+|\p{Ll}+|\d+|\s+|[^\p{L}\d\s]/gu) ?? [])
    .map((run) => {
      if (/^\d/.test(run)) return '\\d+'
      if (/^\p{Lu}\p{Ll}/u.test(run)) return '\\p{Lu}\\p{Ll}+'
      if (/^\p{Lu}/u.test(run)) return '\\p{Lu}+'
      if (/^\p{Ll}/u.test(run)) return '\\p{Ll}+'
      if (/^\s/.test(run)) return '\\s+'
      return escaped(run)
    })
    .join('')

const matches = (pattern: string, text: string): string[] => {
  const matcher = compilePattern(pattern, false).matcher(text)
  const found: string[] = []
  while (matcher.find()) found.push(matcher.group() ?? '')
  return found
}

/** The run of one sort of sign beside a place: the text that parts two pieces. */
const signBefore = (text: string): string => /[^\p{L}\p{N}]+$/u.exec(text)?.[0] ?? Array.from(text).at(-1) ?? ''
const signAfter = (text: string): string => /^[^\p{L}\p{N}]+/u.exec(text)?.[0] ?? Array.from(text)[0] ?? ''

/**
 * Ways to say which part of a text was selected, from what stands beside it, from its own shape and from where it is;
 * each gives just that part of this text, the likeliest first. `from` and `to` count UTF-16 units.
 */
// eslint-disable-next-line complexity -- one branch for each way to take a part
export const takesFor = (text: string, from: number, to: number): TakeSuggestion[] => {
  const part = text.slice(from, to)
  if (part === '') return []
  const [head, tail] = [text.slice(0, from), text.slice(to)]
  const ways: TakeSuggestion[] = []
  const sides = (sign: string, at: number, make: (sign: string) => Take): void => {
    if (sign === '') return
    if (text.indexOf(sign) === at) ways.push({ take: make(sign) })
    else if (text.lastIndexOf(sign) === at) ways.push({ take: make(sign), occurrence: 'last' })
  }
  const before = signBefore(head)
  const after = signAfter(tail)
  if (from === 0 && tail !== '') sides(after, to, (sign) => ({ before: sign }))
  if (to === text.length && head !== '') sides(before, from - before.length, (sign) => ({ after: sign }))
  if (head !== '' && tail !== '') {
    if (text.indexOf(before) === from - before.length && text.indexOf(after, from) === to)
      ways.push({ take: { between: [before, after] } })
    else if (text.lastIndexOf(before) === from - before.length && text.indexOf(after, from) === to)
      ways.push({ take: { between: [before, after] }, occurrence: 'last' })
  }
  const pattern = patternOf(part)
  const found = matches(pattern, text)
  if (found[0] === part) ways.push({ take: { pattern } })
  else if (found.at(-1) === part) ways.push({ take: { pattern }, occurrence: 'last' })
  const length = Array.from(part).length
  if (from === 0) ways.push({ take: { first: length } })
  if (to === text.length) ways.push({ take: { last: length } })
  if (from > 0) ways.push({ take: { from: Array.from(head).length + 1, length } })
  return ways
}

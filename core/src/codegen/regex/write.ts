import { complement, lastPoint, type Range } from './fold.ts'
import type { Pattern, Place } from './parse.ts'

const hex = (point: number, digits: number): string => point.toString(16).padStart(digits, '0')
const escapedPoint = (point: number): string => (point > 0xffff ? `\\U${hex(point, 8)}` : `\\u${hex(point, 4)}`)
const controls: Readonly<Record<number, string>> = { 9: '\\t', 10: '\\n', 12: '\\f', 13: '\\r' }

/** A character as it stands by itself, or in brackets, in both languages. */
const sign = (point: number, special: RegExp): string => {
  const control = controls[point]
  if (control) return control
  const letter = String.fromCodePoint(point)
  if (special.test(letter)) return `\\${letter}`
  return /^[\p{L}\p{N}\p{P}\p{S} ]$/u.test(letter) ? letter : escapedPoint(point)
}
const alone = (point: number): string => sign(point, /[.*+?^${}()|[\]\\]/)
const within = (point: number): string => sign(point, /[\^\]\\[-]/)

/** PostgreSQL's texts hold no character 0. */
const first = 1
const bracketed = (ranges: readonly Range[]): string => {
  const negated = ranges[0]?.[0] === 0 && ranges.at(-1)?.[1] === lastPoint
  const listed = (negated ? complement(ranges) : ranges)
    .map(([low, high]): Range => [Math.max(low, first), high])
    .filter(([low, high]) => low <= high)
    .map(([low, high]) => {
      if (low === high) return within(low)
      return `${within(low)}${high === low + 1 ? '' : '-'}${within(high)}`
    })
    .join('')
  if (listed === '') return negated ? '[\\u0001-\\U0010ffff]' : '(?:(?!a)a)'
  return `[${negated ? '^' : ''}${listed}]`
}
const setIn = (ranges: readonly Range[]): string => {
  const [only] = ranges
  return ranges.length === 1 && only && only[0] === only[1] ? alone(only[0]) : bracketed(ranges)
}

const word = '[0-9A-Za-z_]'
const placeIn: Readonly<Record<Place, string>> = {
  'text-start': '\\A',
  'text-end': '\\Z',
  'line-start': '(?:\\A|(?<=\\n))',
  'line-end': '(?:\\Z|(?=\\n))',
  word: `(?:(?<=${word})(?!${word})|(?<!${word})(?=${word}))`,
  'no-word': `(?:(?<=${word})(?=${word})|(?<!${word})(?!${word}))`,
}

/** The most that PostgreSQL counts in braces. */
export const mostCounted = 255
const counted = (least: number, most: number | undefined): string => {
  if (least === 0 && most === undefined) return '*'
  if (least === 1 && most === undefined) return '+'
  if (least === 0 && most === 1) return '?'
  if (least === most) return `{${least}}`
  return `{${least},${most ?? ''}}`
}
type Writing = {
  /** Whether groups are counted; else they only hold together. */
  readonly groups: boolean
  /** PostgreSQL looks for the longest match: all else would confuse it. */
  readonly greedy: boolean
}
const write = (pattern: Pattern, how: Writing, inside: 'all' | 'sequence' | 'repeat'): string => {
  switch (pattern.type) {
    case 'set':
      return setIn(pattern.ranges)
    case 'at': {
      const text = placeIn[pattern.place]
      return inside === 'repeat' ? `(?:${text})` : text
    }
    case 'group':
      return how.groups ? `(${write(pattern.of, how, 'all')})` : write(pattern.of, how, inside)
    case 'sequence': {
      const text = pattern.parts.map((part) => write(part, how, 'sequence')).join('')
      return inside === 'repeat' || text === '' ? `(?:${text})` : text
    }
    case 'choice': {
      const text = pattern.of.map((part) => write(part, how, 'all')).join('|')
      return inside === 'all' ? text : `(?:${text})`
    }
    case 'repeat': {
      const text = repeated(pattern, how)
      return inside === 'repeat' ? `(?:${text})` : text
    }
  }
}

/** a{300} is a{255}a{45}, a{2,300} is a{2}a{0,255}a{0,43}. */
const repeated = ({ of, least, most, lazy }: Pattern & { type: 'repeat' }, how: Writing): string => {
  const text = write(of, how, 'repeat')
  const sign = lazy && !how.greedy && least !== most ? '?' : ''
  if (least <= mostCounted && (most ?? 0) <= mostCounted) return `${text}${counted(least, most)}${sign}`
  const parts: string[] = []
  for (let left = least; left > 0; left -= mostCounted) parts.push(`${text}{${Math.min(left, mostCounted)}}`)
  if (most === undefined) parts.push(`${text}*${sign}`)
  for (let left = (most ?? least) - least; left > 0; left -= mostCounted)
    parts.push(`${text}{0,${Math.min(left, mostCounted)}}${sign}`)
  return parts.join('')
}

/** The pattern as Python's re reads it, which takes the same match as RE2: the first that its order of choices gives. */
export const pythonPattern = (pattern: Pattern): string => write(pattern, { groups: true, greedy: false }, 'all')
/** The pattern as PostgreSQL reads it, which takes the longest match; its groups are counted where `groups` says so. */
export const sqlPattern = (pattern: Pattern, groups: boolean): string => write(pattern, { groups, greedy: true }, 'all')
/** One character of a set, as PostgreSQL reads it. */
export const sqlSet = setIn

import { ownValue } from '../table/own.ts'
import { RE2JS } from 're2js'

/** A pattern in the syntax of RE2, tested in linear time. Source: github.com/google/re2 wiki, Syntax. */
export const compilePattern = (pattern: string, ignoreCase: boolean): RE2JS =>
  RE2JS.compile(pattern, ignoreCase ? RE2JS.CASE_INSENSITIVE : 0)

/** Why a pattern cannot be read; undefined where it can. */
export const patternProblem = (pattern: string): string | undefined => {
  try {
    compilePattern(pattern, false)
    return undefined
  } catch (error) {
    return error instanceof Error ? error.message.replace(/^error parsing regexp: /, '') : String(error)
  }
}

/** The parts of a replacement: $1 stands for a group, $0 for the whole match, $$ for a dollar sign. */
const replacement = (text: string, group: (n: string) => string, plain: (text: string) => string): string =>
  text
    .split(/(\$\$|\$[0-9])/)
    .map((part) => {
      if (part === '$$') return plain('$')
      if (/^\$[0-9]$/.test(part)) return group(part.slice(1))
      return plain(part)
    })
    .join('')

/** Every match of a pattern, replaced; a group that took no part is empty. */
export const replaceMatches = (text: string, pattern: RE2JS, put: string): string => {
  const matcher = pattern.matcher(text)
  let made = ''
  let end = 0
  while (matcher.find()) {
    made +=
      text.slice(end, matcher.start()) +
      replacement(
        put,
        (n) => (Number(n) <= matcher.groupCount() ? (matcher.group(Number(n)) ?? '') : ''),
        (part) => part,
      )
    end = matcher.end()
  }
  return made + text.slice(end)
}

const ascii: Readonly<Record<string, string>> = { d: '0-9', w: '0-9A-Za-z_', s: '\\t\\n\\f\\r ' }
const posix: Readonly<Record<string, string>> = {
  alnum: '0-9A-Za-z',
  alpha: 'A-Za-z',
  digit: '0-9',
  lower: 'a-z',
  upper: 'A-Z',
  space: '\\t\\n\\v\\f\\r ',
  word: '0-9A-Za-z_',
  xdigit: '0-9A-Fa-f',
  punct: '!-/:-@\\[-`{-~',
  blank: '\\t ',
}

const escaped = (point: number): string =>
  point > 0xffff ? `\\U${point.toString(16).padStart(8, '0')}` : `\\u${point.toString(16).padStart(4, '0')}`

/** A Unicode class as ranges, for languages whose expressions have no classes. */
const ranges = new Map<string, string>()
const unicodeRanges = (name: string, negated: boolean): string => {
  const key = `${negated ? '^' : ''}${name}`
  let known = ranges.get(key)
  if (known !== undefined) return known
  const test = new RegExp(`\\p{${/^[A-Z][a-z]?$/.test(name) ? name : `Script=${name}`}}`, 'u')
  known = ''
  for (let point = 0, start = -1; point <= 0x110000; point++) {
    const inside =
      point < 0x110000 && !(point >= 0xd800 && point <= 0xdfff) && test.test(String.fromCodePoint(point)) !== negated
    if (inside && start < 0) start = point
    if (!inside && start >= 0) {
      known += start === point - 1 ? escaped(start) : `${escaped(start)}-${escaped(point - 1)}`
      start = -1
    }
  }
  ranges.set(key, known)
  return known
}

type RegexDialect = 'sql' | 'python'
const outside: Readonly<Record<RegexDialect, Readonly<Record<string, string>>>> = {
  sql: { b: '\\y', B: '\\Y', A: '\\A', z: '\\Z' },
  python: { b: '\\b', B: '\\B', A: '\\A', z: '\\Z' },
}

const groupIn: Readonly<Record<RegexDialect, (n: string) => string>> = {
  sql: (n) => `\\${n === '0' ? '&' : n}`,
  python: (n) => `\\g<${n}>`,
}
/** A replacement as another language writes it. */
export const replacementFor = (language: RegexDialect, put: string): string =>
  replacement(put, groupIn[language], (text) => text.replaceAll('\\', '\\\\'))

/** The same pattern as another language writes it: classes in ASCII, `.` without line breaks, `$` only at the very end. */
export const patternFor = (language: RegexDialect, pattern: string): string => {
  const token =
    /\\Q([\s\S]*?)(?:\\E|$)|\\([pP])(?:\{(\^?)(\w+)\}|(\w))|\\x\{([0-9a-fA-F]+)\}|\\([\s\S])|\[:(\^?)(\w+):\]|\(\?P?<\w+>|([\s\S])/gu
  let depth = 0
  return pattern.replace(
    token,
    (
      all: string,
      literal?: string,
      p?: string,
      caret?: string,
      long?: string,
      short?: string,
      hex?: string,
      letter?: string,
      _not?: string,
      className?: string,
      sign?: string,
      // eslint-disable-next-line complexity -- one case for each construct of a regular expression
    ) => {
      if (literal !== undefined) return literal.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
      if (p) {
        const set = unicodeRanges(long ?? short ?? 'L', (p === 'P') !== (caret === '^'))
        return depth ? set : `[${set}]`
      }
      if (hex) return escaped(parseInt(hex, 16))
      if (letter) {
        const set = ownValue(ascii, letter)
        if (set) return depth ? set : `[${set}]`
        const opposite = ownValue(ascii, letter.toLowerCase())
        if (opposite && !depth) return `[^${opposite}]`
        return (!depth && ownValue(outside[language], letter)) || all
      }
      if (className) return ownValue(posix, className) ?? all
      if (all.startsWith('(?')) return '('
      if (sign === '[' && !depth) depth = 1
      else if (sign === ']' && depth) depth = 0
      else if (sign === '.' && !depth) return '[^\\n]'
      else if (sign === '$' && !depth) return language === 'python' ? '\\Z' : '$'
      return all
    },
  )
}

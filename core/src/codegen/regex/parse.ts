import { complement, folded, lastPoint, merged, type Range } from './fold.ts'
import { ownValue } from '../../table/own.ts'

/** A place between two characters: the ends of the text, of a line, of a word of ASCII letters, digits and _, or none of the last. */
export type Place = 'text-start' | 'text-end' | 'line-start' | 'line-end' | 'word' | 'no-word'
/** A regular expression as a tree, its flags worked in. */
export type Pattern =
  | { readonly type: 'set'; readonly ranges: readonly Range[] }
  | { readonly type: 'at'; readonly place: Place }
  | { readonly type: 'group'; readonly index: number; readonly of: Pattern }
  | { readonly type: 'sequence'; readonly parts: readonly Pattern[] }
  | { readonly type: 'choice'; readonly of: readonly Pattern[] }
  | {
      readonly type: 'repeat'
      readonly of: Pattern
      readonly least: number
      readonly most?: number
      readonly lazy: boolean
    }

type Flags = { readonly i: boolean; readonly m: boolean; readonly s: boolean; readonly U: boolean }

const between = (text: string): Range[] =>
  Array.from(text.matchAll(/(.)-(.)|(.)/gsu), ([, low, high, one]) => [
    (low ?? one)?.codePointAt(0) as number,
    (high ?? one)?.codePointAt(0) as number,
  ])
export const wordSigns = between('0-9A-Za-z_')
const classes: Readonly<Record<string, readonly Range[]>> = {
  d: between('0-9'),
  w: wordSigns,
  s: between('\t\n\f\r '),
}
const posix: Readonly<Record<string, readonly Range[]>> = {
  alnum: between('0-9A-Za-z'),
  alpha: between('A-Za-z'),
  ascii: [[0, 0x7f]],
  blank: between('\t '),
  cntrl: [
    [0, 0x1f],
    [0x7f, 0x7f],
  ],
  digit: between('0-9'),
  graph: between('!-~'),
  lower: between('a-z'),
  print: between(' -~'),
  punct: between('!-/:-@[-`{-~'),
  space: between('\t\n\v\f\r '),
  upper: between('A-Z'),
  word: wordSigns,
  xdigit: between('0-9A-Fa-f'),
}
const controls: Readonly<Record<string, number>> = { a: 7, f: 12, t: 9, n: 10, r: 13, v: 11 }
/** How often at least and at most. */
const counts: Readonly<Record<string, readonly [least: string, most: string]>> = {
  '*': ['0', ''],
  '+': ['1', ''],
  '?': ['0', '1'],
}
const places: Readonly<Record<string, Place>> = { A: 'text-start', z: 'text-end', b: 'word', B: 'no-word' }

/** A Unicode category or script as ranges. */
const known = new Map<string, readonly Range[]>()
const unicodeClass = (name: string): readonly Range[] => {
  const found = known.get(name)
  if (found) return found
  const test = name === 'Any' ? /^/u : new RegExp(`\\p{${/^[A-Z][a-z]?$/.test(name) ? name : `Script=${name}`}}`, 'u')
  const made: Range[] = []
  let start = -1
  for (let point = 0; point <= lastPoint + 1; point++) {
    const inside = point <= lastPoint && test.test(String.fromCodePoint(point))
    if (inside && start < 0) start = point
    if (!inside && start >= 0) {
      made.push([start, point - 1])
      start = -1
    }
  }
  known.set(name, made)
  return made
}

/** Reads a pattern that RE2 takes. Source: github.com/google/re2 wiki, Syntax. */
class PatternReader {
  private readonly signs: readonly string[]
  private at = 0
  private groups = 0
  private flags: Flags

  constructor(pattern: string, ignoreCase: boolean) {
    this.signs = Array.from(pattern)
    this.flags = { i: ignoreCase, m: false, s: false, U: false }
  }

  read(): Pattern {
    const made = this.choice()
    if (this.at < this.signs.length) throw new Error(`a pattern is not read to its end: ${this.signs.join('')}`)
    return made
  }

  private peek(text: string): boolean {
    return this.signs.slice(this.at, this.at + text.length).join('') === text
  }
  private take(text: string): boolean {
    if (!this.peek(text)) return false
    this.at += text.length
    return true
  }
  private next(): string {
    return this.signs[this.at++] ?? ''
  }
  /** What matches at this place, taken. */
  private matching(expression: RegExp): RegExpExecArray | null {
    const found = expression.exec(this.signs.slice(this.at).join(''))
    if (found) this.at += Array.from(found[0]).length
    return found
  }

  private choice(): Pattern {
    const of = [this.sequence()]
    while (this.take('|')) of.push(this.sequence())
    return of.length === 1 ? (of[0] as Pattern) : { type: 'choice', of }
  }

  private sequence(): Pattern {
    const parts: Pattern[] = []
    while (this.at < this.signs.length && !this.peek('|') && !this.peek(')')) {
      if (this.take('\\Q')) {
        const [, literal = ''] = this.matching(/^([\s\S]*?)(?:\\E|$)/u) ?? []
        const all = Array.from(literal, (sign) => this.sign(sign))
        parts.push(...all.slice(0, -1))
        const last = all.at(-1)
        if (last) parts.push(this.repeated(last))
        continue
      }
      const atom = this.atom()
      if (atom) parts.push(this.repeated(atom))
    }
    return parts.length === 1 ? (parts[0] as Pattern) : { type: 'sequence', parts }
  }

  private repeated(atom: Pattern): Pattern {
    let made = atom
    for (;;) {
      const [found, sign, least, comma, most] =
        this.matching(/^(?:([*+?])|\{(\d+)(?:(,)(\d*))?\})/u) ?? ([] as (string | undefined)[])
      if (found === undefined) return made
      const lazy = this.take('?') !== this.flags.U
      const [lower, upper] = ownValue(counts, sign ?? '') ?? [least, comma === undefined ? least : most]
      made = { type: 'repeat', of: made, least: Number(lower), ...(upper ? { most: Number(upper) } : {}), lazy }
    }
  }

  private sign(sign: string): Pattern {
    const point = sign.codePointAt(0) as number
    return this.set([[point, point]])
  }
  private set(ranges: readonly Range[], negated = false): Pattern {
    const cased = this.flags.i ? folded(ranges) : merged(ranges)
    return { type: 'set', ranges: negated ? complement(cased) : cased }
  }

  private atom(): Pattern | undefined {
    if (this.take('(')) return this.group()
    if (this.peek('[')) return this.bracket()
    if (this.peek('\\')) return this.escape()
    const sign = this.next()
    if (sign === '.')
      return this.flags.s ? { type: 'set', ranges: [[0, lastPoint]] } : { type: 'set', ranges: complement([[10, 10]]) }
    if (sign === '^') return { type: 'at', place: this.flags.m ? 'line-start' : 'text-start' }
    if (sign === '$') return { type: 'at', place: this.flags.m ? 'line-end' : 'text-end' }
    return this.sign(sign)
  }

  private group(): Pattern | undefined {
    const before = this.flags
    const [options, name, on = '', off = ''] = this.matching(/^\?(?:P?<(\w+)>|([imsU]*)(?:-([imsU]*))?(?=[:)]))/u) ?? []
    const capture = options === undefined || name !== undefined
    if (!capture) {
      const turned = (flag: keyof Flags): boolean => !off.includes(flag) && (on.includes(flag) || before[flag])
      this.flags = { i: turned('i'), m: turned('m'), s: turned('s'), U: turned('U') }
      if (this.take(')')) return undefined
      this.take(':')
    }
    const index = capture ? ++this.groups : 0
    const of = this.choice()
    this.take(')')
    this.flags = before
    return capture ? { type: 'group', index, of } : of
  }

  /** A class that stands alone or in brackets: \d, \pL, \p{^Greek}; with its sense. */
  private class(): { readonly ranges: readonly Range[]; readonly negated: boolean } | undefined {
    const [property, sense, caret, long, short] = this.matching(/^\\([pP])(?:\{(\^?)(\w+)\}|(\w))/u) ?? []
    if (property !== undefined)
      return { ranges: unicodeClass(long ?? short ?? ''), negated: (sense === 'P') !== (caret === '^') }
    const [, letter = ''] = this.matching(/^\\([dDwWsS])/u) ?? []
    const ranges = ownValue(classes, letter.toLowerCase())
    return ranges && { ranges, negated: letter !== letter.toLowerCase() }
  }

  /** The code point of an escape that stands for one character. */
  private escapedPoint(): number {
    this.take('\\')
    const [, long, short] = this.matching(/^x(?:\{([0-9A-Fa-f]+)\}|([0-9A-Fa-f]{2}))/u) ?? []
    if (long ?? short) return parseInt(long ?? short ?? '', 16)
    const [octal] = this.matching(/^[0-7]{1,3}/u) ?? []
    if (octal) return parseInt(octal, 8)
    const sign = this.next()
    return ownValue(controls, sign) ?? (sign.codePointAt(0) as number)
  }

  private escape(): Pattern {
    const found = this.class()
    if (found) return this.set(found.ranges, found.negated)
    const place = ownValue(places, this.signs[this.at + 1] ?? '')
    if (place) {
      this.at += 2
      return { type: 'at', place }
    }
    const point = this.escapedPoint()
    return this.set([[point, point]])
  }

  private bracket(): Pattern {
    this.take('[')
    const negated = this.take('^')
    const ranges: Range[] = []
    const add = (more: readonly Range[], not: boolean): void => {
      const cased = this.flags.i ? folded(more) : more
      ranges.push(...(not ? complement(cased) : cased))
    }
    for (let first = true; first || !this.peek(']'); first = false) {
      const [named, caret, name = ''] = this.matching(/^\[:(\^?)(\w+):\]/u) ?? []
      if (named !== undefined) {
        add(ownValue(posix, name) ?? [], caret === '^')
        continue
      }
      const found = this.class()
      if (found) {
        add(found.ranges, found.negated)
        continue
      }
      const low = this.bracketPoint()
      const isRange = this.peek('-') && this.signs[this.at + 1] !== ']'
      if (isRange) this.at++
      add([[low, isRange ? this.bracketPoint() : low]], false)
    }
    this.take(']')
    return { type: 'set', ranges: negated ? complement(ranges) : merged(ranges) }
  }
  private bracketPoint(): number {
    return this.peek('\\') ? this.escapedPoint() : (this.next().codePointAt(0) as number)
  }
}

/** A pattern as a tree. It must be one that RE2 takes. */
export const parsePattern = (pattern: string, ignoreCase = false): Pattern =>
  new PatternReader(pattern, ignoreCase).read()

const partsOf = (pattern: Pattern): readonly Pattern[] => {
  if (pattern.type === 'sequence') return pattern.parts
  if (pattern.type === 'choice') return pattern.of
  return pattern.type === 'group' || pattern.type === 'repeat' ? [pattern.of] : []
}
/** Whether a pattern or a part of it, at any depth, is such. */
export const anyPart = (pattern: Pattern, is: (part: Pattern) => boolean): boolean =>
  is(pattern) || partsOf(pattern).some((part) => anyPart(part, is))

/** Whether it can match where nothing stands. */
export const isNullable = (pattern: Pattern): boolean => {
  switch (pattern.type) {
    case 'set':
      return false
    case 'at':
      return true
    case 'group':
      return isNullable(pattern.of)
    case 'sequence':
      return pattern.parts.every(isNullable)
    case 'choice':
      return pattern.of.some(isNullable)
    case 'repeat':
      return pattern.least === 0 || isNullable(pattern.of)
  }
}

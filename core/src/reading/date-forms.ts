import { compileDatePattern, dateReader, monthNames } from './date-pattern.ts'
import { civilFromDays } from '../table/calendar.ts'
import { trim } from '../table/text.ts'

/** A form in which a column writes its dates: a CLDR pattern, how many rows it reads, one of them. */
export type DateForm = {
  readonly pattern: string
  readonly rows: number
  readonly example: string
  /** It has no year: one must be given. */ readonly noYear: boolean
}
type DateKind = 'date' | 'datetime' | 'time'
/** Rows that can only be read with the day first, only with the month first, and either way. */
export type DayOrMonth = {
  readonly dayFirst: number
  readonly monthFirst: number
  readonly either: number
  readonly dayExample?: string | undefined
  readonly monthExample?: string | undefined
  readonly eitherExample: string
}
/** The date forms that the texts of a column have, and what is undecided. */
export type DateForms = {
  readonly type: DateKind
  /** The forms where 03/04 is 3 April, and where it is 4 March; the same where no form is open to doubt. */
  readonly day: readonly DateForm[]
  readonly month: readonly DateForm[]
  readonly question?: DayOrMonth | undefined
  /** The year that most of the dates with one have. */
  readonly year?: number | undefined
  /** What no form reads, the commonest first. */
  readonly left: readonly WordCount[]
  readonly leftRows: number
}

const months = `(?:${monthNames.flatMap((name) => (name.length > 3 ? [name, name.slice(0, 3)] : [name])).join('|')}|sept)`
const days = '(?:monday|tuesday|wednesday|thursday|friday|saturday|sunday|mon|tue|wed|thu|fri|sat|sun)'

const literal = (text: string): string => (/[A-Za-z']/.test(text) ? `'${text.replaceAll("'", "''")}'` : text)
const year = (digits: string): string => (digits.length === 4 ? 'yyyy' : 'yy')
const monthFor = (word: string): string => (word.length > 3 && word.toLowerCase() !== 'sept' ? 'MMMM' : 'MMM')

/** A reading of the date at the start of a text: the patterns it may have, and how much of the text they take. */
type DateHead = {
  readonly patterns: readonly { readonly pattern: string; readonly order?: 'day' | 'month' }[]
  readonly length: number
  readonly noYear?: true
}
type Template = readonly [RegExp, (m: readonly string[]) => Omit<DateHead, 'length'>]
const bothWays = (a: (day: string, month: string) => string): DateHead['patterns'] => [
  { pattern: a('d', 'M'), order: 'day' },
  { pattern: a('M', 'd'), order: 'month' },
]

const templates: readonly Template[] = [
  [
    /^(\d{4})([-/.]| )(\d{1,2})\2(\d{1,2})(?!\d)/,
    ([, , s = '', m = '', d = '']) => ({
      patterns: [{ pattern: m.length + d.length === 4 ? `yyyy${s}MM${s}dd` : `yyyy${s}M${s}d` }],
    }),
  ],
  [
    /^(\d{1,2})([-/.]| |\. )(\d{1,2})\2(\d{4}|\d{2})(?![\d:])/,
    ([, , s = '', , y = '']) => ({ patterns: bothWays((a, b) => `${a}${s}${b}${s}${year(y)}`) }),
  ],
  [
    new RegExp(
      `^(\\d{1,2})(st|nd|rd|th)?(,? |[-/.]|\\. ?| of )?(${months})(\\.?)(,? |[-/.]|, ?)(\\d{4}|'\\d{2}|\\d{2})(?![\\d:])`,
      'i',
    ),
    ([, , th = '', s = '', m = '', dot = '', t = '', y = '']) => ({
      patterns: [
        {
          pattern: `d${th ? literal(th) : ''}${literal(s)}${monthFor(m)}${dot}${t}${y.startsWith("'") ? "''" : ''}${year(y.replace("'", ''))}`,
        },
      ],
    }),
  ],
  [
    new RegExp(`^(${months})(\\.?)( |[-/.])(\\d{1,2})(st|nd|rd|th)?(,? |[-/.]|, ?)(\\d{4})(?!\\d)`, 'i'),
    ([, m = '', dot = '', s = '', , th = '', t = '']) => ({
      patterns: [{ pattern: `${monthFor(m)}${dot}${s}d${th ? literal(th) : ''}${t}yyyy` }],
    }),
  ],
  [
    new RegExp(`^(${months})(\\.?)( |[-/.])(\\d{4})(?!\\d)`, 'i'),
    ([, m = '', dot = '', s = '']) => ({ patterns: [{ pattern: `${monthFor(m)}${dot}${s}yyyy` }] }),
  ],
  [
    new RegExp(`^(\\d{1,2})(st|nd|rd|th)?(,? |[-/.]|\\. ?| of )?(${months})(\\.?)(?![\\d'])`, 'i'),
    ([, , th = '', s = '', m = '', dot = '']) => ({
      patterns: [{ pattern: `d${th ? literal(th) : ''}${literal(s)}${monthFor(m)}${dot}` }],
      noYear: true,
    }),
  ],
  [
    new RegExp(`^(${months})(\\.?)( |[-/.])(\\d{1,2})(st|nd|rd|th)?(?![\\d:])`, 'i'),
    ([, m = '', dot = '', s = '', , th = '']) => ({
      patterns: [{ pattern: `${monthFor(m)}${dot}${s}d${th ? literal(th) : ''}` }],
      noYear: true,
    }),
  ],
  [
    /^(\d{4})(\d{2})(\d{2})(?!\d)/,
    ([, y = '']) => ({
      patterns:
        Number(y) >= 1900 && Number(y) < 2100
          ? [{ pattern: 'yyyyMMdd' }]
          : [
              { pattern: 'ddMMyyyy', order: 'day' },
              { pattern: 'MMddyyyy', order: 'month' },
            ],
    }),
  ],
  [
    /^(\d{1,2})([/])(\d{1,2})(?![\d/])/,
    ([, , s = '']) => ({ patterns: bothWays((a, b) => `${a}${s}${b}`), noYear: true }),
  ],
  [/^(\d{1,2})\.(\d{1,2})\.(?!\d)/, () => ({ patterns: [{ pattern: 'd.M.', order: 'day' }], noYear: true })],
]

/** The pattern of a time that takes up the whole text. */
const timePattern = (text: string): string | undefined => {
  const m = /^(\d{1,2})([:.h])(\d{2})(?:([:.])(\d{2})(?:([.,])(\d{1,3}))?)?( ?)(am|pm|a\.m\.|p\.m\.)?$/i.exec(text)
  if (m) {
    const [, , s = '', , t, , u, fraction, gap = '', half] = m
    if (gap !== '' && half === undefined) return undefined
    return `${half ? 'h' : 'H'}${literal(s)}mm${t ? `${t}ss` : ''}${u ? `${u}${'S'.repeat(fraction?.length ?? 0)}` : ''}${gap}${half ? 'a' : ''}`
  }
  const hour = /^(\d{1,2})( ?)(?:am|pm|a\.m\.|p\.m\.)$/i.exec(text)
  if (hour) return `h${hour[2] ?? ''}a`
  return /^([01]\d|2[0-3])[0-5]\d$/.test(text) ? 'HHmm' : undefined
}

const readers = new Map<string, (text: string) => number | null>()
/** The reader of a pattern, compiled once: the texts of a column share a few patterns. */
const readerOf = (pattern: string, type: DateKind): ((text: string) => number | null) => {
  const key = `${type} ${pattern}`
  let reader = readers.get(key)
  if (!reader) {
    const compiled = compileDatePattern(pattern)
    readers.set(key, (reader = 'problem' in compiled ? () => null : dateReader(compiled, type)))
  }
  return reader
}
const reads = (pattern: string, type: DateKind, text: string): boolean => readerOf(pattern, type)(text) !== null

/** A form that a text may be written in. */
type CompiledForm = {
  readonly pattern: string
  readonly type: DateKind
  readonly order?: 'day' | 'month'
  readonly noYear: boolean
  /** 9.30 and 0930 are times only beside others that can be nothing else. */ readonly weak?: true
}

/** How a form without a year is read: with a year put behind it. */
const withYear = (pattern: string): string => `${pattern} yyyy`

// eslint-disable-next-line complexity -- one pass over the templates, which share the parts of a date
const formsOf = (raw: string): CompiledForm[] => {
  const text = trim(raw)
  if (text.length < 3 || text.length > 48 || !/\d/.test(text)) return []
  const time = timePattern(text)
  if (time !== undefined && reads(time, 'time', text))
    return [{ pattern: time, type: 'time', noYear: false, ...(/[:hap]/i.test(text) ? {} : { weak: true }) }]
  const weekday = new RegExp(`^(${days})(,? +|\\. +)`, 'i').exec(text)
  const before = weekday ? `${(weekday[1]?.length ?? 0) > 3 ? 'EEEE' : 'EEE'}${weekday[2] ?? ''}` : ''
  const rest = weekday ? text.slice(weekday[0].length) : text
  for (const [expression, make] of templates) {
    const m = expression.exec(rest)
    if (!m) continue
    const { patterns, noYear } = make(m.map((part) => part ?? ''))
    const tail = rest.slice(m[0].length)
    const gap = /^(?:T|,? +| at | - )?/.exec(tail)?.[0] ?? ''
    const chooseClock = () => {
      if (tail === '') return ''
      if (gap === '') return undefined
      return timePattern(tail.slice(gap.length))
    }
    const clock = chooseClock()
    if (clock === undefined) continue
    const type: DateKind = clock === '' ? 'date' : 'datetime'
    const found = patterns
      .map(({ pattern, order }): CompiledForm => ({
        pattern: `${before}${pattern}${clock === '' ? '' : `${literal(gap)}${clock}`}`,
        type,
        ...(order ? { order } : {}),
        noYear: noYear === true,
      }))
      .filter(({ pattern, noYear: lacks }) =>
        lacks ? reads(withYear(pattern), type, `${text} 2032`) : reads(pattern, type, text),
      )
    if (found.length > 0) return found
  }
  return []
}

const counted = (forms: readonly { form: CompiledForm; word: WordCount }[]): DateForm[] => {
  const found = new Map<string, { rows: number; example: string; noYear: boolean }>()
  for (const { form, word } of forms) {
    const known = found.get(form.pattern)
    if (known) known.rows += word.count
    else found.set(form.pattern, { rows: word.count, example: word.text, noYear: form.noYear })
  }
  return [...found].map(([pattern, form]) => ({ pattern, ...form })).sort((a, b) => b.rows - a.rows)
}
const rowsOf = (words: readonly WordCount[]): number => words.reduce((sum, { count }) => sum + count, 0)

/** The year that most rows have, of those whose form has a year; the later of equals. */
const commonestYear = (
  read: readonly { readonly word: WordCount; readonly forms: readonly CompiledForm[] }[],
): number | undefined => {
  const rows = new Map<number, number>()
  for (const { word, forms } of read) {
    const [form] = forms
    const dated = form !== undefined && !form.noYear && form.type !== 'time'
    const days = dated ? readerOf(form.pattern, 'date')(trim(word.text)) : null
    if (days === null) continue
    const { year: found } = civilFromDays(days)
    rows.set(found, (rows.get(found) ?? 0) + word.count)
  }
  return [...rows].sort(([a, n], [b, m]) => m - n || b - a)[0]?.[0]
}

/** The part of a `cast` that gives a year to forms without one; nothing where all have one. */
export const yearOf = (forms: readonly DateForm[], year: number | undefined): { readonly year?: number } =>
  year !== undefined && forms.some(({ noYear }) => noYear) ? { year } : {}

const looked = 400
/** The forms of dates and times in a column of text; undefined where fewer than three in ten rows look like one. */
export const dateFormsIn = (words: readonly WordCount[]): DateForms | undefined => {
  const sample = words.slice(0, looked)
  const likely = sample.filter(({ text }) => formsOf(text).some(({ weak }) => !weak))
  if (likely.length === 0 || likely.length < sample.length * 0.1) return undefined
  const all = words.map((word) => ({ word, forms: formsOf(word.text) }))
  const hasTimes = all.some(({ forms }) => forms[0]?.type === 'time' && !forms[0].weak)
  const dated = all.filter(({ forms }) => forms.length > 0 && (hasTimes || !forms[0]?.weak))
  const total = rowsOf(words)
  if (rowsOf(dated.map(({ word }) => word)) < total * 0.3) return undefined
  const times = dated.filter(({ forms }) => forms[0]?.type === 'time')
  const moments = dated.filter(({ forms }) => forms[0]?.type !== 'time')
  const chooseType = () => {
    if (times.length * 2 > dated.length) return 'time'
    if (moments.some(({ forms }) => forms[0]?.type === 'datetime')) return 'datetime'
    return 'date'
  }
  const type: DateKind = chooseType()
  const used = type === 'time' ? times : moments
  const year = commonestYear(used)
  const ordered = used.filter(({ forms }) => forms[0]?.order !== undefined && !/^d\.M/.test(forms[0].pattern))
  const only = (order: 'day' | 'month') =>
    ordered.filter(({ forms }) => forms.length === 1 && forms[0]?.order === order)
  const either = ordered.filter(({ forms }) => forms.length > 1 && !sameDay(forms))
  const choose = (order: 'day' | 'month'): DateForm[] =>
    counted(
      used.map(({ word, forms }) => ({
        word,
        form: forms.find((form) => form.order === order) ?? (forms[0] as CompiledForm),
      })),
    )
  const left = all.filter((one) => !used.includes(one)).map(({ word }) => word)
  const [dayOnly, monthOnly] = [only('day'), only('month')]
  const question = either[0] && {
    dayFirst: rowsOf(dayOnly.map(({ word }) => word)),
    monthFirst: rowsOf(monthOnly.map(({ word }) => word)),
    either: rowsOf(either.map(({ word }) => word)),
    eitherExample: either[0].word.text,
    ...(dayOnly[0] ? { dayExample: dayOnly[0].word.text } : {}),
    ...(monthOnly[0] ? { monthExample: monthOnly[0].word.text } : {}),
  }
  return {
    type,
    day: choose('day'),
    month: choose('month'),
    ...(question ? { question } : {}),
    ...(year === undefined ? {} : { year }),
    left: left.sort((a, b) => b.count - a.count).slice(0, 60),
    leftRows: rowsOf(left),
  }
}

/** 05/05 is the same day either way. */
const sameDay = (forms: readonly CompiledForm[]): boolean => forms.length < 2

/** Day first unless only the month first reads more. */
export const likelyForms = (forms: DateForms): readonly DateForm[] =>
  forms.question && forms.question.monthFirst > forms.question.dayFirst ? forms.month : forms.day

/** A distinct text and how many rows hold it. */
export type WordCount = { readonly text: string; readonly count: number }

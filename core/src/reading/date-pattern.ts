import { ownValue } from '../table/own.ts'
import { dayMs, maybeDays, maybeTime } from '../table/calendar.ts'

/**
 * Date patterns as Unicode Technical Standard 35 (CLDR) writes them, compiled to one regular expression
 * whose form JavaScript, Python and PostgreSQL share, and the list of what its groups hold.
 */
export type DateField =
  'year' | 'year2' | 'month' | 'monthName' | 'day' | 'hour' | 'hour12' | 'minute' | 'second' | 'ms' | 'half' | 'weekday'
/** A pattern with the regular expression it reads by and the field of each of its groups. */
export type DatePattern = { readonly pattern: string; readonly source: string; readonly fields: readonly DateField[] }

/** English month names, January first. */
export const monthNames = [
  'january',
  'february',
  'march',
  'april',
  'may',
  'june',
  'july',
  'august',
  'september',
  'october',
  'november',
  'december',
] as const
const weekdayNames = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'] as const

const oneOf = (names: readonly string[], short: number): string =>
  names.flatMap((name) => (name.length > short ? [name, name.slice(0, short)] : [name])).join('|')
const monthWords = `${oneOf(monthNames, 3)}|sept`
const weekdayWords = oneOf(weekdayNames, 3)

/** What each run of letters reads. `d` takes one or two digits, `dd` two. */
const letters: Readonly<Record<string, readonly [string, DateField]>> = {
  yyyy: ['([0-9]{4})', 'year'],
  y: ['([0-9]{4})', 'year'],
  yy: ['([0-9]{2})', 'year2'],
  M: ['([0-9]{1,2})', 'month'],
  MM: ['([0-9]{2})', 'month'],
  MMM: [`(${monthWords})`, 'monthName'],
  MMMM: [`(${monthWords})`, 'monthName'],
  d: ['([0-9]{1,2})', 'day'],
  dd: ['([0-9]{2})', 'day'],
  H: ['([0-9]{1,2})', 'hour'],
  HH: ['([0-9]{2})', 'hour'],
  h: ['([0-9]{1,2})', 'hour12'],
  hh: ['([0-9]{2})', 'hour12'],
  m: ['([0-9]{1,2})', 'minute'],
  mm: ['([0-9]{2})', 'minute'],
  s: ['([0-9]{1,2})', 'second'],
  ss: ['([0-9]{2})', 'second'],
  S: ['([0-9]{1})', 'ms'],
  SS: ['([0-9]{2})', 'ms'],
  SSS: ['([0-9]{3})', 'ms'],
  a: ['(am|pm|a\\.m\\.|p\\.m\\.)', 'half'],
  EEE: [`(${weekdayWords})`, 'weekday'],
  EEEE: [`(${weekdayWords})`, 'weekday'],
}

const literal = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&')

/** A date pattern's pieces for writing: runs of letters, and plain text marked with a leading '. */
export const datePatternParts = (pattern: string): string[] =>
  (pattern.match(/'(?:[^']|'')*'|([A-Za-z])\1*|[^A-Za-z']/g) ?? []).map((token) => {
    if (token === "''") return "''"
    if (token.startsWith("'")) return `'${token.slice(1, -1).replaceAll("''", "'")}`
    if (/[A-Za-z]/.test(token)) return token
    return `'${token}`
  })

/** Why a pattern cannot be used, as the end of a sentence. */
export type PatternProblem = { readonly problem: string }

/** Pattern := (letters | quoted text | any other sign)* ; a problem where letters mean nothing here. */
export const compileDatePattern = (pattern: string): DatePattern | PatternProblem => {
  let source = ''
  const fields: DateField[] = []
  const tokens = pattern.match(/'(?:[^']|'')*'|([A-Za-z])\1*|[^A-Za-z']/g) ?? []
  if (tokens.join('') !== pattern) return { problem: `the quote in “${pattern}” is not closed` }
  for (const token of tokens) {
    if (token.startsWith("'")) source += literal(token === "''" ? "'" : token.slice(1, -1).replaceAll("''", "'"))
    else if (/[A-Za-z]/.test(token)) {
      const known = ownValue(letters, token)
      if (!known) return { problem: `“${token}” is not a part of a date pattern` }
      source += known[0]
      fields.push(known[1])
    } else source += literal(token)
  }
  if (
    fields.includes('minute') &&
    !fields.includes('hour') &&
    !fields.includes('hour12') &&
    (fields.includes('day') || fields.includes('year'))
  )
    return { problem: `“${pattern}” reads minutes where months seem meant: months are MM, minutes mm` }
  if (fields.length === 0) return { problem: `“${pattern}” has no day, month, year or time in it` }
  return { pattern, source: `^${source}$`, fields }
}

/** A two-digit year is 1950 to 2049. */
export const fullYear = (twoDigits: number): number => (twoDigits < 50 ? 2000 : 1900) + twoDigits

type ParsedFields = Partial<Record<DateField, number>>

const hourOf = (read: ParsedFields): number | null => {
  if (read.hour12 === undefined) return read.hour ?? 0
  if (read.hour12 < 1 || read.hour12 > 12) return null
  return (read.hour12 % 12) + (read.half ?? 0) * 12
}

/** Whether a pattern has letters for a year. */
export const hasYear = ({ fields }: DatePattern): boolean => fields.includes('year') || fields.includes('year2')

/**
 * A compiled reader of one pattern: days since 1970 for dates, milliseconds since 1970 for date-times and since
 * midnight for times; null where it does not fit. `year` stands where the pattern has none.
 */
export const dateReader = (
  compiled: DatePattern,
  type: 'date' | 'datetime' | 'time',
  year?: number,
): ((text: string) => number | null) => {
  const expression = new RegExp(compiled.source, 'i')
  return (text) => {
    const match = expression.exec(text)
    if (!match) return null
    const read: ParsedFields = year === undefined ? {} : { year }
    compiled.fields.forEach((field, i) => {
      const part = match[i + 1] as string
      if (field === 'monthName')
        read.month = monthNames.findIndex((name) => name.startsWith(part.slice(0, 3).toLowerCase())) + 1
      else if (field === 'year2') read.year = fullYear(Number(part))
      else if (field === 'ms') read.ms = Number(part.padEnd(3, '0'))
      else if (field === 'half') read.half = part[0]?.toLowerCase() === 'p' ? 1 : 0
      else if (field !== 'weekday') read[field] = Number(part)
    })
    const hour = hourOf(read)
    const time = hour === null ? null : maybeTime(hour, read.minute ?? 0, read.second ?? 0, read.ms ?? 0)
    if (time === null) return null
    if (type === 'time') return time
    const days = read.year === undefined ? null : maybeDays(read.year, read.month ?? 1, read.day ?? 1)
    if (days === null) return null
    return type === 'date' ? days : days * dayMs + time
  }
}

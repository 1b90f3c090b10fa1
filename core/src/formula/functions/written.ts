import { ownValue } from '../../table/own.ts'
import { capital } from '../../messages/words.ts'
import { code, joined, py, sql, type Code, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { civilFromDays, dayMs, dayOf, timeOf } from '../../table/calendar.ts'
import type { Cell } from '../../table/column.ts'
import { compileDatePattern, datePatternParts } from '../../reading/date-pattern.ts'
import { compileNumberPattern, writeNumber, type NumberPattern } from '../../reading/number-pattern.ts'
import type { FormulaType } from '../function-kind.ts'
import { dayNames, monthNames, weekday } from './date.ts'
import { args, define } from './define.ts'

const isMoment = (type: FormulaType | undefined): boolean => type === 'date' || type === 'datetime' || type === 'time'
const large = (text: string): string => `${capital(text)}.`
const dayLetters = /^[yMdE]/

/** Patterns for moments hold letters of dates and times, those for numbers # and 0. */
const patternProblem = (value: Cell, [type]: readonly FormulaType[]): string | undefined => {
  const pattern = String(value ?? '')
  if (!isMoment(type)) {
    const compiled = compileNumberPattern(pattern)
    return 'problem' in compiled ? `The value is a number: ${compiled.problem}.` : undefined
  }
  const compiled = compileDatePattern(pattern)
  if ('problem' in compiled) return large(compiled.problem)
  const day = datePatternParts(pattern).find((part) => dayLetters.test(part))
  return type === 'time' && day !== undefined ? `A time of day has no ${day}; hours are HH, minutes mm.` : undefined
}

const padded = (n: number, letters: string): string => String(n).padStart(letters.length, '0')

/** Letters of a date pattern, and what they write. */
// eslint-disable-next-line complexity -- one case for each letter of a pattern
const writePart = (letters: string, day: number, ms: number): string => {
  const { year, month, day: dayOfMonth } = civilFromDays(day)
  const hour = Math.floor(ms / 3_600_000)
  const name = letters[0] === 'M' ? (monthNames[month - 1] as string) : (dayNames[weekday(day)] as string)
  switch (letters[0]) {
    case 'y':
      if (letters === 'yy') return padded(year % 100, 'yy')
      if (letters === 'y') return String(year)
      return padded(year, letters)
    case 'M':
      if (letters.length <= 2) return padded(month, letters)
      if (letters.length === 3) return name.slice(0, 3)
      return name
    case 'E':
      return letters.length <= 3 ? name.slice(0, 3) : name
    case 'd':
      return padded(dayOfMonth, letters)
    case 'H':
      return padded(hour, letters)
    case 'h':
      return padded(hour % 12 || 12, letters)
    case 'm':
      return padded(Math.floor(ms / 60_000) % 60, letters)
    case 's':
      return padded(Math.floor(ms / 1000) % 60, letters)
    case 'S':
      return String(ms % 1000)
        .padStart(3, '0')
        .slice(0, letters.length)
    default:
      return hour < 12 ? 'AM' : 'PM'
  }
}

const writeMoment = (cell: number, type: FormulaType | undefined, pattern: string): string => {
  const ms = type === 'date' ? cell * dayMs : cell
  return datePatternParts(pattern)
    .map((part) => (part.startsWith("'") ? part.slice(1) : writePart(part, dayOf(ms), timeOf(ms))))
    .join('')
}

const compiled = new Map<string, NumberPattern>()
const numberPattern = (pattern: string): NumberPattern => {
  let known = compiled.get(pattern)
  if (!known) compiled.set(pattern, (known = compileNumberPattern(pattern) as NumberPattern))
  return known
}

/** Letters of a date pattern as PostgreSQL's to_char writes them. */
const toChar: Readonly<Record<string, string>> = {
  yyyy: 'YYYY',
  y: 'FMYYYY',
  yy: 'YY',
  M: 'FMMM',
  MM: 'MM',
  MMM: 'Mon',
  MMMM: 'FMMonth',
  d: 'FMDD',
  dd: 'DD',
  H: 'FMHH24',
  HH: 'HH24',
  h: 'FMHH12',
  hh: 'HH12',
  m: 'FMMI',
  mm: 'MI',
  s: 'FMSS',
  ss: 'SS',
  S: 'MS1',
  SS: 'MS2',
  SSS: 'MS3',
  a: 'AM',
  EEE: 'Dy',
  EEEE: 'FMDay',
}
const sqlParts = (pattern: string): Code =>
  sql`array[${joined(
    datePatternParts(pattern).map((part) => sql`${part.startsWith("'") ? part : (ownValue(toChar, part) ?? '')}`),
    ', ',
  )}]`
const sqlMoment = (x: Code, type: FormulaType | undefined): Code =>
  type === 'time' ? sql`date '2000-01-01' + ${x}` : sql`${x}::timestamp`

const numberArguments = ({
  before,
  after,
  beforeMinus,
  afterMinus,
  leastDigits,
  leastPlaces,
  mostPlaces,
  group,
  factor,
}: NumberPattern) =>
  [before, after, beforeMinus, afterMinus, leastDigits, leastPlaces, mostPlaces, group, factor] as const

/** The functions that write and read text by a pattern. */
export const written = [
  define({
    name: 'TEXT',
    group: 'text',
    about: 'A number, a date or a time as text, written by a pattern such as "#,##0.00" or "dd/MM/yyyy".',
    args: [...args('x:written'), { name: 'pattern', need: 'text', constant: patternProblem }],
    result: 'text',
    fails: 'never',
    call: ([x, pattern], [type]) =>
      isMoment(type)
        ? writeMoment(x as number, type, String(pattern))
        : writeNumber(x as number, type === 'integer', numberPattern(String(pattern))),
    scripts: {
      sql: ([x = code('')], [type], [, pattern]) =>
        isMoment(type)
          ? sql`${sqlHelper('written_moment')}(${sqlMoment(x, type)}, ${sqlParts(String(pattern))})`
          : sql`${sqlHelper('written_number')}(${type === 'integer' ? sql`${x}::numeric` : sql`${x}::float8::numeric`}, ${joined(
              numberArguments(numberPattern(String(pattern))).map((one) => sql`${one}`),
              ', ',
            )})`,
      python: ([x = code('')], [type], [, pattern]) =>
        isMoment(type)
          ? py`${pyHelper('written_moment')}(${x}, ${datePatternParts(String(pattern))})`
          : py`${pyHelper('written_number')}(${x}, ${joined(
              numberArguments(numberPattern(String(pattern))).map((one) => py`${one}`),
              ', ',
            )})`,
    },
    examples: [
      ['TEXT(1234567.891; "#,##0.00")', '1,234,567.89'],
      ['TEXT(0.5; "#.##")', '.5'],
      ['TEXT(7; "000")', '007'],
      ['TEXT(-1204.5; "#,##0.0#;(#,##0.0#)")', '(1,204.5)'],
      ['TEXT(0.1275; "0.0 %")', '12.8 %'],
      ['TEXT(2.675; "0.00")', '2.68'],
      ['TEXT(-0.001; "0.0")', '0.0'],
      ['TEXT(9007199254740991; "#,##0.0")', '9,007,199,254,740,991.0'],
      ['TEXT(1e21; "0")', '1000000000000000000000'],
      ['TEXT(DATE(2031; 5; 2); "dd/MM/yyyy")', '02/05/2031'],
      ['TEXT(DATE(2031; 5; 2); "EEEE d MMMM yy, \'week of\' EEE")', 'Friday 2 May 31, week of Fri'],
      ['TEXT(DATETIME(DATE(2031; 5; 2); TIME(13; 5; 9)); "d MMM yyyy h:mm a")', '2 May 2031 1:05 PM'],
      ['TEXT(TIME(0; 7; 3); "HH.mm:ss,SSS")', '00.07:03,000'],
      ['TEXT(EMPTY; "0")', ''],
    ],
  }),
]

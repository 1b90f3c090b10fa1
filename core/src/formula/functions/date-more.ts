import { capital } from '../../messages/words.ts'
import { pythonPatterns, sqlPatterns } from '../../codegen/patterns.ts'
import { code, py, sql, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { civilFromDays, dayMs, dayOf, daysFromCivil, timeOf } from '../../table/calendar.ts'
import type { Cell } from '../../table/column.ts'
import { compileDatePattern } from '../../reading/date-pattern.ts'
import { textReader } from '../../reading/convert.ts'
import { failed, type CallResult, type FormulaType } from '../function-kind.ts'
import { addMonths, inRange, weekday } from './date.ts'
import { args, define, unitOf } from './define.ts'

const days = (cell: Cell | undefined, type: FormulaType | undefined): number =>
  type === 'datetime' ? dayOf(cell as number) : (cell as number)
const whole = (cell: Cell | undefined): number => Math.trunc((cell ?? 0) as number)

const timePattern = (value: Cell): string | undefined => {
  const compiled = compileDatePattern(String(value))
  return 'problem' in compiled ? `${capital(compiled.problem)}.` : undefined
}

/** ISO 8601 weeks: the first is that of the year's first Thursday. */
const isoWeek = (day: number): number => {
  const thursday = day - weekday(day) + 3
  return Math.floor((thursday - daysFromCivil(civilFromDays(thursday).year, 1, 1)) / 7) + 1
}
const weekModes = [1, 2, 11, 12, 13, 14, 15, 16, 17, 21]
/** The week of the year, the first being that of 1 January; `mode` says the day that weeks begin on, 21 is ISO's. */
const weekOfYear = (day: number, mode: number): number => {
  if (mode === 21) return isoWeek(day)
  // 1 begins on Sunday, 2 on Monday, 11 to 17 on Monday to Sunday
  const begins = { 1: 6, 2: 0 }[mode] ?? mode - 11
  const first = daysFromCivil(civilFromDays(day).year, 1, 1)
  return Math.floor((day - first + ((weekday(first) - begins + 7) % 7)) / 7) + 1
}

/** Monday to Friday up to and with a day, from some Monday long ago. */
const workdaysTo = (day: number): number => Math.floor((day + 3) / 7) * 5 + Math.min(weekday(day) + 1, 5)
const dayOfWorkdays = (count: number): number => Math.floor((count - 1) / 5) * 7 + ((((count - 1) % 5) + 5) % 5) - 3

const units = ['y', 'm', 'd', 'ym', 'yd', 'md'] as const

/** Whole years, months or days between; `ym`, `yd` and `md` what is left of them after whole years or months. */
const difference = (start: number, end: number, unit: (typeof units)[number]): CallResult => {
  if (start > end) return failed
  const a = civilFromDays(start)
  const b = civilFromDays(end)
  const months = (b.year - a.year) * 12 + b.month - a.month - (b.day < a.day ? 1 : 0)
  const years = Math.floor(months / 12)
  return {
    y: years,
    m: months,
    d: end - start,
    ym: months % 12,
    yd: end - addMonths(start, years * 12).clipped,
    md: end - addMonths(start, months).clipped,
  }[unit]
}

/** Further functions of dates and times. */
export const dateMore = [
  define({
    name: 'TIME',
    group: 'date and time',
    about: 'The time of day of an hour, minute and second; beyond a day it begins anew.',
    args: 'hour:number minute:number second:number',
    result: 'time',
    call: ([h, m, s]) => {
      const seconds = (whole(h) * 60 + whole(m)) * 60 + whole(s)
      return seconds < 0 || seconds > 1e12 ? failed : (seconds % 86_400) * 1000
    },
    examples: [
      ['TIME(9; 30; 0)', '09:30:00'],
      ['TIME(25; 61; 1)', '02:01:01'],
      ['TIME(-1; 0; 0)', ''],
    ],
  }),
  define({
    name: 'TIMEVALUE',
    group: 'date and time',
    about: 'The time that a text reads as, by a pattern such as "HH.mm"; ISO without one.',
    args: [...args('text:text'), { name: 'pattern', need: 'text', optional: true, constant: timePattern }],
    result: 'time',
    call: ([t, pattern]) =>
      textReader({ type: 'time', formats: pattern === undefined ? [] : [String(pattern)] })(t as string) ?? failed,
    scripts: {
      sql: ([t = code('')], _types, [, pattern]) =>
        sql`${sqlHelper('read_time')}(${t}, ${sqlPatterns(pattern === undefined ? [] : [String(pattern)])})`,
      python: ([t = code('')], _types, [, pattern]) =>
        py`${pyHelper('fx_timevalue')}(${t}, ${pythonPatterns(pattern === undefined ? [] : [String(pattern)])})`,
    },
    examples: [
      ['TIMEVALUE("09:30")', '09:30:00'],
      ['TIMEVALUE("9.05 pm"; "h.mm a")', '21:05:00'],
      ['TIMEVALUE("25:00")', ''],
    ],
  }),
  define({
    name: 'DATETIME',
    group: 'date and time',
    about: 'A date and a time of day together.',
    args: 'date:moment time:clock',
    result: 'datetime',
    call: ([d, t], [a, b]) => days(d, a) * dayMs + (b === 'datetime' ? timeOf(t as number) : (t as number)),
    scripts: {
      sql: ([d = code(''), t = code('')]) => sql`(${d}::date + ${t}::time)`,
    },
    examples: [
      ['DATETIME(DATE(2031; 5; 2); TIME(9; 30; 0))', '2031-05-02T09:30:00'],
      ['DATETIME(DATE(2031; 5; 2); EMPTY)', ''],
    ],
  }),
  define({
    name: 'ISOWEEKNUM',
    group: 'date and time',
    about: 'The week of the year by ISO 8601.',
    args: 'date:moment',
    result: 'integer',
    call: ([d], [type]) => isoWeek(days(d, type)),
    examples: [
      ['ISOWEEKNUM(DATE(2031; 1; 1))', '1'],
      ['ISOWEEKNUM(DATE(2033; 1; 1))', '53'],
      ['ISOWEEKNUM(DATE(2031; 5; 2))', '18'],
    ],
  }),
  define({
    name: 'WEEKNUM',
    group: 'date and time',
    about:
      'The week of the year, the first being that of 1 January; weeks begin on Monday, or by the mode: 1 on Sunday, 2 on Monday, 11 to 17 on Monday to Sunday; 21 counts by ISO 8601.',
    args: [
      ...args('date:moment'),
      {
        name: 'mode',
        need: 'number',
        optional: true,
        constant: (value) =>
          weekModes.includes(value as number) ? undefined : `The mode is one of ${weekModes.join(', ')}.`,
      },
    ],
    result: 'integer',
    call: ([d, mode = 11], [type]) => weekOfYear(days(d, type), mode as number),
    examples: [
      ['WEEKNUM(DATE(2031; 1; 1))', '1'],
      ['WEEKNUM(DATE(2031; 1; 6))', '2'],
      ['WEEKNUM(DATE(2033; 1; 1))', '1'],
      ['WEEKNUM(DATE(2033; 1; 3))', '2'],
      ['WEEKNUM(DATE(2031; 1; 5); 1)', '2'],
      ['WEEKNUM(DATE(2031; 1; 5); 2)', '1'],
      ['WEEKNUM(DATE(2031; 1; 4); 15)', '2'],
      ['WEEKNUM(DATE(2031; 1; 4); 17)', '1'],
      ['WEEKNUM(DATE(2033; 1; 1); 21)', '53'],
    ],
  }),
  define({
    name: 'NETWORKDAYS',
    group: 'date and time',
    about: 'Days from Monday to Friday between two dates, both counted; negative where the end comes first.',
    args: 'start:moment end:moment',
    result: 'integer',
    call: ([s, e], [a, b]) => {
      const [start, end] = [days(s, a), days(e, b)]
      return start <= end ? workdaysTo(end) - workdaysTo(start - 1) : 0 - (workdaysTo(start) - workdaysTo(end - 1))
    },
    examples: [
      ['NETWORKDAYS(DATE(2031; 5; 2); DATE(2031; 5; 12))', '7'],
      ['NETWORKDAYS(DATE(2031; 5; 3); DATE(2031; 5; 4))', '0'],
      ['NETWORKDAYS(DATE(2031; 5; 12); DATE(2031; 5; 2))', '-7'],
    ],
  }),
  define({
    name: 'WORKDAY',
    group: 'date and time',
    about: 'The date so many days from Monday to Friday later, or earlier.',
    args: 'start:moment n:number',
    result: 'date',
    call: ([s, n], [type]) => {
      const start = days(s, type)
      const count = whole(n)
      return Math.abs(count) > 3_000_000
        ? failed
        : inRange(
            count === 0
              ? start
              : dayOfWorkdays(count > 0 ? workdaysTo(start) + count : workdaysTo(start - 1) + count + 1),
          )
    },
    examples: [
      ['WORKDAY(DATE(2031; 5; 2); 1)', '2031-05-05'],
      ['WORKDAY(DATE(2031; 5; 3); -1)', '2031-05-02'],
      ['WORKDAY(DATE(2031; 5; 2); 10)', '2031-05-16'],
      ['WORKDAY(DATE(2031; 5; 3); 0)', '2031-05-03'],
    ],
  }),
  define({
    name: 'DATEDIF',
    group: 'date and time',
    about:
      'Whole years ("y"), months ("m") or days ("d") between two dates; "ym", "yd" and "md" what is left of months or days.',
    args: [...args('start:moment end:moment'), { name: 'unit', need: 'text', constant: unitOf(units) }],
    result: 'integer',
    call: ([s, e, unit], [a, b]) => difference(days(s, a), days(e, b), unit as (typeof units)[number]),
    examples: [
      ['DATEDIF(DATE(2028; 2; 29); DATE(2031; 2; 28); "y")', '2'],
      ['DATEDIF(DATE(2030; 5; 31); DATE(2031; 5; 2); "m")', '11'],
      ['DATEDIF(DATE(2031; 5; 2); DATE(2031; 5; 12); "d")', '10'],
      ['DATEDIF(DATE(2030; 1; 31); DATE(2031; 3; 1); "ym")', '1'],
      ['DATEDIF(DATE(2030; 1; 31); DATE(2031; 3; 1); "md")', '1'],
      ['DATEDIF(DATE(2030; 5; 2); DATE(2031; 5; 1); "yd")', '364'],
      ['DATEDIF(DATE(2031; 5; 2); DATE(2031; 5; 1); "d")', ''],
    ],
  }),
]

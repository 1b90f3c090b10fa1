import { pythonPatterns, sqlPatterns } from '../../codegen/patterns.ts'
import { code, py, pyHelper, sql, sqlHelper } from '../../codegen/tag.ts'
import { capital } from '../../messages/words.ts'
import { textReader } from '../../reading/convert.ts'
import { compileDatePattern, monthNames as lowerMonthNames } from '../../reading/date-pattern.ts'
import {
  civilFromDays,
  dayMs,
  dayOf,
  daysFromCivil,
  daysInMonth,
  firstDay,
  lastDay,
  timeOf,
} from '../../table/calendar.ts'
import type { Cell } from '../../table/column.ts'
import { failed, type CallResult, type FormulaFunction, type FormulaType } from '../function-kind.ts'
import { args, define, unitOf } from './define.ts'

const days = (cell: Cell | undefined, type: FormulaType | undefined): number =>
  type === 'datetime' ? dayOf(cell as number) : (cell as number)
/** The day where it is one that a date may be; a failed cell else. */
export const inRange = (day: number): CallResult => (day >= firstDay && day <= lastDay ? day : failed)
const trunc = (cell: Cell | undefined): number => Math.trunc((cell ?? 0) as number)

/** A date months away, the day cut to the month's last where it has fewer. */
export const addMonths = (day: number, months: number): { first: number; clipped: number; last: number } => {
  const { year, month, day: dayOfMonth } = civilFromDays(day)
  const index = year * 12 + month - 1 + months
  const y = Math.floor(index / 12)
  const m = (index % 12) + 1
  const length = daysInMonth(y, m)
  const first = daysFromCivil(y, m, 1)
  return { first, clipped: first + Math.min(dayOfMonth, length) - 1, last: first + length - 1 }
}

const part = (
  name: string,
  about: string,
  read: (day: number) => CallResult,
  examples: FormulaFunction['examples'],
): FormulaFunction =>
  define({
    name,
    group: 'date and time',
    about,
    args: 'date:moment',
    result: name.endsWith('NAME') ? 'text' : 'integer',
    call: ([d], [type]) => read(days(d, type)),
    examples,
  })

const clockPart = (
  name: 'HOUR' | 'MINUTE' | 'SECOND',
  unit: number,
  size: number,
  examples: FormulaFunction['examples'],
): FormulaFunction =>
  define({
    name,
    group: 'date and time',
    about: `The ${name.toLowerCase()} of a time or a date with time.`,
    args: 'time:clock',
    result: 'integer',
    call: ([t], [type]) => Math.floor((type === 'datetime' ? timeOf(t as number) : (t as number)) / unit) % size,
    scripts: {
      sql: ([t = code('')]) => sql`floor(extract(${code(name.toLowerCase())} from ${t}))::bigint`,
    },
    examples,
  })

/** The English names of the months, January first. */
export const monthNames = lowerMonthNames.map(capital)
/** The English names of the days of the week, Monday first. */
export const dayNames = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
/** 0 for Monday to 6 for Sunday. */
export const weekday = (day: number): number => (((day + 3) % 7) + 7) % 7

const units = ['year', 'quarter', 'month', 'week', 'day', 'hour'] as const
const patternProblem = (value: Cell): string | undefined => {
  const compiled = compileDatePattern(String(value))
  return 'problem' in compiled ? `${capital(compiled.problem)}.` : undefined
}
const kindProblem = (value: Cell): string | undefined =>
  [1, 2, 3, 11, 12, 13, 14, 15, 16, 17].includes(value as number)
    ? undefined
    : 'The kind is 1 (Sunday is 1), 2 (Monday is 1), 3 (Monday is 0) or 11 to 17.'

/** The first day of the span of time that a day is in. */
const firstDayOf = (day: number, unit: Exclude<(typeof units)[number], 'hour'>): number => {
  if (unit === 'day') return day
  if (unit === 'week') return day - weekday(day)
  const { year, month } = civilFromDays(day)
  if (unit === 'year') return daysFromCivil(year, 1, 1)
  return daysFromCivil(year, unit === 'quarter' ? month - ((month - 1) % 3) : month, 1)
}
const truncate = (ms: number, unit: (typeof units)[number]): number =>
  unit === 'hour' ? Math.floor(ms / 3_600_000) * 3_600_000 : firstDayOf(dayOf(ms), unit) * dayMs

const readPattern = new Map<string, (text: string) => Cell>()
const readDate = (text: string, pattern: string | undefined): CallResult => {
  const key = pattern ?? ''
  let read = readPattern.get(key)
  if (!read)
    readPattern.set(key, (read = textReader({ type: 'date', formats: pattern === undefined ? [] : [pattern] })))
  return read(text) ?? failed
}

/** The functions of dates. */
export const date = [
  define({
    name: 'DATE',
    group: 'date and time',
    about: 'The date of a year, month and day; a month 13 or a day 31 too many rolls over.',
    args: 'year:number month:number day:number',
    result: 'date',
    call: ([y, m, d]) => {
      const index = trunc(y) * 12 + trunc(m) - 1
      const year = Math.floor(index / 12)
      return year < -9999 || year > 99999
        ? failed
        : inRange(daysFromCivil(year, index - year * 12 + 1, 1) + trunc(d) - 1)
    },
    examples: [
      ['DATE(2031; 2; 30)', '2031-03-02'],
      ['DATE(2031; 13; 1)', '2032-01-01'],
      ['DATE(2031; 0; 15)', '2030-12-15'],
      ['DATE(2031; 5; 0)', '2031-04-30'],
      ['DATE(2; 3; -2000000)', ''],
      ['DATE(12000; 1; -1000000)', '9262-02-02'],
      ['DATE(12000; 1; 1)', ''],
    ],
  }),
  part('YEAR', 'The year of a date.', (day) => civilFromDays(day).year, [['YEAR(DATE(2031; 5; 2))', '2031']]),
  part('MONTH', 'The month of a date, 1 to 12.', (day) => civilFromDays(day).month, [
    ['MONTH(DATE(2031; 5; 2))', '5'],
    ['MONTH(EMPTY)', ''],
  ]),
  part('DAY', 'The day of the month, 1 to 31.', (day) => civilFromDays(day).day, [['DAY(DATE(2031; 5; 2))', '2']]),
  part('QUARTER', 'The quarter of the year, 1 to 4.', (day) => Math.ceil(civilFromDays(day).month / 3), [
    ['QUARTER(DATE(2031; 5; 2))', '2'],
    ['QUARTER(DATE(2031; 12; 31))', '4'],
  ]),
  part('MONTHNAME', 'The English name of the month.', (day) => monthNames[civilFromDays(day).month - 1] as string, [
    ['MONTHNAME(DATE(2031; 5; 2))', 'May'],
  ]),
  part('DAYNAME', 'The English name of the day of the week.', (day) => dayNames[weekday(day)] as string, [
    ['DAYNAME(DATE(2031; 5; 2))', 'Friday'],
  ]),
  clockPart('HOUR', 3_600_000, 24, [
    ['HOUR(TIME(14; 5; 9))', '14'],
    ['HOUR(DATETIME(DATE(2031; 5; 2); TIME(0; 0; 30)))', '0'],
    ['HOUR(EMPTY)', ''],
  ]),
  clockPart('MINUTE', 60_000, 60, [
    ['MINUTE(TIME(14; 5; 9))', '5'],
    ['MINUTE(DATETIME(DATE(2031; 5; 2); TIME(0; 0; 30)))', '0'],
    ['MINUTE(EMPTY)', ''],
  ]),
  clockPart('SECOND', 1000, 60, [
    ['SECOND(TIME(14; 5; 9))', '9'],
    ['SECOND(DATETIME(DATE(2031; 5; 2); TIME(0; 0; 30)))', '30'],
    ['SECOND(EMPTY)', ''],
  ]),
  define({
    name: 'WEEKDAY',
    group: 'date and time',
    about: 'The day of the week as a number; kind 1 (Sunday is 1), 2 (Monday is 1), 3 (Monday is 0), 11 to 17.',
    args: [...args('date:moment'), { name: 'kind', need: 'number', optional: true, constant: kindProblem }],
    result: 'integer',
    call: ([d, kind = 1], [type]) => {
      const w = weekday(days(d, type))
      const k = kind as number
      if (k === 3) return w
      // 1 begins on Sunday, 2 on Monday, 11 to 17 on Monday to Sunday
      const first = { 1: 6, 2: 0 }[k] ?? k - 11
      return ((w - first + 7) % 7) + 1
    },
    examples: [
      ['WEEKDAY(DATE(2031; 5; 2))', '6'],
      ['WEEKDAY(DATE(2031; 5; 2); 2)', '5'],
      ['WEEKDAY(DATE(2031; 5; 2); 3)', '4'],
      ['WEEKDAY(DATE(2031; 5; 2); 12)', '4'],
    ],
  }),
  ...(['EDATE', 'EOMONTH'] as const).map((name) =>
    define({
      name,
      group: 'date and time',
      about:
        name === 'EDATE'
          ? 'The date so many months later, the day cut to the month’s last.'
          : 'The last day of the month so many months later.',
      args: 'date:moment months:number',
      result: 'date',
      call: ([d, m], [type]) => {
        if (Math.abs(trunc(m)) > 120_000) return failed
        const moved = addMonths(days(d, type), trunc(m))
        return inRange(name === 'EDATE' ? moved.clipped : moved.last)
      },
      examples:
        name === 'EDATE'
          ? [
              ['EDATE(DATE(2031; 1; 31); 1)', '2031-02-28'],
              ['EDATE(DATE(2031; 5; 2); -5)', '2030-12-02'],
              ['EDATE(DATE(9999; 12; 1); 1)', ''],
            ]
          : [
              ['EOMONTH(DATE(2032; 1; 15); 1)', '2032-02-29'],
              ['EOMONTH(DATE(2031; 5; 2); 0)', '2031-05-31'],
            ],
    }),
  ),
  define({
    name: 'DAYS',
    group: 'date and time',
    about: 'Whole days from the start to the end.',
    args: 'end:moment start:moment',
    result: 'integer',
    call: ([end, start], [a, b]) => days(end, a) - days(start, b),
    examples: [
      ['DAYS(DATE(2031; 5; 12); DATE(2031; 5; 2))', '10'],
      ['DAYS(DATE(2031; 5; 2); DATE(2031; 5; 12))', '-10'],
    ],
  }),
  define({
    name: 'DATETRUNC',
    group: 'date and time',
    about: 'The start of the year, quarter, month, week (Monday), day or hour that a date is in.',
    args: [...args('date:moment'), { name: 'unit', need: 'text', constant: unitOf(units) }],
    result: ([type]) => (type === 'datetime' ? 'datetime' : 'date'),
    call: ([d, unit], [type]) => {
      const ms = truncate(type === 'datetime' ? (d as number) : (d as number) * dayMs, unit as (typeof units)[number])
      if (dayOf(ms) < firstDay) return failed
      if (type === 'datetime') return ms
      return dayOf(ms)
    },
    scripts: {
      pandas: ([d = code('')], [type], [, unit]) => {
        if (type !== 'date' || (unit !== 'month' && unit !== 'year')) return undefined
        const start = code(unit === 'month' ? 'day=1' : 'month=1, day=1')
        return py`${d}.map(lambda date: date.replace(${start}), na_action="ignore")`
      },
    },
    examples: [
      ['DATETRUNC(DATE(2031; 5; 2); "month")', '2031-05-01'],
      ['DATETRUNC(DATE(2031; 5; 2); "week")', '2031-04-28'],
      ['DATETRUNC(DATE(2031; 5; 2); "quarter")', '2031-04-01'],
      ['DATETRUNC(DATE(2031; 5; 2); "year")', '2031-01-01'],
    ],
  }),
  define({
    name: 'DATEVALUE',
    group: 'date and time',
    about: 'The date that a text reads as, by a pattern such as "dd/MM/yyyy"; ISO without one.',
    args: [...args('text:text'), { name: 'pattern', need: 'text', optional: true, constant: patternProblem }],
    result: 'date',
    call: ([t, pattern]) => readDate(t as string, pattern as string | undefined),
    scripts: {
      sql: ([t = code('')], _types, [, pattern]) =>
        sql`${sqlHelper('read_date')}(${t}, ${sqlPatterns(pattern === undefined ? [] : [String(pattern)])})`,
      python: ([t = code('')], _types, [, pattern]) =>
        py`${pyHelper('fx_datevalue')}(${t}, ${pythonPatterns(pattern === undefined ? [] : [String(pattern)])})`,
    },
    examples: [
      ['DATEVALUE("02/05/2031"; "dd/MM/yyyy")', '2031-05-02'],
      ['DATEVALUE("2031-05-02")', '2031-05-02'],
      ['DATEVALUE("31/02/2031"; "dd/MM/yyyy")', ''],
      ['DATEVALUE("2 May 31"; "d MMM yy")', '2031-05-02'],
    ],
  }),
  define({
    name: 'TODAY',
    group: 'date and time',
    about: 'The day of the run.',
    args: '',
    result: 'date',
    call: (_cells, _types, { now }) => dayOf(now),
    scripts: {
      sql: () => sql`${sqlHelper('run_day')}()`,
      python: () => code('now.date()'),
    },
    examples: [['TODAY() - TODAY()', '0']],
  }),
  define({
    name: 'NOW',
    group: 'date and time',
    about: 'The moment the run began.',
    args: '',
    result: 'datetime',
    call: (_cells, _types, { now }) => now,
    scripts: {
      sql: () => sql`${sqlHelper('run_moment')}()`,
      python: () => code('now'),
    },
    examples: [['NOW() - NOW()', '0']],
  }),
]

import { capital } from '../../words.ts'
import { pythonPatterns, sqlPatterns } from '../../generate/patterns.ts'
import { code, py, sql } from '../../generate/tag.ts'
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
import { compileDatePattern } from '../../table/date-pattern.ts'
import { textReader } from '../../table/reading.ts'
import { failed, type FormulaFunction, type Outcome, type Type } from '../function-kind.ts'
import { args, define, unitOf } from './define.ts'

const days = (cell: Cell | undefined, type: Type | undefined): number =>
  type === 'datetime' ? dayOf(cell as number) : (cell as number)
export const inRange = (day: number): Outcome => (day >= firstDay && day <= lastDay ? day : failed)
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
  sqlBody: string,
  python: string,
  read: (day: number) => Outcome,
  examples: FormulaFunction['examples'],
): FormulaFunction =>
  define({
    name,
    group: 'date and time',
    about,
    args: 'date:moment',
    result: name.endsWith('NAME') ? 'text' : 'integer',
    call: ([d], [type]) => read(days(d, type)),
    sqlHelper: `create function fx_${name.toLowerCase()}(d timestamp) returns ${name.endsWith('NAME') ? 'text' : 'bigint'} immutable language sql as $$ select ${sqlBody} $$;`,
    pythonHelper: `fx_${name.toLowerCase()} = by_row(lambda d: ${python})`,
    examples,
  })

const clockPart = (name: 'HOUR' | 'MINUTE' | 'SECOND', unit: number, size: number): FormulaFunction =>
  define({
    name,
    group: 'date and time',
    about: `The ${name.toLowerCase()} of a time or a date with time.`,
    args: 'time:clock',
    result: 'integer',
    call: ([t], [type]) => Math.floor((type === 'datetime' ? timeOf(t as number) : (t as number)) / unit) % size,
    sql: ([t = code('')]) => sql`floor(extract(${code(name.toLowerCase())} from ${t}))::bigint`,
    pythonHelper: `fx_${name.toLowerCase()} = by_row(lambda t: t.${name.toLowerCase()})`,
    examples: [],
  })

export const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]
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

const truncate = (ms: number, unit: (typeof units)[number]): number => {
  const day = dayOf(ms)
  const { year, month } = civilFromDays(day)
  if (unit === 'hour') return Math.floor(ms / 3_600_000) * 3_600_000
  const start =
    unit === 'year'
      ? daysFromCivil(year, 1, 1)
      : unit === 'quarter'
        ? daysFromCivil(year, month - ((month - 1) % 3), 1)
        : unit === 'month'
          ? daysFromCivil(year, month, 1)
          : unit === 'week'
            ? day - weekday(day)
            : day
  return start * dayMs
}

const readPattern = new Map<string, (text: string) => Cell>()
const readDate = (text: string, pattern: string | undefined): Outcome => {
  const key = pattern ?? ''
  let read = readPattern.get(key)
  if (!read)
    readPattern.set(key, (read = textReader({ type: 'date', formats: pattern === undefined ? [] : [pattern] })))
  return read(text) ?? failed
}

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
    sqlHelper: `create function fx_date(y float8, m float8, d float8) returns date immutable language sql as $$
  select case when i between -120000 and 1200000 and n between 0 and 3652058 then date '0001-01-01' + n::int end
  from (select trunc(y) * 12 + trunc(m) - 1 i) a,
    lateral (select floor(i / 12) - case when i - floor(i / 12) * 12 < 2 then 1 else 0 end c, i - floor(i / 12) * 12 - 2 + case when i - floor(i / 12) * 12 < 2 then 12 else 0 end p) b,
    lateral (select c * 365 + floor(c / 4) - floor(c / 100) + floor(c / 400) + floor((153 * p + 2) / 5) - 306 + trunc(d) - 1 n) e $$;`,
    pythonHelper: `def date_of(y, m, d):
    i = int(y) * 12 + int(m) - 1
    return datetime.date(1, 1, 1) + datetime.timedelta(days=first_of_month(i // 12, i % 12 + 1) + int(d) - 1)
def first_of_month(y, m):
    y0 = y - 1 if m <= 2 else y
    era, yoe = y0 // 400, y0 % 400
    return era * 146097 + yoe * 365 + yoe // 4 - yoe // 100 + (153 * (m - 3 if m > 2 else m + 9) + 2) // 5 - 306
fx_date = by_row(date_of)`,
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
  part('YEAR', 'The year of a date.', 'extract(year from d)::bigint', 'd.year', (day) => civilFromDays(day).year, [
    ['YEAR(DATE(2031; 5; 2))', '2031'],
  ]),
  part(
    'MONTH',
    'The month of a date, 1 to 12.',
    'extract(month from d)::bigint',
    'd.month',
    (day) => civilFromDays(day).month,
    [
      ['MONTH(DATE(2031; 5; 2))', '5'],
      ['MONTH(EMPTY)', ''],
    ],
  ),
  part(
    'DAY',
    'The day of the month, 1 to 31.',
    'extract(day from d)::bigint',
    'd.day',
    (day) => civilFromDays(day).day,
    [['DAY(DATE(2031; 5; 2))', '2']],
  ),
  part(
    'QUARTER',
    'The quarter of the year, 1 to 4.',
    'extract(quarter from d)::bigint',
    '(d.month + 2) // 3',
    (day) => Math.ceil(civilFromDays(day).month / 3),
    [
      ['QUARTER(DATE(2031; 5; 2))', '2'],
      ['QUARTER(DATE(2031; 12; 31))', '4'],
    ],
  ),
  part(
    'MONTHNAME',
    'The English name of the month.',
    "(string_to_array('" + monthNames.join(' ') + "', ' '))[extract(month from d)::int]",
    `"${monthNames.join(' ')}".split()[d.month - 1]`,
    (day) => monthNames[civilFromDays(day).month - 1] as string,
    [['MONTHNAME(DATE(2031; 5; 2))', 'May']],
  ),
  part(
    'DAYNAME',
    'The English name of the day of the week.',
    "(string_to_array('" + dayNames.join(' ') + "', ' '))[extract(isodow from d)::int]",
    `"${dayNames.join(' ')}".split()[d.weekday()]`,
    (day) => dayNames[weekday(day)] as string,
    [['DAYNAME(DATE(2031; 5; 2))', 'Friday']],
  ),
  clockPart('HOUR', 3_600_000, 24),
  clockPart('MINUTE', 60_000, 60),
  clockPart('SECOND', 1000, 60),
  define({
    name: 'WEEKDAY',
    group: 'date and time',
    about: 'The day of the week as a number; kind 1 (Sunday is 1), 2 (Monday is 1), 3 (Monday is 0), 11 to 17.',
    args: [...args('date:moment'), { name: 'kind', need: 'number', optional: true, constant: kindProblem }],
    result: 'integer',
    call: ([d, kind = 1], [type]) => {
      const w = weekday(days(d, type))
      const k = kind as number
      return k === 3 ? w : ((w - (k === 1 ? 6 : k === 2 ? 0 : k - 11) + 7) % 7) + 1
    },
    sqlHelper: `create function fx_weekday(d timestamp, k bigint default 1) returns bigint immutable language sql as $$
  select case when k = 3 then w else (w - case k when 1 then 6 when 2 then 0 else k - 11 end + 7) % 7 + 1 end from (select extract(isodow from d)::bigint - 1 w) t $$;`,
    pythonHelper:
      'fx_weekday = by_row(lambda d, k=1: d.weekday() if k == 3 else (d.weekday() - {1: 6, 2: 0}.get(k, k - 11) + 7) % 7 + 1)',
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
      sqlHelper: `create function fx_${name.toLowerCase()}(d timestamp, m float8) returns date immutable language sql as $$
  select case when abs(trunc(m)) <= 120000 then date_within((${name === 'EDATE' ? 'd::date + make_interval(months => trunc(m)::int)' : "date_trunc('month', d) + make_interval(months => trunc(m)::int + 1) - interval '1 day'"})::date) end $$;`,
      pythonHelper: `def ${name.toLowerCase()}(d, m):
    i = d.year * 12 + d.month - 1 + int(m)
    last = calendar.monthrange(i // 12, i % 12 + 1)[1]
    return datetime.date(i // 12, i % 12 + 1, ${name === 'EDATE' ? 'min(d.day, last)' : 'last'})
fx_${name.toLowerCase()} = by_row(${name.toLowerCase()})`,
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
    sqlHelper:
      'create function fx_days(e timestamp, s timestamp) returns bigint immutable language sql as $$ select (e::date - s::date)::bigint $$;',
    pythonHelper: 'fx_days = by_row(lambda e, s: day_of(e).toordinal() - day_of(s).toordinal())',
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
      return dayOf(ms) < firstDay ? failed : type === 'datetime' ? ms : dayOf(ms)
    },
    sqlHelper: `create function fx_datetrunc(d timestamp, u text) returns timestamp immutable language sql as $$ select date_trunc(u, d) $$;
create function fx_datetrunc(d date, u text) returns date immutable language sql as $$ select date_within(date_trunc(u, d::timestamp)::date) $$;`,
    pythonHelper: `def datetrunc(d, u):
    if u == "hour":
        return d.replace(minute=0, second=0, microsecond=0) if isinstance(d, datetime.datetime) else d
    m = {"year": 1, "quarter": d.month - (d.month - 1) % 3}.get(u, d.month)
    day = day_of(d)
    start = day if u == "day" else day - datetime.timedelta(days=day.weekday()) if u == "week" else datetime.date(d.year, m, 1)
    return datetime.datetime.combine(start, datetime.time()) if isinstance(d, datetime.datetime) else start
fx_datetrunc = by_row(datetrunc)`,
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
    sql: ([t = code('')], _types, [, pattern]) =>
      sql`read_date(${t}, ${sqlPatterns(pattern === undefined ? [] : [String(pattern)])})`,
    python: ([t = code('')], _types, [, pattern]) =>
      py`fx_datevalue(${t}, ${pythonPatterns(pattern === undefined ? [] : [String(pattern)])})`,
    pythonHelper: 'fx_datevalue = by_row(lambda t, p=None: read_date(t, p))',
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
    sql: () => code('run_day()'),
    python: () => code('TODAY'),
    examples: [['TODAY() - TODAY()', '0']],
  }),
  define({
    name: 'NOW',
    group: 'date and time',
    about: 'The moment the run began.',
    args: '',
    result: 'datetime',
    call: (_cells, _types, { now }) => now,
    sql: () => code('run_moment()'),
    python: () => code('NOW'),
    examples: [['NOW() - NOW()', '0']],
  }),
]

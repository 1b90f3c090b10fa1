import { capital } from '../../words.ts'
import { pythonPatterns, sqlPatterns } from '../../generate/patterns.ts'
import { code, py, sql } from '../../generate/tag.ts'
import { civilFromDays, dayMs, dayOf, daysFromCivil, timeOf } from '../../table/calendar.ts'
import type { Cell } from '../../table/column.ts'
import { compileDatePattern } from '../../table/date-pattern.ts'
import { textReader } from '../../table/reading.ts'
import { failed, type FormulaFunction, type Outcome, type Type } from '../function-kind.ts'
import { addMonths, inRange, weekday } from './date.ts'
import { args, define, unitOf } from './define.ts'

const days = (cell: Cell | undefined, type: Type | undefined): number =>
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
/** Weeks begin on Monday; the first is that of 1 January. */
const weekOfYear = (day: number): number => {
  const first = daysFromCivil(civilFromDays(day).year, 1, 1)
  return Math.floor((day - first + weekday(first)) / 7) + 1
}

const week = (
  name: 'ISOWEEKNUM' | 'WEEKNUM',
  about: string,
  read: (day: number) => number,
  sqlBody: string,
  python: string,
  examples: FormulaFunction['examples'],
): FormulaFunction =>
  define({
    name,
    group: 'date and time',
    about,
    args: 'date:moment',
    result: 'integer',
    call: ([d], [type]) => read(days(d, type)),
    sqlHelper: `create function fx_${name.toLowerCase()}(d timestamp) returns bigint immutable language sql as $$ select ${sqlBody} $$;`,
    pythonHelper: `fx_${name.toLowerCase()} = by_row(lambda d: ${python})`,
    examples,
  })

/** Monday to Friday up to and with a day, from some Monday long ago. */
const workdaysTo = (day: number): number => Math.floor((day + 3) / 7) * 5 + Math.min(weekday(day) + 1, 5)
const dayOfWorkdays = (count: number): number => Math.floor((count - 1) / 5) * 7 + ((((count - 1) % 5) + 5) % 5) - 3

const units = ['y', 'm', 'd', 'ym', 'yd', 'md'] as const

/** Whole years, months or days between; `ym`, `yd` and `md` what is left of them after whole years or months. */
const difference = (start: number, end: number, unit: (typeof units)[number]): Outcome => {
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
    sqlHelper: `create function fx_time(h float8, m float8, s float8) returns time immutable language sql as $$
  select case when x between 0 and 1e12 then time '00:00' + make_interval(secs => mod(x::numeric, 86400)::float8) end from (select (trunc(h) * 60 + trunc(m)) * 60 + trunc(s) x) t $$;`,
    pythonHelper: `def time_of(h, m, s):
    seconds = (int(h) * 60 + int(m)) * 60 + int(s)
    return (datetime.datetime.min + datetime.timedelta(seconds=seconds % 86400)).time() if 0 <= seconds <= 1e12 else None
fx_time = by_row(time_of)`,
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
    sql: ([t = code('')], _types, [, pattern]) =>
      sql`read_time(${t}, ${sqlPatterns(pattern === undefined ? [] : [String(pattern)])})`,
    python: ([t = code('')], _types, [, pattern]) =>
      py`fx_timevalue(${t}, ${pythonPatterns(pattern === undefined ? [] : [String(pattern)])})`,
    pythonHelper: 'fx_timevalue = by_row(lambda t, p=None: read_moment(t, p, "time"))',
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
    sql: ([d = code(''), t = code('')]) => sql`(${d}::date + ${t}::time)`,
    pythonHelper:
      'fx_datetime = by_row(lambda d, t: datetime.datetime.combine(day_of(d), t.time() if isinstance(t, datetime.datetime) else t))',
    examples: [
      ['DATETIME(DATE(2031; 5; 2); TIME(9; 30; 0))', '2031-05-02T09:30:00'],
      ['DATETIME(DATE(2031; 5; 2); EMPTY)', ''],
    ],
  }),
  week(
    'ISOWEEKNUM',
    'The week of the year by ISO 8601.',
    isoWeek,
    'extract(week from d)::bigint',
    'd.isocalendar()[1]',
    [
      ['ISOWEEKNUM(DATE(2031; 1; 1))', '1'],
      ['ISOWEEKNUM(DATE(2033; 1; 1))', '53'],
      ['ISOWEEKNUM(DATE(2031; 5; 2))', '18'],
    ],
  ),
  week(
    'WEEKNUM',
    'The week of the year, weeks beginning on Monday, the first being that of 1 January.',
    weekOfYear,
    "((extract(doy from d) - 1 + extract(isodow from date_trunc('year', d)) - 1)::bigint) / 7 + 1",
    '(d.timetuple().tm_yday - 1 + datetime.date(d.year, 1, 1).weekday()) // 7 + 1',
    [
      ['WEEKNUM(DATE(2031; 1; 1))', '1'],
      ['WEEKNUM(DATE(2031; 1; 6))', '2'],
      ['WEEKNUM(DATE(2033; 1; 1))', '1'],
      ['WEEKNUM(DATE(2033; 1; 3))', '2'],
    ],
  ),
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
    sqlHelper: `create function workdays_to(d date) returns bigint immutable language sql as $$
  select floor((d - date '1970-01-01' + 3) / 7.0)::bigint * 5 + least(extract(isodow from d)::bigint, 5) $$;
create function fx_networkdays(s timestamp, e timestamp) returns bigint immutable language sql as $$
  select case when s::date <= e::date then workdays_to(e::date) - workdays_to(s::date - 1) else -(workdays_to(s::date) - workdays_to(e::date - 1)) end $$;`,
    pythonHelper: `def workdays_to(n):
    return (n - 1) // 7 * 5 + min((n - 1) % 7 + 1, 5)
def networkdays(s, e):
    s, e = day_of(s).toordinal(), day_of(e).toordinal()
    return workdays_to(e) - workdays_to(s - 1) if s <= e else -(workdays_to(s) - workdays_to(e - 1))
fx_networkdays = by_row(networkdays)`,
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
    sqlHelper: `create function fx_workday(s timestamp, n float8) returns date immutable language sql as $$
  select case when abs(trunc(n)) <= 3000000 then date_within(case when trunc(n) = 0 then s::date else date '1970-01-01' + (floor((f - 1) / 5.0)::int * 7 + mod(mod(f - 1, 5) + 5, 5)::int - 3) end) end
  from (select case when trunc(n) > 0 then workdays_to(s::date) + trunc(n)::bigint else workdays_to(s::date - 1) + trunc(n)::bigint + 1 end f) t $$;`,
    pythonHelper: `def workday(s, n):
    n, at = int(n), day_of(s).toordinal()
    f = workdays_to(at) + n if n > 0 else workdays_to(at - 1) + n + 1
    return datetime.date.fromordinal(at if n == 0 else (f - 1) // 5 * 7 + (f - 1) % 5 + 1)
fx_workday = by_row(workday)`,
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
    sqlHelper: `create function moved_months(d date, m int) returns date immutable language sql as $$ select (d + make_interval(months => m))::date $$;
create function fx_datedif(s timestamp, e timestamp, u text) returns bigint immutable language sql as $$
  select case when a > b then null when u = 'y' then m / 12 when u = 'm' then m when u = 'd' then b - a when u = 'ym' then m % 12 when u = 'yd' then b - moved_months(a, m / 12 * 12) else b - moved_months(a, m) end::bigint
  from (select s::date a, e::date b, ((extract(year from e) - extract(year from s)) * 12 + extract(month from e) - extract(month from s) - case when extract(day from e) < extract(day from s) then 1 else 0 end)::int m) t $$;`,
    pythonHelper: `def datedif(s, e, u):
    s, e = day_of(s), day_of(e)
    if s > e:
        return None
    def moved(m):
        i = s.year * 12 + s.month - 1 + m
        return datetime.date(i // 12, i % 12 + 1, min(s.day, calendar.monthrange(i // 12, i % 12 + 1)[1]))
    m = (e.year - s.year) * 12 + e.month - s.month - (e.day < s.day)
    return m // 12 if u == "y" else m if u == "m" else (e - s).days if u == "d" else m % 12 if u == "ym" else (e - moved(m // 12 * 12 if u == "yd" else m)).days
fx_datedif = by_row(datedif)`,
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

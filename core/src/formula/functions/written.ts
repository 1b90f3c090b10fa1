import { ownValue } from '../../table/own.ts'
import { capital } from '../../words.ts'
import { code, joined, py, sql, type Code } from '../../generate/tag.ts'
import { civilFromDays, dayMs, dayOf, timeOf } from '../../table/calendar.ts'
import type { Cell } from '../../table/column.ts'
import { compileDatePattern, datePatternParts } from '../../table/date-pattern.ts'
import { compileNumberPattern, writeNumber, type NumberPattern } from '../../table/number-pattern.ts'
import type { Type } from '../function-kind.ts'
import { dayNames, monthNames, weekday } from './date.ts'
import { args, define } from './define.ts'

const isMoment = (type: Type | undefined): boolean => type === 'date' || type === 'datetime' || type === 'time'
const large = (text: string): string => `${capital(text)}.`
const dayLetters = /^[yMdE]/

/** Patterns for moments hold letters of dates and times, those for numbers # and 0. */
const patternProblem = (value: Cell, [type]: readonly Type[]): string | undefined => {
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
const writePart = (letters: string, day: number, ms: number): string => {
  const { year, month, day: dayOfMonth } = civilFromDays(day)
  const hour = Math.floor(ms / 3_600_000)
  const name = letters[0] === 'M' ? (monthNames[month - 1] as string) : (dayNames[weekday(day)] as string)
  switch (letters[0]) {
    case 'y':
      return letters === 'yy' ? padded(year % 100, 'yy') : letters === 'y' ? String(year) : padded(year, letters)
    case 'M':
      return letters.length <= 2 ? padded(month, letters) : letters.length === 3 ? name.slice(0, 3) : name
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

const writeMoment = (cell: number, type: Type | undefined, pattern: string): string => {
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
const sqlMoment = (x: Code, type: Type | undefined): Code =>
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
        : writeNumber(x as number, numberPattern(String(pattern))),
    sql: ([x = code('')], [type], [, pattern]) =>
      isMoment(type)
        ? sql`written_moment(${sqlMoment(x, type)}, ${sqlParts(String(pattern))})`
        : sql`written_number(${x}::float8, ${joined(
            numberArguments(numberPattern(String(pattern))).map((one) => sql`${one}`),
            ', ',
          )})`,
    python: ([x = code('')], [type], [, pattern]) =>
      isMoment(type)
        ? py`written_moment(${x}, ${datePatternParts(String(pattern))})`
        : py`written_number(${x}, ${joined(
            numberArguments(numberPattern(String(pattern))).map((one) => py`${one}`),
            ', ',
          )})`,
    sqlHelper: `-- a date or time by the pieces of a pattern; what begins with ' is plain text
create function written_moment(t timestamp, parts text[]) returns text immutable language sql as $$
  select case when t is not null then nullif(string_agg(case when left(p, 1) = '''' then substr(p, 2) when p like 'MS_' then left(to_char(t, 'MS'), right(p, 1)::int) else to_char(t, p) end, '' order by n), '') end from unnest(parts) with ordinality as u(p, n) $$;
-- a number by a pattern's text before and after it, its least digits, least and most places, the size of groups, 100 for %
create function written_number(x float8, b text, a text, bm text, am text, digits int, least_places int, most int, grouped int, factor int) returns text immutable language sql as $$
  select case when x is not null then nullif(case when x < 0 and size <> 0 then bm else b end
    || case when w = '' and f = '' then '0' when grouped = 0 then w else reverse(regexp_replace(reverse(w), '(.{' || grouped || '})(?=.)', '\\1,', 'g')) end
    || case when f = '' then '' else '.' || f end || case when x < 0 and size <> 0 then am else a end, '') end
  from (select round(abs((x * factor)::numeric), most) size) s,
    lateral (select trim_scale(size)::text t) t, lateral (select case when split_part(t, '.', 1) = '0' then '' else split_part(t, '.', 1) end w0, split_part(t, '.', 2) f0) p,
    lateral (select case when length(w0) < digits then lpad(w0, digits, '0') else w0 end w, case when length(f0) < least_places then rpad(f0, least_places, '0') else f0 end f) q $$;`,
    pythonHelper: `def moment_text(t, parts):
    hour, ms = getattr(t, "hour", 0), getattr(t, "microsecond", 0) // 1000
    ways = {"y": lambda n: "%02d" % (t.year % 100) if n == 2 else str(t.year) if n == 1 else "%0*d" % (n, t.year), "M": lambda n: "%0*d" % (n, t.month) if n < 3 else MONTH_NAMES[t.month - 1][:3 if n == 3 else None],
        "E": lambda n: DAY_NAMES[t.weekday()][:3 if n < 4 else None], "d": lambda n: "%0*d" % (n, t.day), "H": lambda n: "%0*d" % (n, hour), "h": lambda n: "%0*d" % (n, hour % 12 or 12),
        "m": lambda n: "%0*d" % (n, getattr(t, "minute", 0)), "s": lambda n: "%0*d" % (n, getattr(t, "second", 0)), "S": lambda n: ("%03d" % ms)[:n], "a": lambda n: "AM" if hour < 12 else "PM"}
    return "".join(p[1:] if p[0] == "'" else ways[p[0]](len(p)) for p in parts)
MONTH_NAMES = "${monthNames.join(' ')}".split()
DAY_NAMES = "${dayNames.join(' ')}".split()
def number_text(x, before, after, before_minus, after_minus, digits, least, most, group, factor):
    exact = Decimal("%.15g" % (x * factor))
    size = abs(exact) if -exact.as_tuple().exponent <= most else abs(exact).quantize(Decimal(1).scaleb(-most), rounding=ROUND_HALF_UP)
    whole_, _, places = format(size, "f").partition(".")
    whole_, places = whole_.lstrip("0").rjust(digits, "0"), places.rstrip("0").ljust(least, "0")
    if group:
        whole_ = re.sub(r"\\B(?=(?:.{%d})+$)" % group, ",", whole_)
    body = (whole_ or ("" if places else "0")) + ("." + places if places else "")
    return before_minus + body + after_minus if x < 0 and size != 0 else before + body + after
written_moment = lambda x, parts: by_row(lambda t: moment_text(t, parts))(x)
written_number = lambda x, *how: by_row(lambda v: number_text(v, *how))(x)`,
    examples: [
      ['TEXT(1234567.891; "#,##0.00")', '1,234,567.89'],
      ['TEXT(0.5; "#.##")', '.5'],
      ['TEXT(7; "000")', '007'],
      ['TEXT(-1204.5; "#,##0.0#;(#,##0.0#)")', '(1,204.5)'],
      ['TEXT(0.1275; "0.0 %")', '12.8 %'],
      ['TEXT(2.675; "0.00")', '2.68'],
      ['TEXT(-0.001; "0.0")', '0.0'],
      ['TEXT(1e21; "0")', '1000000000000000000000'],
      ['TEXT(DATE(2031; 5; 2); "dd/MM/yyyy")', '02/05/2031'],
      ['TEXT(DATE(2031; 5; 2); "EEEE d MMMM yy, \'week of\' EEE")', 'Friday 2 May 31, week of Fri'],
      ['TEXT(DATETIME(DATE(2031; 5; 2); TIME(13; 5; 9)); "d MMM yyyy h:mm a")', '2 May 2031 1:05 PM'],
      ['TEXT(TIME(0; 7; 3); "HH.mm:ss,SSS")', '00.07:03,000'],
      ['TEXT(EMPTY; "0")', ''],
    ],
  }),
]

import { writeColumn } from '@fabula/core'
import { formulaOf, fresh, isDate, typeOf, type Builder } from './builder.ts'
import { type AnyValue } from './values.ts'

const dateParts: readonly (readonly [string, string, (d: string) => string, string])[] = [
  ['year', 'the year', (d) => `YEAR(${d})`, 'Year'],
  ['quarter', 'the quarter, 1 to 4', (d) => `QUARTER(${d})`, 'Quarter'],
  ['month', 'the month, 1 to 12', (d) => `MONTH(${d})`, 'Month'],
  ['monthName', 'the name of the month', (d) => `MONTHNAME(${d})`, 'Month'],
  ['yearMonth', 'year and month, 2031-05', (d) => `TEXT(${d}; "yyyy-MM")`, 'Month'],
  ['yearQuarter', 'year and quarter, 2031 Q2', (d) => `YEAR(${d}) & " Q" & QUARTER(${d})`, 'Quarter'],
  ['week', 'the ISO week', (d) => `ISOWEEKNUM(${d})`, 'Week'],
  ['day', 'the day of the month', (d) => `DAY(${d})`, 'Day'],
  ['dayName', 'the day of the week', (d) => `DAYNAME(${d})`, 'Day'],
  ['monthStart', 'the first of its month', (d) => `DATETRUNC(${d}; "month")`, 'Month'],
  ['weekStart', 'the Monday of its week', (d) => `DATETRUNC(${d}; "week")`, 'Week of'],
  ['hour', 'the hour', (d) => `HOUR(${d})`, 'Hour'],
]

export const datePart: Builder = {
  id: 'date-part',
  verb: 'Take a part of the date…',
  words: ['date part', 'year', 'month', 'quarter', 'week', 'weekday', 'day of week', 'extract date', 'format date'],
  fits: (columns, schema) => columns.length === 1 && isDate(typeOf(columns[0], schema)),
  asks: (_answers, columns, schema) => [
    {
      key: 'part',
      words: 'Take',
      kind: 'choice',
      of: dateParts
        .filter(([key]) => key !== 'hour' || typeOf(columns[0], schema) === 'datetime')
        .map(([key, words]) => [key, words]),
    },
  ],
  start: () => ({ part: 'monthName' }),
  write: ({ part }, [column = ''], schema) => {
    const [, , formula, as] = dateParts.find(([key]) => key === part) ?? (dateParts[0] as (typeof dateParts)[number])
    return [
      { kind: 'derive', as: fresh(`${as} of ${column}`, schema), formula: formula(writeColumn(column)), after: column },
    ]
  },
}

const units: readonly (readonly [string, string, string])[] = [
  ['y', 'whole years', 'Years'],
  ['m', 'whole months', 'Months'],
  ['d', 'days', 'Days'],
  ['ym', 'years, with tenths', 'Years'],
]

export const difference: Builder = {
  id: 'difference',
  verb: 'Count the time to another date…',
  words: [
    'age',
    'difference',
    'duration',
    'days between',
    'years between',
    'datedif',
    'elapsed',
    'how old',
    'since',
    'until',
  ],
  fits: (columns, schema) =>
    columns.length >= 1 && columns.length <= 2 && columns.every((name) => isDate(typeOf(name, schema))),
  asks: (_answers, columns) => [
    { key: 'unit', words: 'Count', kind: 'choice', of: units.map(([key, words]) => [key, words]) },
    ...(columns.length === 1
      ? [{ key: 'until', words: `from ${columns[0] ?? ''} to`, kind: 'value', date: true } as const]
      : []),
  ],
  start: (columns, _schema, facts) => ({
    unit: columns.length === 2 ? 'd' : 'y',
    // the latest date of the column, until another is given
    until: columns.length === 2 ? { column: columns[1] ?? '' } : (facts?.greatest?.slice(0, 10) ?? ''),
  }),
  write: ({ unit, until }, [from = '', to], schema) => {
    if (until === '') return []
    const start = writeColumn(from)
    const end = to === undefined ? formulaOf(until as AnyValue, true) : writeColumn(to)
    const [, , name] = units.find(([key]) => key === unit) ?? (units[0] as (typeof units)[number])
    const chooseFormula = () => {
      if (unit === 'd') return `DAYS(${end}; ${start})`
      if (unit === 'ym') return `ROUND(DAYS(${end}; ${start}) / 365.25; 1)`
      return `IF(${start} <= ${end}; DATEDIF(${start}; ${end}; "${String(unit)}"); -DATEDIF(${end}; ${start}; "${String(unit)}"))`
    }
    const formula = chooseFormula()
    return [{ kind: 'derive', as: fresh(`${name} since ${from}`, schema), formula, after: to ?? from }]
  },
  says: (_answers, [from = '']) =>
    `It is more than 0 where ${from} comes first: from 2 May 2029 to 1 May 2031 is 1 whole year or 729 days, the other way round −1 and −729.`,
}

import {
  ownValue,
  freeName,
  writeColumn,
  writeParameter,
  type Schema,
  type NewStep,
  type Measure,
  type WindowHow,
  type Aggregate,
} from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import type { AnyValue } from './values.ts'

/** What a builder asks: one of a few, a number, a text, a column, or a value of any source. */
export type Ask =
  | {
      readonly key: string
      readonly words: string
      readonly kind: 'choice'
      readonly of: readonly (readonly [string, string])[]
    }
  | { readonly key: string; readonly words: string; readonly kind: 'number' | 'text' | 'list' }
  | {
      readonly key: string
      readonly words: string
      readonly kind: 'column'
      readonly types: readonly Schema[number]['type'][]
    }
  | { readonly key: string; readonly words: string; readonly kind: 'value'; readonly date: boolean }
export type BuilderAnswers = Readonly<Record<string, unknown>>
type Params = NewStep

/** A builder asks a few plain things and writes the sentence that says them. */
export type Builder = {
  readonly id: string
  readonly verb: string
  readonly words: readonly string[]
  readonly fits: (columns: readonly string[], schema: Schema) => boolean
  readonly asks: (answers: BuilderAnswers, columns: readonly string[], schema: Schema) => readonly Ask[]
  readonly start: (columns: readonly string[], schema: Schema, facts: ColumnFacts | undefined) => BuilderAnswers
  readonly write: (
    answers: BuilderAnswers,
    columns: readonly string[],
    schema: Schema,
    facts: ColumnFacts | undefined,
  ) => readonly Params[]
  /** What the answers mean, in a sentence. */
  readonly says?: (answers: BuilderAnswers, columns: readonly string[]) => string
}

const typeOf = (name: string | undefined, schema: Schema) => schema.find((field) => field.name === name)?.type
const isDate = (type: Schema[number]['type'] | undefined): boolean => type === 'date' || type === 'datetime'
const isNumber = (type: Schema[number]['type'] | undefined): boolean => type === 'integer' || type === 'decimal'
/** A name no column has: what is computed takes no column's place unawares. */
export const fresh = (name: string, schema: Schema, ...taken: readonly string[]): string =>
  freeName(name, [...schema.map((field) => field.name), ...taken])
const quote = (text: string): string => `"${text.replaceAll('"', '""')}"`

/** A value as a formula writes it. */
const formulaOf = (value: AnyValue, date: boolean): string => {
  if (typeof value === 'object' && value !== null)
    return 'column' in value ? writeColumn(value.column) : writeParameter(value.parameter)
  if (typeof value === 'number') return String(value)
  const m = date && typeof value === 'string' ? /^(\d{4})-(\d{2})-(\d{2})$/.exec(value) : null
  if (m) return `DATE(${Number(m[1])}; ${Number(m[2])}; ${Number(m[3])})`
  return value === null || value === '' ? 'EMPTY' : quote(String(value))
}

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

const datePart: Builder = {
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
const difference: Builder = {
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
  start: (columns) => ({
    unit: columns.length === 2 ? 'd' : 'y',
    until: columns.length === 2 ? { column: columns[1] ?? '' } : '2031-06-30',
  }),
  write: ({ unit, until }, [from = '', to], schema) => {
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

const signs: readonly (readonly [string, string])[] = [
  ['+', 'add'],
  ['-', 'take away'],
  ['*', 'multiply by'],
  ['/', 'divide by'],
]
const nouns: Readonly<Record<string, string>> = { '+': 'plus', '-': 'minus', '*': 'times', '/': 'by' }
const calculate: Builder = {
  id: 'calculate',
  verb: 'Calculate with it…',
  words: [
    'add',
    'subtract',
    'multiply',
    'divide',
    'round',
    'calculate',
    'arithmetic',
    'percent',
    'plus',
    'minus',
    'vat',
  ],
  fits: (columns, schema) => columns.length === 1 && isNumber(typeOf(columns[0], schema)),
  asks: () => [
    { key: 'sign', words: 'Do what', kind: 'choice', of: signs },
    { key: 'by', words: 'with', kind: 'value', date: false },
    {
      key: 'places',
      words: 'Round to',
      kind: 'choice',
      of: [
        ['none', 'not at all'],
        ['0', 'whole numbers'],
        ['1', 'one place'],
        ['2', 'two places'],
        ['3', 'three places'],
      ],
    },
  ],
  start: () => ({ sign: '*', by: 1.2, places: '2' }),
  write: ({ sign, by, places }, [column = ''], schema) => {
    const value = by as AnyValue
    const chooseOther = () => {
      if (typeof value === 'object' && value !== null) {
        if ('column' in value) return value.column
        return value.parameter
      }
      return String(value ?? '')
    }
    const other = chooseOther()
    const plain = `${writeColumn(column)} ${String(sign)} ${formulaOf(typeof value === 'string' ? Number(value) || 0 : value, false)}`
    return [
      {
        kind: 'derive',
        as: fresh(`${column} ${ownValue(nouns, String(sign)) ?? ''} ${other}`, schema),
        formula: places === 'none' ? plain : `ROUND(${plain}; ${String(places)})`,
        after: column,
      },
    ]
  },
}

const acrossWays: readonly (readonly [string, string, string])[] = [
  ['SUM', 'their sum', 'Sum'],
  ['AVERAGE', 'their mean', 'Mean'],
  ['MIN', 'the least', 'Least'],
  ['MAX', 'the greatest', 'Greatest'],
  ['COUNT', 'how many are filled', 'Filled'],
]
const across: Builder = {
  id: 'across',
  verb: 'Add them up in each row…',
  words: ['sum across', 'row total', 'add columns', 'average across', 'total of columns'],
  fits: (columns, schema) => columns.length > 1 && columns.every((name) => isNumber(typeOf(name, schema))),
  asks: () => [{ key: 'how', words: 'Take', kind: 'choice', of: acrossWays.map(([key, words]) => [key, words]) }],
  start: () => ({ how: 'SUM' }),
  write: ({ how }, columns, schema) => [
    {
      kind: 'derive',
      as: fresh(
        `${acrossWays.find(([key]) => key === how)?.[2] ?? 'Sum'} of ${columns.length > 3 ? `${columns.length} columns` : columns.join(' and ')}`,
        schema,
      ),
      formula: `${String(how)}(${columns.map(writeColumn).join('; ')})`,
      after: columns.at(-1) ?? '',
    },
  ],
}

const tidy = (value: number): number => Number(value.toPrecision(6))
/** Edges between bins, without the outer ends. */
export const edgesFor = ({ how, count, edges }: BuilderAnswers, facts: ColumnFacts | undefined): number[] => {
  if (how === 'hand')
    return (edges as readonly string[])
      .map(Number)
      .filter(Number.isFinite)
      .sort((a, b) => a - b)
  const percentiles = facts?.percentiles ?? []
  const n = Math.max(2, Math.min(20, Number(count) || 4))
  const [low, high] = [percentiles[0] ?? 0, percentiles.at(-1) ?? 100]
  const at = (share: number): number => {
    const place = share * (percentiles.length - 1)
    const [a, b] = [percentiles[Math.floor(place)] ?? low, percentiles[Math.ceil(place)] ?? high]
    return a + (b - a) * (place - Math.floor(place))
  }
  const found = Array.from({ length: n - 1 }, (_, i) =>
    tidy(how === 'quantile' ? at((i + 1) / n) : low + ((high - low) * (i + 1)) / n),
  )
  return [...new Set(found)]
}
const binLabel = (edges: readonly number[], i: number): string => {
  if (i === 0) return `below ${edges[0] ?? ''}`
  if (i === edges.length) return `${edges.at(-1) ?? ''} and more`
  return `${edges[i - 1] ?? ''} to ${edges[i] ?? ''}`
}
const bins: Builder = {
  id: 'bins',
  verb: 'Put its numbers into bands…',
  words: [
    'bin',
    'band',
    'bucket',
    'histogram',
    'quantile',
    'quartile',
    'ranges',
    'classes',
    'age group',
    'weight band',
  ],
  fits: (columns, schema) => columns.length === 1 && isNumber(typeOf(columns[0], schema)),
  asks: ({ how }) => [
    {
      key: 'how',
      words: 'Bands',
      kind: 'choice',
      of: [
        ['width', 'of equal width'],
        ['quantile', 'of equally many rows'],
        ['hand', 'by hand'],
      ],
    },
    how === 'hand'
      ? { key: 'edges', words: 'Where one band ends and the next begins, one a line', kind: 'list' }
      : { key: 'count', words: 'How many', kind: 'number' },
    { key: 'labels', words: 'Their names, one a line, from low to high; left out, their limits', kind: 'list' },
  ],
  start: () => ({ how: 'width', count: 4, edges: ['10', '20', '30'], labels: [] }),
  write: (answers, [column = ''], schema, facts) => {
    const edges = edgesFor(answers, facts)
    const labels = answers.labels as readonly string[]
    const name = (i: number): string => labels[i] ?? binLabel(edges, i)
    const as = fresh(`Band of ${column}`, schema)
    if (edges.length === 0)
      return [
        {
          kind: 'cases',
          as,
          cases: [{ when: { column, op: 'is-filled' }, then: name(0) }],
          otherwise: null,
          after: column,
        },
      ]
    const cases = edges.map((edge, i) => ({ when: { column, op: 'less' as const, value: edge }, then: name(i) }))
    return [
      {
        kind: 'cases',
        as,
        cases: [...cases, { when: { column, op: 'is-filled' }, then: name(edges.length) }],
        otherwise: null,
        after: column,
      },
    ]
  },
  says: () => 'A number on a limit belongs to the band above it; an empty cell stays empty.',
}

const indicators: Builder = {
  id: 'indicators',
  verb: 'Make yes-or-no columns of its values…',
  words: ['indicator', 'dummy', 'one hot', 'flag', 'yes no', 'has', 'tick', 'boolean columns'],
  fits: (columns, schema) =>
    columns.length === 1 && (typeOf(columns[0], schema) === 'text' || typeOf(columns[0], schema) === 'integer'),
  asks: () => [
    { key: 'values', words: 'A column for each of these, one a line', kind: 'list' },
    {
      key: 'match',
      words: 'It is yes where the cell',
      kind: 'choice',
      of: [
        ['is', 'is the value'],
        ['contains', 'holds it somewhere'],
      ],
    },
    {
      key: 'as',
      words: 'Written as',
      kind: 'choice',
      of: [
        ['boolean', 'true and false'],
        ['number', '1 and 0'],
      ],
    },
  ],
  start: (_columns, _schema, facts) => ({
    values: facts?.common.slice(0, 3).map(({ label }) => label) ?? [],
    match: 'is',
    as: 'boolean',
  }),
  write: ({ values, match, as }, [column = ''], schema) => {
    const text = typeOf(column, schema) === 'text'
    const made: string[] = []
    return (values as readonly string[]).map((value) => {
      made.push(fresh(value, schema, ...made))
      const chooseTest = () => {
        if (!text) return `${writeColumn(column)} = ${Number(value)}`
        if (match === 'contains')
          return `IF(ISBLANK(${writeColumn(column)}); FALSE; CONTAINS(LOWER(${writeColumn(column)}); ${quote(value.toLowerCase())}))`
        return `${writeColumn(column)} = ${quote(value)}`
      }
      const test = chooseTest()
      return { kind: 'derive', as: made.at(-1) ?? value, formula: as === 'number' ? `IF(${test}; 1; 0)` : test }
    })
  },
}

const pieceWays: readonly (readonly [string, string])[] = [
  ['LEFT', 'the first characters'],
  ['RIGHT', 'the last characters'],
  ['UPPER', 'in large letters'],
  ['LOWER', 'in small letters'],
  ['PROPER', 'With Large First Letters'],
  ['LEN', 'how long it is'],
  ['PAD', 'filled up in front to a length'],
]
const textPieces: Builder = {
  id: 'text-pieces',
  verb: 'Write it another way…',
  words: ['left', 'right', 'upper', 'lower', 'initials', 'pad', 'length', 'prefix', 'code', 'text function'],
  fits: (columns, schema) => columns.length === 1 && typeOf(columns[0], schema) === 'text',
  asks: ({ way }) => [
    { key: 'way', words: 'Take', kind: 'choice', of: pieceWays },
    ...(way === 'LEFT' || way === 'RIGHT' || way === 'PAD'
      ? [{ key: 'n', words: 'How many characters', kind: 'number' } as const]
      : []),
    ...(way === 'PAD' ? [{ key: 'fill', words: 'Filled up with', kind: 'text' } as const] : []),
    { key: 'before', words: 'Put before it', kind: 'text' },
    { key: 'after', words: 'Put after it', kind: 'text' },
  ],
  start: () => ({ way: 'UPPER', n: 3, fill: '0', before: '', after: '' }),
  write: ({ way, n, fill, before, after }, [column = ''], schema) => {
    const c = writeColumn(column)
    const chooseMiddle = () => {
      if (way === 'LEFT' || way === 'RIGHT') return `${String(way)}(${c}; ${Number(n) || 1})`
      if (way === 'PAD') return `PADLEFT(${c}; ${Number(n) || 1}; ${quote(String(fill) || ' ')})`
      return `${String(way)}(${c})`
    }
    const middle = chooseMiddle()
    return [
      {
        kind: 'derive',
        as: fresh(column, schema),
        formula: [
          before === '' ? '' : `${quote(String(before))} & `,
          middle,
          after === '' ? '' : ` & ${quote(String(after))}`,
        ].join(''),
        after: column,
      },
    ]
  },
}

const spans: readonly (readonly [string, string, (d: string) => string, string])[] = [
  ['day', 'day', (d) => `DATETRUNC(${d}; "day")`, 'Day'],
  ['week', 'week, by its Monday', (d) => `DATETRUNC(${d}; "week")`, 'Week'],
  ['month', 'month', (d) => `TEXT(${d}; "yyyy-MM")`, 'Month'],
  ['quarter', 'quarter', (d) => `YEAR(${d}) & " Q" & QUARTER(${d})`, 'Quarter'],
  ['year', 'year', (d) => `YEAR(${d})`, 'Year'],
]
/** The rows and the total of each number, under names that none of the keys has. */
export const measuresOf = (numbers: readonly string[], keys: readonly string[]): Measure[] =>
  [
    { how: 'count' as const, as: 'Rows' },
    ...numbers.map((column) => ({ how: 'sum' as const, column, as: `Total ${column}` })),
  ].reduce<Measure[]>(
    (made, measure) => [...made, { ...measure, as: freeName(measure.as, [...keys, ...made.map(({ as }) => as)]) }],
    [],
  )
/** Summarise by a span of time: the span is computed and the rows are summarised by it, in one gesture. */
const period: Builder = {
  id: 'period',
  verb: 'Summarise by day, week, month…',
  words: [
    'summarise by month',
    'group by month',
    'monthly',
    'weekly',
    'quarterly',
    'yearly',
    'time series',
    'per month',
    'date group',
  ],
  fits: (columns, schema) =>
    columns.some((name) => isDate(typeOf(name, schema))) &&
    columns.filter((name) => isDate(typeOf(name, schema))).length === 1,
  asks: () => [
    { key: 'span', words: 'For each', kind: 'choice', of: spans.map(([key, words]) => [key, words]) },
    {
      key: 'order',
      words: 'In the order of',
      kind: 'choice',
      of: [
        ['time', 'time'],
        ['rows', 'the rows'],
        ['largest', 'the largest first'],
      ],
    },
  ],
  start: () => ({ span: 'month', order: 'time' }),
  write: ({ span, order }, columns, schema) => {
    const date = columns.find((name) => isDate(typeOf(name, schema))) ?? ''
    const [, , formula, plain] = spans.find(([key]) => key === span) ?? (spans[2] as (typeof spans)[number])
    const as = fresh(plain, schema)
    const numbers = columns.filter((name) => isNumber(typeOf(name, schema)))
    const keys = columns.filter((name) => name !== date && !numbers.includes(name))
    const measures = measuresOf(numbers, [as, ...keys])
    const by =
      order === 'largest'
        ? [{ column: measures.at(-1)?.as ?? 'Rows', descending: true }]
        : [as, ...keys].map((column) => ({ column }))
    return [
      { kind: 'derive', as, formula: formula(writeColumn(date)), after: date },
      { kind: 'summarise', by: [as, ...keys], measures },
      ...(order === 'rows' ? [] : [{ kind: 'sort' as const, by }]),
    ]
  },
}

const besideWays: readonly (readonly [string, string, boolean])[] = [
  ['sum', 'the total of its group', true],
  ['mean', 'the mean of its group', true],
  ['count', 'how many rows its group has', false],
  ['share', 'its share of the group', true],
  ['rank', 'its rank in the group', false],
  ['running-sum', 'the running total', true],
  ['previous', 'the value before it', true],
  ['next', 'the value after it', true],
  ['first', 'the first of the group', true],
  ['last', 'the latest of the group', true],
]
/** A figure of the group beside every row, in plain questions. */
const beside: Builder = {
  id: 'beside',
  verb: 'Put a figure of its group beside every row…',
  words: [
    'window',
    'running total',
    'cumulative',
    'rank',
    'previous',
    'lag',
    'lead',
    'share of total',
    'percent of total',
    'group total',
    'partition',
    'over',
    'first visit',
    'latest visit',
    'beside',
  ],
  fits: (columns) => columns.length >= 1,
  asks: ({ how }) => [
    { key: 'how', words: 'Put beside every row', kind: 'choice', of: besideWays.map(([key, words]) => [key, words]) },
    ...(besideWays.find(([key]) => key === how)?.[2]
      ? [
          {
            key: 'column',
            words: 'Of',
            kind: 'column',
            types:
              how === 'sum' || how === 'mean' || how === 'share' || how === 'running-sum'
                ? (['integer', 'decimal'] as const)
                : [],
          } as const,
        ]
      : []),
    { key: 'by', words: 'The group: rows alike in', kind: 'column', types: [] },
    ...(['rank', 'running-sum', 'previous', 'next', 'first', 'last'].includes(String(how))
      ? [
          { key: 'order', words: 'In the order of', kind: 'column', types: [] } as const,
          {
            key: 'way',
            words: 'From',
            kind: 'choice',
            of: [
              ['up', 'low to high'],
              ['down', 'high to low'],
            ],
          } as const,
        ]
      : []),
  ],
  start: (columns, schema) => ({
    how: 'sum',
    column:
      columns.find((name) => isNumber(typeOf(name, schema))) ??
      schema.find(({ type }) => isNumber(type))?.name ??
      columns[0] ??
      '',
    by: columns.find((name) => !isNumber(typeOf(name, schema))) ?? '',
    order: schema.find(({ type }) => isDate(type))?.name ?? columns[0] ?? '',
    way: 'up',
  }),
  write: ({ how, column, by, order, way }, _columns, schema) => {
    const of = String(column)
    const ordered = ['rank', 'running-sum', 'previous', 'next', 'first', 'last'].includes(String(how))
    const needs = besideWays.find(([key]) => key === how)?.[2] === true
    const names: Readonly<Record<string, string>> = {
      sum: `Total ${of}`,
      mean: `Mean ${of}`,
      count: 'Rows of its group',
      share: `Share of ${of}`,
      rank: `Rank by ${String(order)}`,
      'running-sum': `Running ${of}`,
      previous: `${of} before`,
      next: `${of} after`,
      first: `First ${of}`,
      last: `Latest ${of}`,
    }
    if (needs && !schema.some(({ name }) => name === of)) return []
    return [
      {
        kind: 'window',
        ...(by === '' ? {} : { by: [String(by)] }),
        ...(ordered && order !== ''
          ? { order: [{ column: String(order), ...(way === 'down' ? { descending: true } : {}) }] }
          : {}),
        measures: [
          { how: how as WindowHow, ...(needs ? { column: of } : {}), as: ownValue(names, String(how)) ?? 'Figure' },
        ],
      },
    ]
  },
}

/** The values of each group in one cell, as a list or as text, in an order, with or without repeats. */
const collect: Builder = {
  id: 'collect',
  verb: 'Collect its values for each…',
  words: [
    'collect',
    'list',
    'concatenate rows',
    'string agg',
    'group concat',
    'join rows',
    'rows to list',
    'all values of',
  ],
  fits: (columns, schema) => columns.length === 1 && schema.length > 1 && typeOf(columns[0], schema) !== 'list',
  asks: ({ as }) => [
    { key: 'by', words: 'For each', kind: 'column', types: [] },
    {
      key: 'as',
      words: 'As',
      kind: 'choice',
      of: [
        ['list', 'a list'],
        ['join', 'joined text'],
      ],
    },
    ...(as === 'join' ? [{ key: 'between', words: 'With between', kind: 'text' } as const] : []),
    {
      key: 'once',
      words: 'A value that repeats',
      kind: 'choice',
      of: [
        ['once', 'once'],
        ['all', 'each time'],
      ],
    },
    { key: 'order', words: 'In the order of', kind: 'column', types: [] },
  ],
  start: (columns, schema) => ({
    by:
      schema.find(({ name, type }) => name !== columns[0] && type === 'text')?.name ??
      schema.find(({ name }) => name !== columns[0])?.name ??
      '',
    as: 'join',
    between: ', ',
    once: 'once',
    order: '',
  }),
  write: ({ by, as, between, once, order }, [column = '']) => [
    ...(once === 'once' ? [{ kind: 'distinct' as const, columns: by === '' ? [column] : [String(by), column] }] : []),
    {
      kind: 'summarise',
      by: by === '' ? [] : [String(by)],
      measures: [
        {
          how: as as Aggregate,
          column,
          as: column,
          ...(as === 'join' ? { separator: String(between) } : {}),
          ...(order === '' ? {} : { order: [{ column: String(order) }] }),
        },
      ],
    },
  ],
}

/** Totals for each value and one row for all together: each row is counted once for its value and once for the whole, so that means are right too. */
const withTotal: Builder = {
  id: 'with-total',
  verb: 'Summarise with a grand total row…',
  words: ['grand total', 'total row', 'subtotal', 'all together', 'rollup', 'summarise with total'],
  fits: (columns, schema) =>
    columns.filter((name) => !isNumber(typeOf(name, schema))).length === 1 &&
    columns.every((name) => typeOf(name, schema) !== 'list'),
  asks: () => [{ key: 'label', words: 'The last row is called', kind: 'text' }],
  start: () => ({ label: 'Total' }),
  write: ({ label }, columns, schema) => {
    const key = columns.find((name) => !isNumber(typeOf(name, schema))) ?? ''
    const total = quote(String(label) || 'Total')
    const measures = measuresOf(
      columns.filter((name) => name !== key),
      [key],
    )
    const last = freeName('Is the total', [key, ...measures.map(({ as }) => as)])
    return [
      { kind: 'derive', as: key, formula: `LIST(${writeColumn(key)} & ""; ${total})` },
      { kind: 'unroll', column: key },
      { kind: 'summarise', by: [key], measures },
      { kind: 'derive', as: last, formula: `${writeColumn(key)} = ${total}` },
      { kind: 'sort', by: [{ column: last }] },
      { kind: 'drop', columns: [last] },
    ]
  },
}

/** The same words in every row: what a table's rows are called before they lie with others. */
const tag: Builder = {
  id: 'tag',
  verb: 'Write the same in every row…',
  words: ['constant', 'tag', 'label', 'same value', 'mark', 'flag', 'literal'],
  fits: (columns) => columns.length === 1,
  asks: () => [
    { key: 'text', words: 'In every row write', kind: 'text' },
    { key: 'as', words: 'in a column called', kind: 'text' },
  ],
  start: (_columns, schema) => ({ text: 'yes', as: fresh('Tag', schema) }),
  write: ({ text, as }) => [{ kind: 'derive', as: String(as) || 'Tag', formula: quote(String(text)) }],
}

export const builders: readonly Builder[] = [
  period,
  withTotal,
  beside,
  collect,
  datePart,
  difference,
  calculate,
  across,
  bins,
  indicators,
  textPieces,
  tag,
]
export const builderNamed = (id: string | undefined): Builder | undefined => builders.find((one) => one.id === id)

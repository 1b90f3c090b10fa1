import { countAndTotals, freeName, ownValue, writeColumn, type Aggregate, type WindowHow } from '@fabula/core'
import { fresh, isDate, isNumber, quote, typeOf, type Builder } from './builder.ts'

const spans: readonly (readonly [string, string, (d: string) => string, string])[] = [
  ['day', 'day', (d) => `DATETRUNC(${d}; "day")`, 'Day'],
  ['week', 'week, by its Monday', (d) => `DATETRUNC(${d}; "week")`, 'Week'],
  ['month', 'month', (d) => `TEXT(${d}; "yyyy-MM")`, 'Month'],
  ['quarter', 'quarter', (d) => `YEAR(${d}) & " Q" & QUARTER(${d})`, 'Quarter'],
  ['year', 'year', (d) => `YEAR(${d})`, 'Year'],
]

/** Summarise by a span of time: the span is computed and the rows are summarised by it, in one gesture. */
export const period: Builder = {
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
    const measures = countAndTotals(numbers, [as, ...keys])
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
export const beside: Builder = {
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
    // all selected columns that are no figures are the group
    more: columns.filter((name) => !isNumber(typeOf(name, schema))).slice(1),
    order: schema.find(({ type }) => isDate(type))?.name ?? columns[0] ?? '',
    way: 'up',
  }),
  write: ({ how, column, by, more, order, way }, _columns, schema) => {
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
        ...(by === '' ? {} : { by: [...new Set([String(by), ...(more as readonly string[])])] }),
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
export const collect: Builder = {
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
export const withTotal: Builder = {
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
    const measures = countAndTotals(
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
export const tag: Builder = {
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

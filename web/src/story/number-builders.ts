import { listed, ownValue, quoted, writeColumn } from '@fabula/core'
import { type ColumnFacts } from '@fabula/core/api'
import { formulaOf, fresh, isNumber, quote, typeOf, type Builder, type BuilderAnswers } from './builder.ts'
import { type AnyValue } from './values.ts'
import { typedNumber } from './typed-number.ts'

const signs: readonly (readonly [string, string])[] = [
  ['+', 'add'],
  ['-', 'take away'],
  ['*', 'multiply by'],
  ['/', 'divide by'],
]

const nouns: Readonly<Record<string, string>> = { '+': 'plus', '-': 'minus', '*': 'times', '/': 'by' }

export const calculate: Builder = {
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
    const value = typeof by === 'string' ? typedNumber(by) : (by as AnyValue)
    // without a number there is nothing to calculate
    if (value === undefined || value === null) return []
    const chooseOther = () => {
      if (typeof value === 'object' && value !== null) {
        if ('column' in value) return value.column
        return value.parameter
      }
      return String(value ?? '')
    }
    const other = chooseOther()
    const plain = `${writeColumn(column)} ${String(sign)} ${formulaOf(value, false)}`
    return [
      {
        kind: 'derive',
        as: fresh(`${column} ${ownValue(nouns, String(sign)) ?? ''} ${other}`, schema),
        formula: places === 'none' ? plain : `ROUND(${plain}; ${String(places)})`,
        after: column,
      },
    ]
  },
  says: ({ by }) =>
    typeof by === 'string' && by !== '' && typedNumber(by) === undefined
      ? `“${by}” is no number; the sentence keeps the last one.`
      : '',
}

const acrossWays: readonly (readonly [string, string, string])[] = [
  ['SUM', 'their sum', 'Sum'],
  ['AVERAGE', 'their mean', 'Mean'],
  ['MIN', 'the least', 'Least'],
  ['MAX', 'the greatest', 'Greatest'],
  ['COUNT', 'how many are filled', 'Filled'],
]

export const across: Builder = {
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
    return (edges as readonly string[]).flatMap((edge) => typedNumber(edge) ?? []).sort((a, b) => a - b)
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

export const bins: Builder = {
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
  says: ({ how, edges }) => {
    const unread = how === 'hand' ? (edges as readonly string[]).filter((edge) => typedNumber(edge) === undefined) : []
    const left = unread.length > 0 ? ` ${listed(unread.map(quoted))} is no number and makes no band.` : ''
    return `A number on a limit belongs to the band above it; an empty cell stays empty.${left}`
  },
}

export const indicators: Builder = {
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
    // a column whose type is not known yet is compared as text, never with a number that is none
    const text = typeOf(column, schema) !== 'integer'
    const made: string[] = []
    return (values as readonly string[]).map((value) => {
      made.push(fresh(value, schema, ...made))
      const chooseTest = () => {
        if (!text) return `${writeColumn(column)} = ${typedNumber(value) ?? 'EMPTY'}`
        if (match === 'contains')
          return `IF(ISBLANK(${writeColumn(column)}); FALSE; CONTAINS(LOWER(${writeColumn(column)}); ${quote(value.toLowerCase())}))`
        return `${writeColumn(column)} = ${quote(value)}`
      }
      const test = chooseTest()
      return { kind: 'derive', as: made.at(-1) ?? value, formula: as === 'number' ? `IF(${test}; 1; 0)` : test }
    })
  },
}

import { writeColumn } from '@fabula/core'
import { type Builder, typeOf, fresh, quote } from './builder.ts'
import { datePart, difference } from './date-builders.ts'
import { calculate, across, bins, indicators } from './number-builders.ts'
import { period, beside, collect, withTotal, tag } from './group-builders.ts'

const pieceWays: readonly (readonly [string, string])[] = [
  ['LEFT', 'the first characters'],
  ['RIGHT', 'the last characters'],
  ['UPPER', 'in large letters'],
  ['LOWER', 'in small letters'],
  ['PROPER', 'With Large First Letters'],
  ['LEN', 'how long it is'],
  ['PAD', 'filled up in front to a length'],
  ['AS', 'as it stands'],
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
      if (way === 'AS') return c
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

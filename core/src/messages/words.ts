import { distance } from 'fastest-levenshtein'
import type { ColumnType } from '../table/column.ts'
import { lower } from '../table/text.ts'

/** The same words, the first letter large. */
export const capital = (text: string): string => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}`
/** A name or value as it stands in a sentence: “Visit date”. */
export const quoted = (text: string): string => `“${text}”`

/** a, b and c */
export const listed = (items: readonly string[], last = 'and'): string =>
  items.length <= 1 ? (items[0] ?? '') : `${items.slice(0, -1).join(', ')} ${last} ${items.at(-1) ?? ''}`

/** A number with thousands separated: 1,204. */
export const figure = (n: number): string => n.toLocaleString('en-GB')

/** Thousands are separated from so many digits before the point on: years are not. */
const groupedFrom = 5
/** A plain decimal number with thousands separated: 12,045.5. Years and numbers with an exponent stay. */
export const groupedNumber = (text: string): string => {
  const [whole = '', ...decimals] = text.split('.')
  if (!/^-?\d+$/.test(whole) || whole.replace('-', '').length < groupedFrom) return text
  return [whole.replace(/\B(?=(?:\d{3})+$)/g, ','), ...decimals].join('.')
}

/** 1 row, 2 rows */
export const counted = (n: number, one: string, many = `${one}s`): string => `${figure(n)} ${n === 1 ? one : many}`

/** Each column type as it stands in a sentence. */
export const typeWords: Readonly<Record<ColumnType, string>> = {
  text: 'text',
  integer: 'a whole number',
  decimal: 'a number',
  boolean: 'yes or no',
  date: 'a date',
  datetime: 'a date and time',
  time: 'a time',
  list: 'a list',
}

/** The names most like the one asked for, nearest first, at most three. */
export const nearest = (wanted: string, names: readonly string[]): string[] => {
  const aim = lower(wanted)
  const score = (name: string): number => {
    const other = lower(name)
    return other.includes(aim) || aim.includes(other) ? Math.min(distance(aim, other), 2) : distance(aim, other)
  }
  return names
    .map((name) => ({ name, score: score(name) }))
    .filter(({ name, score }) => score <= Math.max(1, Math.floor(Math.max(name.length, wanted.length) * 0.4)))
    .sort((a, b) => a.score - b.score)
    .slice(0, 3)
    .map(({ name }) => name)
}

/** Why a step cannot run on the files as they are. */
export const cannotRun = (step: string, why: string): string => `${step} cannot run: ${why}`

/** The offer of names like one that is not there; nothing where none is like it. */
export const offerOf = (near: readonly string[]): string =>
  near.length > 0 ? ` Did you mean ${listed(near.map(quoted), 'or')}?` : ''

/** A name as the stem of a file's: small letters, digits and hyphens. */
export const fileStem = (name: string, without: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || without

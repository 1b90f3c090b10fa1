import { useSyncExternalStore } from 'react'
import { groupedNumber, type ColumnType } from '@fabula/core'

/** How numbers and dates are written: ISO dates and 1,204.5, or as the language of the browser does. */
export type Writing = 'iso' | 'language'

const storageKey = 'writing'
const listeners = new Set<() => void>()
const stored = (): Writing => (localStorage.getItem(storageKey) === 'language' ? 'language' : 'iso')
export const setWriting = (writing: Writing): void => {
  localStorage.setItem(storageKey, writing)
  listeners.forEach((listen) => listen())
}
const subscribe = (listen: () => void): (() => void) => {
  listeners.add(listen)
  return () => listeners.delete(listen)
}
export const useWriting = (): Writing => useSyncExternalStore(subscribe, stored)

/** More decimals than this help nobody who reads: the number is rounded, its whole value is a hover away. */
const mostPlaces = 4
/** So many digits stay of a number below 1. */
const leastDigits = 4

/** How many decimals are shown of a number with many: two, and more of small ones until four digits stand. */
const placesOf = (value: number): number => {
  const size = Math.abs(value)
  if (size >= 100 || size === 0) return 2
  return Math.min(15, Math.max(2, leastDigits - 1 - Math.floor(Math.log10(size))))
}

const plainForm = /^-?(?:0|[1-9]\d*)(?:\.(\d+))?$/

/** The decimals of a number as it is written; undefined where it is written with an exponent. */
const shownDigits = (text: string): string | undefined => {
  const form = plainForm.exec(text)
  if (!form) return undefined
  const [, decimals] = form
  if (decimals === undefined || decimals.length <= mostPlaces) return text
  const value = Number(text)
  return value.toFixed(placesOf(value))
}

const writtenNumber = (text: string, writing: Writing): string => {
  const digits = shownDigits(text)
  if (digits === undefined) return text
  const grouped = groupedNumber(digits)
  if (writing === 'iso') return grouped
  const places = digits.split('.')[1]?.length ?? 0
  return Number(digits).toLocaleString(undefined, {
    useGrouping: grouped.includes(','),
    minimumFractionDigits: places,
    maximumFractionDigits: places,
  })
}

const day: Intl.DateTimeFormatOptions = { day: 'numeric', month: 'short', year: 'numeric' }
const clock: Intl.DateTimeFormatOptions = { hour: '2-digit', minute: '2-digit' }

const momentForm = /^\d{4}-\d\d-\d\d(?:[T ]\d\d:\d\d.*)?$|^\d\d:\d\d/

/** Moments are written without seconds where they are whole minutes; what is no moment (“May 2031”) stays. */
const writtenMoment = (text: string, type: 'date' | 'datetime' | 'time', writing: Writing): string => {
  if (!momentForm.test(text)) return text
  const short = text.replace('T', ' ').replace(/(\d\d:\d\d):00$/, '$1')
  if (writing === 'iso') return short
  const moment = { date: `${text}T00:00:00Z`, datetime: `${text}Z`, time: `2031-01-01T${text}Z` }[type]
  const date = new Date(moment)
  if (Number.isNaN(date.getTime())) return short
  return date.toLocaleString(undefined, {
    timeZone: 'UTC',
    ...(type === 'time' ? {} : day),
    ...(type === 'date' ? {} : clock),
    ...(/:\d\d:\d\d/.test(short) ? { second: '2-digit' } : {}),
  })
}

/** A value as people read it: thousands separated, no more decimals than help, dates as the reader has them. */
export const writtenValue = (text: string, type: ColumnType, writing: Writing): string => {
  if (type === 'integer' || type === 'decimal') return writtenNumber(text, writing)
  if (type === 'date' || type === 'datetime' || type === 'time') return writtenMoment(text, type, writing)
  return text
}

/** The label of a bar, a part or a choice: a value, or a span of them (“10000 to 20000”, “week of 2031-05-05”). */
export const writtenLabel = (label: string, type: ColumnType, writing: Writing): string =>
  type === 'text' || type === 'list'
    ? label
    : label
        .split(/( to |week of )/)
        .map((part) => writtenValue(part, type, writing))
        .join('')

/**
 * The proleptic Gregorian calendar in days since 1970-01-01, after Howard Hinnant,
 * "chrono-Compatible Low-Level Date Algorithms". Years 1 to 9999 are dates; all else is none.
 */
export const dayMs = 86_400_000

/** Days since 1970-01-01 of a proleptic Gregorian date; months from 1. Source: H. Hinnant, chrono-Compatible Low-Level Date Algorithms (2013). */
export const daysFromCivil = (year: number, month: number, day: number): number => {
  const y = month <= 2 ? year - 1 : year
  const era = Math.floor(y / 400)
  const yearOfEra = y - era * 400
  const dayOfYear = Math.floor((153 * (month > 2 ? month - 3 : month + 9) + 2) / 5) + day - 1
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear
  return era * 146097 + dayOfEra - 719468
}

/** A Gregorian date; months and days from 1. */
export type Civil = { readonly year: number; readonly month: number; readonly day: number }

/** The Gregorian date of days since 1970-01-01. Source: as `daysFromCivil`. */
export const civilFromDays = (days: number): Civil => {
  const z = days + 719468
  const era = Math.floor(z / 146097)
  const dayOfEra = z - era * 146097
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36524) - Math.floor(dayOfEra / 146096)) / 365,
  )
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100))
  const mp = Math.floor((5 * dayOfYear + 2) / 153)
  const month = mp < 10 ? mp + 3 : mp - 9
  return {
    year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0),
    month,
    day: dayOfYear - Math.floor((153 * mp + 2) / 5) + 1,
  }
}

/** Days since 1970-01-01 of 0001-01-01, the first date a column holds. */
export const firstDay = daysFromCivil(1, 1, 1)
/** Days since 1970-01-01 of 9999-12-31, the last date a column holds. */
export const lastDay = daysFromCivil(9999, 12, 31)

/** 28 to 31; months from 1. */
export const daysInMonth = (year: number, month: number): number =>
  daysFromCivil(month === 12 ? year + 1 : year, month === 12 ? 1 : month + 1, 1) - daysFromCivil(year, month, 1)

/** Days since 1970-01-01, or null where the date does not exist. */
export const maybeDays = (year: number, month: number, day: number): number | null =>
  year >= 1 && year <= 9999 && month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month)
    ? daysFromCivil(year, month, day)
    : null

/** Milliseconds since midnight, or null where the time does not exist. */
export const maybeTime = (hour: number, minute: number, second: number, ms: number): number | null =>
  hour <= 23 && minute <= 59 && second <= 59 ? ((hour * 60 + minute) * 60 + second) * 1000 + ms : null

const two = (n: number): string => (n < 10 ? `0${n}` : String(n))

/** 2031-05-02 */
export const formatDate = (days: number): string => {
  const { year, month, day } = civilFromDays(days)
  return `${String(year).padStart(4, '0')}-${two(month)}-${two(day)}`
}

/** 09:30:00, or 09:30:00.250 where there are milliseconds */
export const formatTime = (ms: number): string => {
  const rest = ms % 1000
  const seconds = (ms - rest) / 1000
  const text = `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`
  return rest === 0 ? text : `${text}.${String(rest).padStart(3, '0')}`
}

/** The days since 1970-01-01 of a date-time in milliseconds. */
export const dayOf = (ms: number): number => Math.floor(ms / dayMs)
/** The milliseconds since midnight of a date-time in milliseconds. */
export const timeOf = (ms: number): number => ms - dayOf(ms) * dayMs

/** 2031-05-02T09:30:00 */
export const formatDateTime = (ms: number): string => `${formatDate(dayOf(ms))}T${formatTime(timeOf(ms))}`

const isoDate = /^(\d{4})-(\d{2})-(\d{2})$/
const isoTime = /^(\d{2}):(\d{2})(?::(\d{2})(?:\.(\d{1,3}))?)?$/

/** Days since 1970-01-01 of `yyyy-MM-dd` (ISO 8601); null where the text is none or no such day exists. */
export const maybeIsoDate = (text: string): number | null => {
  const m = isoDate.exec(text)
  return m ? maybeDays(Number(m[1]), Number(m[2]), Number(m[3])) : null
}
/** Milliseconds since midnight of `HH:mm[:ss[.SSS]]` (ISO 8601); null where the text is none. */
export const maybeIsoTime = (text: string): number | null => {
  const m = isoTime.exec(text)
  return m ? maybeTime(Number(m[1]), Number(m[2]), Number(m[3] ?? 0), Number((m[4] ?? '').padEnd(3, '0'))) : null
}
/** ISO date and time, parted by `T` or one blank. */
export const maybeIsoDateTime = (text: string): number | null => {
  if (text[10] !== 'T' && text[10] !== ' ') return null
  const days = maybeIsoDate(text.slice(0, 10))
  const ms = maybeIsoTime(text.slice(11))
  return days === null || ms === null ? null : days * dayMs + ms
}

/** Whether a day is one of the years 1 to 9999. */
export const civilRange = (days: number): boolean => days >= firstDay && days <= lastDay

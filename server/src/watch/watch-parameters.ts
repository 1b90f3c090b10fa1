import type { WatchSettings } from '@fabula/core/api'

const iso = (year: number, month: number, day: number): string =>
  new Date(Date.UTC(year, month, day)).toISOString().slice(0, 10)

/** The days that a watch may give as a parameter, worked out from the day of the replay. */
const dayOf: Readonly<
  Record<
    Extract<WatchSettings['parameters'][string], { day: string }>['day'],
    (year: number, month: number, day: number) => string
  >
> = {
  today: iso,
  yesterday: (year, month, day) => iso(year, month, day - 1),
  'month-begin': (year, month) => iso(year, month, 1),
  'last-month-begin': (year, month) => iso(year, month - 1, 1),
  'last-month-end': (year, month) => iso(year, month, 0),
}

/** The parameters of a watch's replay as texts: values written out, or a day found from the wall clock (milliseconds). */
export const parameterAt = (parameters: WatchSettings['parameters'], clock: number): Record<string, string> => {
  const now = new Date(clock)
  return Object.fromEntries(
    Object.entries(parameters).map(([name, given]) => [
      name,
      'value' in given ? given.value : dayOf[given.day](now.getUTCFullYear(), now.getUTCMonth(), now.getUTCDate()),
    ]),
  )
}

import type { WatchSettings } from '@fabula/core/api'

/** The next moment of a schedule after another, in this machine's own time; a day that a month lacks is its last. Undefined for what waits for files. */
export const nextAfter = (when: WatchSettings['when'], after: Date): Date | undefined => {
  if (when.kind === 'arrival') return undefined
  const [hours = 0, minutes = 0] = when.at.split(':').map(Number)
  const at = (year: number, month: number, day: number): Date => new Date(year, month, day, hours, minutes)
  const [year, month, day] = [after.getFullYear(), after.getMonth(), after.getDate()]
  if (when.kind === 'daily') return [0, 1].map((n) => at(year, month, day + n)).find((one) => one > after)
  if (when.kind === 'weekly')
    return Array.from({ length: 8 }, (_, n) => at(year, month, day + n)).find(
      (one) => one > after && ((one.getDay() + 6) % 7) + 1 === when.day,
    )
  return [0, 1, 2]
    .map((n) => at(year, month + n, Math.min(when.day, new Date(year, month + n + 1, 0).getDate())))
    .find((one) => one > after)
}

import { expect, test } from 'vitest'
import { nextAfter } from './schedule.ts'

const shown = (date: Date | undefined): string =>
  date ? `${date.getFullYear()}-${date.getMonth() + 1}-${date.getDate()} ${date.getHours()}:${date.getMinutes()}` : ''
const after = (...parts: [number, number, number, number?]): Date =>
  new Date(parts[0], parts[1] - 1, parts[2], parts[3] ?? 12)

test('a time of day comes later today or tomorrow', () => {
  expect(shown(nextAfter({ kind: 'daily', at: '18:30' }, after(2031, 5, 31)))).toBe('2031-5-31 18:30')
  expect(shown(nextAfter({ kind: 'daily', at: '07:30' }, after(2031, 5, 31)))).toBe('2031-6-1 7:30')
})
test('a weekday is that of the calendar, Monday the first', () => {
  // 2 June 2031 is a Monday
  expect(shown(nextAfter({ kind: 'weekly', at: '07:00', day: 1 }, after(2031, 5, 31)))).toBe('2031-6-2 7:0')
  expect(shown(nextAfter({ kind: 'weekly', at: '07:00', day: 1 }, after(2031, 6, 2)))).toBe('2031-6-9 7:0')
  expect(shown(nextAfter({ kind: 'weekly', at: '07:00', day: 7 }, after(2031, 6, 2)))).toBe('2031-6-8 7:0')
})
test('a day that a month lacks is its last', () => {
  expect(shown(nextAfter({ kind: 'monthly', at: '06:00', day: 31 }, after(2031, 2, 1)))).toBe('2031-2-28 6:0')
  expect(shown(nextAfter({ kind: 'monthly', at: '06:00', day: 3 }, after(2031, 12, 3)))).toBe('2032-1-3 6:0')
})

import { expect, test } from 'vitest'
import { parameterAt } from './watch-parameters.ts'

const on = (
  day: string,
  name: 'today' | 'yesterday' | 'month-begin' | 'last-month-begin' | 'last-month-end',
): string | undefined => parameterAt({ 'As of': { day: name } }, Date.parse(`${day}T06:00:00Z`))['As of']

test('a replay by itself is told a day that goes along with the calendar', () => {
  expect(on('2031-06-30', 'today')).toBe('2031-06-30')
  expect(on('2031-01-01', 'yesterday')).toBe('2030-12-31')
  expect(on('2032-03-17', 'last-month-end')).toBe('2032-02-29')
  expect(on('2032-03-17', 'last-month-begin')).toBe('2032-02-01')
  expect(on('2031-01-09', 'last-month-end')).toBe('2030-12-31')
  expect(on('2031-01-09', 'month-begin')).toBe('2031-01-01')
})

test('what is written out is told as it stands', () => {
  expect(parameterAt({ 'Dear from': { value: '120' } }, 0)).toEqual({ 'Dear from': '120' })
})

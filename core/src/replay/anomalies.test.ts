import { expect, test } from 'vitest'
import type { StepStatistics } from '../steps/shared/statistics.ts'
import { anomaliesOf } from './anomalies.ts'

const account = (
  kind: string,
  rowsIn: number,
  rowsLeft: number,
  more: Partial<StepStatistics> = {},
): StepStatistics => ({
  id: 's1',
  kind,
  sentence: '',
  rowsIn,
  rowsOut: rowsIn - rowsLeft,
  rowsLeft,
  rowsCame: 0,
  columnsAdded: [],
  columnsDropped: [],
  columnsRenamed: {},
  cellsChanged: 0,
  unreadable: {},
  notes: {},
  ...more,
})

test('a usual month says nothing, however much larger it is', () => {
  expect(anomaliesOf(account('filter', 9000, 800), account('filter', 1000, 90))).toEqual([])
  expect(anomaliesOf(account('sort', 100, 0), account('sort', 100, 0))).toEqual([])
})
test('a filter that drops three times as many rows as usual says so', () => {
  expect(anomaliesOf(account('filter', 1000, 240), account('filter', 1000, 80))).toEqual([
    'drops 24.0 % of the rows; last time 8.0 %',
  ])
  expect(anomaliesOf(account('filter', 1000, 0), account('filter', 1000, 80))).toEqual([
    'drops 0.0 % of the rows; last time 8.0 %',
  ])
})
test('a join that multiplies rows for the first time, and cells that cannot be read any more', () => {
  expect(anomaliesOf(account('join', 100, 0, { rowsOut: 130 }), account('join', 90, 0))).toEqual([
    'makes 130 rows of 100; last time no row met more than one',
  ])
  expect(anomaliesOf(account('cast', 100, 0, { unreadable: { Fee: 3 } }), account('cast', 100, 0))).toEqual([
    '3 cells could not be read; last time all could',
  ])
  expect(
    anomaliesOf(
      account('cast', 100, 0, { unreadable: { Fee: 30 } }),
      account('cast', 100, 0, { unreadable: { Fee: 4 } }),
    ),
  ).toEqual(['30.0 % of the rows have cells that could not be read; last time 4.0 %'])
})
test('a column that the data made last time and does not make now', () => {
  expect(
    anomaliesOf(
      account('pivot', 100, 90, { columnsAdded: ['cat'] }),
      account('pivot', 100, 90, { columnsAdded: ['cat', 'owl'] }),
    ),
  ).toEqual(['makes no column “owl” this time'])
})

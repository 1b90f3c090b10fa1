import { expect, test } from 'vitest'
import { columnOf } from '../../table/column.ts'
import { Table } from '../../table/table.ts'
import { chartData } from './chart.ts'

const table = Table.of(
  ['Clinic', 'Year', 'Fee'],
  [
    columnOf('text', ['Oxbow', 'Marlpit', 'Oxbow', null]),
    columnOf('integer', [2031, 2030, 2030, 2031]),
    columnOf('decimal', [10, 2.5, 1, null]),
  ],
)

test('bars go from the largest down, each with its rows', () => {
  expect(chartData({ kind: 'bar', label: 'Clinic', how: 'sum', column: 'Fee' }, table)).toMatchObject({
    labels: ['Oxbow', 'Marlpit', 'empty'],
    values: [[11, 2.5, null]],
    wheres: [
      { column: 'Clinic', op: 'is', value: 'Oxbow' },
      { value: 'Marlpit' },
      { column: 'Clinic', op: 'is-empty' },
    ],
  })
})
test('labels with an order keep it; series stand side by side', () => {
  expect(chartData({ kind: 'stacked', label: 'Year', series: 'Clinic', how: 'count' }, table)).toMatchObject({
    labels: ['2030', '2031'],
    series: ['Oxbow', 'Marlpit', 'empty'],
    values: [
      [1, 1],
      [1, 0],
      [0, 1],
    ],
  })
})
test('points, spans, and nothing where a column went', () => {
  expect(chartData({ kind: 'scatter', label: 'Year', column: 'Fee', how: 'count' }, table).points).toEqual([
    [2031, 10],
    [2030, 2.5],
    [2030, 1],
  ])
  expect(
    chartData({ kind: 'histogram', label: 'Fee', how: 'count' }, table).values[0]?.reduce(
      (sum: number, n) => sum + (n ?? 0),
      0,
    ),
  ).toBe(3)
  expect(chartData({ kind: 'bar', label: 'Town', how: 'count' }, table).labels).toEqual([])
})

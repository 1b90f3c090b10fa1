import { expect, test } from 'vitest'
import type { Schema } from '@fabula/core'
import { nameOf, chartFor } from './guess.ts'

const schema: Schema = [
  { name: 'Day', type: 'date' },
  { name: 'Clinic', type: 'text' },
  { name: 'Species', type: 'text' },
  { name: 'Fee', type: 'decimal' },
  { name: 'Visits', type: 'integer' },
  { name: 'Tags', type: 'list' },
]
const drawn = (...columns: string[]): unknown => {
  const { kind, label, series, how, column, name } = chartFor(columns, schema, 'visits')
  return { kind, label, series, how, column, name }
}

test('a selection suggests the picture that shows it', () => {
  expect(drawn('Clinic')).toEqual({
    kind: 'bar',
    label: 'Clinic',
    series: undefined,
    how: 'count',
    column: undefined,
    name: 'Rows by Clinic',
  })
  expect(drawn('Clinic', 'Fee')).toEqual({
    kind: 'bar',
    label: 'Clinic',
    series: undefined,
    how: 'sum',
    column: 'Fee',
    name: 'Total Fee by Clinic',
  })
  expect(drawn('Clinic', 'Species', 'Fee')).toMatchObject({
    kind: 'stacked',
    label: 'Clinic',
    series: 'Species',
    name: 'Total Fee by Clinic and Species',
  })
  expect(drawn('Day', 'Fee')).toMatchObject({ kind: 'line', label: 'Day', column: 'Fee' })
  expect(drawn('Fee')).toMatchObject({ kind: 'histogram', label: 'Fee', name: 'Spread of Fee' })
  expect(drawn('Fee', 'Visits')).toMatchObject({
    kind: 'scatter',
    label: 'Fee',
    column: 'Visits',
    name: 'Visits against Fee',
  })
})

test('a list is no label, and a whole table is drawn by its first words', () => {
  expect(drawn('Tags', 'Clinic')).toMatchObject({ label: 'Clinic' })
  expect(drawn(...schema.map(({ name }) => name))).toMatchObject({ kind: 'line', label: 'Day', column: 'Fee' })
  expect(nameOf({ kind: 'bar', label: 'Clinic', how: 'mean', column: 'Fee' })).toBe('Mean Fee by Clinic')
})

import type { Schema } from '@fabula/core'
import { describe, expect, test } from 'vitest'
import {
  addedMeasure,
  changedMeasure,
  fits,
  measureName,
  needsNoColumn,
  optionsOf,
  orderChoice,
  orderOf,
  type MeasureValue,
} from './measure-model.ts'

const schema: Schema = [
  { name: 'Clinic', type: 'text' },
  { name: 'Fee', type: 'decimal' },
  { name: 'Lines', type: 'integer' },
  { name: 'Paid', type: 'boolean' },
]
const total: MeasureValue = { how: 'sum', column: 'Fee', as: 'Total Fee' }

describe('the name of a measure', () => {
  test.each([
    ['count', undefined, 'Rows'],
    ['sum', 'Fee', 'Total Fee'],
    ['mean', 'Fee', 'Mean Fee'],
    ['row-number', undefined, 'Number of the row'],
    ['distinct', 'Clinic', 'Different values Clinic'],
    ['mean', undefined, 'Mean'],
  ] as const)('%s of %s', (how, column, name) => {
    expect(measureName(how, column)).toBe(name)
  })
})

describe('columns that a measure fits', () => {
  test('sums take numbers, any and every take yes or no, the rest takes all', () => {
    expect(fits('sum', 'decimal')).toBe(true)
    expect(fits('median', 'text')).toBe(false)
    expect(fits('any', 'boolean')).toBe(true)
    expect(fits('every', 'integer')).toBe(false)
    expect(fits('distinct', 'list')).toBe(true)
  })
  test('counts and ranks need none', () => {
    expect((['count', 'rank', 'dense-rank', 'row-number'] as const).every(needsNoColumn)).toBe(true)
    expect(needsNoColumn('share')).toBe(false)
  })
})

describe('a measure changed', () => {
  test('keeps its column where that fits, and the made name follows', () => {
    expect(changedMeasure(total, { how: 'mean' }, schema, true)).toEqual({ how: 'mean', column: 'Fee', as: 'Mean Fee' })
    expect(changedMeasure(total, { column: 'Lines' }, schema, true)).toEqual({
      how: 'sum',
      column: 'Lines',
      as: 'Total Lines',
    })
  })
  test('takes the first column that fits where its own does not', () => {
    expect(changedMeasure(total, { how: 'any' }, schema, true).column).toBe('Paid')
    const first: MeasureValue = { how: 'first', column: 'Clinic', as: 'First Clinic' }
    expect(changedMeasure(first, { how: 'sum' }, schema, true)).toMatchObject({ column: 'Fee', as: 'Total Fee' })
  })
  test('takes the first column of all where none fits', () => {
    expect(changedMeasure({ how: 'count' }, { how: 'sum' }, schema.slice(0, 1), true).column).toBe('Clinic')
  })
  test('leaves a name that was given', () => {
    expect(changedMeasure({ ...total, as: 'Takings' }, { how: 'mean' }, schema, true).as).toBe('Takings')
  })
  test('has no name of its own where measures need none', () => {
    expect(changedMeasure({ how: 'only', column: 'Fee' }, { how: 'sum' }, schema, false)).toEqual({
      how: 'sum',
      column: 'Fee',
    })
  })
  test('loses the column when it counts', () => {
    expect(changedMeasure(total, { how: 'count' }, schema, true)).toEqual({ how: 'count', as: 'Rows' })
  })
  test('loses what the new measure does not have', () => {
    const joined: MeasureValue = { how: 'join', column: 'Clinic', as: 'Joined text Clinic', separator: ' / ' }
    expect(changedMeasure(joined, { how: 'list' }, schema, true)).not.toHaveProperty('separator')
    const previous: MeasureValue = { how: 'previous', column: 'Fee', as: 'Previous Fee', offset: 3 }
    expect(changedMeasure(previous, { how: 'next' }, schema, true).offset).toBe(3)
    expect(changedMeasure(previous, { how: 'sum' }, schema, true)).not.toHaveProperty('offset')
    const first: MeasureValue = { how: 'first', column: 'Fee', order: [{ column: 'Lines' }] }
    expect(changedMeasure(first, { how: 'last' }, schema, true).order).toEqual([{ column: 'Lines' }])
    expect(changedMeasure(first, { how: 'sum' }, schema, true)).not.toHaveProperty('order')
  })
  test('an order is set and taken away', () => {
    const first: MeasureValue = { how: 'first', column: 'Fee' }
    const ordered = changedMeasure(first, { order: [{ column: 'Lines' }] }, schema, true)
    expect(ordered.order).toEqual([{ column: 'Lines' }])
    const cleared = changedMeasure(ordered, { order: undefined } as unknown as Partial<MeasureValue>, schema, true)
    expect(cleared).not.toHaveProperty('order')
  })
})

describe('one more measure', () => {
  test('is the sum of the first number', () => {
    expect(addedMeasure(schema, true, false)).toEqual(total)
    expect(addedMeasure(schema, false, true)).toEqual({ how: 'sum', column: 'Fee' })
  })
  test('is a count where there is no number, with a column where one is always named', () => {
    expect(addedMeasure(schema.slice(0, 1), true, false)).toEqual({ how: 'count', as: 'Rows' })
    expect(addedMeasure(schema.slice(0, 1), false, true)).toEqual({ how: 'count', column: 'Clinic' })
  })
})

describe('options', () => {
  test('belong to their measures', () => {
    expect(optionsOf({ how: 'join' }, true)).toEqual({ separator: true, offset: false, order: true })
    expect(optionsOf({ how: 'join' }, false).order).toBe(false)
    expect(optionsOf({ how: 'previous' }, false)).toEqual({ separator: false, offset: true, order: false })
    expect(optionsOf(total, true)).toEqual({ separator: false, offset: false, order: false })
  })
  test('an order is a choice of a column and a direction, and back', () => {
    for (const order of [undefined, [{ column: 'Fee' }], [{ column: '-Odd name', descending: true }]])
      expect(orderOf(orderChoice(order ? { how: 'first', order } : { how: 'first' }))).toEqual(order)
  })
})

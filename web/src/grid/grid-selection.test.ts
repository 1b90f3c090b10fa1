import { describe, expect, test } from 'vitest'
import type { Selection } from '@fabula/core'
import { copiedMessage, copyArea, movedTo, selectedColumns, withColumn } from './grid-selection.ts'

const names = ['Clinic', 'Vet', 'Day', 'Fee']
const of = (...columns: string[]): Selection => ({ kind: 'columns', columns })

describe('a click on a head', () => {
  test('selects the column alone, whatever was selected', () => {
    expect(withColumn(of('Vet', 'Fee'), 'Day', 'alone', names)).toEqual(of('Day'))
    const cell: Selection = { kind: 'cell', column: 'Fee', row: 3, value: '12' }
    expect(withColumn(cell, 'Day', 'more', names)).toEqual(of('Day'))
  })
  test('adds the column, and takes it away again', () => {
    expect(withColumn(of('Vet'), 'Fee', 'more', names)).toEqual(of('Vet', 'Fee'))
    expect(withColumn(of('Vet', 'Fee'), 'Vet', 'more', names)).toEqual(of('Fee'))
  })
  test('that takes the last one away leaves the table selected', () => {
    expect(withColumn(of('Vet'), 'Vet', 'more', names)).toEqual({ kind: 'table' })
  })
  test('takes all columns from the first selected one, in either direction', () => {
    expect(withColumn(of('Vet'), 'Fee', 'span', names)).toEqual(of('Vet', 'Day', 'Fee'))
    expect(withColumn(of('Fee'), 'Vet', 'span', names)).toEqual(of('Vet', 'Day', 'Fee'))
  })
})

test('the columns of a selection', () => {
  expect(selectedColumns({ kind: 'table' })).toEqual([])
  expect(selectedColumns(of('Vet', 'Fee'))).toEqual(['Vet', 'Fee'])
  expect(selectedColumns({ kind: 'values', column: 'Clinic', values: ['Oxbow'] })).toEqual(['Clinic'])
})

describe('keys move the active cell', () => {
  const from = { row: 5, at: 1 }
  test.each([
    ['ArrowDown', false, { row: 6, at: 1 }],
    ['ArrowUp', false, { row: 4, at: 1 }],
    ['ArrowLeft', false, { row: 5, at: 0 }],
    ['ArrowRight', false, { row: 5, at: 2 }],
    ['PageDown', false, { row: 25, at: 1 }],
    ['PageUp', false, { row: 0, at: 1 }],
    ['Home', false, { row: 5, at: 0 }],
    ['End', false, { row: 5, at: 3 }],
    ['Home', true, { row: 0, at: 0 }],
    ['End', true, { row: 99, at: 3 }],
  ] as const)('%s (ctrl: %s)', (key, ctrl, position) => {
    expect(movedTo(from, key, ctrl, 100, 4)).toEqual(position)
  })
  test('the first key down goes to the first cell', () => {
    expect(movedTo(undefined, 'ArrowDown', false, 100, 4)).toEqual({ row: 0, at: 0 })
  })
  test('no key leads out of the table', () => {
    expect(movedTo({ row: 99, at: 3 }, 'ArrowDown', false, 100, 4)).toEqual({ row: 99, at: 3 })
    expect(movedTo({ row: 99, at: 3 }, 'ArrowRight', false, 100, 4)).toEqual({ row: 99, at: 3 })
  })
  test('other keys move nothing', () => {
    expect(movedTo(from, 'Enter', false, 100, 4)).toBeUndefined()
    expect(movedTo(from, 'constructor', false, 100, 4)).toBeUndefined()
  })
})

describe('what is copied', () => {
  const grid = { total: 250, shown: [0, 2, 3], active: { row: 7, at: 2 }, anchor: { row: 4, at: 1 }, whole: undefined }
  test('the cells between the two corners, without hidden columns', () => {
    expect(copyArea(grid, 1000)).toEqual({ from: 4, to: 7, columns: [2, 3], whole: false, cut: false })
  })
  test('the active cell where nothing else is selected', () => {
    expect(copyArea({ ...grid, anchor: undefined }, 1000)).toMatchObject({ from: 7, to: 7, columns: [3] })
  })
  test('nothing where no cell is active', () => {
    expect(copyArea({ ...grid, active: undefined }, 1000)).toBeUndefined()
  })
  test('whole columns, in the order they are shown', () => {
    expect(copyArea({ ...grid, whole: [3, 0] }, 1000)).toEqual({
      from: 0,
      to: 249,
      columns: [0, 3],
      whole: true,
      cut: false,
    })
  })
  test('no more rows than allowed, and the message says so', () => {
    const columns = copyArea({ ...grid, whole: [0] }, 100)
    const cells = copyArea({ ...grid, anchor: { row: 200, at: 2 } }, 100)
    expect(columns).toMatchObject({ from: 0, to: 99, cut: true })
    expect(cells).toMatchObject({ from: 7, to: 106, cut: true })
    expect(columns && copiedMessage(columns)).toBe('Copied 100 rows × 1 column, the most that can be copied.')
  })
  test('the message counts one row and one column as such', () => {
    expect(copiedMessage({ from: 7, to: 7, columns: [3], whole: false, cut: false })).toBe('Copied 1 row × 1 column.')
  })
})

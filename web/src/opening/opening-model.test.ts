import type { LookReply, OpenReply } from '@fabula/core/api'
import { describe, expect, test } from 'vitest'
import {
  areaOf,
  mergedColumns,
  namesRows,
  openingSteps,
  partnersOf,
  rawOptions,
  sheetsRead,
  toggledSheet,
  withNamesRow,
} from './opening-model.ts'

const sheet = (name: string, hidden = false): LookReply['sheets'][number] =>
  ({ name, hidden }) as LookReply['sheets'][number]
const workbook = [sheet('Notes', true), sheet('2031-01'), sheet('2031-02'), sheet('Total')]

describe('which sheets are read', () => {
  test('the first that is not hidden, unless others are named', () => {
    expect(sheetsRead(workbook, undefined)).toEqual(['2031-01'])
    expect(sheetsRead(workbook, 'first')).toEqual(['2031-01'])
    expect(sheetsRead([sheet('Notes', true)], undefined)).toEqual([])
  })
  test('those that are named, a hidden one too', () => {
    expect(sheetsRead(workbook, ['Notes', 'Total'])).toEqual(['Notes', 'Total'])
  })
  test('those that are like a pattern and unlike another', () => {
    expect(sheetsRead(workbook, { like: '2031-*' })).toEqual(['2031-01', '2031-02'])
    expect(sheetsRead(workbook, { like: '*', unlike: 'Total' })).toEqual(['Notes', '2031-01', '2031-02'])
  })
  test('one more stands where it stands in the workbook', () => {
    expect(toggledSheet(workbook, ['Total', '2031-02'], '2031-01')).toEqual(['2031-01', '2031-02', 'Total'])
  })
  test('one less, but never none', () => {
    expect(toggledSheet(workbook, ['2031-01', 'Total'], 'Total')).toEqual(['2031-01'])
    const last = ['2031-01']
    expect(toggledSheet(workbook, last, '2031-01')).toBe(last)
  })
})

describe('the rows of names', () => {
  test('are the first of what is read, counted on the sheet', () => {
    expect(namesRows({})).toEqual([1])
    expect(namesRows({ header: 3 })).toEqual([3])
    expect(namesRows({ range: 'B4:F20' })).toEqual([4])
    expect(namesRows({ range: 'B4:F20', header: [2, 3] })).toEqual([5, 6])
  })
  test('a click on a row’s number puts the names there, on the first row by leaving the option out', () => {
    expect(withNamesRow({}, 3, false)).toEqual({ header: 3 })
    expect(withNamesRow({ header: 3 }, 1, false)).toEqual({})
    expect(withNamesRow({ range: 'A4:F20', header: 3 }, 4, false)).toEqual({ range: 'A4:F20' })
  })
  test('with Shift two rows are names, in their order on the sheet', () => {
    expect(withNamesRow({ header: 3 }, 4, true)).toEqual({ header: [3, 4] })
    expect(withNamesRow({ header: 3 }, 2, true)).toEqual({ header: [2, 3] })
    expect(withNamesRow({ header: 3 }, 3, true)).toEqual({ header: 3 })
  })
  test('a row above the area that is read changes nothing', () => {
    const read = { range: 'A4:F20' }
    expect(withNamesRow(read, 2, false)).toBe(read)
  })
})

test('the area is in rows and columns from 1', () => {
  expect(areaOf({})).toBeUndefined()
  expect(areaOf({ range: 'B4:F20' })).toMatchObject({ top: 4, left: 2 })
})

test('only what decides how raw rows look makes the rows come anew', () => {
  expect(rawOptions({ delimiter: ';', encoding: 'latin1', header: 3, skip: 2 } as never)).toEqual({
    delimiter: ';',
    encoding: 'latin1',
  })
  expect(rawOptions(undefined)).toEqual({})
})

describe('merged cells', () => {
  const columns = [{ name: 'Clinic' }, { name: 'Vet' }, { name: 'Fee' }] as OpenReply['columns']
  const merge = (top: number, bottom: number, left: number): LookReply['merges'][number] =>
    ({ top, bottom, left, right: left }) as LookReply['merges'][number]
  test('below the names over several rows name their column once', () => {
    expect(mergedColumns([merge(2, 4, 1), merge(5, 9, 1), merge(2, 3, 2)], columns, {})).toEqual(['Clinic', 'Vet'])
  })
  test('of one row, in the rows of names or above them, are none of the kind', () => {
    expect(mergedColumns([merge(5, 5, 1)], columns, {})).toEqual([])
    expect(mergedColumns([merge(1, 2, 1), merge(3, 4, 2)], columns, { header: [2, 3] })).toEqual([])
  })
  test('are counted from the left edge of the area, and those outside of it are left out', () => {
    expect(mergedColumns([merge(5, 6, 3), merge(5, 6, 9)], columns, { range: 'C4:E20' })).toEqual(['Clinic'])
  })
})

describe('the steps that follow', () => {
  test('are none where nothing was asked for', () => {
    expect(openingSteps([], [])).toEqual([])
  })
  test('fill merged cells down and make columns of the same meaning one', () => {
    expect(openingSteps(['Clinic'], [{ lacks: 'Clinic', has: 'Praxis' }])).toEqual([
      { kind: 'fill', columns: ['Clinic'], direction: 'down' },
      { kind: 'derive', as: 'Clinic', formula: 'COALESCE(Clinic; Praxis)' },
      { kind: 'drop', columns: ['Praxis'] },
    ])
  })
  test('write names as formulas must', () => {
    const [derive] = openingSteps([], [{ lacks: 'Visit day', has: 'Day of visit' }])
    expect(derive).toMatchObject({ as: 'Visit day', formula: "COALESCE('Visit day'; 'Day of visit')" })
  })
  test('a partner is offered once, however many files have it', () => {
    const partner = { lacks: 'Clinic', has: 'Praxis' } as OpenReply['partners'][number]
    expect(partnersOf([partner, partner, { ...partner, has: 'House' }])).toHaveLength(2)
  })
})

import { describe, expect, test } from 'vitest'
import { columnOf, type Cell, type ColumnType } from '../../table/column.ts'
import { Table } from '../../table/table.ts'
import { namesAlike, suggestKeys } from './keys.ts'

const table = (columns: Readonly<Record<string, readonly [ColumnType, ...Cell[]]>>): Table =>
  Table.of(
    Object.keys(columns),
    Object.values(columns).map(([type, ...cells]) => columnOf(type, cells)),
  )
const visits = table({
  Day: ['date', 1, 2, 3, 4],
  Code: ['text', 'VAC-1', 'VAC-2', 'CON-1', null],
  Clinic: ['text', 'Oxbow', 'Marlpit', 'Oxbow', 'Oxbow'],
  Done: ['boolean', true, true, false, true],
})
const onOf = (left: Table, right: Table) =>
  suggestKeys(left, right).map(({ on }) => on.map((pair) => `${pair.left}=${pair.right}`).join('+'))

describe('names that may mean the same', () => {
  test.each([
    ['Visit date', 'visit_DATE', 1],
    ['Code', 'Price code', 0.5],
    ['Clinic', 'Vet', 0],
    ['Id', 'Idle', 0],
    ['Größe', 'größe', 1],
  ])('%s and %s: %d', (a, b, alike) => {
    expect(namesAlike(a, b)).toBe(alike)
    expect(namesAlike(b, a)).toBe(alike)
  })
})

describe('keys that may match two tables', () => {
  test('are columns whose values meet, whatever they are called', () => {
    const prices = table({ Price: ['text', 'a', 'b', 'c'], Item: ['text', 'VAC-1', 'VAC-2', 'CON-1'] })
    expect(onOf(visits, prices)[0]).toBe('Code=Item')
    expect(suggestKeys(visits, prices)[0]).toMatchObject({ share: 1, repeats: false })
  })
  test('say whether they repeat in the other table, which multiplies rows', () => {
    const prices = table({ Code: ['text', 'VAC-1', 'VAC-1', 'CON-1'], Price: ['decimal', 1, 2, 3] })
    const [best] = suggestKeys(visits, prices)
    expect(best).toMatchObject({ on: [{ left: 'Code', right: 'Code' }], repeats: true })
    expect(best?.share).toBeCloseTo(2 / 3)
  })
  test('are two columns where one alone repeats', () => {
    const targets = table({
      Clinic: ['text', 'Oxbow', 'Oxbow', 'Marlpit', 'Marlpit'],
      Day: ['date', 1, 3, 1, 2],
      Target: ['decimal', 10, 20, 30, 40],
    })
    expect(onOf(visits, targets).some((on) => on.includes('Clinic=Clinic') && on.includes('Day=Day'))).toBe(true)
  })
  test('are not yes-or-no columns or lists, nor numbers beside text', () => {
    const other = table({ Done: ['boolean', true, false], Code: ['integer', 1, 2], Tags: ['list', '[]', '["a"]'] })
    expect(onOf(visits, other)).toEqual([])
  })
  test('are columns of the same name where a table is empty, and no others', () => {
    const empty = table({ Code: ['text'], Item: ['text'] })
    expect(suggestKeys(visits, empty)).toEqual([{ on: [{ left: 'Code', right: 'Code' }], share: 0, repeats: false }])
    expect(onOf(empty, visits)).toEqual(['Code=Code'])
  })
  test('whole numbers and decimals meet', () => {
    const left = table({ Ref: ['integer', 1, 2, 3] })
    const right = table({ Booking: ['decimal', 1, 2, 3] })
    expect(onOf(left, right)).toEqual(['Ref=Booking'])
  })
  test('are no more than asked for, the likeliest first', () => {
    const suggestions = suggestKeys(visits, visits, 2)
    expect(suggestions.length).toBeLessThanOrEqual(2)
    expect(suggestions[0]?.share).toBe(1)
  })
})

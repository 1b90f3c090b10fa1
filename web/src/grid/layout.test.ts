import { describe, expect, test } from 'vitest'
import type { GridColumn, GridRow } from './cells.tsx'
import { fittedWidths, gridLayout, widthFor, zoomedBy } from './layout.ts'
import type { GridView } from './use-view.ts'

const column = (name: string, state: GridColumn['state'] = 'same'): GridColumn => ({ name, type: 'text', state })
const row = (...cells: (string | null)[]): GridRow => ({ row: 0, state: 'same', cells }) as GridRow
const view: GridView = { widths: {}, hidden: [], frozen: 0, zoom: 1 }
const [clinic, vet, fee] = [column('Clinic'), column('Vet'), column('Fee')]
const columns = [clinic, vet, fee]

describe('the layout of the grid', () => {
  test('every column is shown, none frozen, wide enough for its longest value', () => {
    const long = 'Fernhollow Marlpit Lane'
    const { shown, frozen, widths } = gridLayout(columns, [row('Oxbow', 'Ada', '12'), row(long, 'Bo', '3')], view)
    expect(shown).toEqual([0, 1, 2])
    expect(frozen).toBe(0)
    expect(widths[0]).toBeGreaterThan(long.length * 7)
    expect(widths[1]).toBe(widths[2])
  })
  test('a hidden column is not shown, unless it is one that leaves', () => {
    const hidden = { ...view, hidden: ['Vet', 'Fee'] }
    expect(gridLayout([clinic, vet, column('Fee', 'removed')], [], hidden).shown).toEqual([0, 2])
  })
  test('frozen columns have their left edges one after another', () => {
    const { frozen, frozenLefts, frozenWidth, widths } = gridLayout(columns, [], {
      ...view,
      frozen: 2,
      widths: { Clinic: 200, Vet: 150 },
    })
    expect(frozen).toBe(2)
    expect(widths.slice(0, 2)).toEqual([200, 150])
    expect(frozenLefts).toEqual([0, 200])
    expect(frozenWidth).toBe(350)
  })
  test('frozen columns that are hidden take no width', () => {
    const { frozen, frozenLefts } = gridLayout(columns, [], { ...view, frozen: 2, hidden: ['Clinic'] })
    expect(frozen).toBe(1)
    expect(frozenLefts).toEqual([0])
  })
  test('one column always scrolls, however many are frozen', () => {
    expect(gridLayout(columns, [], { ...view, frozen: 9 }).frozen).toBe(2)
    expect(gridLayout([column('Clinic')], [], { ...view, frozen: 1 }).frozen).toBe(0)
  })
  test('a table without columns has a layout too', () => {
    expect(gridLayout([], [], { ...view, frozen: 1 })).toEqual({
      shown: [],
      frozen: 0,
      widths: [],
      frozenLefts: [],
      frozenWidth: 0,
    })
  })
  test('widths grow with the zoom', () => {
    const wide = { ...view, widths: { Clinic: 200 }, zoom: 1.5 }
    expect(gridLayout(columns, [], wide).widths[0]).toBe(300)
  })
  test('a column may be named like a property of every object', () => {
    expect(gridLayout([column('constructor')], [], view).widths[0]).toBeGreaterThan(100)
  })
})

describe('the width of a column', () => {
  const changed = { row: 0, state: 'same', cells: ['x'], old: ['y'.repeat(20)] } as unknown as GridRow
  test('holds the old value of a changed cell beside the new one', () => {
    expect(widthFor(column('A'), [changed], 0)).toBeGreaterThan(widthFor(column('A'), [row('x')], 0))
  })
  test('holds the word for an unreadable value', () => {
    const bad = { ...changed, bad: [0] } as GridRow
    expect(widthFor(column('A'), [bad], 0)).toBeGreaterThan(widthFor(column('A'), [changed], 0))
  })
  test('ends where a long text would push the others out of sight, and later when it is fitted', () => {
    const rows = [row('x'.repeat(500))]
    expect(widthFor(column('A'), rows, 0)).toBe(320)
    expect(fittedWidths(view, [column('A')], rows, ['A'])).toEqual({ A: 900 })
  })
  test('holds the name of a column without long values', () => {
    const name = 'Day of the first examination'
    expect(widthFor(column(name), [row('1')], 0)).toBeGreaterThan(name.length * 7)
  })
  test('fitting keeps the widths of other columns', () => {
    const before = { ...view, widths: { Clinic: 210 } }
    const widths = fittedWidths(before, columns, [row('a', 'b', 'c')], ['Vet'])
    expect(widths['Clinic']).toBe(210)
    expect(Object.keys(widths)).toEqual(['Clinic', 'Vet'])
  })
})

test('the wheel changes the size by a tenth, within bounds', () => {
  expect(zoomedBy(1, -120)).toBe(1.1)
  expect(zoomedBy(1.1, 120)).toBe(1)
  expect(zoomedBy(1.5, -1)).toBe(1.5)
  expect(zoomedBy(0.8, 1)).toBe(0.8)
})

import fc from 'fast-check'
import { expect, test } from 'vitest'
import { groupRows } from './group.ts'
import { columnBuffers } from './held-buffers.ts'
import { LazyColumn } from './lazy-column.ts'
import { cellAt, columnOf, type Cell, type Column } from './column.ts'
import { codesOf } from './codes.ts'
import { Table } from './table.ts'

const names = ['Number', 'Text', 'Lazy']
const numbers: readonly Cell[] = [1.5, null, -2, 0, 1.5]
const cells = (rows: number): Cell[][] => [
  Array.from({ length: rows }, (_, i) => numbers[i % 5] as Cell),
  Array.from({ length: rows }, (_, i) => ['Oxbow', 'Marlpit', null][i % 3] as Cell),
  Array.from({ length: rows }, (_, i) => i % 7),
]
const lazily = (column: Column): LazyColumn =>
  new LazyColumn({
    type: column.type,
    length: 40,
    holds: () => [],
    cell: (row) => cellAt(column, row),
    make: () => column,
  })
/** Rows of so many, in order, but some that `left` names, and none where `empty` is asked for in front. */
const choice = (rows: number, left: readonly number[], empty: boolean): Int32Array => {
  const out = new Set(left.map((n) => n % Math.max(1, rows)))
  const kept = Array.from({ length: rows }, (_, i) => i).filter((i) => !out.has(i))
  return Int32Array.from(empty ? [-1, ...kept] : kept)
}
const pick = (all: readonly Cell[][], rows: Int32Array): Cell[][] =>
  all.map((column) => Array.from(rows, (row) => (row < 0 ? null : (column[row] as Cell))))
const groupsAmong = (all: readonly Cell[][]): number =>
  new Set(Array.from({ length: all[0]!.length }, (_, i) => JSON.stringify([all[1]![i], all[2]![i]]))).size

test('of chosen rows others are chosen again and again: cells, codes and groups are those of the rows', () => {
  const left = fc.array(fc.nat(), { maxLength: 30 })
  const ways = fc.array(fc.tuple(left, fc.boolean(), fc.constantFrom('cells', 'codes', 'groups', 'deeper')), {
    minLength: 1,
    maxLength: 8,
  })
  fc.assert(
    fc.property(left, fc.boolean(), ways, (first, empty, children) => {
      const all = cells(40)
      const [number, text, lazy] = all.map((column, i) =>
        columnOf((['decimal', 'text', 'integer'] as const)[i]!, column),
      )
      const rows = choice(40, first, empty)
      const parent = Table.of(names, [number!, text!, lazily(lazy!)], 40).rows(rows)
      const kept = pick(all, rows)
      for (const [out, none, way] of children) {
        const places = choice(rows.length, out, none)
        const deeper = choice(places.length, first, false)
        const child = way === 'deeper' ? parent.rows(places).rows(deeper) : parent.rows(places)
        const expected = way === 'deeper' ? pick(pick(kept, places), deeper) : pick(kept, places)
        if (way === 'groups') expect(groupRows(child, ['Text', 'Lazy']).count).toBe(groupsAmong(expected))
        if (way === 'codes')
          expect(names.map((_, at) => new Set(child.codes(at).codes).size)).toEqual(
            expected.map((column) => new Set(column).size),
          )
        const made = names.map((_, at) => child.column(at))
        expect(made.map((column) => Array.from({ length: child.rowCount }, (_, i) => cellAt(column, i)))).toEqual(
          expected,
        )
      }
      // the parent's own are as they were
      expect(names.map((_, at) => Array.from(rows, (_row, i) => parent.cell(at, i)))).toEqual(kept)
    }),
    { numRuns: 300 },
  )
})

test('codes of a column that are asked for again are kept and counted with it', () => {
  const column = columnOf('integer', [5, null, 7, 5])
  const bytes = (): number => columnBuffers(column).reduce((sum, [, size]) => sum + size, 0)
  const before = bytes()
  const once = codesOf(column)
  expect(bytes()).toBe(before)
  const { codes, bound } = codesOf(column)
  expect([...codes]).toEqual([...once.codes])
  expect([...codes, bound]).toEqual([1, 0, 3, 1, 4])
  expect(bytes()).toBe(before + codes.byteLength)
  expect(codesOf(column).codes).toBe(codes)
})

import { expect, test } from 'vitest'
import { codesOf } from './codes.ts'
import { cellAt, columnOf, lengthOf, type Cell, type Column, type ColumnType, type TextColumn } from './column.ts'
import { concat, countFilled, gather, interleave, mapText, testText } from './gather.ts'
import { repeatEach } from './rows-in-order.ts'
import { groupBy } from './group.ts'
import { Table } from './table.ts'

/** Numbers that come the same way on every run, 0 to below `below`. */
const dice = (seed: number): ((below: number) => number) => {
  let state = seed
  return (below) => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) >>> 0
    return Math.floor((state / 4_294_967_296) * below)
  }
}
const words = ['Oxbow', 'oxbow', ' Tarn', 'Ω', '🐈', 'a\nb', '0']
const someCell = (type: ColumnType, roll: (below: number) => number): Cell => {
  if (roll(5) === 0) return null
  if (type === 'text') return words[roll(words.length)] ?? null
  if (type === 'boolean') return roll(2) === 1
  return type === 'decimal' ? roll(9) / 4 - 1 : roll(6) * (type === 'integer' ? 1_000_000_007 : 1)
}
const types: readonly ColumnType[] = ['text', 'integer', 'decimal', 'boolean', 'date', 'datetime', 'time']
const cellsOf = (column: Column): Cell[] => Array.from({ length: lengthOf(column) }, (_, row) => cellAt(column, row))
const someCells = (type: ColumnType, rows: number, roll: (below: number) => number): Cell[] =>
  Array.from({ length: rows }, () => someCell(type, roll))
/** The same text in its other form. */
const plain = (column: TextColumn): Column => ({
  type: 'text',
  form: 'plain',
  strings: cellsOf(column).map((cell) => (cell === null ? '' : String(cell))),
})
const bothForms = (type: ColumnType, cells: readonly Cell[]): Column[] => {
  const column = columnOf(type, cells)
  return column.type === 'text' ? [column, plain(column)] : [column]
}

test.each(types)('rows of %s are picked, laid behind one another and woven as cells would be', (type) => {
  const roll = dice(7)
  for (let turn = 0; turn < 20; turn++) {
    const cells = someCells(type, 1 + roll(40), roll)
    const more = someCells(type, cells.length, roll)
    const index = Int32Array.from({ length: roll(60) }, () => roll(cells.length + 1) - 1)
    for (const column of bothForms(type, cells)) {
      expect(cellsOf(gather(column, index))).toEqual([...index].map((at) => (at < 0 ? null : cells[at])))
      expect(cellsOf(concat(type, [column, gather(column, index), column]))).toEqual([
        ...cells,
        ...cellsOf(gather(column, index)),
        ...cells,
      ])
      expect(countFilled(column)).toBe(cells.filter((cell) => cell !== null).length)
      for (const other of bothForms(type, more)) {
        expect(cellsOf(concat(type, [column, other]))).toEqual([...cells, ...more])
        expect(cellsOf(interleave(type, [column, other, column]))).toEqual(
          cells.flatMap((cell, i) => [cell, more[i], cell]),
        )
      }
    }
  }
})

test('rows are grouped by what they hold, in order of first appearance', () => {
  const roll = dice(11)
  for (let turn = 0; turn < 60; turn++) {
    const rows = roll(50)
    const chosen = Array.from({ length: 1 + roll(3) }, () => types[roll(types.length)] as ColumnType)
    const cells = chosen.map((type) => someCells(type, rows, roll))
    const keys = Array.from({ length: rows }, (_, row) => JSON.stringify(cells.map((column) => column[row])))
    const seen = [...new Set(keys)]
    const { ids, count, first } = groupBy(
      chosen.map((type, c) => bothForms(type, cells[c] ?? []).at(-1) as Column),
      rows,
    )
    expect(count).toBe(seen.length)
    expect([...ids]).toEqual(keys.map((key) => seen.indexOf(key)))
    expect([...first]).toEqual(seen.map((key) => keys.indexOf(key)))
  }
})

test('text is changed and tested alike in both its forms, and empty stays empty', () => {
  const cells = [...words, null, 'Oxbow', null]
  for (const column of bothForms('text', cells) as TextColumn[]) {
    expect(cellsOf(mapText(column, (text) => (text === '0' ? '' : `${text}!`)))).toEqual(
      cells.map((cell) => (cell === null || cell === '0' ? null : `${cell}!`)),
    )
    expect([...testText(column, (text) => text.startsWith('O'))]).toEqual(
      cells.map((cell) => (cell === 'Oxbow' ? 1 : 0)),
    )
  }
})

test('a table picks rows of picked rows, and all rows at their place are the table itself', () => {
  const table = Table.of(['Row', 'Word'], [columnOf('integer', [0, 1, 2, 3]), columnOf('text', ['a', null, 'c', 'd'])])
  const twice = table.rows(Int32Array.of(3, 1, -1, 0)).rows(Int32Array.of(2, 1, 0))
  expect(twice.names.map((_, c) => [0, 1, 2].map((row) => twice.cell(c, row)))).toEqual([
    [null, 1, 3],
    [null, null, 'd'],
  ])
  expect(table.rows(Int32Array.of(0, 1, 2, 3))).toBe(table)
  expect(table.rows(Int32Array.of(0, 1, 3, 2))).not.toBe(table)
  expect([...repeatEach(2, 3)]).toEqual([0, 0, 0, 1, 1, 1])
})

test('what stands below an empty cell does not widen the codes of a column', () => {
  const days = codesOf(columnOf('date', [null, 22_010, 22_000, null, 22_010]))
  expect([...days.codes]).toEqual([0, 11, 1, 0, 11])
  expect(days.bound).toBe(12)
  const counts = codesOf(columnOf('integer', [700, null, 702]))
  expect([...counts.codes]).toEqual([1, 0, 3])
  expect(counts.bound).toBe(4)
  const none = codesOf(columnOf('date', [null, null]))
  expect([...none.codes, none.bound]).toEqual([0, 0, 1])
  const chosen = codesOf(columnOf('date', [null, 22_010, 22_000]), Int32Array.of(2, 0, 2))
  expect([...chosen.codes]).toEqual([1, 0, 1])
})

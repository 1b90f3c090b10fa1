import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { runMeasure } from '../steps/shared/measures.ts'
import { rolling } from '../testing/rolling.ts'
import { cellAt, columnOf, type Cell } from './column.ts'
import { markComplete } from './gather.ts'
import { groupRows, GroupsOfChosen, GroupsOfCodes } from './group.ts'
import { Table } from './table.ts'

const names = ['Clinic', 'Day', 'Animal', 'Fee'] as const
/** A made-up table: few texts, dates, many texts, money; some cells of each are empty. */
const visits = (rows: number, seed: number): Table => {
  const roll = rolling(seed)
  const cells = (make: () => Cell): Cell[] => Array.from({ length: rows }, () => (roll(8) === 0 ? null : make()))
  return Table.of(names, [
    columnOf(
      'text',
      cells(() => `C${roll(4)}`),
    ),
    columnOf(
      'date',
      cells(() => 22_000 + roll(40)),
    ),
    columnOf(
      'text',
      cells(() => `A${roll(9000)}`),
    ),
    columnOf(
      'decimal',
      cells(() => roll(30_000) / 4),
    ),
  ])
}
/** All rows, most, few, none, or some of them twice and in another order. */
const choices: Readonly<Record<string, (row: number) => number[]>> = {
  all: (row) => [row],
  most: (row) => (row % 9 === 4 ? [] : [row]),
  few: (row) => (row % 9 === 4 ? [row] : []),
  none: () => [],
  twice: (row) => (row % 3 === 0 ? [row, row] : [row]),
}
const chosenOf = (table: Table, choice: keyof typeof choices): Table => {
  const rows = Array.from({ length: table.rowCount }, (_, row) => choices[choice]!(row)).flat()
  return table.rows(markComplete(Int32Array.from(choice === 'twice' ? rows.reverse() : rows)))
}
/** The rows of each group, by what is written of their keys. */
const byHand = (table: Table, keys: readonly string[]): number[][] => {
  const groups = new Map<string, number[]>()
  for (let row = 0; row < table.rowCount; row++) {
    const key = JSON.stringify(keys.map((name) => table.cell(table.positionOf(name), row)))
    groups.set(key, [...(groups.get(key) ?? []), row])
  }
  return [...groups.values()]
}

describe('groups of rows', () => {
  test('are those of equal keys in order of their first rows, of whichever rows, and so are their sums', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(1, 40, 900),
        fc.integer({ min: 1, max: 1e6 }),
        fc.constantFrom(...Object.keys(choices)),
        fc.subarray([...names]),
        (rows, seed, choice, keys) => {
          const table = chosenOf(chosenOf(visits(rows, seed), 'most'), choice)
          const groups = groupRows(table, keys)
          const expected = byHand(table, keys)
          expect(groups.count).toBe(expected.length)
          if (choice === 'most' && keys.length > 0 && rows > 40)
            expect(groups instanceof GroupsOfCodes ? groups.keys.rows : groups).toBeDefined()
          if (choice === 'few' && keys.length === 1) expect(groups).toBeInstanceOf(GroupsOfCodes)
          // whether ids are asked for before or behind all else
          if (seed % 2 === 0) expect(groups.ids.length).toBe(table.rowCount)
          // figures come before the ids, as in a step
          const sums = runMeasure({ how: 'sum', column: 'Fee' }, table, groups, 'decimal').column
          const counts = runMeasure({ how: 'count' }, table, groups, 'integer').column
          expect([...groups.first]).toEqual(expected.map(([first]) => first))
          expect(groups.ids.length).toBe(table.rowCount)
          expected.forEach((members, group) => {
            expect(members.every((row) => groups.ids[row] === group)).toBe(true)
            expect(cellAt(counts, group)).toBe(members.length)
            const fees = members.map((row) => table.cell(3, row)).filter((fee) => fee !== null) as number[]
            const sum = fees.reduce((a, b) => a + b, 0)
            expect(cellAt(sums, group)).toBe(fees.length === 0 ? null : sum)
          })
        },
      ),
      { numRuns: 150 },
    )
  })
  test('of pairs of keys that are too many for a table, or to be counted, of most rows', () => {
    const table = chosenOf(visits(20_000, 5), 'most')
    const wide = table.with(
      4,
      'Ref',
      columnOf(
        'text',
        Array.from({ length: 20_000 }, (_, row) => `R${row % 9001}`),
      ),
      false,
      table.beforeChoice([0])!.rows,
    )
    expect(groupRows(wide, ['Clinic', 'Ref'])).toBeInstanceOf(GroupsOfChosen)
    for (const keys of [
      ['Clinic', 'Ref'],
      ['Animal', 'Ref'],
      ['Clinic', 'Animal', 'Ref'],
      ['Animal', 'Ref', 'Day'],
    ]) {
      const groups = groupRows(wide, keys)
      const expected = byHand(wide, keys)
      expect([...groups.first]).toEqual(expected.map(([first]) => first))
      expect(expected.every((members, group) => members.every((row) => groups.ids[row] === group))).toBe(true)
    }
  })
})

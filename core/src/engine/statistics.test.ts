import { describe, expect, it } from 'vitest'
import type { StepStatistics } from '../steps/shared/statistics.ts'
import { figuresOf } from './statistics.ts'

const statistics = (kind: string, more: Partial<StepStatistics> = {}): StepStatistics => ({
  id: 's2',
  kind,
  sentence: '',
  rowsIn: 1204,
  rowsOut: 1204,
  rowsLeft: 0,
  rowsCame: 0,
  columnsAdded: [],
  columnsDropped: [],
  columnsRenamed: {},
  cellsChanged: 0,
  unreadable: {},
  notes: {},
  ...more,
})
const texts = (kind: string, more: Partial<StepStatistics> = {}): string[] =>
  figuresOf(statistics(kind, more)).map(({ text }) => text)

describe('the figures beside a sentence', () => {
  it.each<[string, string, Partial<StepStatistics>, string[]]>([
    ['the rows, where nothing changed', 'filter', {}, ['1,204 rows']],
    ['what left', 'filter', { rowsOut: 1112, rowsLeft: 92 }, ['1,112 rows', '−92 rows']],
    ['one row in the singular', 'filter', { rowsOut: 1203, rowsLeft: 1 }, ['1,203 rows', '−1 row']],
    ['what was added', 'union', { rowsOut: 1210, rowsCame: 6 }, ['1,210 rows', '+6 rows']],
    ['new columns', 'derive', { columnsAdded: ['Net', 'Gross'] }, ['+2 columns']],
    ['dropped columns', 'drop', { columnsDropped: ['Note'] }, ['−1 column']],
    ['renamed columns', 'rename', { columnsRenamed: { Ref: 'Booking' } }, ['1 renamed']],
    ['changed cells', 'replace', { cellsChanged: 1500 }, ['1,500 changed']],
    ['cells read as another type', 'cast', { cellsChanged: 1500 }, ['1,500 read']],
    ['what could not be read', 'cast', { cellsChanged: 1, unreadable: { Fee: 2, Day: 1 } }, ['1 read', '3 unreadable']],
    ['pieces beyond the columns', 'split', { notes: { rowsWithMorePieces: 4 } }, ['4 with more pieces']],
    ['values like those of a group', 'unify', { notes: { newLookalikes: 1 } }, ['1 new look-alike']],
    ['a start: its rows and columns', 'open', { columnsAdded: ['A', 'B'] }, ['1,204 rows', '2 columns']],
    [
      'a start: what its file held beside',
      'open',
      { columnsAdded: ['A'], unreadable: { A: 3 }, notes: { raggedRows: 2, blankRows: 5 } },
      ['1,204 rows', '1 column', '2 ragged', '3 unreadable', '5 blank left out'],
    ],
    [
      'columns that became rows',
      'unpivot',
      { rowsIn: 10, rowsOut: 120, notes: { gatheredColumns: 12, emptyCells: 7 } },
      ['12 columns became rows', '10 → 120 rows', '7 empty'],
    ],
    [
      'labels that became columns',
      'pivot',
      { rowsIn: 120, rowsOut: 10, notes: { labels: 12, leftOut: 3 } },
      ['12 labels became columns', '120 → 10 rows', '3 left out'],
    ],
    [
      'rows and columns swapped',
      'transpose',
      { notes: { columnsBecameRows: 3, rowsBecameColumns: 1 } },
      ['3 columns became rows', '1 row became columns'],
    ],
    [
      'what a join matched',
      'join',
      { notes: { matched: 1180, unmatchedLeft: 24, unmatchedRight: 2, multiplied: 6 } },
      ['1,180 match', '24 unmatched here', '2 unmatched there', '+6 by repeated keys'],
    ],
    ['a join where all match', 'join', { notes: { matched: 1204 } }, ['1,204 match']],
  ])('show %s', (_what, kind, more, expected) => {
    expect(texts(kind, more)).toEqual(expected)
  })

  it('are at most four for steps of no figures of their own', () => {
    const all = {
      rowsOut: 3,
      rowsLeft: 1,
      rowsCame: 1,
      columnsAdded: ['A'],
      columnsDropped: ['B'],
      columnsRenamed: { C: 'D' },
      cellsChanged: 9,
    }
    expect(texts('summarise', all)).toHaveLength(4)
  })

  it('lead to the rows they count', () => {
    const shown = figuresOf(statistics('filter', { rowsOut: 1112, rowsLeft: 92, unreadable: { Fee: 1 } }))
    expect(shown.map(({ only, tone }) => [only, tone])).toEqual([
      ['all', 'plain'],
      ['left', 'removed'],
      ['unreadable', 'removed'],
    ])
  })
})

describe('the figures of a check', () => {
  const check = (passed: boolean, figure: number | null) => ({ passed, stop: false, say: '', figure })
  it('say that it holds', () => {
    expect(texts('check', { check: check(true, 0) })).toEqual(['✓ holds'])
  })
  it('say that it does not, with the figure it went by', () => {
    expect(texts('check', { check: check(false, 1234.56789) })).toEqual(['✗ does not hold', '1,234.57'])
  })
  it('lead to the rows that are against it', () => {
    const [first] = figuresOf(statistics('check', { check: check(false, null), notes: { against: 3 } }))
    expect(first?.only).toBe('against')
  })
})

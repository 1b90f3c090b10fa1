import { describe, expect, test } from 'vitest'
import type { NewStep, Recipe, Step } from '../recipe/recipe.ts'
import { columnOf } from '../table/column.ts'
import { Table } from '../table/table.ts'
import type { RowSelection } from '../steps/shared/statistics.ts'
import { diffView, type DiffMode } from './diff-view.ts'
import { runRecipe } from './run.ts'

const visits = Table.of(
  ['Clinic', 'Fee', 'Day'],
  [
    columnOf('text', ['Oxbow', 'Marlpit', 'Oxbow', null]),
    columnOf('text', ['12', 'none', '7.5', '30']),
    columnOf('text', ['2031-05-01', '2031-05-02', '2031-05-02', '2031-05-03']),
  ],
)
const viewOf = (step: NewStep, { mode = 'changes', only = 'all', from = 0, count = 100 }: Partial<ViewAsked> = {}) => {
  const recipe: Recipe = {
    fabula: 1,
    name: 'Visits',
    inputs: [{ id: 'visits', name: 'Visits', columns: [...visits.schema] }],
    tables: [
      {
        id: 'visits',
        name: 'Visits',
        steps: [{ id: 's1', kind: 'open', input: 'visits' }, { ...step, id: 's2' } as Step],
      },
    ],
  }
  const { tables } = runRecipe(recipe, {
    sources: (input) => ({ table: visits, notes: {}, unreadable: [], key: input }),
    parameters: {},
    now: 0,
  })
  return diffView(tables[0]?.steps ?? [], 1, mode, only, from, count)
}
type ViewAsked = {
  readonly mode: DiffMode
  readonly only: RowSelection
  readonly from: number
  readonly count: number
}
/** Each row as its state, the number shown beside it, and its cells. */
const rowsOf = (view: ReturnType<typeof viewOf>) => view.rows.map(({ state, row, cells }) => [state, row, ...cells])
const columnsOf = (view: ReturnType<typeof viewOf>) => view.columns.map(({ name, state }) => [name, state])

const oxbow: NewStep = { kind: 'filter', where: { column: 'Clinic', op: 'is', value: 'Oxbow' } }
const fees: NewStep = { kind: 'cast', columns: ['Fee'], type: 'decimal' }

describe('what a step changes', () => {
  test('rows that leave stand where they stood', () => {
    const view = viewOf(oxbow)
    expect(rowsOf(view).map(([state, , clinic]) => [state, clinic])).toEqual([
      ['same', 'Oxbow'],
      ['removed', 'Marlpit'],
      ['same', 'Oxbow'],
      ['removed', null],
    ])
    expect(view.total).toBe(4)
  })
  test('a changed cell has its old text, an unreadable one is marked', () => {
    const view = viewOf(fees)
    expect(view.rows[1]).toMatchObject({ cells: ['Marlpit', null, '2031-05-02'], old: { 1: 'none' }, bad: [1] })
    expect(view.rows[0]?.bad).toBeUndefined()
  })
  test('a renamed column says what it was', () => {
    const view = viewOf({ kind: 'rename', names: { Clinic: 'Practice' } })
    expect(view.columns[0]).toEqual({ name: 'Practice', type: 'text', state: 'same', was: 'Clinic' })
  })
  test('columns that leave stand where they stood, new ones where they are', () => {
    expect(columnsOf(viewOf({ kind: 'drop', columns: ['Clinic', 'Day'] }))).toEqual([
      ['Clinic', 'removed'],
      ['Fee', 'same'],
      ['Day', 'removed'],
    ])
    expect(columnsOf(viewOf({ kind: 'derive', as: 'Short', formula: 'LEFT(Clinic; 2)', after: 'Clinic' }))).toEqual([
      ['Clinic', 'same'],
      ['Short', 'added'],
      ['Fee', 'same'],
      ['Day', 'same'],
    ])
  })
  test('where every row is made anew, all of them come', () => {
    const view = viewOf({ kind: 'summarise', by: ['Clinic'], measures: [{ how: 'count', as: 'Rows' }] })
    expect(view.rows.map(({ state }) => state)).toEqual(['added', 'added', 'added'])
  })
  test('a row in another order is no change', () => {
    const view = viewOf({ kind: 'sort', by: [{ column: 'Day', descending: true }] })
    expect(view.rows.every(({ state, old }) => state === 'same' && old === undefined)).toBe(true)
  })
})

describe('before and after', () => {
  test('show one state, with its own columns', () => {
    expect(columnsOf(viewOf({ kind: 'drop', columns: ['Day'] }, { mode: 'before' }))).toHaveLength(3)
    expect(columnsOf(viewOf({ kind: 'drop', columns: ['Day'] }, { mode: 'after' }))).toHaveLength(2)
    expect(viewOf(oxbow, { mode: 'before' }).total).toBe(4)
    expect(viewOf(oxbow, { mode: 'after' }).total).toBe(2)
  })
})

describe('only some rows', () => {
  test('those that left, that cannot be read, that changed', () => {
    expect(rowsOf(viewOf(oxbow, { only: 'left' })).map(([state]) => state)).toEqual(['removed', 'removed'])
    expect(rowsOf(viewOf(fees, { only: 'unreadable' }))).toEqual([['same', 1, 'Marlpit', null, '2031-05-02']])
    const upper: NewStep = { kind: 'replace', columns: ['Clinic'], find: 'Oxbow', with: 'Oxbow Lane', match: 'whole' }
    expect(rowsOf(viewOf(upper, { only: 'changed' })).map(([, row]) => row)).toEqual([0, 2])
  })
  test('are counted whole, whatever part of them is shown', () => {
    const view = viewOf(oxbow, { only: 'left', count: 1 })
    expect([view.total, view.rows.length]).toEqual([2, 1])
  })
})

describe('a window of rows', () => {
  test('begins and ends where it is asked to', () => {
    const all = rowsOf(viewOf(oxbow))
    expect(rowsOf(viewOf(oxbow, { from: 1, count: 2 }))).toEqual(all.slice(1, 3))
    expect(rowsOf(viewOf(oxbow, { from: 3, count: 10 }))).toEqual(all.slice(3))
    expect(rowsOf(viewOf(oxbow, { from: 9, count: 10 }))).toEqual([])
  })
})

describe('the rows of a match', () => {
  const joined = (how: 'left' | 'inner' | 'full' | 'left-only', only: RowSelection) => {
    const recipe: Recipe = {
      fabula: 1,
      name: 'Visits',
      inputs: [{ id: 'visits', name: 'Visits', columns: [...visits.schema] }],
      tables: [
        {
          id: 'visits',
          name: 'Visits',
          steps: [
            { id: 's1', kind: 'open', input: 'visits' },
            { id: 's2', kind: 'join', with: 'towns', how, on: [{ left: 'Clinic', right: 'Clinic' }] },
          ],
        },
        {
          id: 'towns',
          name: 'Towns',
          steps: [
            {
              id: 's3',
              kind: 'enter',
              columns: [
                { name: 'Clinic', type: 'text' },
                { name: 'Town', type: 'text' },
              ],
              rows: [
                ['Oxbow', 'Fernhollow'],
                ['Oxbow', 'Alder'],
                ['Quarry', 'Birch'],
              ],
            },
          ],
        },
      ],
    }
    const { tables } = runRecipe(recipe, {
      sources: (input) => ({ table: visits, notes: {}, unreadable: [], key: input }),
      parameters: {},
      now: 0,
    })
    const view = diffView(tables[0]?.steps ?? [], 1, 'changes', only, 0, 100)
    return view.rows.map(({ cells: [clinic, fee] }) => `${clinic ?? '–'} ${fee ?? '–'}`)
  }
  test('those with a match, those without, and those that repeat are shown each on their own', () => {
    expect(joined('left', 'matched')).toEqual(['Oxbow 12', 'Oxbow 12', 'Oxbow 7.5', 'Oxbow 7.5'])
    expect(joined('left', 'unmatched')).toEqual(['Marlpit none', '– 30'])
    expect(joined('left', 'multiplied')).toEqual(['Oxbow 12', 'Oxbow 7.5'])
    // rows that an inner match loses are those without one
    expect(joined('inner', 'unmatched')).toEqual(['Marlpit none', '– 30'])
    expect(joined('full', 'unmatched-there')).toEqual(['Quarry –'])
    expect(joined('left-only', 'matched')).toEqual(['Oxbow 12', 'Oxbow 7.5'])
    expect(joined('left-only', 'unmatched')).toEqual(['Marlpit none', '– 30'])
  })
})

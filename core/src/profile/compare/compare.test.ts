import { expect, test } from 'vitest'
import { runRecipe } from '../../engine/run.ts'
import type { Recipe, Step } from '../../recipe/recipe.ts'
import { joinHows } from '../../steps/join/words.ts'
import { columnOf, type Cell, type ColumnType } from '../../table/column.ts'
import { Table } from '../../table/table.ts'
import { suggestKeys } from '../suggest/keys.ts'
import { alignedColumns, alignmentPartners } from './union-alignment.ts'
import { JoinMatching, typeWays } from './join-matching.ts'
import { lineageBetween, Reconciliation, reconcileKeys } from './reconcile.ts'

const table = (columns: Readonly<Record<string, readonly [ColumnType, ...Cell[]]>>): Table =>
  Table.of(
    Object.keys(columns),
    Object.values(columns).map(([type, ...cells]) => columnOf(type, cells)),
  )
const visits = table({
  Row: ['integer', 1, 2, 3, 4, 5, 6, 7],
  Service: ['text', 'VAC-1', 'con-1', 'XRY-1', null, 'BLD-2 ', '007', 'OPR-9'],
})
const prices = table({
  Code: ['text', 'VAC-1', 'CON-1', 'XRY-1', 'XRY-1', 'BLD-2', '7', 'GRM-1', null],
  Fee: ['decimal', 41, 38.5, 72, 78, 67.25, 12, 29, 1],
})
const on = [{ left: 'Service', right: 'Code' }]

/** Both tables run through the step itself. */
const ran = (steps: readonly Step[], left = visits, right = prices) => {
  const recipe: Recipe = {
    fabula: 1,
    name: 'R',
    inputs: [
      { id: 'a', name: 'A' },
      { id: 'b', name: 'B' },
    ],
    tables: [
      { id: 'a', name: 'A', steps: [{ id: 's1', kind: 'open', input: 'a' }, ...steps] },
      { id: 'b', name: 'B', steps: [{ id: 's2', kind: 'open', input: 'b' }] },
    ],
  }
  const sources = (input: string) => ({ table: input === 'a' ? left : right, notes: {}, unreadable: [], key: input })
  const [made] = runRecipe(recipe, { sources, parameters: {}, now: 0 }).tables
  if (!made) throw new Error('no table')
  return made
}

test('the rows that each way of joining is said to give are those it gives', () => {
  for (const options of [{}, { ignoreCase: true }, { trim: true }, { matches: 'first' as const }])
    for (const how of joinHows) {
      const step: Step = { id: 's3', kind: 'join', with: 'b', how, ...(how === 'cross' ? {} : { on, ...options }) }
      expect({ how, options, rows: new JoinMatching(visits, prices, { on, ...options }).figures().gives[how] }).toEqual(
        {
          how,
          options,
          rows: ran([step]).table?.rowCount,
        },
      )
    }
})

test('who meets nobody is told why, and each figure shows exactly its rows', () => {
  const match = new JoinMatching(visits, prices, { on })
  expect(match.figures()).toMatchObject({
    one: 1,
    many: 1,
    none: 5,
    emptyHere: 1,
    unused: 5,
    why: [
      { reason: 'case', rows: 1 },
      { reason: 'spaces', rows: 1 },
      { reason: 'zeros', rows: 1, leading: ['left'] },
    ],
    repeated: [{ key: 'XRY-1', here: 1, there: 2 }],
    repeatedKeys: 1,
  })
  const rows = (which: Parameters<JoinMatching['show']>[0]) => {
    const { left, right } = match.show(which, [0, 0], 10)
    return [left.rows.map(({ cells }) => cells[1]), right.rows.map(({ cells }) => cells[0])]
  }
  expect(rows('none')[0]).toEqual(['con-1', null, 'BLD-2 ', '007', 'OPR-9'])
  expect(rows('many')).toEqual([['XRY-1'], ['XRY-1', 'XRY-1']])
  expect(rows('unused')[1]).toEqual(['CON-1', 'BLD-2', '7', 'GRM-1', null])
  expect(rows('case')).toEqual([['con-1'], ['CON-1']])
  expect(rows('zeros')).toEqual([['007'], ['7']])
  expect(new JoinMatching(visits, prices, { on, ignoreCase: true, trim: true }).figures().why).toEqual([
    { reason: 'zeros', rows: 1, leading: ['left'] },
  ])
})

test('rows are leafed through on each side by itself, and the figures count all of them', () => {
  const match = new JoinMatching(visits, prices, { on })
  const { left, right } = match.show('none', [3, 0], 2)
  expect([left.total, left.rows.map(({ cells }) => cells[1])]).toEqual([5, ['007', 'OPR-9']])
  expect(right.rows.length).toBe(Math.min(2, right.total))
  const later = match.show('unused', [0, 4], 2)
  expect([later.right.total, later.right.rows.map(({ cells }) => cells[0])]).toEqual([5, [null]])
  expect(match.show('none', [9, 9], 2).left.rows).toEqual([])
})

test('keys of different types are offered as each other', () => {
  const numbered = table({ Code: ['integer', 7, 8] })
  expect(typeWays(table({ Ref: ['text', '7', '9', '8'] }), numbered, { on: [{ left: 'Ref', right: 'Code' }] })).toEqual(
    [
      { at: 0, side: 'left', column: 'Ref', type: 'integer', meets: 2 },
      { at: 0, side: 'right', column: 'Code', type: 'text', meets: 2 },
    ],
  )
})

test('keys are suggested from values and names; those that repeat are joined by others', () => {
  expect(suggestKeys(visits, prices)[0]).toMatchObject({ on, repeats: true })
  const clinics = ['Oxbow', 'Marlpit', 'Tarn End']
  const months = ['Jan', 'Feb']
  const cells = clinics.flatMap((clinic) => months.map((month) => [clinic, month] as const))
  const targets = table({
    Clinic: ['text', ...cells.map(([clinic]) => clinic)],
    Month: ['text', ...cells.map(([, month]) => month)],
    Target: ['integer', 1, 2, 3, 4, 5, 6],
  })
  const takings = table({
    'Clinic ': ['text', 'x'],
    Clinic: ['text', 'Oxbow', 'Marlpit', 'Oxbow'],
    Month: ['text', 'Jan', 'Feb', 'Feb'],
    Target: ['integer', 9, 9, 9],
  })
  expect(
    suggestKeys(
      Table.of(['Clinic', 'Month', 'Taken'], [takings.column(1), takings.column(2), takings.column(3)]),
      targets,
    )[0],
  ).toEqual({
    on: [
      { left: 'Clinic', right: 'Clinic' },
      { left: 'Month', right: 'Month' },
    ],
    share: 1,
    repeats: false,
  })
  // small numbers of different things coincide, and are no keys
  expect(suggestKeys(table({ Visits: ['integer', 1, 2, 3] }), table({ Beds: ['integer', 3, 2, 1, 1] }))).toEqual([])
})

test('which table has which column of a union, and which may be one', () => {
  const may = table({ Clinic: ['text', 'Oxbow', 'Marlpit'], Animal: ['text', 'Moss', 'Fig'], Fee: ['integer', 1, 2] })
  const june = table({ Clinic: ['text', 'Oxbow'], Patient: ['text', 'Fig'], Fee: ['text', 'x'] })
  const params = { with: ['june'] }
  const columns = alignedColumns(params, 'may', [may, june])
  expect(columns.map(({ name, type, from }) => [name, type, from.map((cell) => cell?.column)])).toEqual([
    ['Clinic', 'text', ['Clinic', 'Clinic']],
    ['Animal', 'text', ['Animal', undefined]],
    ['Fee', 'text', ['Fee', 'Fee']],
    ['Patient', 'text', [undefined, 'Patient']],
  ])
  expect(alignmentPartners(columns, [may, june])).toEqual([
    { at: 1, column: 'Patient', into: 'Animal', share: 1, alike: false },
  ])
})

test('two tables are held against each other by a key: rows of one only, changed cells, totals', () => {
  const here = table({ Ref: ['text', 'a', 'b', 'c'], Fee: ['integer', 1, 2, 3], Desk: ['text', 'x', 'x', 'x'] })
  const there = table({ Ref: ['text', 'b', 'c', 'd', 'd'], Fee: ['decimal', 2, 3.5, 4, 5] })
  expect(reconcileKeys(here, table({ Ref: ['text', 'c', 'b'], Fee: ['integer', 1, 9] }))).toEqual(['Ref'])
  const held = new Reconciliation(here, there, { keys: ['Ref'] })
  expect(held.figures()).toMatchObject({
    onlyHere: 1,
    onlyThere: 2,
    same: 1,
    changed: 1,
    columns: [
      { name: 'Ref', key: true },
      { name: 'Fee', changed: 1, totalHere: 6, totalThere: 14.5 },
      { name: 'Desk', there: false },
    ],
  })
  const shown = held.show('different', 0, 9)
  expect(shown.rows.map(({ state, cells, old }) => [state, cells[0], cells[1], old ?? {}])).toEqual([
    ['removed', 'a', '1', {}],
    ['same', 'c', '3.5', { 1: '3' }],
    ['added', 'd', '4', {}],
    ['added', 'd', '5', {}],
  ])
})

test('rows of two moments of a story are followed, whatever their values became', () => {
  const made = ran([
    { id: 's3', kind: 'clean-text', columns: ['Service'], do: ['upper'] },
    { id: 's4', kind: 'filter', where: { column: 'Row', op: 'greater', value: 1 } },
    { id: 's5', kind: 'sort', by: [{ column: 'Row', descending: true }] },
  ])
  const lineage = lineageBetween(made.steps, 's1', 's5')
  expect([...(lineage ?? [])]).toEqual([6, 5, 4, 3, 2, 1])
  const last = made.table as Table
  expect(new Reconciliation(visits, last, { lineage: lineage as Int32Array }).figures()).toMatchObject({
    onlyHere: 1,
    onlyThere: 0,
    changed: 1,
    same: 5,
  })
  expect(
    lineageBetween(
      ran([{ id: 's3', kind: 'summarise', by: [], measures: [{ how: 'count', as: 'N' }] }]).steps,
      's1',
      's3',
    ),
  ).toBeUndefined()
})

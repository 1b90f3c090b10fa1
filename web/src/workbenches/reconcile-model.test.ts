import type { Recipe } from '@fabula/core'
import type { ReconcileReply } from '@fabula/core/api'
import { describe, expect, test } from 'vitest'
import {
  columnWeight,
  firstMoment,
  isShownKey,
  keysWith,
  momentNames,
  momentsOf,
  pairingText,
  totalDifference,
} from './reconcile-model.ts'

const recipe: Recipe = {
  fabula: 1,
  name: 'Fernhollow visits',
  inputs: [{ id: 'visits', name: 'Visits', columns: [{ name: 'Fee', type: 'decimal' }] }],
  tables: [
    {
      id: 'visits',
      name: 'Visits',
      steps: [
        { id: 's1', kind: 'open', input: 'visits' },
        { id: 's2', kind: 'drop', columns: ['Fee'] },
        { id: 's3', kind: 'sort', by: [{ column: 'Day' }] },
      ],
    },
    { id: 'june', name: 'June', steps: [{ id: 's4', kind: 'open', input: 'visits' }] },
  ],
}
const alone: Recipe = { ...recipe, tables: recipe.tables.slice(0, 1) }
const at = (table: string, step: string) => ({ table, step })

describe('what a table is held against at first', () => {
  test('is itself one sentence before', () => {
    expect(firstMoment(recipe, at('visits', 's3'))).toEqual(at('visits', 's2'))
  })
  test('is another table as it ends, where there is no sentence before', () => {
    expect(firstMoment(recipe, at('june', 's4'))).toEqual(at('visits', 's3'))
  })
  test('is itself one sentence later, where there is no other table', () => {
    expect(firstMoment(alone, at('visits', 's1'))).toEqual(at('visits', 's2'))
  })
  test('is itself, where there is nothing else', () => {
    const single: Recipe = { ...recipe, tables: recipe.tables.slice(1) }
    expect(firstMoment(single, at('june', 's4'))).toEqual(at('june', 's4'))
  })
})

describe('moments in words', () => {
  test('each table after each of its sentences', () => {
    const words = momentsOf(recipe).map((moment) => moment.words)
    expect(words).toHaveLength(4)
    expect(words[1]).toMatch(/^Visits, after sentence 2: .*Fee/)
  })
  test('within one table by their numbers, between two by their names', () => {
    expect(momentNames(recipe, at('visits', 's1'), at('visits', 's3'))).toEqual(['after 1', 'after 3'])
    expect(momentNames(recipe, at('june', 's4'), at('visits', 's3'))).toEqual(['June', 'Visits'])
  })
})

describe('totals', () => {
  test('differ by a signed figure, and not by the noise of sums', () => {
    expect(totalDifference(100, 1250)).toBe('+1,150')
    expect(totalDifference(100, 40)).toBe('−60')
    expect(totalDifference(0.3, 0.1 + 0.2)).toBe('the same')
  })
  const column = { name: 'Fee', here: true, there: true, key: false, changed: 0 } as ReconcileReply['columns'][number]
  test('columns of one table stand first, then those that changed, then numbers, then the rest', () => {
    const columns = [
      column,
      { ...column, totalHere: 5, totalThere: 5 },
      { ...column, changed: 3 },
      { ...column, totalHere: 5, totalThere: 6 },
      { ...column, there: false },
    ]
    expect(columns.map(columnWeight)).toEqual([0, 1, 2, 2, 3])
  })
})

describe('how rows are paired', () => {
  const reply = (more: Partial<ReconcileReply>): ReconcileReply =>
    ({ byLineage: false, keys: ['Patient', 'Day'], shared: ['Patient', 'Day', 'Fee'], ...more }) as ReconcileReply
  test('is said in words', () => {
    expect(pairingText(reply({ byLineage: true }), false)).toMatch(/followed from one sentence/)
    expect(pairingText(reply({ keys: ['Patient', 'Day', 'Fee'] }), false)).toMatch(/all that both have/)
    expect(pairingText(reply({}), true)).toBe('Rows belong together where Patient and Day are the same')
    expect(pairingText(reply({ keys: ['Patient'] }), true)).toBe('Rows belong together where Patient is the same')
  })
  test('a key is put in and taken out; the first one chosen stands alone', () => {
    expect(keysWith(reply({}), true, 'Fee')).toEqual(['Patient', 'Day', 'Fee'])
    expect(keysWith(reply({}), true, 'Day')).toEqual(['Patient'])
    expect(keysWith(reply({ byLineage: true, keys: [] }), false, 'Fee')).toEqual(['Fee'])
  })
  test('a key is marked where it is one of a few', () => {
    const key = { name: 'Day', here: true, there: true, key: true, changed: 0 } as ReconcileReply['columns'][number]
    expect(isShownKey(reply({}), key)).toBe(true)
    expect(isShownKey(reply({ keys: ['Patient', 'Day', 'Fee'] }), key)).toBe(false)
    expect(isShownKey(reply({ byLineage: true }), key)).toBe(false)
  })
})

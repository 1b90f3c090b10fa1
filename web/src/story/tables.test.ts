import { describe, expect, it } from 'vitest'
import type { Recipe, RecipeTable } from '@fabula/core'
import {
  branched,
  fedBy,
  feedersOf,
  isWritten,
  outputsOf,
  renamedTableTo,
  withoutTable,
  withWritten,
} from './tables.ts'

const visits: RecipeTable = {
  id: 'visits',
  name: 'Visits',
  steps: [
    { id: 's1', kind: 'open', input: 'visits' },
    { id: 's2', kind: 'drop', columns: ['Note'] },
  ],
}
const prices: RecipeTable = { id: 'prices', name: 'Prices', steps: [{ id: 's3', kind: 'open', input: 'prices' }] }
const takings: RecipeTable = {
  id: 'takings',
  name: 'Takings',
  steps: [
    { id: 's4', kind: 'start-from', table: 'visits' },
    { id: 's5', kind: 'join', with: 'prices', how: 'left', on: [{ left: 'Code', right: 'Code' }] },
  ],
}
const recipe: Recipe = {
  fabula: 1,
  name: 'Monthly takings',
  inputs: [
    { id: 'visits', name: 'Visits' },
    { id: 'prices', name: 'Prices' },
  ],
  tables: [visits, prices, takings],
}

describe('tables of a story', () => {
  it('tell what they are made from and what is made from them', () => {
    expect(feedersOf(takings)).toEqual(['visits', 'prices'])
    expect(fedBy(recipe, 'prices').map(({ id }) => id)).toEqual(['takings'])
    expect(fedBy(recipe, 'takings')).toEqual([])
  })
  it('are renamed by id', () => {
    expect(renamedTableTo(recipe, 'prices', 'Price list').tables.map(({ name }) => name)).toEqual([
      'Visits',
      'Price list',
      'Takings',
    ])
  })
})

describe('a branch', () => {
  it('from the last sentence starts from the finished table', () => {
    const { recipe: next, id } = branched(recipe, takings, 's5')
    expect(next.tables.find((table) => table.id === id)?.steps).toEqual([
      { id: 's6', kind: 'start-from', table: 'takings' },
    ])
    expect(next.tables.filter(({ id: one }) => one !== id)).toEqual(recipe.tables)
  })
  it('amid a story makes what both share a table of its own', () => {
    const { recipe: next, id } = branched(recipe, visits, 's1')
    const shared = next.tables.find(({ steps }) => steps.length === 1 && steps[0]?.id === 's1')
    expect(shared?.name).toBe('Visits, first part')
    expect(next.tables.find((table) => table.id === id)?.steps).toEqual([
      { id: 's6', kind: 'start-from', table: shared?.id },
    ])
    expect(next.tables.find((table) => table.id === 'visits')?.steps.map(({ kind }) => kind)).toEqual([
      'start-from',
      'drop',
    ])
  })
})

describe('what a replay writes', () => {
  it('is the last table, where nothing else is said', () => {
    expect(outputsOf(recipe)).toEqual([{ table: 'takings', format: 'csv', file: 'takings-tidy.csv' }])
    expect([isWritten(recipe, 'takings'), isWritten(recipe, 'visits')]).toEqual([true, false])
  })
  it('grows by a table and shrinks by one', () => {
    const both = withWritten(recipe, 'visits', true)
    expect(outputsOf(both).map(({ table }) => table)).toEqual(['takings', 'visits'])
    expect(outputsOf(withWritten(both, 'takings', false)).map(({ table }) => table)).toEqual(['visits'])
  })
})

describe('a table that is taken out', () => {
  it('takes its outputs and the inputs that only it opened with it', () => {
    const wide = withWritten(recipe, 'prices', true)
    const next = withoutTable(wide, 'prices')
    expect(next.inputs.map(({ id }) => id)).toEqual(['visits'])
    expect(outputsOf(next).map(({ table }) => table)).toEqual(['takings'])
  })
})

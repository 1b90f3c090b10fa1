import type { SourceAsked } from '@fabula/core/api'
import { describe, expect, test } from 'vitest'
import { askedTable, askedTitle, isAsked, offeredTitle, toggledColumn, withColumns } from './source-model.ts'

const visits = { name: 'visits', schema: 'public' }
const archived = { name: 'visits', schema: 'archive' }
const odata: SourceAsked = { kind: 'odata', service: 'https://data.fernhollow.example', table: 'Visits', columns: [] }
const till = { kind: 'postgresql', connection: 'Till' } as const

describe('tables on offer', () => {
  test('are named with their schema where it is not the usual one', () => {
    expect([visits, archived, { name: 'Visits' }].map(offeredTitle)).toEqual(['visits', 'archive.visits', 'Visits'])
  })
  test('are asked for by what offers them', () => {
    expect(askedTable({ kind: 'odata', service: 'https://data.fernhollow.example' }, { name: 'Visits' })).toEqual(odata)
    expect(askedTable(till, archived)).toEqual({ ...till, wanted: { schema: 'archive', table: 'visits' } })
    expect(askedTable(till, { name: 'visits' })).toEqual({ ...till, wanted: { schema: 'public', table: 'visits' } })
  })
  test('the one that is asked for is marked, and not its namesake in another schema', () => {
    const asked = askedTable(till, archived)
    expect([visits, archived].map((table) => isAsked(asked, table))).toEqual([false, true])
    expect(isAsked(odata, { name: 'Visits' })).toBe(true)
    expect(isAsked({ ...till, wanted: { query: 'select 1' } }, visits)).toBe(false)
    expect(isAsked(undefined, visits)).toBe(false)
  })
  test('a query has a title of its own', () => {
    expect(askedTitle({ ...till, wanted: { query: 'select 1' } })).toBe('What the query gives')
    expect(askedTitle(askedTable(till, visits))).toBe('visits')
    expect(askedTitle(odata)).toBe('Visits')
  })
})

describe('wanted columns', () => {
  const names = ['Clinic', 'Day', 'Fee']
  test('are all until one is left out, and come back in their place', () => {
    expect(toggledColumn(names, undefined, 'Day')).toEqual(['Clinic', 'Fee'])
    expect(toggledColumn(names, ['Clinic', 'Fee'], 'Day')).toEqual(names)
    expect(toggledColumn(names, ['Fee'], 'Fee')).toEqual([])
  })
  test('are asked for where the source can leave the others out', () => {
    expect(withColumns(odata, ['Day'])).toEqual({ ...odata, columns: ['Day'] })
    expect(withColumns(odata, undefined)).toBe(odata)
    const asked = askedTable(till, visits)
    expect(withColumns(asked, ['Day'])).toBe(asked)
  })
})

import { describe, expect, test } from 'vitest'
import { tableQueries, tableQueryNames, type TableQueryRequest } from './table-queries.ts'

const cursor = {
  recipe: {
    fabula: 1 as const,
    name: 'Visits',
    inputs: [{ id: 'visits', name: 'Visits' }],
    tables: [{ id: 'visits', name: 'Visits', steps: [{ id: 's1', kind: 'open' as const, input: 'visits' }] }],
  },
  table: 'visits',
  step: 's1',
}
const preview: TableQueryRequest<'preview'> = { ...cursor, diffMode: 'changes', only: 'all', from: 0, count: 100 }
const reads = (name: (typeof tableQueryNames)[number], asked: unknown): boolean =>
  tableQueries[name].request.safeParse(asked).success

describe('queries about the tables of a flow', () => {
  test('a window of rows begins at a row and has a bound', () => {
    expect(reads('preview', preview)).toBe(true)
    expect(reads('preview', { ...preview, count: 501 })).toBe(false)
    expect(reads('preview', { ...preview, from: -1 })).toBe(false)
    expect(reads('preview', { ...preview, from: 1.5 })).toBe(false)
    expect(reads('preview', { ...preview, diffMode: 'sideways' })).toBe(false)
  })
  test('no query is read without a table', () => {
    for (const name of tableQueryNames) expect(reads(name, {})).toBe(false)
  })
  test('a text to find has a length', () => {
    const asked = { ...cursor, text: 'Oxbow', from: null, back: false }
    expect(reads('find', asked)).toBe(true)
    expect(reads('find', { ...asked, text: '' })).toBe(false)
    expect(reads('find', { ...asked, text: 'x'.repeat(501) })).toBe(false)
  })
  test('the facts of a word of every object are asked for like any other', () => {
    expect(reads('facts', { ...cursor, columns: ['__proto__', 'constructor'], deep: true })).toBe(true)
  })
})

describe('what takes the place of what', () => {
  const { preview: rows, facts } = tableQueries
  test('a newer page of a table that of the older one, and the statistics without rows only themselves', () => {
    expect(rows.supersedes?.(preview)).toBe(rows.supersedes?.({ ...preview, from: 400 }))
    expect(rows.supersedes?.(preview)).not.toBe(rows.supersedes?.({ ...preview, count: 0 }))
    expect(rows.supersedes?.(preview)).not.toBe(rows.supersedes?.({ ...preview, table: 'prices' }))
  })
  test('facts of one column for its card are each answered', () => {
    expect(facts.supersedes?.({ ...cursor, columns: ['Fee'], deep: true })).toBeUndefined()
    expect(facts.supersedes?.({ ...cursor, columns: ['Fee'], deep: false })).toBe('facts')
  })
  test('values and groups are each answered', () => {
    expect(tableQueries.values.supersedes).toBeUndefined()
    expect(tableQueries.groups.supersedes).toBeUndefined()
  })
})

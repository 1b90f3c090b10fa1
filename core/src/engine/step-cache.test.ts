import { describe, expect, test } from 'vitest'
import { columnOf } from '../table/column.ts'
import { Table } from '../table/table.ts'
import type { StepStatistics } from '../steps/shared/statistics.ts'
import { runRecipe } from './run.ts'
import type { Recipe, Step } from '../recipe/recipe.ts'
import { BufferLedger, StepCache, type CachedStep } from './step-cache.ts'

const numbers = (count: number) =>
  columnOf(
    'decimal',
    Array.from({ length: count }, (_, i) => i),
  )
const result = (table: Table): CachedStep => ({
  result: { table, lineage: { kind: 'same' } },
  statistics: {} as StepStatistics,
})
const bytesOf = (table: Table): number =>
  new Map(table.buffers).size && [...new Map(table.buffers).values()].reduce((sum, bytes) => sum + bytes, 0)

describe('what tables share is counted once', () => {
  test('a table with one more column costs that column alone', () => {
    const cache = new StepCache(1e9)
    const one = Table.of(['A', 'B'], [numbers(1000), numbers(1000)])
    cache.set('one', result(one))
    const before = cache.ledger.bytes
    expect(before).toBe(bytesOf(one))
    cache.set('two', result(one.with(2, 'C', numbers(1000))))
    expect(cache.ledger.bytes - before).toBe(8000)
  })
  test('a selection of rows costs its positions, and the cells once they are gathered', () => {
    const cache = new StepCache(1e9)
    const one = Table.of(['A'], [numbers(1000)])
    cache.set('one', result(one))
    const before = cache.ledger.bytes
    const some = one.rows(Int32Array.from({ length: 100 }, (_, i) => i * 2))
    cache.set('some', result(some))
    expect(cache.ledger.bytes - before).toBe(400)
    some.column(0)
    cache.get('some')
    expect(cache.ledger.bytes - before).toBe(800)
  })
  test('what two hold is let go with the second', () => {
    const ledger = new BufferLedger()
    const buffer = new ArrayBuffer(64)
    const a = ledger.hold([[buffer, 64]])
    const b = ledger.hold([[buffer, 64]])
    ledger.release(a)
    expect(ledger.bytes).toBe(64)
    ledger.release(b)
    expect(ledger.bytes).toBe(0)
  })
})

describe('what leaves first', () => {
  test('of kept steps the cheapest to make, until it was used again after a dearer one had to go', () => {
    const cache = new StepCache(24_500)
    cache.set('dear', table(), false, 500)
    cache.set('cheap', table(), false, 5)
    cache.set('middle', table(), false, 50)
    cache.set('new', table(), false, 20)
    expect(['dear', 'cheap', 'middle', 'new'].filter((key) => cache.get(key))).toEqual(['dear', 'middle', 'new'])
    // what nobody asks for grows old, however dear it was
    for (let i = 0; i < 100; i++) cache.set(`later ${i}`, table(), false, 30)
    expect(cache.get('dear')).toBeUndefined()
  })
  const table = () => result(Table.of(['A'], [numbers(1000)]))
  test('drafts before kept steps, the oldest first; the newest stays', () => {
    const cache = new StepCache(24_500)
    cache.set('kept', table())
    cache.set('draft 1', table(), true)
    cache.set('draft 2', table(), true)
    cache.set('kept 2', table())
    expect(
      [cache.get('kept'), cache.get('draft 1'), cache.get('draft 2'), cache.get('kept 2')].map(
        (one) => one !== undefined,
      ),
    ).toEqual([true, false, true, true])
  })
  test('a draft that was kept stays like any other', () => {
    const cache = new StepCache(16_500)
    cache.set('draft', table(), true)
    cache.get('draft')
    cache.set('other draft', table(), true)
    cache.set('one more', table(), true)
    expect(cache.get('draft')).toBeDefined()
    expect(cache.get('other draft')).toBeUndefined()
  })
  test('names of keys are never given twice', () => {
    const cache = new StepCache(0)
    const long = 'x'.repeat(20 << 20)
    const first = cache.shortKey(`${long}1`)
    expect(cache.shortKey(`${long}1`)).toBe(first)
    cache.shortKey(`${long}2`)
    cache.shortKey(`${long}3`)
    expect(new Set([first, cache.shortKey(`${long}1`), cache.shortKey(`${long}2`)]).size).toBe(3)
  })
})

describe('a run with a cache', () => {
  const opened = { table: Table.of(['A'], [numbers(10)]), notes: {}, unreadable: [], key: 'a' }
  const recipe = (...steps: readonly Record<string, unknown>[]): Recipe => ({
    fabula: 1,
    name: 'R',
    inputs: [{ id: 'a', name: 'A', columns: [{ name: 'A', type: 'decimal' }] }],
    tables: [{ id: 't', name: 'T', steps: [{ id: 's1', kind: 'open', input: 'a' }, ...(steps as readonly Step[])] }],
  })
  const run = (cache: StepCache, one: Recipe, now: number) =>
    runRecipe(one, { sources: () => opened, parameters: {}, now, cache }).tables[0]?.table
  test('NOW() is the moment of the run, TODAY() is worked out once a day', () => {
    const cache = new StepCache()
    const moment = recipe({ id: 's2', kind: 'derive', as: 'At', formula: 'NOW()' })
    const day = recipe({ id: 's2', kind: 'derive', as: 'Day', formula: 'TODAY()' })
    const noon = Date.UTC(2031, 4, 2, 12)
    expect(run(cache, moment, noon)?.cell(1, 0)).toBe(noon)
    expect(run(cache, moment, noon + 5000)?.cell(1, 0)).toBe(noon + 5000)
    const first = run(cache, day, noon)
    expect(run(cache, day, noon + 5000)).toBe(first)
    expect(run(cache, day, noon + 86_400_000)?.cell(1, 0)).toBe((first?.cell(1, 0) as number) + 1)
  })
  test('a view of what a step changed gathers no column that it left alone', () => {
    const table = Table.of(['A', 'B'], [numbers(10), numbers(10)])
    const some = table.rows(Int32Array.from([1, 3]))
    expect(some.sharesColumn(0, table, 0)).toBe(true)
    expect(some.sharesColumn(0, table, 1)).toBe(false)
    expect(some.buffers.some(([, bytes]) => bytes === 16)).toBe(false)
  })
})

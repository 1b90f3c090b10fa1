import type { FileRef, RunsReply } from '@fabula/core/api'
import { describe, expect, test } from 'vitest'
import { filesWords, isComplete, runBefore, shownRun, withoutRename, withRename } from './replay-model.ts'

const file = (name: string): FileRef => ({ hash: name, name, size: 1 }) as FileRef
const run = (id: string, state: RunsReply['runs'][number]['state'], startedAt: string): RunsReply['runs'][number] =>
  ({ id, state, startedAt }) as RunsReply['runs'][number]
const visits = { id: 'visits', name: 'Visits', files: 'visits-*.csv' }
const prices = { id: 'prices', name: 'Prices' }

describe('answered renames', () => {
  test('belong to their input, and one is taken back alone', () => {
    const one = withRename({}, 'visits', 'Praxis', 'Clinic')
    const two = withRename(one, 'visits', 'Datum', 'Day')
    expect(two).toEqual({ visits: { Praxis: 'Clinic', Datum: 'Day' } })
    expect(withoutRename(two, 'visits', 'Praxis')).toEqual({ visits: { Datum: 'Day' } })
    expect(withoutRename(two, 'prices', 'Praxis')).toEqual({ ...two, prices: {} })
  })
  test('a later answer replaces the one before', () => {
    expect(withRename(withRename({}, 'visits', 'Praxis', 'Clinic'), 'visits', 'Praxis', 'Vet')).toEqual({
      visits: { Praxis: 'Vet' },
    })
  })
  test('an input may be called like a property of every object', () => {
    expect(withoutRename({}, 'constructor', 'name')).toEqual({ constructor: {} })
  })
})

describe('files of the inputs', () => {
  test('are complete where each input has new ones or those of the flow', () => {
    const recipe = { inputs: [visits, prices] }
    expect(isComplete(recipe, { visits: [file('visits-06.csv')] }, { prices: [file('prices.csv')] })).toBe(true)
    expect(isComplete(recipe, { visits: [file('visits-06.csv')] }, {})).toBe(false)
    expect(isComplete(recipe, { visits: [], prices: [file('prices.csv')] }, {})).toBe(false)
    expect(isComplete({ inputs: [] }, {}, {})).toBe(true)
  })
  test('are named: new ones with their rows, else those of last time, else what is waited for', () => {
    const given = { visits: [file('visits-06.csv'), file('visits-07.csv')] }
    expect(filesWords(visits, given, {}, 1204)).toBe('visits-06.csv, visits-07.csv · 1,204 rows')
    expect(filesWords(visits, given, {}, undefined)).toBe('visits-06.csv, visits-07.csv')
    expect(filesWords(visits, {}, { visits: [file('visits-05.csv')] }, 7)).toBe('visits-05.csv · kept from last time')
    expect(filesWords(visits, {}, {}, undefined)).toBe('waits for visits-*.csv')
    expect(filesWords(prices, {}, {}, undefined)).toBe('waits for a file')
  })
})

describe('runs', () => {
  const runs = [
    run('r4', 'running', '2031-07-04T08:00:00Z'),
    run('r3', 'failed', '2031-07-03T08:00:00Z'),
    run('r2', 'done', '2031-07-02T08:00:00Z'),
    run('r1', 'done', '2031-07-01T08:00:00Z'),
  ]
  test('one that still runs is shown to whoever comes back', () => {
    expect(shownRun(runs, '')).toBe('r4')
    expect(shownRun(runs.slice(1), '')).toBe('')
    expect(shownRun(runs, 'r1')).toBe('r1')
  })
  test('a run is held against the last that was done before it, not one that failed', () => {
    expect(runBefore(runs, 'r4', '')).toBe('r2')
    expect(runBefore(runs, 'r2', '')).toBe('r1')
    expect(runBefore(runs, 'r1', '')).toBeUndefined()
  })
  test('one that is not listed yet is held against the last that was done', () => {
    expect(runBefore(runs, 'r5', '2031-07-05T08:00:00Z')).toBe('r2')
  })
})

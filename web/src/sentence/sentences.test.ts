import type { Recipe, Step } from '@fabula/core'
import { describe, expect, test } from 'vitest'
import { moved, neededBy, reportedAs, whyNot, withWords } from './sentences.ts'
import { switched } from './step-actions.ts'

const open: Step = { id: 's1', kind: 'open', input: 'visits' }
const derive: Step = { id: 's2', kind: 'derive', as: 'Net', formula: 'Fee * 2' }
const sort: Step = { id: 's3', kind: 'sort', by: [{ column: 'Net' }] }
const drop: Step = { id: 's4', kind: 'drop', columns: ['Clinic'] }
const story = (...steps: Step[]): Recipe => ({
  fabula: 1,
  name: 'Fernhollow visits',
  inputs: [
    {
      id: 'visits',
      name: 'Visits',
      columns: [
        { name: 'Clinic', type: 'text' },
        { name: 'Fee', type: 'decimal' },
      ],
    },
  ],
  tables: [{ id: 'visits', name: 'Visits', steps }],
})
const why = (recipe: Recipe, steps: readonly Step[]) => {
  const [table] = recipe.tables
  return table && whyNot(recipe, table, steps)
}
const needs = (recipe: Recipe, id: string) => {
  const [table] = recipe.tables
  return table && neededBy(recipe, table, id)
}

describe('moving a sentence', () => {
  test('puts it at a place counted without it', () => {
    expect(moved([open, derive, sort, drop], 's4', 1).map(({ id }) => id)).toEqual(['s1', 's4', 's2', 's3'])
    expect(moved([open, derive, sort, drop], 's2', 3).map(({ id }) => id)).toEqual(['s1', 's3', 's4', 's2'])
  })
  test('of one that is not there changes nothing', () => {
    expect(moved([open, sort], 's9', 0)).toEqual([open, sort])
  })
  test('is refused where a sentence would come before what it needs, and says which', () => {
    const recipe = story(open, derive, sort, drop)
    expect(why(recipe, [open, sort, derive, drop])).toMatch(/^“Sort .*Net.*” would not hold there: .*Net/)
  })
  test('holds where nothing depends on the order', () => {
    expect(why(story(open, derive, sort, drop), [open, drop, derive, sort])).toBeUndefined()
  })
  test('is not refused for what was broken before', () => {
    const lost: Step = { id: 's5', kind: 'drop', columns: ['Nowhere'] }
    expect(why(story(open, lost, derive), [open, derive, lost])).toBeUndefined()
  })
})

describe('what a sentence is needed by', () => {
  test('are those that use what it makes, and those that use theirs', () => {
    const twice: Step = { id: 's5', kind: 'derive', as: 'Twice', formula: 'Net * 2' }
    const last: Step = { id: 's6', kind: 'drop', columns: ['Twice'] }
    expect(needs(story(open, derive, sort, drop, twice, last), 's2')).toEqual(['s3', 's5', 's6'])
  })
  test('are none where nothing uses it', () => {
    expect(needs(story(open, derive, sort, drop), 's4')).toEqual([])
  })
})

describe('own words and a note', () => {
  test('are one note of the step, words first', () => {
    const worded = withWords(drop, 'Leave the clinic out', 'Asked for by the board')
    expect(worded.note).toBe('“Leave the clinic out”\nAsked for by the board')
    expect(reportedAs(worded)).toEqual({ own: 'Leave the clinic out', note: 'Asked for by the board' })
  })
  test('each may be missing, and without both there is no note', () => {
    expect(reportedAs(withWords(drop, '', 'Only a note'))).toEqual({ note: 'Only a note' })
    expect(reportedAs(withWords(drop, 'Only words', ''))).toEqual({ own: 'Only words' })
    expect(withWords({ ...drop, note: 'before' }, ' ', ' ')).toEqual(drop)
  })
  test('words of several lines become one, a note keeps its lines', () => {
    const worded = withWords(drop, 'Leave\nit', 'one\ntwo')
    expect(reportedAs(worded)).toEqual({ own: 'Leave it', note: 'one\ntwo' })
  })
  test('a note that only begins with a quote is a note', () => {
    expect(reportedAs({ ...drop, note: '“Oxbow” is the oldest clinic' })).toEqual({
      note: '“Oxbow” is the oldest clinic',
    })
  })
})

test('a step is switched off, and on again without a trace', () => {
  expect(switched(drop)).toEqual({ ...drop, off: true })
  expect(switched(switched(drop))).toEqual(drop)
})

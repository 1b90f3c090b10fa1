import type { MatchReply } from '@fabula/core/api'
import { describe, expect, test } from 'vitest'
import {
  firstKeys,
  quickFixOf,
  repeatedWords,
  shownRows,
  spareKey,
  suggestionsFor,
  suggestionWords,
  withOption,
  withTable,
  withWay,
  type JoinStep,
} from './join-model.ts'

const pair = { left: 'Code', right: 'Price code' }
const code = [pair]
const step: JoinStep = { id: 's4', kind: 'join', with: 'prices', how: 'left', on: code, bring: ['Price'] }
const side = (columns: MatchReply['left']['columns'], rows = 120): MatchReply['left'] => ({
  columns,
  rows,
  shown: { total: rows, rows: [] },
})
const data: MatchReply = {
  left: side([
    { name: 'Day', type: 'date' },
    { name: 'Code', type: 'text' },
  ]),
  right: side([
    { name: 'Price code', type: 'text' },
    { name: 'Price', type: 'decimal' },
  ]),
  suggestions: [
    { on: code, share: 0.951, repeats: false },
    { on: [{ left: 'Day', right: 'Price' }], share: 0.04, repeats: true },
    { on: [{ left: 'Code', right: 'Price' }], share: 0.02, repeats: false },
    { on: [{ left: 'Day', right: 'Price code' }], share: 0.01, repeats: false },
  ],
  matching: null,
  ways: [],
}

describe('a join reworded', () => {
  test('every row beside every row has no keys and none of their options', () => {
    const cross = withWay({ ...step, ignoreCase: true, trim: true, matches: 'first' }, 'cross', pair)
    expect(cross).toEqual({ id: 's4', kind: 'join', with: 'prices', how: 'cross', bring: ['Price'] })
  })
  test('another way keeps the keys, and takes a spare one where there was none', () => {
    expect(withWay(step, 'inner', { left: 'Day', right: 'Price' })).toEqual({ ...step, how: 'inner' })
    const cross = withWay(step, 'cross', pair)
    expect(withWay(cross, 'left', { left: 'Day', right: 'Price' }).on).toEqual([{ left: 'Day', right: 'Price' }])
  })
  test('with another table brings all of its columns', () => {
    const next = withTable(step, 'vets')
    expect(next.with).toBe('vets')
    expect(next).not.toHaveProperty('bring')
  })
  test('an option that is off is absent', () => {
    const on = withOption(step, 'trim', true)
    expect(on.trim).toBe(true)
    expect(withOption(on, 'trim', false)).toEqual(step)
  })
})

describe('quick fixes of keys that nearly meet', () => {
  test('case and spaces are options of the join', () => {
    expect(quickFixOf(step, { reason: 'case', rows: 3 }, data)).toEqual({ step: { ...step, ignoreCase: true } })
    expect(quickFixOf(step, { reason: 'spaces', rows: 3 }, data)).toEqual({ step: { ...step, trim: true } })
    expect(quickFixOf(step, { reason: 'case-and-spaces', rows: 3 }, data)).toEqual({
      step: { ...step, ignoreCase: true, trim: true },
    })
  })
  test('zeros in front are taken off in the table that has them', () => {
    const here = quickFixOf(step, { reason: 'zeros', rows: 3, leading: ['left'] }, data)
    expect(here).toEqual({ before: expect.objectContaining({ kind: 'replace', columns: ['Code'] }) })
    const both = quickFixOf(step, { reason: 'zeros', rows: 3, leading: ['left', 'right'] }, data)
    expect(both.elsewhere).toMatchObject({ columns: ['Price code'] })
  })
  test('zeros are taken off text alone', () => {
    const two = { ...step, on: [...code, { left: 'Day', right: 'Price' }] }
    const fix = quickFixOf(two, { reason: 'zeros', rows: 3, leading: ['left', 'right'] }, data)
    expect(fix.before).toMatchObject({ columns: ['Code'] })
    expect(fix.elsewhere).toMatchObject({ columns: ['Price code'] })
  })
})

describe('keys', () => {
  test('a join begins with the likeliest', () => {
    expect(firstKeys(data, [])).toEqual(code)
  })
  test('or with those of a selected column', () => {
    expect(firstKeys(data, ['Day'])).toEqual([{ left: 'Day', right: 'Price' }])
  })
  test('but not with a column that is gone, nor where nothing is suggested', () => {
    expect(firstKeys({ ...data, left: side([{ name: 'Day', type: 'date' }]) }, [])).toBeUndefined()
    expect(firstKeys({ ...data, suggestions: [] }, [])).toBeUndefined()
  })
  test('one more key is a suggested column that is not in use, else the first columns', () => {
    expect(spareKey(data, code)).toEqual({ left: 'Day', right: 'Price' })
    expect(spareKey({ ...data, suggestions: [] }, code)).toEqual({ left: 'Day', right: 'Price code' })
  })
  test('the suggestion that is taken is not offered, and of the others two', () => {
    const { taken, others } = suggestionsFor(data.suggestions, code)
    expect(taken?.share).toBe(0.951)
    expect(others).toHaveLength(2)
    expect(others).not.toContain(taken)
  })
  test('none is taken where the keys were chosen otherwise', () => {
    expect(suggestionsFor(data.suggestions, []).taken).toBeUndefined()
  })
})

describe('words', () => {
  test('a suggestion names its columns, how many meet and whether keys repeat', () => {
    expect(data.suggestions.slice(0, 2).map(suggestionWords)).toEqual([
      'Code is Price code (95 %)',
      'Day is Price (4 %, keys repeat)',
    ])
    const two = [...code, { left: 'Vet', right: 'Vet' }]
    expect(suggestionWords({ on: two, share: 1, repeats: false })).toBe('Code is Price code and Vet (100 %)')
  })
  test('rows that are shown are counted beside all', () => {
    expect(shownRows(side([], 1200))).toBe('1,200 rows')
    expect(shownRows({ ...side([], 120), shown: { total: 7, rows: [] } })).toBe('7 of 120 rows')
    expect(shownRows(side([], 1))).toBe('1 row')
  })
  test('a repeated key says how often, and how many more repeat', () => {
    expect(repeatedWords(2, 'Prices', 1)).toBe('stands twice in Prices.')
    expect(repeatedWords(5, 'Prices', 2)).toBe('stands 5 times in Prices, and 1 more key repeats.')
    expect(repeatedWords(2, 'Prices', 4)).toBe('stands twice in Prices, and 3 more keys repeat.')
  })
})

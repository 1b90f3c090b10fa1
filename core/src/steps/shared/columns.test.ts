import { describe, expect, it } from 'vitest'
import type { Schema } from '../../table/table.ts'
import { freeName, selectedNames, selectorSchema, selectorWords, type Selector } from './columns.ts'

const schema: Schema = [
  { name: 'Clinic', type: 'text' },
  { name: 'Jan', type: 'integer' },
  { name: 'Feb', type: 'decimal' },
  { name: 'Seen', type: 'date' },
  { name: 'jan note', type: 'text' },
]

describe('a selector of columns', () => {
  it.each<[string, Selector, readonly string[], string]>([
    ['by name, in its own order', ['Feb', 'Clinic'], ['Feb', 'Clinic'], 'the columns Feb and Clinic'],
    ['all', { all: true }, ['Clinic', 'Jan', 'Feb', 'Seen', 'jan note'], 'all columns'],
    ['all but some', { except: ['Clinic', 'Seen'] }, ['Jan', 'Feb', 'jan note'], 'all columns but Clinic and Seen'],
    ['by pattern, whatever the case', { like: 'JAN*' }, ['Jan', 'jan note'], 'the columns like “JAN*”'],
    ['by one sign', { like: '?eb' }, ['Feb'], 'the columns like “?eb”'],
    ['numbers of both types', { type: 'number' }, ['Jan', 'Feb'], 'the number columns'],
    ['dates', { type: 'date' }, ['Seen'], 'the date columns'],
    ['a span, in table order', { from: 'Jan', to: 'Seen' }, ['Jan', 'Feb', 'Seen'], 'the columns from Jan to Seen'],
    ['any of several', { any: [['Seen'], { like: 'jan*' }] }, ['Jan', 'Seen', 'jan note'], ''],
  ])('%s', (_what, selector, names, words) => {
    expect(selectorSchema.safeParse(selector).success).toBe(true)
    expect(selectedNames(selector, schema)).toEqual(names)
    if (words !== '') expect(selectorWords(selector)).toContain(words.replace(/^the columns? /, ''))
  })
  it('takes in a column that comes later, where it is a rule', () => {
    const wider: Schema = [...schema, { name: 'January', type: 'integer' }]
    expect(selectedNames({ like: 'jan*' }, wider)).toContain('January')
    expect(selectedNames(['Jan'], wider)).toEqual(['Jan'])
  })
  it.each([[[]], [{ like: '' }], [{ only: 'Jan' }], [{ type: 'money' }], ['Jan']])('may not be %j', (selector) => {
    expect(selectorSchema.safeParse(selector).success).toBe(false)
  })
})

describe('a free name', () => {
  it.each([
    ['Fee', ['Clinic'], 'Fee'],
    ['Fee', ['Fee'], 'Fee 2'],
    ['Fee', ['Fee', 'Fee 2'], 'Fee 3'],
    ['Fee 2', ['Fee 2'], 'Fee 2 2'],
    ['constructor', [], 'constructor'],
  ])('for %s among %j is %s', (wanted, taken, free) => {
    expect(freeName(wanted, taken)).toBe(free)
  })
})

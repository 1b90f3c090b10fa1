import type { AlignReply } from '@fabula/core/api'
import { describe, expect, test } from 'vitest'
import {
  apartName,
  cellsOf,
  emptyCells,
  openPartners,
  otherType,
  partnerReason,
  typesOf,
  withColumns,
  withOrigin,
  type AlignedColumn,
  type UnionStep,
} from './union-model.ts'

const ids = ['may', 'june', 'july']
const cell = (column: string, type: AlignedColumn['type'] = 'text') => ({ column, type })
const column = (name: string, from: AlignedColumn['from'], type: AlignedColumn['type'] = 'text'): AlignedColumn => ({
  name,
  type,
  from,
})
const clinic = column('Clinic', [cell('Clinic'), cell('Praxis'), null])
const fee = column('Fee', [cell('Fee', 'integer'), cell('Fee', 'decimal'), cell('Fee', 'integer')], 'decimal')
const step: UnionStep = { id: 's4', kind: 'union', with: ['june', 'july'] }

describe('the matrix of a union', () => {
  test('a row holds the columns of the tables that have it', () => {
    expect(cellsOf(clinic, ids)).toEqual([
      { table: 'may', column: 'Clinic' },
      { table: 'june', column: 'Praxis' },
    ])
  })
  test('a column that is taken apart gets a name that no other has', () => {
    expect(apartName('Clinic', [clinic, fee])).toBe('Clinic 2')
    expect(apartName('Clinic', [clinic, column('Clinic 2', []), column('Clinic 3', [])])).toBe('Clinic 4')
  })
  test('cells that a table lacks are counted by its rows', () => {
    expect(emptyCells([clinic, fee], [120, 114, 90])).toBe(90)
    expect(emptyCells([clinic, column('Vet', [null, cell('Vet'), null])], [120, 114, 90])).toBe(90 + 120 + 90)
  })
  test('one type is named, different ones with what becomes of them', () => {
    expect(typesOf(clinic)).toEqual({ differ: false, words: 'text' })
    expect(typesOf(fee)).toEqual({ differ: true, words: 'a whole number and a number: becomes a number' })
    expect(typesOf(column('Day', [cell('Day', 'date')], 'date')).words).toBe('date')
  })
  test('a cell of another type than its row says so', () => {
    expect(otherType('integer', 'decimal')).toBe('(whole number)')
    expect(otherType('text', 'text')).toBe('')
  })
})

describe('columns that may be one', () => {
  const partner = { at: 1, column: 'Praxis', into: 'Clinic', share: 0.87, alike: false }
  const data: AlignReply = { tables: [], columns: [clinic, fee], partners: [partner] }
  test('are offered until they are laid elsewhere by hand', () => {
    expect(openPartners(data, step, ids)).toEqual([partner])
    const laid = { ...step, pairs: [{ into: 'Vet', from: [{ table: 'june', column: 'Praxis' }] }] }
    expect(openPartners(data, laid, ids)).toEqual([])
  })
  test('say why', () => {
    expect(partnerReason(partner)).toBe('87 % of its values stand there too')
    expect(partnerReason({ ...partner, alike: true })).toBe(
      '87 % of its values stand there too, and the names are alike',
    )
    expect(partnerReason({ ...partner, share: 0, alike: true })).toBe('the names are alike')
  })
})

test('options that are off are absent', () => {
  expect(withColumns(step, 'shared')).toEqual({ ...step, columns: 'shared' })
  expect(withColumns(withColumns(step, 'shared'), 'all')).toEqual(step)
  expect(withOrigin(step, true)).toEqual({ ...step, origin: 'Table' })
  expect(withOrigin(withOrigin(step, true), false)).toEqual(step)
})

import { describe, expect, it } from 'vitest'
import { columnAliases, readWith, storyNames, withColumnAlias, withoutColumnAlias } from './column-aliases.ts'
import { parameterCells } from './parameters.ts'
import type { Input, Recipe } from './recipe.ts'

const visits: Input = {
  id: 'visits',
  name: 'Visits',
  columns: [
    { name: 'Clinic', type: 'text', also: ['Practice', 'Site'] },
    { name: 'Fee', type: 'decimal' },
  ],
}

describe('a column that comes by another name', () => {
  it('has the names that the recipe keeps and those answered for one replay', () => {
    expect(columnAliases(visits, { Charge: 'Fee' })).toEqual({ Practice: 'Clinic', Site: 'Clinic', Charge: 'Fee' })
  })
  it('is known by its own name in the story', () => {
    expect(storyNames(['Site', 'Fee'], columnAliases(visits))).toEqual(['Clinic', 'Fee'])
  })
  it('is not taken twice where it is there under its own name too', () => {
    expect(storyNames(['Clinic', 'Site'], columnAliases(visits))).toEqual(['Clinic', 'Site'])
  })
  it('is taken once where two other names of it are there', () => {
    expect(storyNames(['Practice', 'Site'], columnAliases(visits))).toEqual(['Clinic', 'Site'])
  })
  it('is read as the type of its own name', () => {
    const read = readWith({ types: { Fee: { type: 'decimal' } } }, { Charge: 'Fee' })
    expect(read.types).toEqual({ Fee: { type: 'decimal' }, Charge: { type: 'decimal' } })
  })
  it('keeps a new name once, and lets it go again', () => {
    const kept = withColumnAlias(withColumnAlias(visits, 'Fee', 'Charge'), 'Fee', 'Charge')
    expect(kept.columns?.[1]).toEqual({ name: 'Fee', type: 'decimal', also: ['Charge'] })
    expect(withoutColumnAlias(kept, 'Charge')).toEqual(visits)
  })
})

describe('what is asked at replay', () => {
  const recipe: Recipe = {
    fabula: 1,
    name: 'Takings',
    parameters: [
      { name: 'As of', type: 'date', value: '2031-05-31' },
      { name: 'Least fee', type: 'decimal' },
      { name: 'Clinic', type: 'text', value: null },
      { name: 'Most visits', type: 'integer', value: 3 },
    ],
    inputs: [],
    tables: [{ id: 'a', name: 'A', steps: [{ id: 's1', kind: 'enter', columns: [], rows: [] }] }],
  }
  const day = Date.UTC(2031, 5, 30) / 86_400_000
  it('is taken as given, else as the recipe has it', () => {
    const { cells, faults } = parameterCells(recipe, { 'As of': '2031-06-30', 'Least fee': '12.5' })
    expect(faults).toEqual([])
    expect(cells).toEqual({ 'As of': day, 'Least fee': 12.5, Clinic: null, 'Most visits': 3 })
  })
  it('may be given as nothing', () => {
    expect(parameterCells(recipe, { 'Least fee': '' }).cells['Least fee']).toBeNull()
  })
  it.each([
    ['no value where the recipe has none', {}, 'Least fee', 'needs a value; it is a number.'],
    ['a value of another type', { 'Least fee': 'much' }, 'Least fee', 'cannot be “much”: it must be a number.'],
    ['a broken number for a whole one', { 'Least fee': '1', 'Most visits': '1.5' }, 'Most visits', 'cannot be “1.5”'],
    ['a name like one of its own', { 'Least fee': '1', 'As off': 'x' }, 'As off', 'It has “As of”.'],
  ])('%s is told', (_what, given, parameter, sentence) => {
    const { faults } = parameterCells(recipe, given)
    expect(faults.map((fault) => fault.parameter)).toEqual([parameter])
    expect(faults[0]?.sentence).toContain(sentence)
  })
})

import { expect, test } from 'vitest'
import { readRecipe, type Step } from '@fabula/core'
import { isMoved, alignedInto, onItsOwn, takenApart } from './union-edits.ts'

const union: Step = { id: 's2', kind: 'union', with: ['south', 'east'] }
const own = { table: '', column: 'Animal' }
const south = { table: 'south', column: 'Patient' }
const east = { table: 'east', column: 'Pet' }

test('columns are laid together one after the other, and one of them goes back to its own name', () => {
  const one = alignedInto(union, south, 'Animal', [own])
  expect(one.pairs).toEqual([{ into: 'Animal', from: [own, south] }])
  const two = alignedInto(one, east, 'Animal', [own])
  expect(two.pairs).toEqual([{ into: 'Animal', from: [own, south, east] }])
  expect([isMoved(two, south), isMoved(two, own)]).toEqual([true, false])
  expect(onItsOwn(two, south).pairs).toEqual([{ into: 'Animal', from: [own, east] }])
  // what says nothing any more is not kept
  expect(onItsOwn(one, south)).toEqual(union)
})

test('laid elsewhere, a column leaves where it was; on its own name nothing is said of it', () => {
  const there = alignedInto(alignedInto(union, south, 'Animal', [own]), south, 'Name', [{ table: '', column: 'Name' }])
  expect(there.pairs).toEqual([{ into: 'Name', from: [{ table: '', column: 'Name' }, south] }])
  expect(alignedInto(there, south, 'Patient', [])).toEqual(union)
})

test('a column of the same name is taken apart, and laid back by its own name', () => {
  const apart = takenApart(union, { table: 'south', column: 'Code' }, 'Code 2')
  expect(apart.apart).toEqual([{ table: 'south', column: 'Code', as: 'Code 2' }])
  expect(isMoved(apart, { table: 'south', column: 'Code' })).toBe(true)
  expect(onItsOwn(apart, { table: 'south', column: 'Code' })).toEqual(union)
  expect(
    'faults' in
      readRecipe({
        fabula: 1,
        name: 'R',
        inputs: [],
        tables: [
          {
            id: 'own',
            name: 'Own',
            steps: [{ id: 's1', kind: 'enter', columns: [{ name: 'Code', type: 'text' }], rows: [] }, apart],
          },
          ...['south', 'east'].map((id) => ({
            id,
            name: id,
            steps: [{ id: `${id}-1`, kind: 'enter', columns: [{ name: 'Code', type: 'integer' }], rows: [] }],
          })),
        ],
      }),
  ).toBe(false)
})

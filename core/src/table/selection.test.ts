import fc from 'fast-check'
import { expect, test } from 'vitest'
import { Selection } from './selection.ts'

/** Places among so many rows; -1 is none. */
const placesAmong = (rows: number) =>
  fc.array(fc.integer({ min: -1, max: rows - 1 }), { minLength: 1, maxLength: 12 }).map((all) => Int32Array.from(all))

test('rows chosen of chosen rows are had one by one and all at once', () => {
  fc.assert(
    fc.property(placesAmong(9), fc.array(fc.nat(), { maxLength: 3 }), (first, seeds) => {
      let selection = Selection.of(first)
      let expected = [...first]
      for (const seed of seeds) {
        const rows = expected.length
        const places = Int32Array.from({ length: 1 + (seed % 7) }, (_, i) => ((seed + 5 * i) % (rows + 1)) - 1)
        // every other choice is found when it is needed
        const rowsOf = { length: places.length, at: (place: number) => places[place]!, find: () => places, buffers: [] }
        selection = selection.chosen(seed % 2 === 0 ? Selection.of(places) : Selection.toFind(rowsOf))
        const before = expected
        expected = Array.from(places, (place) => (place < 0 ? -1 : (before[place] as number)))
      }
      expect(selection.length).toBe(expected.length)
      expect(expected.map((_, place) => selection.at(place))).toEqual(expected)
      expect([...selection.rows]).toEqual(expected)
      expect(expected.map((_, place) => selection.at(place))).toEqual(expected)
    }),
  )
})

test('equal rows are one selection, so that they are composed once', () => {
  const rows = Int32Array.from([2, 0])
  expect(Selection.of(rows)).toBe(Selection.of(rows))
  const chosen = Selection.of(rows).chosen(Selection.of(Int32Array.from([1])))
  expect(Selection.of(chosen.rows)).toBe(chosen)
})

test('what it holds is what it was chosen by, until all rows are there', () => {
  const chosen = Selection.of(Int32Array.from([4, 5, 6])).chosen(Selection.of(Int32Array.from([1])))
  expect(chosen.buffers.map(([, bytes]) => bytes)).toEqual([4, 12])
  expect([...chosen.rows]).toEqual([5])
  expect(chosen.buffers.map(([, bytes]) => bytes)).toEqual([4])
})

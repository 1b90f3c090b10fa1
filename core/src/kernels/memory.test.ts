import fc from 'fast-check'
import { expect, test } from 'vitest'
import { fillSet, isSet } from './memory.ts'

test('elements whose bit is set get a value, all others stay; bits behind the last are passed over', () => {
  const given = fc.record({
    map: fc.uint8Array({ minLength: 1, maxLength: 9 }),
    over: fc.integer({ min: 0, max: 7 }),
  })
  fc.assert(
    fc.property(given, fc.constantFrom(Uint8Array, Uint32Array, Float64Array), ({ map, over }, Kind) => {
      const to = new Kind(map.length * 8 - over).map((_, i) => i + 1)
      const expected = Array.from(to, (one, i) => (isSet(map, i) ? 200 : one))
      fillSet(to, map, 200)
      expect([...to]).toEqual(expected)
    }),
  )
})

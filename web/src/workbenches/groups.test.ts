import { expect, test } from 'vitest'
import { moveTo, partedFrom, withGroup, withName } from './groups.ts'

const oxbow = { into: 'Oxbow', from: ['Oxbow', 'oxbow'] }
const tarn = { into: 'Tarn End', from: ['Tarn'] }

test('a value is in one group at most, and a group without values is gone', () => {
  expect(withGroup([oxbow, tarn], { into: 'The Tarn', from: ['Tarn', 'oxbow'] })).toEqual([
    { into: 'Oxbow', from: ['Oxbow'] },
    { into: 'The Tarn', from: ['Tarn', 'oxbow'] },
  ])
  expect(moveTo([oxbow, tarn], 'Tarn', 0)).toEqual([{ into: 'Oxbow', from: ['Oxbow', 'oxbow', 'Tarn'] }])
  expect(partedFrom([oxbow, tarn], 1, 'Tarn')).toEqual([oxbow])
})

test('two groups that get one name are one', () => {
  expect(withName([oxbow, tarn], 1, 'Oxbow')).toEqual([{ into: 'Oxbow', from: ['Oxbow', 'oxbow', 'Tarn'] }])
  expect(withName([oxbow, tarn], 1, 'Tarn')).toEqual([oxbow, { into: 'Tarn', from: ['Tarn'] }])
})

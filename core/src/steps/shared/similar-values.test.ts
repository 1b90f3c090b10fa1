import { expect, test } from 'vitest'
import { matchToGroups, suggestGroups, type SimilarityMeasure } from './similar-values.ts'

const groups = (measure: SimilarityMeasure, ...values: (readonly [string, number])[]) =>
  suggestGroups(
    values.map(([text, count]) => ({ text, count })),
    measure,
  ).map(({ into, members }) => [into, ...members.map(({ text }) => text)])

test('characters: case, marks, spaces and the order of words do not count; digits do', () => {
  expect(
    groups(
      'characters',
      ['Tarn End', 9],
      ['END, tarn', 1],
      ['TarnEnd', 2],
      ['Oxbow', 5],
      ['Óxbow', 1],
      ['Ward 1', 3],
      ['Ward 2', 3],
    ),
  ).toEqual([
    ['Tarn End', 'Tarn End', 'TarnEnd', 'END, tarn'],
    ['Oxbow', 'Oxbow', 'Óxbow'],
  ])
  expect(groups('characters', [' Oxbow', 9], ['Oxbow', 2])).toEqual([['Oxbow', ' Oxbow', 'Oxbow']])
})

test('spelling: a letter in four may differ, none in short words, and never a digit', () => {
  expect(
    groups(
      'spelling',
      ['Marlpit', 9],
      ['Marlpitt', 1],
      ['Marpit', 1],
      ['dog', 5],
      ['dig', 2],
      ['CON-1', 3],
      ['CON-2', 3],
    ),
  ).toEqual([['Marlpit', 'Marlpit', 'Marlpitt', 'Marpit']])
})

test('sound: spelled otherwise, spoken alike', () => {
  expect(groups('sound', ['Stephen', 3], ['Steven', 2], ['Clarke', 5], ['Klark', 1], ['Moss', 3])).toEqual([
    ['Clarke', 'Clarke', 'Klark'],
    ['Stephen', 'Stephen', 'Steven'],
  ])
})

test('a new value is put beside those that its judge would group it with', () => {
  const known = [{ into: 'Marlpit', from: ['Marlpit', 'Marlpitt'] }]
  expect(matchToGroups(['Marlpits', 'Oxbow'], known, 'spelling')).toEqual([{ value: 'Marlpits', into: 'Marlpit' }])
  expect(matchToGroups(['MARLPIT', 'Oxbow'], known, 'characters')).toEqual([{ value: 'MARLPIT', into: 'Marlpit' }])
})

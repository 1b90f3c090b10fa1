import { expect, test } from 'vitest'
import type { Recipe } from '@fabula/core'
import { freeTableName, idOf, patternOf, titleOfFile } from './names.ts'

test.each([
  ['visits-2031-05.csv', 'visits-*.csv', 'visits', 'Visits'],
  ['Visits May 2031.xlsx', 'Visits May *.xlsx', 'visits-may', 'Visits May'],
  ['takings_by.clinic 05.06.2031.csv', 'takings_by.clinic *.csv', 'takings-by-clinic', 'Takings by clinic'],
  ['Besuche März.csv', 'Besuche März.csv', 'besuche-marz', 'Besuche März'],
  ['посещения-05.csv', 'посещения-*.csv', 'table', 'Посещения'],
  ['2031-05.csv', '????-??.csv', 'table', 'Table'],
  ['.env', '.env', 'env', 'Env'],
  ['price list', 'price list', 'price-list', 'Price list'],
])('%s is known by %s and called %s, %s', (file, pattern, id, title) => {
  expect([patternOf(file), idOf(file, []), titleOfFile(file)]).toEqual([pattern, id, title])
})

test('names that are taken are numbered', () => {
  expect(idOf('visits.csv', ['visits', 'visits-2'])).toBe('visits-3')
  const recipe = {
    tables: [
      { id: 'a', name: 'Visits', steps: [] },
      { id: 'b', name: 'Visits 2', steps: [] },
    ],
  } as unknown as Recipe
  expect(freeTableName(recipe, 'Visits')).toBe('Visits 3')
  expect(freeTableName(recipe, 'Targets')).toBe('Targets')
})

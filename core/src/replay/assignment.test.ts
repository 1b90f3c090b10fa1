import { expect, test } from 'vitest'
import { assignFiles, inputsByColumns } from './assignment.ts'
import type { Recipe } from '../recipe/recipe.ts'

const recipe = (inputs: Recipe['inputs']): Recipe => ({ fabula: 1, name: 'R', inputs, tables: [] })
const file = (name: string) => ({ name })

test('each file finds its input by its name, and several find the same', () => {
  const { given, homeless } = assignFiles(
    recipe([
      { id: 'visits', name: 'Visits', files: 'visits-*.csv' },
      { id: 'targets', name: 'Targets', files: 'targets-*.csv' },
    ]),
    [file('Visits-06.csv'), file('visits-07.csv'), file('targets-2031.csv'), file('notes.txt')],
  )
  expect(given).toEqual({ visits: [file('Visits-06.csv'), file('visits-07.csv')], targets: [file('targets-2031.csv')] })
  expect(homeless).toEqual([file('notes.txt')])
})

test('of two patterns that meet a name the one that says more of it takes the file', () => {
  const { given } = assignFiles(
    recipe([
      { id: 'any', name: 'Any', files: '*.csv' },
      { id: 'visits', name: 'Visits', files: 'visits-*.csv' },
    ]),
    [file('visits-06.csv'), file('06.csv')],
  )
  expect(given).toEqual({ visits: [file('visits-06.csv')], any: [file('06.csv')] })
})

test('one file and one input find each other, and a workbook goes to all that open it', () => {
  expect(assignFiles(recipe([{ id: 'only', name: 'Only', files: 'a-*.csv' }]), [file('download.csv')]).given).toEqual({
    only: [file('download.csv')],
  })
  const sheets = recipe([
    { id: 'jan', name: 'Jan', files: 'visits-*.xlsx' },
    { id: 'feb', name: 'Feb', files: 'visits-*.xlsx' },
  ])
  expect(assignFiles(sheets, [file('visits-2031.xlsx')]).given).toEqual({
    jan: [file('visits-2031.xlsx')],
    feb: [file('visits-2031.xlsx')],
  })
})

test('a name that says nothing is made good by the columns, where one input is more alike than the others', () => {
  const two = recipe([
    {
      id: 'visits',
      name: 'Visits',
      columns: [
        { name: 'Clinic', type: 'text' },
        { name: 'Fee', type: 'decimal' },
        { name: 'Day', type: 'date' },
      ],
    },
    {
      id: 'targets',
      name: 'Targets',
      columns: [
        { name: 'Clinic', type: 'text' },
        { name: 'Target', type: 'decimal' },
      ],
    },
  ])
  expect(inputsByColumns(two, [['Takings'], ['Clinic', 'Day', 'Fee', 'Vet']], [])).toEqual(['visits'])
  expect(inputsByColumns(two, [['Clinic', 'Target']], [])).toEqual(['targets'])
  expect(inputsByColumns(two, [['Clinic']], [])).toEqual([])
})

test('a workbook fills every input that takes one of its sheets by name', () => {
  const columns = [
    { name: 'Clinic', type: 'text' as const },
    { name: 'Visits', type: 'integer' as const },
  ]
  const years = ['2031', '2032']
  const byHand: Recipe = {
    ...recipe(years.map((year) => ({ id: `y-${year}`, name: year, columns }))),
    tables: years.map((year) => ({
      id: `y-${year}`,
      name: year,
      steps: [{ id: `s${year}`, kind: 'open', input: `y-${year}`, read: { sheets: [year] } }],
    })),
  }
  const rows = [['Clinic', 'Visits']]
  expect(inputsByColumns(byHand, rows, ['2031', '2032', '2033'])).toEqual(['y-2031', 'y-2032'])
  expect(inputsByColumns(byHand, rows, ['2032'])).toEqual(['y-2032'])
})

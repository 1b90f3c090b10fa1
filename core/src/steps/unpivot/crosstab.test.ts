import { expect, test } from 'vitest'
import { crosstabSteps, unpivotFor } from './crosstab.ts'

const schema = (...names: string[]) => names.map((name) => ({ name, type: 'integer' as const }))
const guess = (all: string, columns: string) => unpivotFor(columns.split(','), schema(...all.split(',')))

test('years, months and quarters name the column, and a rule takes in the next one', () => {
  expect(guess('Clinic,2030,2031,2032', '2030,2031,2032')).toEqual({
    kind: 'unpivot',
    name: 'Year',
    groups: [{ columns: { like: '20??' }, value: 'Value' }],
  })
  expect(guess('Clinic,Jan,Feb,Mar', 'Jan,Feb,Mar')).toEqual({
    kind: 'unpivot',
    name: 'Month',
    groups: [{ columns: { except: ['Clinic'] }, value: 'Value' }],
  })
  expect(guess('Clinic,Q1,Q2', 'Q1,Q2').name).toBe('Quarter')
})

test('a common word is the value, what differs the label', () => {
  expect(guess('Clinic,Vets Oxbow,Vets Marlpit', 'Vets Oxbow,Vets Marlpit')).toMatchObject({
    name: 'Name',
    groups: [{ columns: { like: 'Vets *' }, value: 'Vets' }],
    labels: { remove: { pattern: '^(?:Vets)[\\s_./:-]+|[\\s_./:-]+(?:Vets)$' } },
  })
})

test('several measures side by side are groups of their own', () => {
  expect(
    guess('Clinic,Sales Jan,Quantity Jan,Sales Feb,Quantity Feb', 'Sales Jan,Quantity Jan,Sales Feb,Quantity Feb'),
  ).toMatchObject({
    name: 'Month',
    groups: [
      { columns: { like: 'Sales *' }, value: 'Sales' },
      { columns: { like: 'Quantity *' }, value: 'Quantity' },
    ],
  })
})

test('two lines of names become three sentences; one line does not', () => {
  const steps = crosstabSteps(
    ['2030 Visits', '2030 Takings', '2031 Visits', '2031 Takings'],
    schema('Clinic', '2030 Visits', '2030 Takings', '2031 Visits', '2031 Takings'),
  )
  expect(steps).toMatchObject({
    unpivot: { groups: [{ columns: { except: ['Clinic'] } }] },
    then: [
      { kind: 'split', at: 'first', into: { columns: ['Year', 'Measure'] } },
      { kind: 'pivot', labels: 'Measure' },
    ],
  })
  expect(
    crosstabSteps(['Net sales Jan', 'Quantity Jan', 'Net sales Feb', 'Quantity Feb'], schema('A'))?.then[0],
  ).toMatchObject({ at: 'last', into: { columns: ['Measure', 'Month'] } })
  expect(crosstabSteps(['Jan', 'Feb', 'Mar', 'Apr'], schema('A'))).toBeUndefined()
})

import type { Recipe, Step } from '@fabula/core'
import { expect, test } from 'vitest'
import { withCopy } from './copy-to-story.tsx'

const open = (id: string): Step => ({ id, kind: 'open', input: 'visits' })
const story = (outputs?: Recipe['outputs']): Recipe => ({
  fabula: 1,
  name: 'Takings',
  inputs: [{ id: 'visits', name: 'Visits' }],
  tables: [
    { id: 'visits', name: 'Visits', steps: [open('s1')] },
    { id: 'codes', name: 'Codes', steps: [open('s2')] },
  ],
  ...(outputs ? { outputs } : {}),
})
const drop: Step = { id: 's7', kind: 'drop', columns: ['Desk'] }

test('a copied sentence goes to the end of the table that is written, with an id of its own', () => {
  const { recipe, table } = withCopy(story([{ table: 'visits', format: 'csv', file: 'v.csv' }]), drop)
  expect(table).toBe('Visits')
  expect(recipe.tables[0]?.steps).toEqual([open('s1'), { id: 's3', kind: 'drop', columns: ['Desk'] }])
  expect(recipe.tables[1]?.steps).toHaveLength(1)
})

test('where no table is named as written, it is the last', () => {
  expect(withCopy(story(), drop).table).toBe('Codes')
})

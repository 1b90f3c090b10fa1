import { describe, expect, test } from 'vitest'
import type { FlowSummary } from '@fabula/core/api'
import { storiesShown } from './stories.ts'

const story = (name: string, more: Partial<FlowSummary> = {}): FlowSummary => ({
  id: name,
  name,
  changedAt: '2031-05-01T08:00:00',
  sentences: 3,
  writes: [],
  openedAt: null,
  ran: null,
  deletedAt: null,
  waits: 0,
  ...more,
})
const stories = [
  story('Takings 10', { openedAt: '2031-05-02T08:00:00', writes: ['Takings', 'Regions'] }),
  story('Takings 9', { ran: { at: '2031-05-03T08:00:00', files: [], rows: 1, open: 0 } }),
  story('Intake', { openedAt: '2031-05-04T08:00:00', changedAt: '2031-04-01T08:00:00' }),
  story('Old', { deletedAt: '2031-05-01T08:00:00' }),
]
const names = (text: string, order: Parameters<typeof storiesShown>[2]) =>
  storiesShown(stories, text, order).shown.map(({ name }) => name)

describe('the list of stories', () => {
  test.each([
    ['opened', ['Intake', 'Takings 10', 'Takings 9']],
    ['changed', ['Takings 10', 'Takings 9', 'Intake']],
    ['ran', ['Takings 9', 'Takings 10', 'Intake']],
    ['name', ['Intake', 'Takings 9', 'Takings 10']],
  ] as const)('%s', (order, expected) => expect(names('', order)).toEqual(expected))
  test('a story is found by its name or a table that it writes, by every word', () => {
    expect(names('taking 9', 'name')).toEqual(['Takings 9'])
    expect(names('regions', 'name')).toEqual(['Takings 10'])
    expect(names('zebra', 'name')).toEqual([])
  })
  test('what is deleted stands apart', () =>
    expect(storiesShown(stories, '', 'name').deleted.map(({ name }) => name)).toEqual(['Old']))
})

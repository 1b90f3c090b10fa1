import type { Recipe, Step } from '@fabula/core'
import { expect, test } from 'vitest'
import { cards, currentAct, type GuideFacts } from './cards.ts'

const facts = (steps: readonly Step[] | undefined, more: Partial<GuideFacts> = {}): GuideFacts => ({
  path: '/flows/1',
  recipe:
    steps && ({ fabula: 1, name: 'Visits', inputs: [], tables: [{ id: 'visits', name: 'Visits', steps }] } as Recipe),
  replays: 0,
  seen: [],
  ...more,
})
const open: Step = { id: 's1', kind: 'open', input: 'visits' }
const trim: Step = { id: 's2', kind: 'derive', as: 'Clinic', formula: 'TRIM(Clinic)' }

test('a card waits for its own act, and is passed once the story holds it', () => {
  expect(currentAct(facts(undefined))?.card).toBe(0)
  expect(currentAct(facts([open]))?.act.words).toContain('take the spaces off')
  expect(currentAct(facts([open, trim]))?.act.words).toContain('read it as a number')
})

test('what is undone later is asked for again', () => {
  const cast: Step = { id: 's3', kind: 'cast', columns: ['Charged'], type: 'decimal' }
  expect(currentAct(facts([open, cast]))?.act.words).toContain('take the spaces off')
})

test('there are seven cards, each says what to do, and each act has something to point at or to hand over', () => {
  expect(cards).toHaveLength(7)
  for (const { acts, about } of cards) {
    expect(about).toMatch(/[.?]$/)
    for (const act of acts) expect(act.points.length + (act.hands ? 1 : 0)).toBeGreaterThan(0)
  }
})

import { nextStepId, type NewStep, type Step } from '@fabula/core'
import type { Story } from '../story/use-story.ts'
import { moved, whyNot } from './sentences.ts'

/** The step switched on or off; a step that is on has no such property. */
export const switched = (step: Step): Step => {
  if (!step.off) return { ...step, off: true }
  const { off: _off, ...on } = step
  return on as Step
}

/** Moves a step to a place counted without it, unless the sentences would not hold in that order. */
export const moveStep = (story: Story, id: string, to: number): void => {
  const { table } = story
  if (!table) return
  const steps = moved(table.steps, id, to)
  const why = whyNot(story.flow.recipe, table, steps)
  if (why) story.setProblem(why)
  else void story.changeSteps('a sentence moved', () => steps)
}

/** What the menu of a sentence does. */
export const stepActions = (story: Story, step: Step, index: number) => {
  const table = story.table?.id ?? ''
  const putAfter = (params: NewStep): void => {
    const made = { ...params, id: nextStepId(story.flow.recipe) } as Step
    void story.changeSteps('a sentence put in', (steps) => [
      ...steps.slice(0, index + 1),
      made,
      ...steps.slice(index + 1),
    ])
    story.goTo(table, made.id)
  }
  return {
    putAfter,
    duplicate: (): void => {
      const { id: _id, ...params } = step
      putAfter(params as NewStep)
    },
    move: (by: number): void => moveStep(story, step.id, index + by),
    switchOnOff: (): void =>
      void story.changeSteps(step.off ? 'a sentence switched on' : 'a sentence switched off', (steps) =>
        steps.map((one) => (one.id === step.id ? switched(one) : one)),
      ),
    branch: (): void => void story.branch(table, step.id),
    explain: (): void => {
      story.goTo(table, step.id)
      story.setStageView('reconcile')
    },
    /** Takes the step out, and others with it. */
    remove: (others: readonly string[]): void =>
      void story.changeSteps(others.length > 0 ? 'sentences taken out' : 'a sentence taken out', (steps) =>
        steps.filter(({ id }) => id !== step.id && !others.includes(id)),
      ),
  }
}

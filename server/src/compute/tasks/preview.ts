import {
  diffView,
  rowsWithTexts,
  viewOfRows,
  quickFixesFor,
  sentenceOf,
  type PlannedStep,
  type StepRun,
} from '@fabula/core'
import type { StoryStep } from '@fabula/core/api'
import { defineTableQuery } from './define-task.ts'
import { runTo } from './story-run.ts'

const storyStep = ({ step, state, problems, input, output }: PlannedStep, done: StepRun | undefined): StoryStep => ({
  id: step.id,
  state,
  statistics: done?.statistics ? (structuredClone(done.statistics) as StoryStep['statistics']) : null,
  columns: output.map((field) => ({ ...field })),
  problems: problems.map((problem) => ({
    sentence: sentenceOf(problem),
    path: [...problem.path],
    quickFixes: quickFixesFor(step, problem, input).map(({ column, words, step: fixed }) => ({
      column,
      ...(words ? { words } : {}),
      step: { ...fixed },
    })),
  })),
})

/** A page of rows of a table after a sentence, with the statistics of every sentence before it. */
export const preview = defineTableQuery('preview', async (asked, story, context) => {
  const { table, step, diffMode, only, from, count, drafts = [], texts } = asked
  const { ran, plan, engineMs } = await runTo(story, { table, step }, context, drafts)
  const position = ran.steps.findIndex((one) => one.step.id === step)
  const at = Math.max(0, position)
  const before = ran.steps[at - 1]?.table
  const view =
    texts && before
      ? viewOfRows(before, rowsWithTexts(before.named(texts.column), texts.of), from, count)
      : diffView(ran.steps, at, diffMode, only, from, count)
  return {
    columns: [...view.columns],
    total: view.total,
    rows: [...view.rows],
    steps: (plan.tables.find(({ id }) => id === table)?.steps ?? []).map((planned) =>
      storyStep(
        planned,
        ran.steps.find((done) => done.step.id === planned.step.id),
      ),
    ),
    engineMs,
  }
})

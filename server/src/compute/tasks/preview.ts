import { diffView, quickFixesFor, sentenceOf, type PlannedStep, type StepRun } from '@fabula/core'
import { previewReply, type PreviewReply, type PreviewRequest, type StoryStep } from '@fabula/core/api'
import type { InputFiles } from '../worker-context.ts'
import { defineTask } from './define-task.ts'
import { runTo } from './story-run.ts'

const storyStep = ({ step, state, problems, output }: PlannedStep, done: StepRun | undefined): StoryStep => ({
  id: step.id,
  state,
  statistics: done?.statistics ? (structuredClone(done.statistics) as StoryStep['statistics']) : null,
  columns: output.map((field) => ({ ...field })),
  problems: problems.map((problem) => ({
    sentence: sentenceOf(problem),
    path: [...problem.path],
    quickFixes: quickFixesFor(step, problem).map(({ column, words, step: fixed }) => ({
      column,
      ...(words ? { words } : {}),
      step: { ...fixed },
    })),
  })),
})

/** A page of rows of a table after a sentence, with the statistics of every sentence before it. */
export const preview = defineTask({
  reply: previewReply,
  run: async (
    { request, files, now }: { readonly request: PreviewRequest; readonly files: InputFiles; readonly now: number },
    context,
  ): Promise<PreviewReply> => {
    const { recipe, table, step, diffMode, only, from, count } = request
    const { ran, plan, engineMs } = await runTo(recipe, table, step, files, now, context, request.drafts ?? [])
    const at = ran.steps.findIndex((one) => one.step.id === step)
    const view = diffView(ran.steps, Math.max(0, at), diffMode, only, from, count)
    return {
      ...structuredClone(view),
      rows: view.rows.map(({ old, bad, ...row }) => ({
        ...row,
        cells: [...row.cells],
        ...(old ? { old: { ...old } } : {}),
        ...(bad ? { bad: [...bad] } : {}),
      })),
      columns: view.columns.map((column) => ({ ...column })),
      steps: (plan.tables.find(({ id }) => id === table)?.steps ?? []).map((planned) =>
        storyStep(
          planned,
          ran.steps.find((done) => done.step.id === planned.step.id),
        ),
      ),
      engineMs,
    }
  },
})

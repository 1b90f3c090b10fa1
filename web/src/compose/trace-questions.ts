import { counted, openedBy } from '@fabula/core'
import type { Story } from '../story/use-story.ts'
import type { TraceSubject } from '../tracing/subject.ts'

/** A question about the selection, and what it opens. */
export type TraceQuestion = { readonly words: string; readonly subject: TraceSubject }

/** Of a whole table: which rows it lost, on the way to here and at this sentence, and the sheet of a sentence that opens one. */
const tableQuestions = (story: Story, id: string): TraceQuestion[] => {
  const { table, step, stepIndex, statisticsHere } = story
  const isLast = table?.steps.at(-1)?.id === step?.id
  const left = statisticsHere?.rowsLeft ?? 0
  const before = table?.steps[stepIndex - 1]
  const opened = step && openedBy(step)
  return [
    {
      words: 'Which rows of the files are not in it?',
      subject: { kind: 'lost', table: id, ...(isLast || !step ? {} : { until: step.id }) },
    },
    ...(left > 0 && before && step
      ? [
          {
            words: `Why did ${counted(left, 'row')} leave here?`,
            subject: { kind: 'lost' as const, table: id, since: before.id, until: step.id },
          },
        ]
      : []),
    ...(opened
      ? [{ words: 'See the sheet', subject: { kind: 'sheet' as const, of: { input: opened.input }, row: 0 } }]
      : []),
  ]
}

/** What can be asked about the selection, the likeliest first: where a cell comes from, or of the table which rows it lost. */
export const traceQuestions = (story: Story): TraceQuestion[] => {
  const { selection, table, step, stepIndex } = story
  if (!table || !step) return []
  if (selection.kind === 'table') return tableQuestions(story, table.id)
  if (selection.kind !== 'cell' && selection.kind !== 'part') return []
  const { column, row, value } = selection
  // a row that left stands in the table before the sentence
  const left = selection.kind === 'cell' && selection.left === true
  const at = left ? table.steps[stepIndex - 1]?.id : step.id
  if (at === undefined) return []
  const type = story.schemaHere.find(({ name }) => name === column)?.type
  return [
    {
      words: 'Where does this come from?',
      subject: { kind: 'back', table: table.id, step: at, row: row + 1, column, value, ...(type ? { type } : {}) },
    },
  ]
}

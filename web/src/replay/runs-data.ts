import type { PictureData, RunSummary } from '@fabula/core/api'
import { moment } from '../ui/moments.ts'

const mostRuns = 24

/** The rows of each output of the latest finished runs, the oldest first; a run that had not that output has none. */
export const runsData = (runs: readonly RunSummary[]): PictureData => {
  const done = runs.filter(({ state, retells }) => state === 'done' && retells === null).slice(0, mostRuns)
  const oldestFirst = [...done].reverse()
  const series = [...new Set(oldestFirst.flatMap(({ outputs }) => outputs.map(({ file }) => file)))]
  return {
    labels: oldestFirst.map(({ startedAt }) => moment(startedAt)),
    series,
    values: series.map((file) =>
      oldestFirst.map(({ outputs }) => outputs.find((output) => output.file === file)?.rows ?? null),
    ),
    points: [],
    wheres: [],
    beyond: 0,
  }
}

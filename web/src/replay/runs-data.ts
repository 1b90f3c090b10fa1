import { ownValue } from '@fabula/core'
import type { PictureData, RunSummary } from '@fabula/core/api'
import { moment } from '../ui/moments.ts'

const mostRuns = 24
/** The figure that every output has. */
export const rowsFigure = 'Rows'

const finished = (runs: readonly RunSummary[]): readonly RunSummary[] =>
  runs
    .filter(({ state, repeats }) => state === 'done' && repeats === null)
    .slice(0, mostRuns)
    .reverse()

/** The figures of the finished runs: rows, and the totals of number columns. */
export const runFigures = (runs: readonly RunSummary[]): readonly string[] => [
  rowsFigure,
  ...new Set(finished(runs).flatMap(({ outputs }) => outputs.flatMap(({ totals }) => Object.keys(totals)))),
]

/** A figure of each output of the latest finished runs, the oldest first; a run that had not that output has none. */
export const runsData = (runs: readonly RunSummary[], figure: string): PictureData => {
  const oldestFirst = finished(runs)
  const valueOf = ({ rows, totals }: RunSummary['outputs'][number]): number | undefined =>
    figure === rowsFigure ? rows : ownValue(totals, figure)
  const series = [
    ...new Set(
      oldestFirst.flatMap(({ outputs }) =>
        outputs.filter((output) => valueOf(output) !== undefined).map(({ file }) => file),
      ),
    ),
  ]
  return {
    labels: oldestFirst.map(({ startedAt }) => moment(startedAt)),
    labelType: 'text',
    series,
    values: series.map((file) =>
      oldestFirst.map(({ outputs }) => {
        const output = outputs.find((one) => one.file === file)
        return (output && valueOf(output)) ?? null
      }),
    ),
    points: [],
    wheres: [],
    beyond: 0,
  }
}

import type { RunSummary } from '@fabula/core/api'
import { lazy, Suspense, useState } from 'react'
import { rowsFigure, runFigures, runsData } from './runs-data.ts'

const PictureChart = lazy(() => import('../charts/chart.tsx'))

/** What came out, run by run, so that a drift is seen before it is a problem: rows, or the total of a number column. */
export const RunsChart = ({ runs }: { runs: readonly RunSummary[] }) => {
  const [chosen, choose] = useState(rowsFigure)
  const figures = runFigures(runs)
  const figure = figures.includes(chosen) ? chosen : rowsFigure
  const data = runsData(runs, figure)
  if (data.labels.length < 2) return null
  return (
    <section aria-label="What came out, run by run" className="mb-6">
      <h2 className="mb-1 flex items-center gap-3 font-serif text-[16px] font-semibold">
        What came out, run by run
        <select
          className="field w-auto font-sans text-[13px] font-normal"
          aria-label="Figure of the runs"
          value={figure}
          onChange={(event) => choose(event.target.value)}
        >
          {figures.map((one) => (
            <option key={one} value={one}>
              {one === rowsFigure ? one : `Total of ${one}`}
            </option>
          ))}
        </select>
      </h2>
      <div className="h-[170px]">
        <Suspense fallback={<p className="text-ink-3">Drawing…</p>}>
          <PictureChart
            picture={
              figure === rowsFigure
                ? { id: 'runs', name: figure, table: '', kind: 'bar', label: '', how: 'count' }
                : { id: 'runs', name: figure, table: '', kind: 'bar', label: '', how: 'sum', column: figure }
            }
            data={data}
          />
        </Suspense>
      </div>
    </section>
  )
}

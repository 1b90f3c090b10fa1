import type { RunSummary } from '@fabula/core/api'
import { lazy, Suspense } from 'react'
import { runsData } from './runs-data.ts'

const PictureChart = lazy(() => import('../charts/chart.tsx'))

/** The rows that came out, run by run, so that a drift is seen before it is a problem. */
export const RunsChart = ({ runs }: { runs: readonly RunSummary[] }) => {
  const data = runsData(runs)
  if (data.labels.length < 2) return null
  return (
    <section aria-label="Rows that came out, run by run" className="mb-6">
      <h2 className="mb-1 font-serif text-[16px] font-semibold">Rows that came out, run by run</h2>
      <div className="h-[170px]">
        <Suspense fallback={<p className="text-ink-3">Drawing…</p>}>
          <PictureChart
            picture={{ id: 'runs', name: 'Rows that came out', table: '', kind: 'bar', label: '', how: 'count' }}
            data={data}
          />
        </Suspense>
      </div>
    </section>
  )
}

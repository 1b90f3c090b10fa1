import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js'
import { useEffect, useRef } from 'react'
import { counted, type Condition } from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import { useWriting, writtenLabel } from '../ui/writing.ts'

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip)
const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

/** How the values of a column are spread, as bars; a click on a bar chooses its rows. */
export default function SpreadChart({
  facts,
  name,
  choose,
}: {
  facts: ColumnFacts
  name: string
  choose: (where: Condition) => void
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const latest = useRef(choose)
  latest.current = choose
  const writing = useWriting()
  useEffect(() => {
    if (!canvas.current) return
    const { bars } = facts
    const chart = new Chart(canvas.current, {
      type: 'bar',
      data: {
        labels: bars.map(({ label }) => writtenLabel(label, facts.type, writing)),
        datasets: [
          {
            data: bars.map(({ count }) => count),
            backgroundColor: colour('--bar'),
            hoverBackgroundColor: colour('--token'),
            barPercentage: 0.96,
            categoryPercentage: 0.96,
            minBarLength: 2,
          },
        ],
      },
      options: {
        animation: false,
        interaction: { mode: 'index', intersect: false },
        responsive: true,
        maintainAspectRatio: false,
        plugins: {
          legend: { display: false },
          tooltip: { displayColors: false, callbacks: { label: ({ raw }) => counted(Number(raw), 'row') } },
        },
        scales: { x: { display: false }, y: { display: false, beginAtZero: true } },
        onHover: (event, hit) =>
          event.native?.target instanceof HTMLElement &&
          (event.native.target.style.cursor = hit.length > 0 ? 'pointer' : 'default'),
        onClick: (_event, hit) => {
          const where = bars[hit[0]?.index ?? -1]?.where
          if (where) latest.current(where)
        },
      },
    })
    return () => chart.destroy()
  }, [facts, writing])
  return (
    <div className="relative h-[74px] min-w-0">
      <canvas
        ref={canvas}
        role="img"
        aria-label={`How ${name} is spread: ${facts.bars
          .slice(0, 14)
          .map(({ label, count }) => `${writtenLabel(label, facts.type, writing)}, ${counted(count, 'row')}`)
          .join('; ')}`}
      />
    </div>
  )
}

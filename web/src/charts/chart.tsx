import {
  ArcElement,
  BarController,
  BarElement,
  CategoryScale,
  Chart as ChartJs,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PieController,
  PointElement,
  ScatterController,
  Tooltip,
  type ChartConfiguration,
  type ChartType,
} from 'chart.js'
import { useEffect, useImperativeHandle, useMemo, useRef, type Ref } from 'react'
import type { Picture, PictureData } from '@fabula/core/api'
import { useWriting, writtenLabel, writtenValue, type Writing } from '../ui/writing.ts'

ChartJs.register(
  ArcElement,
  BarController,
  BarElement,
  CategoryScale,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PieController,
  PointElement,
  ScatterController,
  Tooltip,
)
const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim()
const inks = ['--strand-1', '--strand-2', '--strand-3', '--strand-4', '--strand-5', '--rubric', '--changed', '--bar']

const configuration = (
  picture: Picture,
  data: PictureData,
  writing: Writing,
  choose: (at: number) => void,
): ChartConfiguration => {
  const text = colour('--ink-2')
  const line = colour('--line')
  const many = data.series.length > 1
  const axes = (title: string) => ({
    grid: { color: line },
    ticks: { color: text, font: { family: 'Inter Variable' } },
    title: { display: title !== '', text: title, color: text },
  })
  const common = {
    animation: false as const,
    responsive: true,
    maintainAspectRatio: false,
    ...(writing === 'iso' ? { locale: 'en-GB' } : {}),
    plugins: { legend: { display: many || picture.kind === 'pie', labels: { color: text, boxWidth: 12 } } },
    onClick: (_event: unknown, hit: readonly { index: number }[]) => hit[0] && choose(hit[0].index),
  }
  if (picture.kind === 'scatter')
    return {
      type: 'scatter',
      data: {
        datasets: [
          { data: data.points.map(([x, y]) => ({ x, y })), backgroundColor: colour('--strand-1'), pointRadius: 3 },
        ],
      },
      options: { ...common, scales: { x: axes(picture.label), y: axes(picture.column ?? '') } },
    }
  if (picture.kind === 'pie')
    return {
      type: 'pie',
      data: {
        labels: data.labels,
        datasets: [
          {
            data: data.values[0] ?? [],
            backgroundColor: data.labels.map((_, i) => colour(inks[i % inks.length] ?? '--bar')),
            borderColor: colour('--sheet'),
          },
        ],
      },
      options: common,
    }
  const datasets = data.series.map((label, i) => ({
    label,
    data: data.values[i] ?? [],
    backgroundColor: colour(inks[i % inks.length] ?? '--bar'),
    borderColor: colour(inks[i % inks.length] ?? '--bar'),
    ...(picture.kind === 'line'
      ? { tension: 0, pointRadius: 2, spanGaps: false }
      : {
          categoryPercentage: picture.kind === 'histogram' ? 1 : 0.8,
          barPercentage: picture.kind === 'histogram' ? 0.98 : 0.9,
        }),
  }))
  const stacked = picture.kind === 'stacked'
  return {
    type: picture.kind === 'line' ? 'line' : 'bar',
    data: { labels: data.labels, datasets },
    options: {
      ...common,
      scales: {
        x: { ...axes(picture.label), stacked },
        y: {
          ...axes(
            picture.how === 'count' || picture.kind === 'histogram'
              ? 'Rows'
              : `${picture.how} of ${picture.column ?? ''}`,
          ),
          stacked,
          beginAtZero: true,
          ...(picture.how === 'count' || picture.kind === 'histogram'
            ? { ticks: { ...axes('').ticks, precision: 0 } }
            : {}),
        },
      },
    } as never,
  }
}

const numberWords = (value: number | null | undefined, writing: Writing): string =>
  typeof value === 'number' ? writtenValue(String(value), 'decimal', writing) : 'nothing'

export type ChartHandle = { readonly image: () => string }

/** A picture drawn on a canvas, and in words for who cannot see it. A click on a part tells its place. */
export default function Chart({
  picture,
  data,
  choose,
  ref,
}: {
  picture: Picture
  data: PictureData
  choose?: (at: number) => void
  ref?: Ref<ChartHandle>
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const chart = useRef<ChartJs>(undefined)
  const latest = useRef(choose)
  latest.current = choose
  const writing = useWriting()
  const shown = useMemo(
    () => ({ ...data, labels: data.labels.map((label) => writtenLabel(label, data.labelType, writing)) }),
    [data, writing],
  )
  useEffect(() => {
    if (!canvas.current) return
    chart.current = new ChartJs<ChartType>(
      canvas.current,
      configuration(picture, shown, writing, (at) => latest.current?.(at)),
    )
    return () => chart.current?.destroy()
  }, [picture, shown, writing])
  useImperativeHandle(ref, () => ({ image: () => chart.current?.toBase64Image('image/png', 1) ?? '' }))
  const words =
    picture.kind === 'scatter'
      ? `${data.points.length} points`
      : data.series
          .map(
            (name, s) =>
              `${name}: ${shown.labels
                .slice(0, 30)
                .map((label, i) => `${label} ${numberWords(data.values[s]?.[i], writing)}`)
                .join(', ')}`,
          )
          .join('; ')
  return (
    <div className="relative h-full min-h-[180px] min-w-0">
      <canvas ref={canvas} role="img" aria-label={`${picture.name}. ${words}`} />
    </div>
  )
}

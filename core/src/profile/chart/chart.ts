import type { Condition } from '../../steps/shared/condition.ts'
import { aggregate } from '../../table/aggregate.ts'
import { textOfCell } from '../../table/cell-text.ts'
import type { Cell } from '../../table/column.ts'
import { cellAt, columnOf, isNullAt, isNumber, type Column, type ColumnType } from '../../table/column.ts'
import { groupBy } from '../../table/group.ts'
import { Table } from '../../table/table.ts'
import { factsOf } from '../facts/facts.ts'

type ChartAggregate = 'count' | 'sum' | 'mean' | 'median' | 'min' | 'max' | 'distinct'
/** What a chart shows of a table. */
export type ChartRequest = {
  readonly kind: 'bar' | 'stacked' | 'line' | 'pie' | 'scatter' | 'histogram'
  readonly label: string
  readonly series?: string | undefined
  readonly how: ChartAggregate
  readonly column?: string | undefined
}
/** Labels, a value a label for each series, or points; `beyond` counts labels that are not drawn. */
export type ChartData = {
  labels: string[]
  labelType: ColumnType
  series: string[]
  values: (number | null)[][]
  points: [number, number][]
  wheres: (Condition | null)[]
  beyond: number
}

const mostLabels = { bar: 40, stacked: 40, line: 600, pie: 12, scatter: 0, histogram: 0 }
const mostSeries = 8
const mostPoints = 2000
/** A chart of nothing: a table or column that is not there. */
export const emptyChart: ChartData = {
  labels: [],
  labelType: 'text',
  series: [],
  values: [],
  points: [],
  wheres: [],
  beyond: 0,
}

const shown = (column: Column, row: number): string => {
  const cell = cellAt(column, row)
  return cell === null ? 'empty' : textOfCell(column.type, cell)
}
const written = (type: ColumnType, column: Column, row: number): Cell => {
  const cell = cellAt(column, row)
  return cell === null || typeof cell === 'boolean' || isNumber(type) || type === 'text' ? cell : textOfCell(type, cell)
}
const whereIs = (name: string, column: Column, row: number): Condition | null => {
  if (column.type === 'list') return null
  if (isNullAt(column, row)) return { column: name, op: 'is-empty' }
  return { column: name, op: 'is', value: written(column.type, column, row) }
}

/** Points of two columns of numbers, evenly picked where there are many. */
const scatter = ({ label, column }: ChartRequest, table: Table): ChartData => {
  const [x, y] = [table.named(label), table.named(column ?? label)]
  const points: [number, number][] = []
  const stride = Math.max(1, Math.ceil(table.rowCount / mostPoints))
  for (let row = 0; row < table.rowCount; row += stride) {
    const [a, b] = [cellAt(x, row), cellAt(y, row)]
    if (typeof a === 'number' && typeof b === 'number') points.push([a, b])
  }
  return { ...emptyChart, points }
}

const numberAt = (column: Column, at: number): number | null => {
  const cell = cellAt(column, at)
  return typeof cell === 'number' ? cell : null
}

/**
 * What a chart is drawn from: a figure for each label, or each label and series. Labels that have an order (dates, numbers)
 * keep it, others go from the largest figure down; beyond what can be read they are counted.
 */
// eslint-disable-next-line complexity -- one branch for each kind of chart
export const chartData = (asked: ChartRequest, table: Table): ChartData => {
  const { kind, label, series, how, column } = asked
  if ([label, series, column].some((name) => name !== undefined && table.positionOf(name) < 0)) return emptyChart
  if (kind === 'scatter') return scatter(asked, table)
  const along = table.named(label)
  if (kind === 'histogram') {
    const { bars } = factsOf(label, along, false)
    return {
      ...emptyChart,
      labels: bars.map((bar) => bar.label),
      labelType: along.type,
      series: ['Rows'],
      values: [bars.map(({ count }) => count)],
      wheres: bars.map(({ where }) => (where ? { ...where } : null)),
    }
  }
  const groups = groupBy([along], table.rowCount)
  const measured = how === 'count' || column === undefined ? undefined : table.named(column)
  const type: ColumnType = how === 'count' || how === 'distinct' ? 'integer' : 'decimal'
  const total = aggregate({ how: measured ? how : 'count' }, measured, groups, type).column
  const order = Array.from({ length: groups.count }, (_, g) => g)
  const first = (g: number): number => groups.first[g]!
  if (along.type === 'text' || along.type === 'boolean' || along.type === 'list') {
    if (kind !== 'line') order.sort((a, b) => (numberAt(total, b) ?? -Infinity) - (numberAt(total, a) ?? -Infinity))
  } else order.sort((a, b) => Number(cellAt(along, first(a)) ?? Infinity) - Number(cellAt(along, first(b)) ?? Infinity))
  const kept = order.slice(0, mostLabels[kind])
  const labels = kept.map((g) => shown(along, first(g)))
  const wheres = kept.map((g) => whereIs(label, along, first(g)))
  const beyond = groups.count - kept.length
  if (series === undefined || kind === 'pie')
    return {
      labels,
      labelType: along.type,
      series: [measured ? `${how} ${column ?? ''}` : 'Rows'],
      values: [kept.map((g) => numberAt(total, g))],
      points: [],
      wheres,
      beyond,
    }
  const parting = table.named(series)
  const parts = groupBy([parting], table.rowCount)
  const cells = {
    ids: Uint32Array.from(groups.ids, (id, row) => id * parts.count + parts.ids[row]!),
    count: groups.count * parts.count,
    first: new Int32Array(0),
  }
  const each = aggregate({ how: measured ? how : 'count' }, measured, cells, type).column
  const turns = Array.from({ length: Math.min(mostSeries, parts.count) }, (_, p) => p)
  return {
    labels,
    labelType: along.type,
    series: turns.map((p) => shown(parting, parts.first[p]!)),
    values: turns.map((p) => kept.map((g) => numberAt(each, g * parts.count + p))),
    points: [],
    wheres,
    beyond,
  }
}

/** What a chart shows, as a table: its labels and a column for each series, or the two columns of its points. */
export const chartTable = (
  { kind, label, column }: ChartRequest,
  { labels, series, values, points }: ChartData,
): Table => {
  const made: { name: string; cells: Column }[] =
    kind === 'scatter'
      ? [label, column ?? label].map((name, i) => ({
          name,
          cells: columnOf(
            'decimal',
            points.map((point) => point[i]!),
          ),
        }))
      : [
          { name: label, cells: columnOf('text', labels) },
          ...series.map((name, i) => ({ name, cells: columnOf('decimal', values[i] ?? []) })),
        ]
  const taken: string[] = []
  for (const { name } of made) taken.push(taken.includes(name) ? `${name} ${taken.length + 1}` : name)
  return Table.of(
    taken,
    made.map(({ cells }) => cells),
    kind === 'scatter' ? points.length : labels.length,
  )
}

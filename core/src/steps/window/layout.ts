import { aggregates, type Aggregate } from '../../table/aggregate.ts'
import type { ColumnType } from '../../table/column.ts'
import type { Field, Schema } from '../../table/table.ts'
import { freeName, type ColumnPlacement, type GroupKeys } from '../shared/columns.ts'
import { measureType } from '../shared/measures.ts'
import type { SortKeyParams } from '../shared/sort-keys.ts'

const ordered = ['running-sum', 'rank', 'dense-rank', 'row-number', 'previous', 'next'] as const
type Ordered = (typeof ordered)[number]
/** An aggregate over a group, or a function of the row’s place in it. */
export type WindowHow = Aggregate | Ordered
/** One figure, and the column that it becomes. */
export type WindowMeasure = {
  readonly how: WindowHow
  readonly column?: string | undefined
  readonly as: string
  readonly offset?: number | undefined
  readonly separator?: string | undefined
}
/** The params of a window. */
export type Window = ColumnPlacement & {
  readonly by?: GroupKeys | undefined
  readonly order?: readonly SortKeyParams[] | undefined
  readonly measures: readonly WindowMeasure[]
}

/** All functions of a window. */
export const windowHows = [...aggregates, ...ordered] as const
/** Whether a figure is of no column. */
export const needsNone = (how: WindowHow): boolean =>
  how === 'count' || how === 'rank' || how === 'dense-rank' || how === 'row-number'

const typeOf = ({ how, column }: WindowMeasure, input: Schema): ColumnType => {
  const type = input.find((field) => field.name === column)?.type ?? 'integer'
  if (how === 'rank' || how === 'dense-rank' || how === 'row-number') return 'integer'
  if (how === 'previous' || how === 'next') return type
  if (how === 'running-sum') {
    if (type === 'integer') return 'integer'
    return 'decimal'
  }
  return measureType(how, type)
}
/** The columns that the figures become. */
export const fieldsOf = ({ measures }: Window, input: Schema): Field[] => {
  const taken = input.map((field) => field.name)
  return measures.map((measure) => {
    const free = freeName(measure.as, taken)
    taken.push(free)
    return { name: free, type: typeOf(measure, input) }
  })
}
/** The columns whose equal values make a group. */
export const byOf = ({ by }: Window): GroupKeys => by ?? []

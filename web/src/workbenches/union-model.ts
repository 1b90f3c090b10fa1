import { listed, typeWords, type ColumnType, type StepOf } from '@fabula/core'
import type { AlignReply } from '@fabula/core/api'
import { without } from '../story/without.ts'
import { isMoved, type ColumnSource } from './union-edits.ts'

export type UnionStep = StepOf<'union'>
export type AlignedColumn = AlignReply['columns'][number]

/** The columns that stand in one row of the matrix, as pairs of the step write them. */
export const cellsOf = ({ from }: AlignedColumn, ids: readonly string[]): ColumnSource[] =>
  from.flatMap((cell, at) => (cell ? [{ table: ids[at] ?? '', column: cell.column }] : []))

/** A name for a column that is taken apart, which no column of the matrix has. */
export const apartName = (column: string, columns: readonly AlignedColumn[]): string => {
  const taken = new Set(columns.map(({ name }) => name))
  let n = 2
  while (taken.has(`${column} ${n}`)) n++
  return `${column} ${n}`
}

/** Suggested pairs of columns that were not laid elsewhere by hand. */
export const openPartners = (data: AlignReply, step: UnionStep, ids: readonly string[]): AlignReply['partners'] =>
  data.partners.filter(({ at, column }) => !isMoved(step, { table: ids[at] ?? '', column }))

/** Why two columns may be one. */
export const partnerReason = ({ share, alike }: AlignReply['partners'][number]): string =>
  [
    ...(share > 0 ? [`${Math.round(share * 100)} % of its values stand there too`] : []),
    ...(alike ? ['the names are alike'] : []),
  ].join(', and ')

const typeName = (type: ColumnType): string => typeWords[type].replace(/^an? /, '')

/** The type of a row of the matrix; `differ`: what becomes of the types where the tables have different ones. */
export const typesOf = ({ from, type }: AlignedColumn): { readonly differ: boolean; readonly words: string } => {
  const types = [...new Set(from.flatMap((cell) => (cell ? [cell.type] : [])))]
  if (types.length <= 1) return { differ: false, words: typeName(type) }
  return { differ: true, words: `${listed(types.map((one) => typeWords[one]))}: becomes ${typeWords[type]}` }
}
/** What is said of a cell whose type is not that of its row; nothing where it is. */
export const otherType = (cell: ColumnType, column: ColumnType): string =>
  cell === column ? '' : `(${typeName(cell)})`

/** How many cells of the union will be empty, since a table lacks the column. */
export const emptyCells = (columns: readonly AlignedColumn[], rows: readonly number[]): number =>
  columns.reduce((sum, { from }) => sum + from.reduce((n, cell, at) => n + (cell ? 0 : (rows[at] ?? 0)), 0), 0)

/** The union of all columns, or only of those that every table has. */
export const withColumns = (step: UnionStep, which: 'all' | 'shared'): UnionStep =>
  which === 'all' ? without(step, 'columns') : { ...step, columns: which }

/** The union with a column of the table's name, or without. */
export const withOrigin = (step: UnionStep, on: boolean): UnionStep =>
  on ? { ...step, origin: 'Table' } : without(step, 'origin')

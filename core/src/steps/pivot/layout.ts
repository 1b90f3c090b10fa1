import { type Aggregate } from '../../table/aggregate.ts'
import { textOfCell } from '../../table/cell-text.ts'
import { cellAt, lengthOf, type Column, type ColumnType } from '../../table/column.ts'
import { groupBy } from '../../table/group.ts'
import { kernels } from '../../kernels/kernels.ts'
import { int32s } from '../../kernels/memory.ts'
import { type Field, type Schema } from '../../table/table.ts'
import { freeName, keysOf, positionFor, typeIn, type ColumnPlacement, type GroupKeys } from '../shared/columns.ts'
import { measureType } from '../shared/measures.ts'

/** A label as the recipe holds it. */
export type LabelValue = string | number | boolean | null

/** A measure of each cell. */
export type PivotValue = { readonly column: string; readonly how: Aggregate | 'only'; readonly as?: string | undefined }

/** The params of a pivot. */
export type Pivot = ColumnPlacement & {
  readonly labels: string
  readonly values: readonly PivotValue[]
  readonly by?: GroupKeys | undefined
  readonly found?: readonly LabelValue[] | undefined
  readonly gaps?: LabelValue | undefined
}

/** The name of a measure. */
export const valueName = ({ column, as }: PivotValue): string => as ?? column

/** The type of a measure’s columns. */
export const valueType = ({ how, column }: PivotValue, schema: Schema): ColumnType =>
  how === 'only' ? (typeIn(schema, column) ?? 'text') : measureType(how, typeIn(schema, column) ?? 'text')

/** The types that a column made by labels of the data may have: that of the measure whose name it ends with, else of any. */
export const dynamicTypesOf = (
  { values }: Pivot,
  schema: Schema,
  name: string,
): readonly [ColumnType, ...ColumnType[]] => {
  const named = values.filter((value) => name.endsWith(` ${valueName(value)}`))
  const longest = named.toSorted((a, b) => valueName(b).length - valueName(a).length)[0]
  const [first, ...others] = (longest && values.length > 1 ? [longest] : values).map((value) =>
    valueType(value, schema),
  )
  return [first ?? 'text', ...others]
}

/** What identifies a row: the columns that are named, else all others. */
export const keysFor = ({ by, labels, values }: Pivot, schema: Schema): Field[] => {
  const used = new Set([labels, ...values.map(({ column }) => column)])
  return by === undefined ? schema.filter((field) => !used.has(field.name)) : keysOf(by, schema)
}

/** A label as text; null is the empty one. */
export const labelText = (label: LabelValue): string | null => (label === null || label === '' ? null : String(label))

/** A column that a label and a measure make. */
export type PivotColumn = { readonly label: string | null; readonly value: PivotValue; readonly field: Field }

/** Keys with the made columns in their place: label by label, value by value. */
export const layout = (
  params: Pivot,
  schema: Schema,
  labels: readonly (string | null)[],
): { keys: Field[]; made: PivotColumn[]; at: number; schema: Schema } => {
  const keys = keysFor(params, schema)
  const taken = keys.map((field) => field.name)
  const at = positionFor(params, taken)
  const made = labels.flatMap((label) =>
    params.values.map((value): PivotColumn => {
      const plain = label ?? 'Empty'
      const free = freeName(params.values.length === 1 ? plain : `${plain} ${valueName(value)}`, taken)
      taken.push(free)
      return { label, value, field: { name: free, type: valueType(value, schema) } }
    }),
  )
  return { keys, made, at, schema: [...keys.slice(0, at), ...made.map(({ field }) => field), ...keys.slice(at)] }
}

/** Labels, and which each row has. */
type RowLabels = {
  /** The labels that are given, or all there are in order of first appearance. */
  readonly labels: (string | null)[]
  /** For each row the number of its label, -1 where it is left out. */
  readonly ofRow: Int32Array
  /** Whether some row is left out. */
  readonly some: boolean
  readonly present: (string | null)[]
  readonly groupOf: Uint32Array
}
export const labelsOf = (params: Pivot, column: Column): RowLabels => {
  const groups = groupBy([column], lengthOf(column))
  const present = Array.from(groups.first, (row) => {
    const cell = cellAt(column, row)
    return cell === null ? null : textOfCell(column.type, cell)
  })
  const labels = params.found ? params.found.map(labelText) : present
  const at = new Map(labels.map((label, i) => [label, i]))
  const turn = Int32Array.from(present, (label) => at.get(label) ?? -1)
  const some = turn.includes(-1)
  const ofRow = new Int32Array(groups.ids.buffer, groups.ids.byteOffset, groups.ids.length)
  const rest = { labels, some, present, groupOf: groups.ids }
  if (turn.every((label, group) => label === group)) return { ...rest, ofRow }
  const turned = int32s(ofRow.length)
  kernels().lookUp(groups.ids, turn, turned)
  return { ...rest, ofRow: turned }
}

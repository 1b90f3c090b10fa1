import { int32s } from '../../kernels/memory.ts'
import { columnOf, emptyColumn, type Column, type ColumnType } from '../../table/column.ts'
import { concat, gather } from '../../table/gather.ts'
import { LazyColumn } from '../../table/lazy-column.ts'
import type { Table } from '../../table/table.ts'
import { convert } from '../../reading/convert.ts'

/** Where each of some parts begins among the rows of all, and behind them where the last ends. */
const startsOf = (lengths: readonly number[]): Int32Array => {
  const starts = int32s(lengths.length + 1)
  lengths.forEach((length, i) => (starts[i + 1] = starts[i]! + length))
  return starts
}
/** The part that a row of all stands in. */
const partAt = (starts: Int32Array, row: number): number => {
  let part = 0
  while (row >= starts[part + 1]!) part++
  return part
}

/** Rows of which a column is known, as a table of that one, or of which it is not, and empty. */
export type Part = { readonly rowCount: number; readonly table: Table | undefined }

/** Columns behind one another, as one of a type; their cells are moved when somebody needs them all. */
export const stacked = (type: ColumnType, parts: readonly Part[]): Column | LazyColumn => {
  const columnOfPart = ({ table, rowCount }: Part): Column =>
    table ? convert(table.column(0), { type }).column : emptyColumn(type, rowCount)
  const make = (): Column => concat(type, parts.map(columnOfPart))
  if (parts.some(({ table }) => table && table.schema[0]?.type !== type)) return make()
  const starts = startsOf(parts.map(({ rowCount }) => rowCount))
  return new LazyColumn({
    type,
    length: starts[parts.length]!,
    holds: () => parts.flatMap(({ table }) => table?.buffers ?? []),
    again: true,
    cell: (row) => {
      const part = partAt(starts, row)
      return parts[part]?.table?.cell(0, row - starts[part]!) ?? null
    },
    make,
  })
}

/** For each row of some parts the label of its part. */
export const labelsOfParts = (labels: readonly string[], lengths: readonly number[]): LazyColumn => {
  const starts = startsOf(lengths)
  return new LazyColumn({
    type: 'text',
    length: starts[lengths.length]!,
    holds: () => [],
    again: true,
    cell: (row) => labels[partAt(starts, row)] || null,
    make: () => {
      const parts = int32s(starts[lengths.length]!)
      labels.forEach((_, i) => parts.fill(i, starts[i], starts[i + 1]))
      return gather(columnOf('text', labels), parts)
    },
  })
}

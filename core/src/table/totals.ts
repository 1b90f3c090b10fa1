import { aggregate } from './aggregate.ts'
import { cellAt } from './column.ts'
import { int32s, uint32s } from '../kernels/memory.ts'
import { setOwnValue } from './own.ts'
import type { Table } from './table.ts'

/** The sum of each number column, the first `most` of them; those without a value have none. */
export const numberTotals = (table: Table, most: number): Record<string, number> => {
  const totals: Record<string, number> = {}
  const whole = { ids: uint32s(table.rowCount), count: 1, first: int32s(0) }
  const numbers = table.schema.filter(({ type }) => type === 'integer' || type === 'decimal').slice(0, most)
  for (const { name, type } of numbers) {
    const total = cellAt(aggregate({ how: 'sum' }, table.named(name), whole, type).column, 0)
    if (typeof total === 'number') setOwnValue(totals, name, total)
  }
  return totals
}

import { civilFromDays, dayOf, formatDate, formatDateTime, formatTime, timeOf } from '../table/calendar.ts'
import type { Cell, ColumnType } from '../table/column.ts'
import { code, py, sql, type Code } from './tag.ts'

/** A filled cell as a literal of the language, with its type where the language would guess another. */
export const sqlCell = (type: ColumnType, cell: Exclude<Cell, null>): Code => {
  switch (type) {
    case 'text':
    case 'list':
      return sql`${cell}`
    case 'boolean':
      return sql`${cell}`
    case 'integer':
      return sql`${(cell as number) < 0 ? code(`(${String(cell)})`) : cell}::bigint`
    case 'decimal':
      return sql`${String(cell)}::float8`
    case 'date':
      return sql`date ${formatDate(cell as number)}`
    case 'datetime':
      return sql`timestamp ${formatDateTime(cell as number)}`
    case 'time':
      return sql`time ${formatTime(cell as number)}`
  }
}

const clock = (ms: number): number[] => {
  const seconds = Math.floor(ms / 1000)
  return [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60, (ms % 1000) * 1000]
}
const calendar = (days: number): number[] => {
  const { year, month, day } = civilFromDays(days)
  return [year, month, day]
}
const numbers = (all: readonly number[]): Code => code(all.join(', '))

/** A cell as a Python literal of its type. */
export const pythonCell = (type: ColumnType, cell: Exclude<Cell, null>): Code => {
  switch (type) {
    case 'text':
    case 'list':
    case 'boolean':
    case 'integer':
      return py`${cell}`
    case 'decimal':
      return Number.isInteger(cell) && Math.abs(cell as number) < 1e21 ? py`${cell}.0` : py`${cell}`
    case 'date':
      return py`datetime.date(${numbers(calendar(cell as number))})`
    case 'datetime':
      return py`datetime.datetime(${numbers([...calendar(dayOf(cell as number)), ...clock(timeOf(cell as number))])})`
    case 'time':
      return py`datetime.time(${numbers(clock(cell as number))})`
  }
}

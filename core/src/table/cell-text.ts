import { formatDate, formatDateTime, formatTime } from './calendar.ts'
import { type Cell, type ColumnType } from './column.ts'
import { formatDecimal } from './number.ts'

/** A filled cell as text, the way CSV writes it. */
export const textOfCell = (type: ColumnType, cell: Exclude<Cell, null>): string => {
  if (typeof cell === 'string') return cell
  if (typeof cell === 'boolean') return cell ? 'true' : 'false'
  if (type === 'date') return formatDate(cell)
  if (type === 'time') return formatTime(cell)
  if (type === 'datetime') return formatDateTime(cell)
  return type === 'integer' ? String(cell) : formatDecimal(cell)
}

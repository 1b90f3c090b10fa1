import { maybeIsoDate, maybeIsoDateTime, maybeIsoTime } from '../table/calendar.ts'
import type { ColumnType } from '../table/column.ts'
import type { NumberLocale } from '../table/number.ts'
import { trim } from '../table/text.ts'

/** Cautious detection: only what cannot well be anything else. Scripts that detect use the same rules. */
export const integerSource = '^-?(?:0|[1-9][0-9]{0,14})$'
/** Regular expression of a decimal with a point, for scripts. */
export const decimalSource = (decimal: string): string => {
  const d = decimal === '.' ? '\\.' : decimal
  return `^-?(?:(?:0|[1-9][0-9]*)${d}[0-9]+|${d}[0-9]+)(?:[eE][-+]?[0-9]+)?$`
}

/** The type that texts look like; `nothing` for empty text. */
export type Detected = ColumnType | 'nothing'

/** The narrowest type of one text. */
export const detectText = (locale: NumberLocale): ((text: string) => ColumnType) => {
  const integer = new RegExp(integerSource)
  const decimal = new RegExp(decimalSource(locale.decimal))
  return (cell) => {
    const text = trim(cell)
    if (integer.test(text)) return 'integer'
    if (decimal.test(text)) return Number.isFinite(Number(text.replace(locale.decimal, '.'))) ? 'decimal' : 'text'
    if (/^(?:true|false)$/i.test(text)) return 'boolean'
    if (maybeIsoDate(text) !== null) return 'date'
    if (maybeIsoDateTime(text) !== null) return 'datetime'
    if (maybeIsoTime(text) !== null) return 'time'
    return 'text'
  }
}

/** The narrowest type that holds both: integers widen to decimals, all else that differs is text. */
export const widen = (a: Detected, b: Detected): Detected => {
  if (a === b || b === 'nothing') return a
  if (a === 'nothing') return b
  return (a === 'integer' && b === 'decimal') || (a === 'decimal' && b === 'integer') ? 'decimal' : 'text'
}

import type { RawCell } from '@fabula/core'

/** A sheet by name. */
export type SheetInfo = { readonly name: string; readonly hidden: boolean }
/** Merged cells: their rectangle, counted from 1, ends included. */
export type Merge = { readonly top: number; readonly left: number; readonly bottom: number; readonly right: number }

/** A workbook: its sheets, and the rows of each, top to bottom, blank ones included. */
export type Workbook = {
  readonly sheets: readonly SheetInfo[]
  /** Calls `row` for each row; yields the share that is done, so that the caller may breathe. */
  readonly rows: (sheet: string, row: (cells: readonly RawCell[]) => void) => Generator<number>
  readonly merges: (sheet: string) => readonly Merge[]
}

const dayMs = 86_400_000

/** A serial number as workbooks count days, shown as a date, a time or both. `first` is the day that 0 stands for, in days since 1970. */
export const momentOf = (serial: number, shown: 'date' | 'time' | 'datetime', first: number): RawCell => {
  const day = Math.floor(serial)
  const ms = Math.round((serial - day) * dayMs)
  // day 0 is none of the calendar where days count from 1900, and its first where they count from 1904
  const clock = first === day1900 || shown === 'time'
  if (clock && serial >= 0 && serial < 1 && ms < dayMs) return { type: 'time', value: ms }
  // serial 60 is 29 February 1900, which never was: days before it count one more
  const days = first + day + (first === day1900 && serial > 0 && serial < 60 ? 1 : 0)
  if (serial < 0 || days > 2_932_896) return { error: String(serial) }
  return shown === 'date' && ms === 0 ? { type: 'date', value: days } : { type: 'datetime', value: days * dayMs + ms }
}
/** 1899-12-30 and 1904-01-01. ECMA-376 part 1, 18.17.4. */
export const day1900 = -25_569
/** Days from 1970-01-01 to the epoch of the 1904 date system. */
export const day1904 = -24_107

/** What stands for the value of a formula that was saved without one. */
export const withoutValue = '(formula without a saved value)'

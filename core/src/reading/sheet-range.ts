/** B3:K90, or B3:K for all rows from the third on. */
export const rangePattern = /^[A-Za-z]{1,3}[1-9][0-9]{0,6}:[A-Za-z]{1,3}(?:[1-9][0-9]{0,6})?$/

/** A rectangle of a sheet, counted from 1, ends included; `bottom` is Infinity where the range is open below. */
export type Rectangle = { readonly left: number; readonly top: number; readonly right: number; readonly bottom: number }

const columnNumber = (letters: string): number =>
  Array.from(letters.toUpperCase()).reduce((n, letter) => n * 26 + letter.charCodeAt(0) - 64, 0)
/** 1 -> A, 28 -> AB */
export const columnLetters = (n: number): string =>
  (n > 26 ? columnLetters(Math.floor((n - 1) / 26)) : '') + String.fromCharCode(65 + ((n - 1) % 26))

/** The rectangle that a range means, whichever corners it names. */
export const rectangleOf = (range: string): Rectangle => {
  const [, a = 'A', top = '1', b = 'A', bottom] = /^([A-Za-z]+)(\d+):([A-Za-z]+)(\d+)?$/.exec(range) ?? []
  const columns = [columnNumber(a), columnNumber(b)]
  const rows = [Number(top), bottom === undefined ? Infinity : Number(bottom)]
  return { left: Math.min(...columns), right: Math.max(...columns), top: Math.min(...rows), bottom: Math.max(...rows) }
}

import Papa from 'papaparse'

/** Where two tables part; `row` counts the rows below the names from 1, 0 is the row of names. */
export type Difference = { readonly sentence: string; readonly row?: number; readonly column?: string }

/** Decimals are the same when they are at 12 significant digits; all else to the letter. */
const alike = (a: string, b: string): boolean =>
  a === b ||
  (a !== '' && b !== '' && Number(a).toPrecision(12) === Number(b).toPrecision(12) && !Number.isNaN(Number(a)))
const shown = (cell: string): string => (cell === '' ? 'nothing' : `“${cell}”`)

/** The first cell in which two CSV files differ; undefined where none does. */
// eslint-disable-next-line complexity -- one comparison in the order a reader would make it
export const firstDifference = (a: string, b: string): Difference | undefined => {
  if (a === b) return undefined
  const left = Papa.parse<string[]>(a.replace(/\n$/, '')).data
  const right = Papa.parse<string[]>(b.replace(/\n$/, '')).data
  const names = left[0] ?? []
  for (const [r, row] of left.entries()) {
    const other = right[r]
    if (!other) break
    if (row.length !== other.length)
      return { sentence: `${row.length} columns against ${other.length}${r === 0 ? '' : ` in row ${r}`}.`, row: r }
    for (const [c, cell] of row.entries())
      if (!alike(cell, other[c] ?? ''))
        return {
          sentence:
            r === 0
              ? `Column ${c + 1} is called ${shown(cell)} against ${shown(other[c] ?? '')}.`
              : `Row ${r}, column “${names[c] ?? c + 1}”: ${shown(cell)} against ${shown(other[c] ?? '')}.`,
          row: r,
          column: names[c] ?? '',
        }
  }
  return left.length === right.length
    ? undefined
    : { sentence: `${left.length - 1} rows against ${right.length - 1}.`, row: Math.min(left.length, right.length) }
}

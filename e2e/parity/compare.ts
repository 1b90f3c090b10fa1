import Papa from 'papaparse'

/** Decimals are the same when they are at 12 significant digits; all else to the letter. */
const alike = (a: string, b: string): boolean => a === b || (a !== '' && b !== '' && Number(a).toPrecision(12) === Number(b).toPrecision(12) && !Number.isNaN(Number(a)))

/** The first cell in which two CSV files differ; undefined where none does. */
export const firstDifference = (a: string, b: string): string | undefined => {
  if (a === b) return undefined
  const left = Papa.parse<string[]>(a).data
  const right = Papa.parse<string[]>(b).data
  if (left.length !== right.length) return `${left.length} rows against ${right.length}:\n${b.slice(0, 400)}`
  for (const [r, row] of left.entries()) {
    if (row.length !== right[r]?.length) return `row ${r}: ${row.length} cells against ${right[r]?.length}`
    for (const [c, cell] of row.entries()) if (!alike(cell, right[r]?.[c] ?? '')) return `row ${r}, column ${c}: “${cell}” against “${right[r]?.[c]}”`
  }
  return undefined
}

import Papa from 'papaparse'
import { figure, maxColumns } from '@fabula/core'
import { FileProblem } from '../problem.ts'

type Parsed = { data: string[][]; errors: readonly { code: string; row?: number }[]; meta: { cursor: number } }
/** The rows of a piece of text; `ignoreLast` leaves a row that may go on in the next piece. */
export const parsePiece = (parser: Papa.Parser, text: string, ignoreLast: boolean): Parsed =>
  parser.parse(text, 0, ignoreLast) as Parsed

/** A `\r` before the line end is taken off the last cell. */
export const dropReturn = (rows: string[][]): void => {
  for (const row of rows) {
    const last = row.length - 1
    const cell = row[last] as string
    if (cell.charCodeAt(cell.length - 1) === 13) row[last] = cell.slice(0, -1)
  }
}

/** A table that wide is another table lying on its side, or a file parted by the wrong sign. */
export const checkWidth = (rows: readonly (readonly string[])[], name: string): void => {
  const at = rows.findIndex((row) => row.length > maxColumns)
  if (at >= 0)
    throw new FileProblem(
      `${name} has ${figure(rows[at]?.length ?? 0)} columns in a row, more than the ${figure(maxColumns)} that can be opened. Choose another sign that parts the cells, or ask for the export with rows and columns the other way round.`,
    )
}

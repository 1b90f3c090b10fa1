import { figure } from '@fabula/core'
import { FileProblem } from './problem.ts'

/** The most rows and columns of a sheet: ECMA-376 part 1, 18.3.1; OpenDocument programs keep to the same. */
export const sheetRows = 1_048_576
/** The most columns of a sheet, XFD (ECMA-376). */
export const sheetColumns = 16_384
/** The most characters of a cell that repeats stand for. */
export const cellCharacters = 32_767

/** Merges are shown, not computed with: more than these nobody looks at. */
export const mostMerges = 10_000

const cellsOfAnyFile = 6_000_000
const cellsAByte = 4

/**
 * Bounds what a file may unfold to by what it holds: a few bytes can claim a sheet full of repeated or skipped cells. Every
 * cell a reader makes, blank ones included, is spent here.
 */
export class CellBudget {
  private left: number
  private readonly name: string
  constructor(name: string, bytes: number) {
    this.name = name
    this.left = cellsOfAnyFile + bytes * cellsAByte
  }
  spend(cells: number): void {
    this.left -= cells
    if (this.left < 0)
      throw new FileProblem(
        `${this.name} claims far more cells than a file of its size can hold, nearly all of them repeated or blank. Delete the empty rows and columns around the table, save it anew, and drop that.`,
      )
  }
}

/** A count that a file claims, as a whole number within what its format allows. */
export const claimed = (
  text: string | undefined,
  otherwise: number,
  most: number,
  name: string,
  what: string,
): number => {
  if (text === undefined) return otherwise
  const count = Number(text)
  if (Number.isInteger(count) && count >= 0 && count <= most) return count
  throw new FileProblem(
    `${name} is a damaged workbook: it speaks of ${what} ${text.slice(0, 20)}, and there are at most ${figure(most)}. Save it anew in the program it came from.`,
  )
}

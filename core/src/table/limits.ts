/** Data that no table here can hold: a result refused before it is made, with a sentence that says the bound. */
export class TooLarge extends Error {}

/** The most rows of a table that a step may make. */
export const maxRows = 100_000_000
/** The most columns of a table. */
export const maxColumns = 20_000
/** The most cells of a table whose rows or columns a step makes anew. */
export const maxCells = 1_000_000_000
/** The most characters of one cell. */
export const maxCellCharacters = 1_000_000
/** The most characters of one column's distinct texts, so that short cells cannot add up to what no memory holds. */
export const maxColumnCharacters = 1_000_000_000

const written = (n: number): string => n.toLocaleString('en-GB')

/** Refuses a result that is too large, before a row of it is made. `what` begins the sentence: “Matching every row with every row”. */
export const checkSize = (what: string, rows: number, columns = 1): void => {
  if (rows > maxRows)
    throw new TooLarge(
      `${what} would make ${written(rows)} rows, more than the ${written(maxRows)} that a table can have. Keep fewer rows before this.`,
    )
  if (columns > maxColumns)
    throw new TooLarge(
      `${what} would make ${written(columns)} columns, more than the ${written(maxColumns)} that a table can have.`,
    )
  if (rows * columns > maxCells)
    throw new TooLarge(
      `${what} would make ${written(rows)} rows of ${written(columns)} columns, more than the ${written(maxCells)} cells that a table can have. Keep fewer rows or columns before this.`,
    )
}

/** Counts the characters of one column's distinct texts and refuses what no cell, or no column, can hold. */
export class TextSize {
  private characters = 0
  add(text: string): void {
    if (text.length > maxCellCharacters)
      throw new TooLarge(
        `A text of ${written(text.length)} characters would be made, more than the ${written(maxCellCharacters)} that a cell can hold. Shorten the texts before this.`,
      )
    this.characters += text.length
    if (this.characters > maxColumnCharacters)
      throw new TooLarge(
        `The texts of one column would have more than ${written(maxColumnCharacters)} characters together. Shorten them, or keep fewer rows before this.`,
      )
  }
}

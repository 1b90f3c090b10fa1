/** Where the table seems to stand on a sheet of texts: the rows of names, and how many rows at the foot are none of it. */
export type TableGuess = { readonly header: number | readonly number[]; readonly footer: number }

const filledIn = (row: readonly string[]): number => row.reduce((n, cell) => n + (cell.trim() === '' ? 0 : 1), 0)
const isValue = (cell: string): boolean => /^[-+(£$€]?\s*[0-9][0-9.,/:\-T %)]*$/.test(cell.trim())
const isNames = (row: readonly string[]): boolean =>
  row.every((cell) => cell.trim() === '' || !isValue(cell) || /^(?:19|20)[0-9]{2}$/.test(cell.trim()))

/** The first row that is as wide as most rows are and nearly filled. */
const firstFull = (rows: readonly (readonly string[])[]): number => {
  const counts = new Map<number, number>()
  for (const row of rows) if (filledIn(row) > 1) counts.set(filledIn(row), (counts.get(filledIn(row)) ?? 0) + 1)
  const widest = Math.max(1, ...counts.keys())
  const enough = widest > 3 ? widest - 1 : widest
  return Math.max(
    0,
    rows.findIndex((row) => filledIn(row) >= enough && isNames(row)) < 0
      ? rows.findIndex((row) => filledIn(row) >= enough)
      : rows.findIndex((row) => filledIn(row) >= enough && isNames(row)),
  )
}

const foot = /^(?:grand |sub)?totals?\b|^sum\b|^average\b|^mean\b|^notes?\b|^source\b|^printed\b|^\*/i

/** Totals and notes below the table: from the last row up, while a row begins like one or holds a single cell of many. */
const footRows = (tail: readonly (readonly string[])[], width: number): number => {
  let at = tail.length
  let taken = 0
  while (at > 0) {
    const row = tail[at - 1] as readonly string[]
    const first = row.find((cell) => cell.trim() !== '') ?? ''
    const filled = filledIn(row)
    if (!(filled === 0 || foot.test(first.trim()) || (filled === 1 && width > 3))) break
    at--
    if (filled > 0) taken = tail.length - at
  }
  // a blank row that parts the foot from the table is dropped as blank anyway
  return taken
}

/** `rows` are the first rows, `tail` the last, as they stand. A row above the names with headings over several columns joins them. */
// eslint-disable-next-line complexity -- one pass of guesses, each on what the one before left
export const guessTable = (rows: readonly (readonly string[])[], tail: readonly (readonly string[])[]): TableGuess => {
  const at = firstFull(rows)
  const names = rows[at] ?? []
  const above = rows[at - 1] ?? []
  const next = rows[at + 1] ?? []
  const width = filledIn(names)
  const footer = at + 1 < rows.length || tail.length > 0 ? footRows(tail, width) : 0
  // headings over several columns: some cells filled above, gaps between, and the names below them repeat
  const lower = names.map((cell) => cell.trim()).filter((cell) => cell !== '')
  if (at > 0 && filledIn(above) >= 2 && filledIn(above) < width && isNames(above) && new Set(lower).size < lower.length)
    return { header: [at, at + 1], footer }
  // the upper of two lines of names was met first: below it stands another line without values
  if (
    filledIn(next) >= 2 &&
    isNames(next) &&
    filledIn(names) > 0 &&
    new Set(lower).size < lower.length &&
    (rows[at + 2] ?? []).some(isValue)
  )
    return { header: [at + 1, at + 2], footer }
  return { header: at + 1, footer }
}

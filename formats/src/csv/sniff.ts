/** The sign that parts most of the first lines into equally many cells; the scripts decide alike. */
export const sniffDelimiter = (text: string, quote: string): string => {
  const mark = quote.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
  const quotes = new RegExp(`${mark}[^${mark}]*${mark}`, 'g')
  const lines = text
    .split('\n', 60)
    .filter((line) => line.replace(/\r$/, '') !== '')
    .map((line) => line.replace(quotes, ''))
  let best: readonly [mode: number, count: number, delimiter: string] = [0, 0, ',']
  for (const delimiter of [',', ';', '\t', '|']) {
    const counts = new Map<number, number>()
    for (const line of lines) {
      const count = line.split(delimiter).length - 1
      if (count > 0) counts.set(count, (counts.get(count) ?? 0) + 1)
    }
    const mode = Math.max(0, ...counts.values())
    const count = Math.max(0, ...[...counts].filter(([, times]) => times === mode).map(([cells]) => cells))
    if (mode > best[0] || (mode === best[0] && count > best[1])) best = [mode, count, delimiter]
  }
  return best[2]
}

/** Where the table seems to begin: the first row that has as many cells as most rows, all of them filled and none a number. */
export const sniffHeader = (rows: readonly (readonly string[])[]): number => {
  const widths = new Map<number, number>()
  const widthOf = (row: readonly string[]): number => {
    let width = row.length
    while (width > 0 && row[width - 1] === '') width--
    return width
  }
  for (const row of rows) if (widthOf(row) > 1) widths.set(row.length, (widths.get(row.length) ?? 0) + 1)
  const [common = 1] = [...widths].sort((a, b) => b[1] - a[1])[0] ?? []
  const enough = common > 3 ? common - 1 : common
  const at = rows.findIndex((row) => widthOf(row) >= enough && row.filter((cell) => cell !== '').length >= enough)
  return Math.max(0, at) + 1
}

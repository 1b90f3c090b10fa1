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

/** A cell as tab-separated text writes it. */
const cell = (text: string): string => (/["\t\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)

/** The largest table of a piece of a web page, as tab-separated text; cells that span leave gaps, as in a workbook. */
export const tableFromHtml = (html: string): string | undefined => {
  const tables = [...new DOMParser().parseFromString(html, 'text/html').querySelectorAll('table')]
  const table = tables.sort((a, b) => b.rows.length - a.rows.length)[0]
  if (!table || table.rows.length === 0) return undefined
  const taken = new Set<string>()
  const lines = [...table.rows].map((row, r) => {
    const cells: string[] = []
    let c = 0
    for (const one of row.cells) {
      for (; taken.has(`${r} ${c}`); c++) cells[c] = ''
      for (let down = 0; down < one.rowSpan; down++)
        for (let across = 0; across < one.colSpan; across++) taken.add(`${r + down} ${c + across}`)
      cells[c] = (one.innerText ?? one.textContent ?? '').trim()
      for (let across = 1; across < one.colSpan; across++) cells[c + across] = ''
      c += one.colSpan
    }
    return Array.from(cells, (text) => cell(text ?? '')).join('\t')
  })
  return `${lines.join('\n')}\n`
}

/** What was pasted as a file of its own: a table of a web page or spreadsheet, else text. */
export const pastedFile = (data: DataTransfer | null): File | undefined => {
  const [file] = data?.files ?? []
  if (file) return file
  const text = data?.getData('text/plain') ?? ''
  const table = tableFromHtml(data?.getData('text/html') ?? '') ?? (text.trim() === '' ? undefined : text)
  return table === undefined ? undefined : new File([table], 'pasted cells.tsv', { type: 'text/tab-separated-values' })
}

import { columnOf, fileStem, Table, writeCsv } from '@fabula/core'

/** Hands a file to the browser: its name in small letters and hyphens, its content as a data address. */
export const download = (name: string, ending: string, content: string): void => {
  const link = document.createElement('a')
  link.href = content
  link.download = `${fileStem(name, 'file')}.${ending}`
  link.click()
}

/** Rows of texts as CSV, with an apostrophe before what a spreadsheet would take for a formula. */
export const csvOfTexts = (names: readonly string[], rows: readonly (readonly (string | null)[])[]): string => {
  const columns = names.map((_, c) =>
    columnOf(
      'text',
      rows.map((row) => row[c] ?? null),
    ),
  )
  return writeCsv(Table.of([...names], columns, rows.length), true)
}
/** Hands a text to the browser as a CSV file. */
export const downloadCsv = (name: string, csv: string): void =>
  download(name, 'csv', `data:text/csv;charset=utf-8,${encodeURIComponent(csv)}`)

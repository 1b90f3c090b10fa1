import { guarded } from '@fabula/core'
import { previewRows } from '../api/preview-rows.ts'
import type { Story } from '../story/use-story.ts'

/** A cell for the clipboard: quoted where it must be, and with a ’ before what a spreadsheet would take for a formula. */
export const clipboardCell = (given: string | null | undefined): string => {
  const text = guarded(given ?? '')
  return /[\t\r\n"]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
}
export const mostCopied = 100_000

/** Rows from one to another as a spreadsheet would paste them; with names where whole columns are meant. */
export const cellsAsText = async (
  story: Story,
  from: number,
  to: number,
  columns: readonly number[],
  names: readonly string[] | undefined,
): Promise<string> => {
  const { endpoint, cursor, diffMode, only } = story
  const lines = names ? [names.map(clipboardCell).join('\t')] : []
  const { rows } = await previewRows(endpoint, cursor, diffMode, only, from, to - from + 1)
  for (const row of rows) lines.push(columns.map((c) => clipboardCell(row.cells[c])).join('\t'))
  return `${lines.join('\n')}\n`
}

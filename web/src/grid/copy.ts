import { guarded } from '@fabula/core'
import { askTable } from '../api/queries.ts'
import type { Story } from '../story/use-story.ts'

/** A cell for the clipboard: quoted where it must be, and with a ’ before what a spreadsheet would take for a formula. */
export const clipboardCell = (given: string | null | undefined): string => {
  const text = guarded(given ?? '')
  return /[\t\r\n"]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
}
const aCall = 500
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
  for (let at = from; at <= to; at += aCall) {
    const { rows } = await askTable(endpoint, 'preview', {
      ...cursor,
      drafts: [...(cursor.drafts ?? [])],
      diffMode,
      only,
      from: at,
      count: Math.min(aCall, to - at + 1),
    })
    for (const row of rows) lines.push(columns.map((c) => clipboardCell(row.cells[c])).join('\t'))
  }
  return `${lines.join('\n')}\n`
}

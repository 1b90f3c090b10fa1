import type { PreviewReply, PreviewRequest } from '@fabula/core/api'
import { askTable, type Cursor, type Endpoint } from './queries.ts'

/** So many rows are asked for at a time. */
const aCall = 500

/** Rows of a table from one on, at most `count` of them, asked for page by page, with the columns and how many rows there are. */
export const previewRows = async (
  endpoint: Endpoint,
  cursor: Cursor,
  diffMode: PreviewRequest['diffMode'],
  only: PreviewRequest['only'],
  from: number,
  count: number,
): Promise<Pick<PreviewReply, 'columns' | 'total'> & { readonly rows: PreviewReply['rows'] }> => {
  const page = (done: number): Promise<PreviewReply> =>
    askTable(endpoint, 'preview', {
      ...cursor,
      drafts: [...(cursor.drafts ?? [])],
      diffMode,
      only,
      from: from + done,
      count: Math.min(aCall, count - done),
    })
  const { columns, total, rows: first } = await page(0)
  const rows = [...first]
  while (rows.length < Math.min(total - from, count)) {
    const { rows: more } = await page(rows.length)
    // the table has become shorter meanwhile
    if (more.length === 0) break
    rows.push(...more)
  }
  return { columns, total, rows }
}

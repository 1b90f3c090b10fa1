import { columnOf, counted, Table, writeCsv } from '@fabula/core'
import type { PreviewReply } from '@fabula/core/api'
import { askTable } from '../api/queries.ts'
import type { Story } from '../story/use-story.ts'
import { download } from '../ui/download.ts'

const aCall = 500
/** So many rows are downloaded from Compose; a table that is written has no such limit. */
export const mostDownloaded = 100_000

/** Rows of a table as CSV, every cell as it is shown. */
export const csvOf = (
  { columns }: Pick<PreviewReply, 'columns'>,
  rows: readonly PreviewReply['rows'][number][],
): string => {
  const names = columns.map(({ name }) => name)
  const cells = names.map((_, c) =>
    columnOf(
      'text',
      rows.map((row) => row.cells[c] ?? null),
    ),
  )
  return writeCsv(Table.of(names, cells, rows.length), true)
}

/** Downloads the shown table, after the sentence that is shown, as CSV. What it leaves out is said. */
export const downloadTable = async (story: Story): Promise<void> => {
  const { endpoint, cursor, table, setProblem } = story
  const page = (from: number): Promise<PreviewReply> =>
    askTable(endpoint, 'preview', {
      ...cursor,
      drafts: [...(cursor.drafts ?? [])],
      diffMode: 'after',
      only: 'all',
      from,
      count: aCall,
    })
  try {
    const first = await page(0)
    const rows = [...first.rows]
    while (rows.length < Math.min(first.total, mostDownloaded)) rows.push(...(await page(rows.length)).rows)
    download(table?.name ?? 'table', 'csv', `data:text/csv;charset=utf-8,${encodeURIComponent(csvOf(first, rows))}`)
    if (first.total > rows.length)
      setProblem(
        `The first ${counted(rows.length, 'row')} of ${first.total} were downloaded. Write the table and replay the story for all of them.`,
      )
  } catch (error) {
    setProblem((error as Error).message)
  }
}

import { counted } from '@fabula/core'
import { previewRows } from '../api/preview-rows.ts'
import type { Story } from '../story/use-story.ts'
import { csvOfTexts, downloadCsv } from '../ui/download.ts'

/** So many rows are downloaded from Compose; a table that is written has no such limit. */
const mostDownloaded = 100_000

/** Downloads the shown table, after the sentence that is shown, as CSV. What it leaves out is said. */
export const downloadTable = async ({ endpoint, cursor, table, setProblem }: Story): Promise<void> => {
  try {
    const { columns, rows, total } = await previewRows(endpoint, cursor, 'after', 'all', 0, mostDownloaded)
    downloadCsv(
      table?.name ?? 'table',
      csvOfTexts(
        columns.map(({ name }) => name),
        rows.map(({ cells }) => cells),
      ),
    )
    if (total > rows.length)
      setProblem(
        `The first ${counted(rows.length, 'row')} of ${total} were downloaded. Write the table and replay the story for all of them.`,
      )
  } catch (error) {
    setProblem((error as Error).message)
  }
}

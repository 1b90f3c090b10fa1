import { z } from 'zod'
import type { StepStatistics } from '../steps/shared/statistics.ts'
import { columnTypes } from '../table/column.ts'
import { byWord } from './by-word.ts'

/** Parts of several requests and replies. */

/** The cells of a row as text; null where a cell is empty. */
export const cells = z.array(z.union([z.string(), z.null()]))
/** The type of a column. */
export const columnType = z.enum(columnTypes)
/** A column of a schema. */
export const field = z.object({ name: z.string(), type: columnType })
/** Whether a row or a column is in both of two states of a table, in the later one only, or in the earlier one only. */
export const diffState = z.enum(['same', 'added', 'removed'])
/** What a step did to the rows and columns it was given. */
export const statistics = z.object({
  id: z.string(),
  kind: z.string(),
  sentence: z.string(),
  rowsIn: z.number(),
  rowsOut: z.number(),
  rowsLeft: z.number(),
  rowsCame: z.number(),
  columnsAdded: z.array(z.string()),
  columnsDropped: z.array(z.string()),
  columnsRenamed: byWord(z.string()),
  cellsChanged: z.number(),
  unreadable: byWord(z.number()),
  notes: byWord(z.number()),
  check: z
    .object({ passed: z.boolean(), stop: z.boolean(), say: z.string(), figure: z.number().nullable() })
    .optional(),
}) satisfies z.ZodType<StepStatistics>

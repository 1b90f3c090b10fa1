import { z } from 'zod'
import { columnTypes } from '../table/column.ts'

/** Parts of several requests and replies. */

/** The cells of a row as text; null where a cell is empty. */
export const cells = z.array(z.union([z.string(), z.null()]))
/** The type of a column. */
export const columnType = z.enum(columnTypes)
/** A column of a schema. */
export const field = z.object({ name: z.string(), type: columnType })
/** Whether a row or a column is in both of two states of a table, in the later one only, or in the earlier one only. */
export const diffState = z.enum(['same', 'added', 'removed'])

import { partnersOf, type ReadOptions } from '@fabula/core'
import { cellsReply, lookReply, type FileRef, type LookReply, type OpenReply } from '@fabula/core/api'
import { lookAtFile } from '@fabula/formats'
import { firstRows } from '../outputs.ts'
import { openFiles, stored } from '../worker-context.ts'
import { defineTask } from './define-task.ts'

/** How many rows stand on the opening page. */
const openingRows = 60

/** A file as it stands: its sheets, its first and last rows, and a guess where the table is. */
export const look = defineTask({
  reply: lookReply,
  run: (
    request: {
      readonly hash: string
      readonly name: string
      readonly read: ReadOptions
      readonly sheet: string | undefined
    },
    context,
  ): LookReply => structuredClone(lookAtFile(stored(request, context), request.read, request.sheet)) as LookReply,
})

/** Files opened as one table: its columns, first rows, and what was left out. */
export const open = defineTask({
  run: async (
    request: { readonly files: readonly FileRef[]; readonly read: ReadOptions },
    context,
  ): Promise<OpenReply> => {
    const { files } = await openFiles(request.files, request.read, {}, context)
    const { table, notes, parts, missingSheets, unreadable } = files
    return {
      columns: table.schema.map((field) => ({ ...field })),
      rows: table.rowCount,
      notes: { ...notes },
      parts: parts.map(({ schema, hidden: _hidden, ...part }) => ({
        ...part,
        columns: schema.length,
        lacks: [...part.lacks],
      })),
      missingSheets: [...missingSheets],
      unreadable: Object.fromEntries(unreadable.map(({ column, rows }) => [column, rows.length])),
      first: firstRows(table, openingRows),
      partners: partnersOf(table, parts).map((partner) => ({ ...partner })),
    }
  },
})

/** Every row of a written file; of a workbook the sheet at a position counted from 0. */
export const cells = defineTask({
  reply: cellsReply,
  run: async (request: { readonly hash: string; readonly name: string; readonly sheet: number }, context) => {
    const { format, sheets } = lookAtFile(stored(request, context), {}, undefined)
    const sheet = sheets[request.sheet]?.name
    const read = (): ReadOptions => {
      if (format === 'csv') return { delimiter: ',', types: 'text' }
      return sheet === undefined ? {} : { sheets: [sheet] }
    }
    const file = { name: request.name, hash: request.hash, size: 0 }
    const { table } = (await openFiles([file], read(), {}, context)).files
    return { rows: firstRows(table, table.rowCount) }
  },
})

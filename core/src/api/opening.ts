import { z } from 'zod'
import { byWord } from '../table/by-word.ts'
import { cells, field } from './parts.ts'
import { fileHash, fileRef } from './files.ts'

/** How a file is read (`ReadOptions` of a recipe), held against their schema where the file is opened. */
export const readOptions = byWord(z.unknown())
/** A look at the raw rows of a file, or of one sheet of it. */
export const lookRequest = z.object({
  hash: fileHash,
  name: z.string(),
  read: readOptions,
  sheet: z.string().optional(),
})
const header = z.union([z.number(), z.array(z.number())])
/** The first and last raw rows of a file, and what was detected of it. */
export const lookReply = z.object({
  format: z.enum(['csv', 'xlsx', 'ods', 'json', 'parquet']),
  sheet: z.string().optional(),
  path: z.string().optional(),
  sheets: z.array(
    z.object({
      name: z.string(),
      hidden: z.boolean(),
      rows: z.number(),
      columns: z.number(),
      names: z.array(z.string()),
    }),
  ),
  rows: z.array(z.object({ at: z.number(), cells: z.array(z.string()) })),
  /** Rows of the sheet or file; 0 where it was too large to count. */
  total: z.number(),
  encoding: z.string(),
  delimiter: z.string(),
  header,
  footer: z.number(),
  /** A line with letters beyond ASCII, as each encoding reads it. */
  samples: z.array(z.object({ encoding: z.string(), text: z.string() })),
  merges: z.array(z.object({ top: z.number(), left: z.number(), bottom: z.number(), right: z.number() })),
})
/** Files opened as one table. */
export const openRequest = z.object({
  files: z.array(fileRef).min(1),
  read: readOptions,
  /** A name under which its progress is reported. */ job: z.string().max(60).optional(),
})
/** One file or sheet of several: its rows, and the columns it lacks. */
const part = z.object({
  file: z.string(),
  sheet: z.string().optional(),
  rows: z.number(),
  columns: z.number(),
  lacks: z.array(z.string()),
})
/** The table that files give: its schema, what was not read, and its first rows. */
export const openReply = z.object({
  columns: z.array(field),
  rows: z.number(),
  notes: byWord(z.number()),
  parts: z.array(part),
  missingSheets: z.array(z.string()),
  unreadable: byWord(z.number()),
  first: z.array(cells),
  partners: z.array(
    z.object({
      file: z.string(),
      sheet: z.string().optional(),
      lacks: z.string(),
      has: z.string(),
      values: z.number(),
      agree: z.number(),
    }),
  ),
})
/** How far a long job is; `doing` says what it is at. */
export const progressReply = z.object({ done: z.number(), of: z.number(), doing: z.string() })

/** See `lookReply`. */
export type LookReply = z.infer<typeof lookReply>
/** A raw row of a file. */
export type LookRow = LookReply['rows'][number]
/** See `openReply`. */
export type OpenReply = z.infer<typeof openReply>
/** See `progressReply`. */
export type ProgressReply = z.infer<typeof progressReply>

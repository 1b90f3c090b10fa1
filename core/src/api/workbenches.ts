import { z } from 'zod'
import { byWord } from '../table/by-word.ts'
import { joinHows } from '../steps/join/words.ts'
import type { UnionParams } from '../steps/union/align.ts'
import { joinShows, reasons } from '../profile/compare/join-matching.ts'
import { reconcileShows } from '../profile/compare/reconcile.ts'
import { columnTypes } from '../table/column.ts'

/** Requests and replies of the workbenches for two and more tables. `step` is the sentence that stands before the one drafted. */
const cells = z.array(z.union([z.string(), z.null()]))
const field = z.object({ name: z.string(), type: z.enum(columnTypes) })
const cursor = { recipe: z.unknown(), table: z.string(), step: z.string() }
const on = z.array(z.object({ left: z.string(), right: z.string() }))
const from = z.number().int().min(0)
const page = { from, count: z.number().int().min(0).max(500) }

/** Two tables held against each other by keys, and the rows of both to show. */
export const matchRequest = z.object({
  ...cursor,
  with: z.string(),
  on,
  ignoreCase: z.boolean(),
  trim: z.boolean(),
  matches: z.enum(['all', 'first', 'one']),
  show: z.enum(joinShows),
  ...page,
  /** From which row the other table is shown. */ fromThere: from,
})
const side = z.object({
  columns: z.array(field),
  rows: z.number(),
  shown: z.object({
    total: z.number(),
    rows: z.array(z.object({ row: z.number(), state: z.enum(['none', 'one', 'many']), cells })),
  }),
})
/** The rows of both tables, suggested keys, and what each way of joining gives. */
export const matchReply = z.object({
  left: side,
  right: side,
  suggestions: z.array(z.object({ on, share: z.number(), repeats: z.boolean() })),
  /** Null where a key is missing or the types of two differ. */
  matching: z
    .object({
      one: z.number(),
      many: z.number(),
      none: z.number(),
      emptyHere: z.number(),
      unused: z.number(),
      gives: z.record(z.enum(joinHows), z.number()),
      why: z.array(
        z.object({ reason: z.enum(reasons), rows: z.number(), leading: z.array(z.enum(['left', 'right'])).optional() }),
      ),
      repeated: z.array(z.object({ key: z.string(), here: z.number(), there: z.number() })),
      repeatedKeys: z.number(),
    })
    .nullable(),
  ways: z.array(
    z.object({
      at: z.number(),
      side: z.enum(['left', 'right']),
      column: z.string(),
      type: z.enum(columnTypes),
      meets: z.number(),
    }),
  ),
})

/** The tables of a union, and how their columns were aligned by hand. */
const unionQuery: z.ZodType<UnionParams> = z.object({
  with: z.array(z.string()),
  pairs: z
    .array(z.object({ into: z.string(), from: z.array(z.object({ table: z.string(), column: z.string() })) }))
    .optional(),
  apart: z.array(z.object({ column: z.string(), table: z.string(), as: z.string() })).optional(),
})

/** Which table of a union has which column. */
export const alignRequest = z.object({ ...cursor, union: unionQuery })
/** The tables of a union, and the columns each has of every row of the matrix. */
export const alignReply = z.object({
  tables: z.array(z.object({ id: z.string(), rows: z.number() })),
  columns: z.array(
    z.object({
      name: z.string(),
      type: z.enum(columnTypes),
      from: z.array(z.object({ column: z.string(), type: z.enum(columnTypes) }).nullable()),
    }),
  ),
  partners: z.array(
    z.object({ at: z.number(), column: z.string(), into: z.string(), share: z.number(), alike: z.boolean() }),
  ),
})

const moment = z.object({ table: z.string(), step: z.string() })
/** Two tables, or one after two of its steps, and which rows of them to show. */
export const reconcileRequest = z.object({
  recipe: z.unknown(),
  here: moment,
  there: moment,
  keys: z.array(z.string()).nullable(),
  show: z.enum(reconcileShows),
  ...page,
})
/** How two tables differ: rows of one only, changed rows, totals by column. */
export const reconcileReply = z.object({
  keys: z.array(z.string()),
  /** Rows are paired by where they came from, not by keys. */
  byLineage: z.boolean(),
  shared: z.array(z.string()),
  rowsHere: z.number(),
  rowsThere: z.number(),
  onlyHere: z.number(),
  onlyThere: z.number(),
  same: z.number(),
  changed: z.number(),
  repeated: z.number(),
  columns: z.array(
    z.object({
      name: z.string(),
      here: z.boolean(),
      there: z.boolean(),
      key: z.boolean(),
      changed: z.number(),
      totalHere: z.number().optional(),
      totalThere: z.number().optional(),
    }),
  ),
  shown: z.object({
    total: z.number(),
    columns: z.array(
      z.object({ name: z.string(), type: z.enum(columnTypes), state: z.enum(['same', 'added', 'removed']) }),
    ),
    rows: z.array(
      z.object({
        row: z.number(),
        state: z.enum(['same', 'added', 'removed']),
        cells,
        old: byWord(z.string()).optional(),
      }),
    ),
  }),
})

/** See `matchRequest`. */
export type MatchRequest = z.infer<typeof matchRequest>
/** See `matchReply`. */
export type MatchReply = z.infer<typeof matchReply>
/** See `alignReply`. */
export type AlignReply = z.infer<typeof alignReply>
/** See `reconcileReply`. */
export type ReconcileReply = z.infer<typeof reconcileReply>
/** See `reconcileRequest`. */
export type ReconcileRequest = z.infer<typeof reconcileRequest>

import { z } from 'zod'
import { recipeValue } from '../recipe/schema.ts'
import { byWord } from '../table/by-word.ts'
import { queryData } from './previews.ts'

const texts = byWord(z.string())
/** A row of a file or sheet as a person counts rows, or of a typed-in table. */
const ofFile = z.object({ input: z.string(), file: z.string(), sheet: z.string().optional(), row: z.number().int() })
const typedIn = z.object({ entered: z.string(), row: z.number().int() })
const limit = z.number().int().min(1).max(100_000)

/** Where a row of a table after a step comes from, or a cell of it. `row` counts from 1. */
export const traceRequest = z.object({
  recipe: recipeValue,
  table: z.string(),
  step: z.string(),
  row: z.number().int().min(1),
  column: z.string().optional(),
  limit,
  data: queryData.optional(),
})
const more = { columns: z.array(z.string()).optional(), times: z.number().optional(), values: texts }
const sources = z.array(z.union([ofFile.extend(more), typedIn.extend(more)]))
/** See `traceRequest`. */
export const traceReply = z.object({
  table: z.string(),
  row: z.number(),
  column: z.string().optional(),
  count: z.number(),
  sources,
  /** Of a figure, the rows of its group that it passed over, as their cell is empty. */
  passedOver: z.object({ count: z.number(), sources }),
  steps: z.array(z.object({ id: z.string(), sentence: z.string(), did: z.string() })),
})

/** What became of a row of a file, or of a typed-in one, in every table that it reaches. */
export const followRequest = z.object({
  recipe: recipeValue,
  from: z.union([ofFile, typedIn]),
  limit,
  data: queryData.optional(),
})
const left = z.object({ step: z.string(), sentence: z.string(), why: z.string() })
const fate = z.union([
  z.object({ table: z.string(), rows: z.array(z.number()), count: z.number() }),
  z.object({ table: z.string(), left }),
])
/** See `followRequest`. */
export const followReply = z.union([
  ofFile.extend({ values: texts, fates: z.array(fate) }),
  typedIn.extend({ values: texts, fates: z.array(fate) }),
])

/** Of each input of a table: how many of its rows are in the result, and which left at which step and why. */
export const lostRequest = z.object({
  recipe: recipeValue,
  table: z.string(),
  /** Only rows that are in a row after this step count; all that were opened without it. */
  since: z.string().optional(),
  /** Rows that are in no row after this step; after the last without it. */
  until: z.string().optional(),
  /** So many rows of each reason are named. */ limit,
  data: queryData.optional(),
})
/** See `lostRequest`. */
export const lostReply = z.object({
  inputs: z.array(
    z.object({
      input: z.string(),
      name: z.string(),
      opened: z.number(),
      inResult: z.number(),
      /** Of those in the result, how many reach no figure of it; null where it has none. */
      withoutFigure: z.number().nullable(),
      left: z.array(
        left.extend({
          /** The sentence by its table and number. */ place: z.string(),
          count: z.number(),
          rows: z.array(z.object({ file: z.string(), sheet: z.string().optional(), row: z.number() })),
        }),
      ),
    }),
  ),
})

/** Rows of a file, or of a sheet of it, as they stand in it, from the record `first` on. Without a file: of the first file of the input. */
export const sheetRequest = z.object({
  recipe: recipeValue,
  of: z.object({ input: z.string(), file: z.string().optional(), sheet: z.string().optional() }),
  first: z.number().int().min(1),
  count: z.number().int().min(1).max(500),
  data: queryData.optional(),
})
/** See `sheetRequest`. */
export const sheetReply = z.object({
  total: z.number(),
  /** The file, and the sheet of it, that the rows are of. */
  shown: ofFile.omit({ row: true }),
  /** Every file and sheet that the input takes. */
  parts: z.array(ofFile.omit({ row: true })),
  /** Names of the cells, of records that have no place in a sheet. */
  columns: z.array(z.string()).optional(),
  rows: z.array(z.object({ at: z.number(), cells: z.array(z.string()) })),
})

/** See `sheetReply`. */
export type SheetReply = z.infer<typeof sheetReply>
/** See `traceReply`. */
export type TraceReply = z.infer<typeof traceReply>
/** See `followRequest`. */
export type FollowRequest = z.infer<typeof followRequest>
/** See `followReply`. */
export type FollowReply = z.infer<typeof followReply>
/** See `lostReply`. */
export type LostReply = z.infer<typeof lostReply>

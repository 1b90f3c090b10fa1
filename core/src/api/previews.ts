import { z } from 'zod'
import { rowSelections, stepStatistics } from '../steps/shared/statistics.ts'
import type { DiffColumn, DiffRow } from '../engine/diff-view.ts'
import type { ColumnFacts } from '../profile/facts/facts.ts'
import type { NewStep } from '../recipe/recipe.ts'
import { recipeValue } from '../recipe/schema.ts'
import { conditionSchema } from '../steps/shared/condition.ts'
import { byWord } from '../table/by-word.ts'
import { fitRequest } from './replay.ts'
import { cells, columnType, diffState, field } from './parts.ts'

const recipe = recipeValue

/**
 * What a query runs on instead of the flow's own files: what a replay ran on, or what one is tried on. The recipe is then that
 * of the replay, whatever the request holds.
 */
export const queryData = z.union([z.object({ run: z.string() }), z.object({ trial: fitRequest })])

/** A page of rows of a table after one of its steps, or as it changes there. */
export const previewRequest = z.object({
  recipe,
  table: z.string(),
  step: z.string(),
  diffMode: z.enum(['before', 'changes', 'after']),
  only: z.enum(rowSelections),
  from: z.number().int().min(0),
  count: z.number().int().min(0).max(500),
  /** Steps that are not kept yet, by id. */
  drafts: z.array(z.string()).max(50).optional(),
  /** Only the rows before the step with one of these texts in a column. */
  texts: z.object({ column: z.string(), of: z.array(z.string()).max(10_000) }).optional(),
  data: queryData.optional(),
})
/** A step as the page shows it: its state, its statistics, and what would mend it. */
const storyStep = z.object({
  id: z.string(),
  state: z.enum(['fine', 'broken', 'waiting', 'off']),
  statistics: stepStatistics.nullable(),
  columns: z.array(field),
  problems: z.array(
    z.object({
      sentence: z.string(),
      path: z.array(z.union([z.string(), z.number()])),
      quickFixes: z.array(
        z.object({
          column: z.string(),
          words: z.string().optional(),
          step: z.looseObject({ id: z.string(), kind: z.string() }),
        }),
      ),
    }),
  ),
})
const diffColumn: z.ZodType<DiffColumn> = field.extend({ state: diffState, was: z.string().optional() })
const diffRow: z.ZodType<DiffRow> = z.object({
  row: z.number(),
  state: diffState,
  cells,
  old: byWord(z.string()).optional(),
  bad: z.array(z.number()).optional(),
})
/** A page of rows of a table after a step, and what the server says of every step of the table. */
export const previewReply = z.object({
  columns: z.array(diffColumn),
  total: z.number(),
  rows: z.array(diffRow),
  steps: z.array(storyStep),
  /** Milliseconds that the engine took. */
  engineMs: z.number(),
})

/** What columns of a table hold. */
export const factsRequest = z.object({
  recipe,
  table: z.string(),
  step: z.string(),
  columns: z.array(z.string()).max(60),
  /** All that is known, not only what a column's head shows. */ deep: z.boolean(),
})
const bar = z.object({ label: z.string(), count: z.number(), where: conditionSchema.optional() })
const dateForm = z.object({ pattern: z.string(), rows: z.number(), example: z.string(), noYear: z.boolean() })
const dateForms = z.object({
  type: z.enum(['date', 'datetime', 'time']),
  day: z.array(dateForm),
  month: z.array(dateForm),
  question: z
    .object({
      dayFirst: z.number(),
      monthFirst: z.number(),
      either: z.number(),
      dayExample: z.string().optional(),
      monthExample: z.string().optional(),
      eitherExample: z.string(),
    })
    .optional(),
  left: z.array(z.object({ text: z.string(), count: z.number() })),
  leftRows: z.number(),
})
/** What is known of a column over all its rows. */
const columnFacts: z.ZodType<ColumnFacts> = z.object({
  type: columnType,
  rows: z.number(),
  filled: z.number(),
  distinct: z.number(),
  least: z.string().optional(),
  greatest: z.string().optional(),
  mean: z.number().optional(),
  median: z.string().optional(),
  deviation: z.number().optional(),
  quarters: z.tuple([z.string(), z.string()]).optional(),
  shortest: z.number().optional(),
  longest: z.number().optional(),
  common: z.array(bar),
  rare: z.array(bar),
  patterns: z.array(bar),
  bars: z.array(bar),
  findings: z.array(
    z.object({
      topic: z.literal('type').optional(),
      sentence: z.string(),
      verb: z.string(),
      step: z.custom<NewStep>((value) => typeof value === 'object'),
    }),
  ),
  dates: dateForms.optional(),
  percentiles: z.array(z.number()).optional(),
})
/** The facts of each column, by its name. */
export const factsReply = z.object({ facts: byWord(columnFacts) })
/** A column of a table after one of its steps. */
export const valuesRequest = z.object({ recipe, table: z.string(), step: z.string(), column: z.string() })
/** The commonest values of a column with their counts. */
export const valuesReply = z.object({ values: z.array(bar) })

const suggested = z.array(
  z.object({
    into: z.string(),
    members: z.array(z.object({ text: z.string(), count: z.number() })),
    reason: z.string(),
  }),
)
/** Groups of values that may be one, by each measure of similarity; and the values themselves. */
export const groupsReply = z.object({
  values: z.array(z.object({ text: z.string(), count: z.number() })),
  sound: suggested,
  characters: suggested,
  spelling: suggested,
  /** Different values beyond those that were compared. */ beyond: z.number(),
})

/** The next cell that holds a text, from a cell on. */
export const findRequest = z.object({
  recipe,
  table: z.string(),
  step: z.string(),
  text: z.string().min(1).max(500),
  from: z.object({ row: z.number(), column: z.string() }).nullable(),
  back: z.boolean(),
})
/** The cell found, and how many hold the text. */
export const findReply = z.object({
  found: z.object({ row: z.number(), column: z.string() }).nullable(),
  total: z.number(),
})

/** See `queryData`. */
export type QueryData = z.infer<typeof queryData>
/** See `previewRequest`. */
export type PreviewRequest = z.infer<typeof previewRequest>
/** See `previewReply`. */
export type PreviewReply = z.infer<typeof previewReply>
/** A step of the table, as a preview reports it. */
export type StoryStep = PreviewReply['steps'][number]
export type { ColumnFacts } from '../profile/facts/facts.ts'
/** See `groupsReply`. */
export type GroupsReply = z.infer<typeof groupsReply>
export type { DateForms } from '../reading/date-forms.ts'

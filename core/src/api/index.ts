import type { StepStatistics } from '../steps/shared/statistics.ts'
import { z } from 'zod'
import { conditionSchema } from '../steps/shared/condition.ts'
import type { NewStep } from '../recipe/recipe.ts'
import { byWord } from './by-word.ts'
import { outputFormats } from '../recipe/outputs.ts'
import { recipeValue } from '../recipe/schema.ts'
import { fileHash, fileRef } from './files.ts'
import { picture, pictureData } from './pictures.ts'
import { linkRights } from './sharing.ts'

export { fileRef } from './files.ts'
export * from './workbenches.ts'
export * from './pictures.ts'
export * from './sharing.ts'
export * from './scripts.ts'
export * from './sources.ts'
export * from './watching.ts'

/** Requests and replies between page and server: one definition, checked on both sides. */
const recipe = recipeValue
const cells = z.array(z.union([z.string(), z.null()]))
const columnType = z.enum(['text', 'integer', 'decimal', 'boolean', 'date', 'datetime', 'time', 'list'])
const state = z.enum(['same', 'added', 'removed'])

export const errorReply = z.object({ error: z.object({ code: z.string(), sentence: z.string() }) })

export const flowSummary = z.object({ id: z.string(), name: z.string(), changedAt: z.string(), sentences: z.number() })
export const flowReply = z.object({
  id: z.string(),
  recipe,
  edit: z.number(),
  canUndo: z.boolean(),
  canRedo: z.boolean(),
  changedAt: z.string(),
  files: byWord(z.array(fileRef)),
  /** What the page may do: everything, or what its link allows. */
  rights: z.enum(['all', ...linkRights]),
  /** The edition that a link shows; null where it shows the story as it stands. */
  edition: z.string().nullable(),
  /** Since when it holds changes by link that its owner has not agreed to; until then it writes no database. */
  heldSince: z.string().nullable(),
  /** For its owner: the story before those changes. */
  heldFrom: recipe.nullable(),
  pictures: z.array(picture),
})
export const flowsReply = z.object({ flows: z.array(flowSummary) })

/** `pictures`: those of the story from now on, where they change. */
export const editRequest = z.object({
  recipe,
  what: z.string().max(500),
  after: z.number(),
  pictures: z.array(picture).max(60).optional(),
})
/** Undo and redo say which edit they start from. */
export const travelRequest = z.object({ after: z.number() })
export const createRequest = z.object({ recipe, files: byWord(z.array(fileRef)).optional() })

export const readOptions = byWord(z.unknown())
export const lookRequest = z.object({
  hash: fileHash,
  name: z.string(),
  read: readOptions,
  sheet: z.string().optional(),
})
const header = z.union([z.number(), z.array(z.number())])
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
export const openRequest = z.object({
  files: z.array(fileRef).min(1),
  read: readOptions,
  /** A name under which its progress is told. */ job: z.string().max(60).optional(),
})
const part = z.object({
  file: z.string(),
  sheet: z.string().optional(),
  rows: z.number(),
  columns: z.number(),
  lacks: z.array(z.string()),
})
export const openReply = z.object({
  columns: z.array(z.object({ name: z.string(), type: columnType })),
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
export const progressReply = z.object({ done: z.number(), of: z.number(), doing: z.string() })

export const previewRequest = z.object({
  recipe,
  table: z.string(),
  step: z.string(),
  diffMode: z.enum(['before', 'changes', 'after']),
  only: z.enum(['all', 'changed', 'left', 'added', 'unreadable', 'against']),
  from: z.number().int().min(0),
  count: z.number().int().min(0).max(500),
  /** Steps that are not kept yet, by id. */
  drafts: z.array(z.string()).max(50).optional(),
})
/** `StepStatistics` of the core, as a reply carries them. */
const statistics = z.object({
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
const field = z.object({ name: z.string(), type: columnType })
const storyStep = z.object({
  id: z.string(),
  state: z.enum(['fine', 'broken', 'waiting', 'off']),
  statistics: statistics.nullable(),
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
export const previewReply = z.object({
  columns: z.array(z.object({ name: z.string(), type: columnType, state, was: z.string().optional() })),
  total: z.number(),
  rows: z.array(
    z.object({
      row: z.number(),
      state,
      cells,
      old: byWord(z.string()).optional(),
      bad: z.array(z.number()).optional(),
    }),
  ),
  steps: z.array(storyStep),
  engineMs: z.number(),
})

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
export const columnFacts = z.object({
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
export const factsReply = z.object({ facts: byWord(columnFacts) })
export const valuesRequest = z.object({ recipe, table: z.string(), step: z.string(), column: z.string() })
export const valuesReply = z.object({ values: z.array(bar) })

const suggested = z.array(
  z.object({
    into: z.string(),
    members: z.array(z.object({ text: z.string(), count: z.number() })),
    reason: z.string(),
  }),
)
/** Groups of values that may be one, as each judge sees them; and the values themselves. */
export const groupsReply = z.object({
  values: z.array(z.object({ text: z.string(), count: z.number() })),
  sound: suggested,
  characters: suggested,
  spelling: suggested,
  /** Different values beyond those that were compared. */ beyond: z.number(),
})

export const findRequest = z.object({
  recipe,
  table: z.string(),
  step: z.string(),
  text: z.string().min(1).max(500),
  from: z.object({ row: z.number(), column: z.string() }).nullable(),
  back: z.boolean(),
})
export const findReply = z.object({
  found: z.object({ row: z.number(), column: z.string() }).nullable(),
  total: z.number(),
})

export const replayFiles = byWord(z.array(fileRef))
export const fitRequest = z.object({ files: replayFiles, renames: byWord(byWord(z.string())) })
export const fitReply = z.object({
  verdict: z.enum(['fits', 'fits-with-changes', 'does-not-fit']),
  inputs: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      files: z.array(fileRef),
      rows: z.number(),
      columns: z.number(),
      kept: z.boolean(),
    }),
  ),
  findings: z.array(
    z.object({
      code: z.string(),
      input: z.string(),
      column: z.string().optional(),
      step: z.string().optional(),
      offers: z.array(
        z.discriminatedUnion('do', [
          z.object({ do: z.literal('rename'), column: z.string(), why: z.string() }),
          z.object({ do: z.literal('expect'), column: z.string(), type: columnType, why: z.string() }),
          z.object({ do: z.literal('read-as'), column: z.string(), type: columnType, why: z.string() }),
          z.object({ do: z.literal('do-without'), column: z.string(), why: z.string() }),
          z.object({ do: z.literal('change-step'), params: byWord(z.unknown()), why: z.string() }),
        ]),
      ),
      sentence: z.string(),
    }),
  ),
})
/** Files, and the inputs they are for by their names, columns and sheets. */
export const placeRequest = z.object({ files: z.array(fileRef) })
export const placeReply = z.object({ given: replayFiles, homeless: z.array(fileRef) })
export const replayRequest = fitRequest.extend({ allowChanges: z.boolean(), parameters: byWord(z.string()) })
export const runReply = z.object({
  id: z.string(),
  state: z.enum(['running', 'done', 'failed', 'stopped']),
  done: z.number(),
  of: z.number(),
  doing: z.string(),
  sentence: z.string().nullable(),
  startedAt: z.string(),
  edit: z.number(),
  /** When the story was last changed before this replay. */
  editAt: z.string(),
  /** The wall clock it took for now, in milliseconds. */
  clock: z.number(),
  /** For whom the link was by which it was asked; null where it was the page of the flow. */
  by: z.string().nullable(),
  /** The replay that this one tells again. */
  retells: z.string().nullable(),
  /** Begun by a watch of the story. */
  alone: z.boolean(),
  parameters: byWord(z.string()),
  renames: byWord(byWord(z.string())),
  files: z.array(z.object({ input: z.string(), name: z.string(), hash: z.string(), rows: z.number() })),
  tables: z.array(z.object({ id: z.string(), steps: z.array(statistics) })),
  outputs: z.array(
    z.object({
      table: z.string(),
      file: z.string(),
      format: z.enum([...outputFormats, 'postgresql']).default('csv'),
      /** Empty where it went into a database. */ hash: z.string(),
      /** The connection it went into. */ into: z.string().nullable().default(null),
      rows: z.number(),
      columns: z.number(),
      first: z.array(cells),
      names: z.array(z.string()),
    }),
  ),
  /** The flow's pictures as this replay drew them. */
  pictures: z.array(z.object({ picture, data: pictureData })),
})
/** Every row of a table that a replay wrote. */
export const cellsReply = z.object({ rows: z.array(cells) })
/** A replay in the list of them: without its accounts, its rows and its pictures. */
const runSummary = runReply
  .omit({ tables: true, pictures: true })
  .extend({ outputs: z.array(runReply.shape.outputs.element.omit({ first: true, names: true })) })
export const runsReply = z.object({ runs: z.array(runSummary) })

export type FileRef = z.infer<typeof fileRef>
export type FlowReply = z.infer<typeof flowReply>
export type RunSummary = z.infer<typeof runSummary>
export type EditRequest = z.infer<typeof editRequest>
export type FlowSummary = z.infer<typeof flowSummary>
export type LookReply = z.infer<typeof lookReply>
export type LookRow = LookReply['rows'][number]
export type OpenReply = z.infer<typeof openReply>
export type PreviewRequest = z.infer<typeof previewRequest>
export type PreviewReply = z.infer<typeof previewReply>
export type StoryStep = PreviewReply['steps'][number]
export type ColumnFacts = z.infer<typeof columnFacts>
export type GroupsReply = z.infer<typeof groupsReply>
export type DateForms = z.infer<typeof dateForms>
export type FitReply = z.infer<typeof fitReply>
export type RunReply = z.infer<typeof runReply>
export type RunsReply = z.infer<typeof runsReply>
export type ProgressReply = z.infer<typeof progressReply>

import { z } from 'zod'
import { outputFormats } from '../recipe/outputs.ts'
import { findingCodes, type CompatibilityOffer } from '../replay/finding.ts'
import { byWord } from '../table/by-word.ts'
import { fileRef } from './files.ts'
import { cells, columnType } from './parts.ts'
import { rowSelections, stepStatistics } from '../steps/shared/statistics.ts'
import { picture, pictureData } from './pictures.ts'

/** The files of a replay, by the input they are for. */
export const replayFiles = byWord(z.array(fileRef).readonly())
const stepParams = byWord(z.unknown())
const offer: z.ZodType<CompatibilityOffer> = z.discriminatedUnion('do', [
  z.object({ do: z.literal('rename'), column: z.string(), why: z.string() }),
  z.object({ do: z.enum(['leave-empty', 'leave-out', 'accept']), why: z.string() }),
  z.object({
    do: z.literal('take-in'),
    input: z.string(),
    step: z.string().optional(),
    params: stepParams.optional(),
    why: z.string(),
  }),
  z.object({ do: z.enum(['expect', 'read-as']), column: z.string(), type: columnType, why: z.string() }),
  z.object({ do: z.literal('do-without'), column: z.string(), why: z.string() }),
  z.object({ do: z.literal('change-step'), params: stepParams, why: z.string() }),
]) as z.ZodType<CompatibilityOffer>
const findingPlace = {
  code: z.enum(findingCodes),
  input: z.string().optional(),
  file: z.string().optional(),
  sheet: z.string().optional(),
  column: z.string().optional(),
  step: z.string().optional(),
  parameter: z.string().optional(),
}
const finding = z.object({
  ...findingPlace,
  grade: z.enum(['fits', 'changes', 'breaks', 'refused']),
  asks: z.boolean(),
  rows: z.number().optional(),
  values: z.array(z.string()).optional(),
  offers: z.array(offer),
  sentence: z.string(),
  shows: z
    .object({
      step: z.string(),
      only: z.enum(rowSelections).optional(),
      texts: z.object({ column: z.string(), of: z.array(z.string()) }).optional(),
    })
    .optional(),
})
/** An answer to a finding. */
const answer = z.object({ ...findingPlace, value: z.string().optional(), sentence: z.string().optional(), offer })
/** Whether new files fit a flow, with the answers given so far and the values asked at replay. `keep`: inputs whose files of before are read beside the new ones. */
export const fitRequest = z.object({
  files: replayFiles,
  keep: z.array(z.string()).readonly().default([]),
  answers: z.array(answer).readonly().default([]),
  parameters: byWord(z.string()).default({}),
})
/** How new files fit: the verdict, what they hold, what the trial made of them, and what was found with the answers on offer. */
export const fitReply = z.object({
  verdict: z.enum(['fits', 'fits-with-changes', 'does-not-fit']),
  inputs: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      files: z.array(fileRef.extend({ rows: z.number(), sheets: z.array(z.string()), kept: z.boolean() })),
      rows: z.number(),
      columns: z.number(),
    }),
  ),
  findings: z.array(finding),
  /** The answers that hold: those given, and those remembered from the last accepted run. */
  answers: z.array(answer),
  /** What each sentence did in the trial. */
  tables: z.array(z.object({ id: z.string(), steps: z.array(stepStatistics) })),
  /** What the last accepted run, or at first the data the story was built on, did. */
  last: z
    .object({
      tables: z.array(z.object({ id: z.string(), steps: z.array(stepStatistics) })),
      /** When it was; null for the data the story was built on. */
      at: z.string().nullable(),
    })
    .nullable(),
})
/** Files, and the inputs they are for by their names, columns and sheets. */
export const placeRequest = z.object({ files: z.array(fileRef) })
/** The files by the input they are for, and those that fit none. */
export const placeReply = z.object({ given: replayFiles, homeless: z.array(fileRef) })
/** A replay on files, with the values asked at replay. */
export const replayRequest = fitRequest.extend({ allowChanges: z.boolean() })
/** What a replay on a cluster reads, by input, as the cluster reads it (files, patterns, folders, addresses), and the folder it writes to. */
const clusterPlaces = z.object({
  paths: byWord(z.array(z.string().min(1)).min(1).readonly()),
  /** Files that were sent here, which are copied to the folder. */ files: replayFiles.default({}),
  folder: z.string().min(1),
})
/** A replay on a cluster, with the values asked at replay. */
export const clusterRequest = clusterPlaces.extend({ parameters: byWord(z.string()).default({}) })
/** Paths by input, of which the first rows are wanted. */
export const clusterLookRequest = clusterPlaces.pick({ paths: true })
/** The first rows of the files at the paths, by input. */
export const clusterLookReply = z.object({ files: replayFiles })
/** The cluster that replays can run on; null where there is none. */
export const clusterReply = z.object({ master: z.string().nullable() })
/** A run of a flow: how far it is, what it was given, and what came of it. */
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
  repeats: z.string().nullable(),
  /** Begun by a watch of the story. */
  alone: z.boolean(),
  parameters: byWord(z.string()),
  answers: z.array(answer),
  /** Where it ran on a cluster. */
  cluster: clusterPlaces.nullable().default(null),
  /** What was found before it ran. */
  findings: z.array(finding),
  /** How many findings that ask were left without an answer. */
  open: z.number(),
  files: z.array(
    fileRef.pick({ name: true, hash: true, sample: true }).extend({ input: z.string(), rows: z.number() }),
  ),
  tables: z.array(z.object({ id: z.string(), steps: z.array(stepStatistics) })),
  outputs: z.array(
    z.object({
      table: z.string(),
      file: z.string(),
      format: z.enum([...outputFormats, 'postgresql']).default('csv'),
      /** Empty where it went into a database. */ hash: z.string(),
      /** The connection it went into. */ into: z.string().nullable().default(null),
      rows: z.number(),
      columns: z.number(),
      /** Sums of its first number columns. */
      totals: byWord(z.number()).default({}),
      first: z.array(cells),
      names: z.array(z.string()),
      /** The type of each column; none of runs from before they were kept. */
      types: z.array(columnType).default([]),
    }),
  ),
  /** The flow's pictures as this replay drew them. */
  pictures: z.array(z.object({ picture, data: pictureData })),
})
/** Every row of a table that a replay wrote. */
export const cellsReply = z.object({ rows: z.array(cells) })
/** A replay in the list of them: without its statistics, its rows and its pictures. */
const runSummary = runReply
  .omit({ tables: true, pictures: true, findings: true })
  .extend({ outputs: z.array(runReply.shape.outputs.element.omit({ first: true, names: true, types: true })) })
/** The runs of a flow, the newest first. */
export const runsReply = z.object({ runs: z.array(runSummary) })

/** See `fitRequest`. */
export type FitRequest = z.infer<typeof fitRequest>
/** See `replayFiles`. */
export type ReplayFiles = z.infer<typeof replayFiles>
/** See `runSummary`. */
export type RunSummary = z.infer<typeof runSummary>
/** See `fitReply`. */
export type FitReply = z.infer<typeof fitReply>
/** See `runReply`. */
export type RunReply = z.infer<typeof runReply>
/** See `runsReply`. */
export type RunsReply = z.infer<typeof runsReply>

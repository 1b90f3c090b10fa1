import { z } from 'zod'
import { recipeValue } from '../recipe/schema.ts'
import { byWord } from '../table/by-word.ts'
import { fileRef } from './files.ts'
import { picture } from './pictures.ts'
import { linkRights } from './sharing.ts'

const recipe = recipeValue

/** Why a request was refused, in one sentence for the person and a code for the program. */
export const errorReply = z.object({ error: z.object({ code: z.string(), sentence: z.string() }) })

/** A flow in the list of all of them; `sentences`: how many steps it has. */
export const flowSummary = z.object({
  id: z.string(),
  name: z.string(),
  changedAt: z.string(),
  sentences: z.number(),
  /** The tables that it writes, by name. */
  writes: z.array(z.string()),
  /** When its owner opened it last, and when it was last replayed to the end; null where never. */
  openedAt: z.string().nullable(),
  ranAt: z.string().nullable(),
  /** Since when it is deleted; after 30 days it is listed no more. */
  deletedAt: z.string().nullable(),
  /** Exports that a watch has set aside since the last finished replay: they need an answer. */
  waits: z.number(),
})
/** A flow as whoever asks may see it. */
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
/** All flows, the last opened one first, with those deleted within 30 days. */
export const flowsReply = z.object({ flows: z.array(flowSummary) })

/** A change of a flow, made on its edit `after`; `what` names the change, `pictures` are its charts from now on where they change. */
export const editRequest = z.object({
  recipe,
  what: z.string().max(500),
  after: z.number(),
  pictures: z.array(picture).max(60).optional(),
})
/** Undo and redo say which edit they start from. */
export const travelRequest = z.object({ after: z.number() })
/** A new flow, with the files of its inputs where there are any. */
export const createRequest = z.object({ recipe, files: byWord(z.array(fileRef)).optional() })

/** See `flowReply`. */
export type FlowReply = z.infer<typeof flowReply>
/** See `editRequest`. */
export type EditRequest = z.infer<typeof editRequest>
/** See `flowSummary`. */
export type FlowSummary = z.infer<typeof flowSummary>

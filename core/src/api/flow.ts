import { z } from 'zod'
import { recipeValue } from '../recipe/schema.ts'
import { byWord } from '../table/by-word.ts'
import { fileRef } from './files.ts'
import { picture } from './pictures.ts'
import { linkRights } from './sharing.ts'

const recipe = recipeValue

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

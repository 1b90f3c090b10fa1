import { z } from 'zod'

/** Why a request was refused, in one sentence for the person and a code for the program. */
export const errorReply = z.object({ error: z.object({ code: z.string(), sentence: z.string() }) })

/** The key that makes a browser the owner’s. */
export const ownerRequest = z.object({ key: z.string().max(200) })
/** Whether the browser is the owner’s. */
export const ownerReply = z.object({ /** Whether this browser is the owner's. */ owner: z.boolean() })

/** A flow in the list of all of them; `sentences`: how many steps it has. */
export const flowSummary = z.object({
  id: z.string(),
  name: z.string(),
  changedAt: z.string(),
  sentences: z.number(),
  /** The tables that it writes, by name. */
  writes: z.array(z.string()),
  /** When its owner opened it last; null where never. */
  openedAt: z.string().nullable(),
  /** The last replay that came to its end: its files by name, the rows of its first result, and how many findings nobody answered. */
  ran: z.object({ at: z.string(), files: z.array(z.string()), rows: z.number(), open: z.number() }).nullable(),
  /** Since when it is deleted; after 30 days it is listed no more. */
  deletedAt: z.string().nullable(),
  /** Exports that a watch has set aside since the last finished replay: they need an answer. */
  waits: z.number(),
})
/** All flows, the last opened one first, with those deleted within 30 days. */
export const flowsReply = z.object({ flows: z.array(flowSummary) })
/** Another name for a flow. */
export const renameRequest = z.object({ name: z.string().trim().min(1).max(200) })
/** A story that was made; a copy taken by a link comes with a link of its own. */
export const createReply = z.object({ id: z.string(), link: z.string().optional() })

/** See `flowSummary`. */
export type FlowSummary = z.infer<typeof flowSummary>

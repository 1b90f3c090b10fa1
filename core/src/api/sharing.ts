import { z } from 'zod'
import { recipeValue } from '../recipe/schema.ts'

const recipe = recipeValue

/** What a link lets one do; each includes those before it. */
export const linkRights = ['replay', 'copy', 'edit'] as const
/** What a link is to allow, for how long, and at what cost. */
export const linkAsked = z.object({
  rights: z.enum(linkRights),
  /** For whom it is. */
  note: z.string().max(200),
  endsAt: z.iso.datetime().nullable(),
  /** `story` as it stands, the `newest` edition, or the id of one. */
  follows: z.union([z.literal('story'), z.literal('newest'), z.string().regex(/^\d+$/)]),
  /** The most that may be sent by it a day, in bytes, and replays that may wait or run at a time. */
  bytesADay: z.number().int().min(0).max(1e13).default(1e9),
  waiting: z.number().int().min(0).max(100).default(3),
})
/** The links of a flow with their uses. */
export const linksReply = z.object({
  links: z.array(
    z.object({
      token: z.string(),
      rights: z.enum(linkRights),
      note: z.string(),
      follows: z.string(),
      madeAt: z.string(),
      endsAt: z.string().nullable(),
      over: z.boolean(),
      bytesADay: z.number(),
      waiting: z.number(),
      /** Bytes sent by it today. */ bytesToday: z.number(),
      uses: z.array(
        z.object({
          what: z.enum(['read', 'replayed', 'copied', 'edited']),
          run: z.string().nullable(),
          at: z.string(),
        }),
      ),
    }),
  ),
})
/** A name for the flow as it stands. */
export const freezeRequest = z.object({ name: z.string().trim().min(1).max(120), note: z.string().max(2000) })
/** The editions of a flow, the newest first. */
export const editionsReply = z.object({
  editions: z.array(
    z.object({ id: z.number(), edit: z.number(), name: z.string(), note: z.string(), at: z.string(), recipe }),
  ),
})

/** See `linkAsked`. */
export type LinkAsked = z.infer<typeof linkAsked>
/** See `linksReply`. */
export type LinksReply = z.infer<typeof linksReply>
/** See `editionsReply`. */
export type EditionsReply = z.infer<typeof editionsReply>

import { z } from 'zod'
import { byWord } from '../table/by-word.ts'
import { fileRef } from './files.ts'

const at = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time is written 07:30')
/** When a story is replayed by itself: when files arrive in its folder, or at a time (day 1 is Monday, or the first of a month). */
export const watchWhen = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('arrival') }),
  z.object({ kind: z.literal('daily'), at }),
  z.object({ kind: z.literal('weekly'), at, day: z.number().int().min(1).max(7) }),
  z.object({ kind: z.literal('monthly'), at, day: z.number().int().min(1).max(31) }),
])
/** The value of a parameter in a replay by a watch: written out, or a day that goes along with the calendar. */
const reportedAs = z.union([
  z.strictObject({ value: z.string().max(1000) }),
  z.strictObject({ day: z.enum(['today', 'yesterday', 'month-begin', 'last-month-begin', 'last-month-end']) }),
])
/** When a flow is replayed by itself, on which folder, and who is notified. */
export const watchSettings = z
  .object({
    when: watchWhen,
    /** A folder of the server; without one the kept files and sources are replayed. */ folder: z
      .string()
      .max(1000)
      .nullable(),
    /** A replay begins only once every input has a new file. */ together: z.boolean().default(false),
    /** Who gets a notice. */ mail: z.string().max(320).nullable(),
    /** By the names of what is asked; the rest is as the recipe has it. */ parameters: byWord(reportedAs).default({}),
  })
  .refine(({ when, folder }) => when.kind !== 'arrival' || (folder !== null && folder !== ''), {
    message: 'say which folder is watched',
    path: ['folder'],
  })
/** The watches of a flow with their logs. */
export const watchesReply = z.object({
  watches: z.array(
    z.object({
      id: z.string(),
      settings: watchSettings,
      on: z.boolean(),
      nextAt: z.string().nullable(),
      log: z.array(
        z.object({
          id: z.number(),
          at: z.string(),
          what: z.enum(['replays', 'waits', 'failed']),
          sentence: z.string(),
          run: z.string().nullable(),
          files: byWord(z.array(fileRef)),
        }),
      ),
    }),
  ),
})
/** Whether a watch goes on. */
export const pauseRequest = z.object({ on: z.boolean() })
/** The notices in the stand-in for a mail box, the newest first. */
export const mailsReply = z.object({
  mails: z.array(z.object({ id: z.number(), at: z.string(), to: z.string(), subject: z.string(), body: z.string() })),
})

/** See `watchSettings`. */
export type WatchSettings = z.infer<typeof watchSettings>
/** See `watchesReply`. */
export type WatchesReply = z.infer<typeof watchesReply>
/** See `mailsReply`. */
export type MailsReply = z.infer<typeof mailsReply>

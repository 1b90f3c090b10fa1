import { z } from 'zod'
import { setOwnValue } from '../table/own.ts'

/** A record by words of the user's, every word an ordinary one: Zod's own record leaves out `__proto__`. */
export const byWord = <T>(value: z.ZodType<T>): z.ZodType<Record<string, T>> =>
  z.unknown().transform((data, context) => {
    const record: Record<string, T> = {}
    if (typeof data !== 'object' || data === null || Array.isArray(data)) {
      context.addIssue({ code: 'custom', message: 'a record by names is expected' })
      return z.NEVER
    }
    for (const [word, one] of Object.entries(data)) {
      const read = value.safeParse(one)
      if (read.success) setOwnValue(record, word, read.data)
      else
        for (const { message, path } of read.error.issues)
          context.addIssue({ code: 'custom', message, path: [word, ...path] })
    }
    return record
  })

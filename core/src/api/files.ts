import { z } from 'zod'

/** A file that the server keeps, by its content. */
export const fileRef = z.object({ name: z.string(), hash: z.string(), size: z.number(), /** The source it was fetched from, which can be asked anew. */ source: z.number().optional() })

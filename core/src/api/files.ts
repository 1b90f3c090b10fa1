import { z } from 'zod'
import { counted, figure } from '../messages/words.ts'

/** SHA-256 of a file's bytes, in hex; nothing else is ever made a path of. */
export const fileHash = z.string().regex(/^[0-9a-f]{64}$/, 'a file is known by its SHA-256')
const fileName = z
  .string()
  .min(1)
  .regex(/^[^/\\\0]*$/, 'a file name holds no folders')
  .refine((name) => name !== '.' && name !== '..', 'a file name holds no folders')

/** A file that the server keeps, by its content. */
export const fileRef = z.object({
  name: fileName,
  hash: fileHash,
  size: z.number(),
  /** The source it was fetched from, which can be asked anew. */ source: z.number().optional(),
  /** Which rows of a larger file it has, in words, such as “one row in 80 of 41,203,222”; its figures are of a sample. */
  sample: z.string().max(200).optional(),
})

/** Which rows of a larger file a sample has, beside those at its top: the first so many, or one in so many. */
export const rowChoice = z.union([
  z.object({ first: z.number().int().min(1) }),
  z.object({ oneIn: z.number().int().min(2) }),
])

/** See `rowChoice`. */
export type RowChoice = z.infer<typeof rowChoice>
/** Rows at the top that every sample has: titles and names. */
export const sampleHeadRows = 20
/** Which rows a sample has of how many, in words. */
export const sampleWords = (choice: RowChoice, of: number): string =>
  'first' in choice
    ? `the first ${counted(choice.first, 'row')}`
    : `one row in ${figure(choice.oneIn)} of ${figure(of)}`

/** See `fileRef`. */
export type FileRef = z.infer<typeof fileRef>

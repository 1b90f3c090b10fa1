import { z } from 'zod'
import { dialectNames } from '../codegen/dialect.ts'

/** A part of a script with the step it belongs to, so that both are read side by side. */
export const scriptPart = z.object({ step: z.string().optional(), text: z.string() })

/** A story in every dialect: its parts, or why there is no script. */
export const scriptReply = z.object({
  scripts: z.array(
    z.object({
      dialect: z.enum(dialectNames),
      label: z.string(),
      fileEnding: z.string(),
      parts: z.array(scriptPart),
      problem: z.string().nullable(),
    }),
  ),
})

/** Each table that scripts write, as the script of each dialect gave it. */
const proven = z.object({
  dialect: z.enum(dialectNames),
  label: z.string(),
  state: z.enum(['same', 'different', 'failed', 'absent']),
  sentence: z.string(),
})

/** How far the proof of the scripts is, and what it found for each table and dialect. */
export const proofReply = z.object({
  tables: z.array(z.object({ table: z.string(), rows: z.number(), columns: z.number(), proofs: z.array(proven) })),
})

/** See `proofReply`. */
export type ProofReply = z.infer<typeof proofReply>

/** See `scriptReply`. */
export type ScriptReply = z.infer<typeof scriptReply>

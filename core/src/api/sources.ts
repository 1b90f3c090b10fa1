import { z } from 'zod'
import { fileRef, rowChoice } from './files.ts'

/** Where data can come from besides a file: a web address, a table of an OData service, a table or query of a database, rows of files that a cluster reads. */
export const sourceAsked = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('web'), address: z.string().max(4000) }),
  z.object({
    kind: z.literal('odata'),
    service: z.string().max(4000),
    table: z.string().max(300),
    columns: z.array(z.string()).max(1000),
  }),
  z.object({
    kind: z.literal('postgresql'),
    connection: z.string(),
    wanted: z.union([
      z.object({ schema: z.string(), table: z.string() }),
      z.object({ query: z.string().max(100_000) }),
    ]),
  }),
  z.object({ kind: z.literal('cluster'), path: z.string().min(1).max(4000), rows: rowChoice }),
])
/** A source to fetch; `job` is the name under which its progress is reported. */
export const takeRequest = z.object({ asked: sourceAsked, job: z.string().max(60).optional() })
/** The files that were fetched; a pattern of a cluster can give several. */
export const takeReply = z.object({ files: z.array(fileRef).min(1), source: z.number() })

/** A service or a connection whose tables are asked for. */
export const offerRequest = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('odata'), service: z.string().max(4000) }),
  z.object({ kind: z.literal('postgresql'), connection: z.string() }),
])
/** The tables that a source offers. */
export const offerReply = z.object({
  tables: z.array(z.object({ name: z.string(), schema: z.string().optional(), rows: z.number().optional() })),
})
/** The first rows of a table, before it is taken. */
export const sampleReply = z.object({ names: z.array(z.string()), rows: z.array(z.array(z.string())) })

/** `verified`: the server must show a certificate for its name from an authority that is trusted. `any`: encrypted, but whoever answers is believed. */
export const tlsModes = ['none', 'verified', 'any'] as const
const settings = {
  host: z.string().min(1),
  port: z.number().int().min(1).max(65_535),
  database: z.string().min(1),
  user: z.string().min(1),
  tls: z.enum(tlsModes),
  /** Certificates of authorities, in PEM, beside those that the machine trusts. */ ca: z
    .string()
    .max(100_000)
    .optional(),
}
/** A connection to a PostgreSQL server under a name; its password is kept sealed. */
export const connectRequest = z.object({ name: z.string().min(1).max(80), ...settings, password: z.string() })
/** The named connections, without their passwords. */
export const connectionsReply = z.object({ connections: z.array(z.object({ name: z.string(), ...settings })) })

/** A file that was brought in: where it came from, its versions and where it is used. */
export const shelfEntry = z.object({
  id: z.number(),
  name: z.string(),
  hash: z.string(),
  size: z.number(),
  sample: fileRef.shape.sample,
  at: z.string(),
  columns: z.array(z.string()),
  versions: z.number(),
  replays: z.number(),
  uses: z.array(z.object({ flow: z.string(), name: z.string(), input: z.string() })),
  source: z
    .object({ id: z.number(), kind: z.enum(['web', 'odata', 'postgresql', 'cluster']), name: z.string() })
    .nullable(),
})
/** Every file on the shelf, the newest first. */
export const shelfReply = z.object({ entries: z.array(shelfEntry) })
/** The file that takes the place of another. */
export const replaceRequest = z.object({ file: fileRef })

/** See `sourceAsked`. */
export type SourceAsked = z.infer<typeof sourceAsked>
/** See `offerRequest`. */
export type OfferRequest = z.infer<typeof offerRequest>
/** See `offerReply`. */
export type OfferReply = z.infer<typeof offerReply>
/** See `sampleReply`. */
export type SampleReply = z.infer<typeof sampleReply>
/** See `shelfEntry`. */
export type ShelfEntry = z.infer<typeof shelfEntry>
/** See `connectionsReply`. */
export type ConnectionsReply = z.infer<typeof connectionsReply>
/** See `takeReply`. */
export type TakeReply = z.infer<typeof takeReply>

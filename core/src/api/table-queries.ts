import type { z } from 'zod'
import {
  factsReply,
  factsRequest,
  findReply,
  findRequest,
  groupsReply,
  previewReply,
  previewRequest,
  valuesReply,
  valuesRequest,
} from './previews.ts'
import { pictureData, pictureRequest } from './pictures.ts'
import {
  followReply,
  followRequest,
  lostReply,
  lostRequest,
  sheetReply,
  sheetRequest,
  traceReply,
  traceRequest,
} from './tracing.ts'
import { alignReply, alignRequest, matchReply, matchRequest, reconcileReply, reconcileRequest } from './workbenches.ts'

/** A query about the tables of a flow, which changes nothing. */
export type TableQuery<Request, Reply> = {
  readonly request: z.ZodType<Request>
  readonly reply: z.ZodType<Reply>
  /** A newer request of the same page with the same word takes the place of an older one; absent where each is answered. */
  readonly supersedes?: (asked: Request) => string | undefined
}
const define = <Request, Reply>(definition: TableQuery<Request, Reply>): TableQuery<Request, Reply> => definition

/**
 * The queries by name. Each is a route `POST <flow>/<name>`, a task of the compute processes and a query of the page,
 * all made from its definition here.
 */
export const tableQueries = {
  preview: define({
    request: previewRequest,
    reply: previewReply,
    supersedes: ({ count, table }) => `${count === 0 ? 'story' : 'view'}:${table}`,
  }),
  facts: define({ request: factsRequest, reply: factsReply, supersedes: ({ deep }) => (deep ? undefined : 'facts') }),
  values: define({ request: valuesRequest, reply: valuesReply }),
  groups: define({ request: valuesRequest, reply: groupsReply }),
  find: define({ request: findRequest, reply: findReply }),
  picture: define({ request: pictureRequest, reply: pictureData, supersedes: () => 'picture' }),
  match: define({ request: matchRequest, reply: matchReply, supersedes: () => 'match' }),
  align: define({ request: alignRequest, reply: alignReply, supersedes: () => 'align' }),
  trace: define({ request: traceRequest, reply: traceReply, supersedes: () => 'trace' }),
  follow: define({ request: followRequest, reply: followReply, supersedes: () => 'follow' }),
  sheet: define({ request: sheetRequest, reply: sheetReply, supersedes: () => 'sheet' }),
  lost: define({ request: lostRequest, reply: lostReply, supersedes: ({ table }) => `lost ${table}` }),
  reconcile: define({ request: reconcileRequest, reply: reconcileReply, supersedes: () => 'reconcile' }),
} as const

/** The name of a query, which is its route and its task. */
export type TableQueryName = keyof typeof tableQueries
/** The names of all queries. */
export const tableQueryNames = Object.keys(tableQueries) as readonly TableQueryName[]
type Definition<K extends TableQueryName> = (typeof tableQueries)[K]
/** What a query is asked. */
export type TableQueryRequest<K extends TableQueryName> = z.infer<Definition<K>['request']>
/** What a query replies. */
export type TableQueryReply<K extends TableQueryName> = z.infer<Definition<K>['reply']>

import { tableQueries, type TableQueryName, type TableQueryReply, type TableQueryRequest } from '@fabula/core/api'
import type { z } from 'zod'
import type { WorkerContext } from '../worker-context.ts'
import type { StoryFiles } from './story-run.ts'

/** A kind of work that a compute process does. Requests are plain data, as they cross processes. */
export type TaskDefinition<Request, Reply> = {
  /** Schema of a reply that the server passes on unread; absent where the server reads the reply itself. */
  readonly reply?: z.ZodType
  readonly run: (request: Request, context: WorkerContext) => Reply | Promise<Reply>
}
export const defineTask = <Request, Reply>(task: TaskDefinition<Request, Reply>): TaskDefinition<Request, Reply> => task

/** What a query asks, and the flow as the asker may see it. */
export type TableQueryTask<K extends TableQueryName> = { readonly asked: TableQueryRequest<K>; readonly at: StoryFiles }

/** The task of a query: its request and reply are those of the definition that the route and the page use. */
export const defineTableQuery = <K extends TableQueryName>(
  name: K,
  run: (
    asked: TableQueryRequest<K>,
    at: StoryFiles,
    context: WorkerContext,
  ) => TableQueryReply<K> | Promise<TableQueryReply<K>>,
): TaskDefinition<TableQueryTask<K>, TableQueryReply<K>> => ({
  reply: tableQueries[name].reply,
  run: ({ asked, at }, context) => run(asked, at, context),
})

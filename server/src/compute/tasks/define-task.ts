import type { z } from 'zod'
import type { WorkerContext } from '../worker-context.ts'

/** A kind of work that a compute process does. Requests are plain data, as they cross processes. */
export type TaskDefinition<Request, Reply> = {
  /** Schema of a reply that the server passes on unread; absent where the server reads the reply itself. */
  readonly reply?: z.ZodType
  readonly run: (request: Request, context: WorkerContext) => Reply | Promise<Reply>
}
export const defineTask = <Request, Reply>(task: TaskDefinition<Request, Reply>): TaskDefinition<Request, Reply> => task

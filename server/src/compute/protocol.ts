import type { RefusalData } from '../refusal.ts'
import type { Progress } from './worker-context.ts'
import type { Task } from './tasks/index.ts'

/** What the supervisor asks of a child process. */
export type ToChild =
  { readonly kind: 'run'; readonly id: number; readonly task: Task } | { readonly kind: 'stop'; readonly id: number }

/** What a child process answers about a job. `result` is JSON text: the server passes it on unread where it can. */
export type JobEvent =
  | { readonly started: true }
  | { readonly progress: Progress }
  | { readonly result: string }
  | { readonly refusal: RefusalData }
  | { readonly stopped: true }
  | { readonly outOfMemory: true }
  | { readonly fault: string }
export type FromChild = { readonly id: number } & JobEvent

/** What a compute process is started with, in its environment. */
export type ChildSettings = {
  readonly folder: string
  readonly cacheBytes: number
  readonly columnBytes: number
  readonly memoryBytes: number
}
export const settingsVariable = 'FABULA_COMPUTE'

/** Exit codes of a compute process. */
export const exitCodes = { outOfMemory: 70, parentGone: 0 } as const

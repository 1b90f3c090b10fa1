import type { WorkerContext } from '../worker-context.ts'
import type { TaskDefinition } from './define-task.ts'
import { facts, picture } from './facts.ts'
import { cells, look, open } from './files.ts'
import { fit } from './fit.ts'
import { preview } from './preview.ts'
import { prove } from './prove.ts'
import { run } from './run.ts'
import { scripts } from './scripts.ts'
import { align, match, reconcile } from './tables.ts'
import { follow, lost, sheet, trace } from './trace.ts'
import { find, groups, values } from './values.ts'

/** The one list of tasks. */
const tasks = {
  look,
  open,
  preview,
  facts,
  values,
  groups,
  picture,
  match,
  align,
  reconcile,
  trace,
  follow,
  lost,
  sheet,
  scripts,
  cells,
  prove,
  find,
  fit,
  run,
} as const

export type TaskName = keyof typeof tasks
type RequestOf<K extends TaskName> =
  (typeof tasks)[K] extends TaskDefinition<infer Request, infer _Reply> ? Request : never
/** A request to a compute process, as plain data. */
export type Task = { [K in TaskName]: { readonly kind: K } & RequestOf<K> }[TaskName]

/** Does a task. The reply is JSON text, which the server passes on unread; it is held against its schema here. */
export const perform = async ({ kind, ...request }: Task, context: WorkerContext): Promise<string> => {
  // the type of `Task` pairs each name with its request
  const task = tasks[kind] as TaskDefinition<unknown, unknown>
  const reply = await task.run(request, context)
  return JSON.stringify(task.reply?.parse(reply) ?? reply)
}

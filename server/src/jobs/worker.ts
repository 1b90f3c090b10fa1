import { parentPort, workerData } from 'node:worker_threads'
import { Stopped } from '@fabula/core'
import { FileProblem, Memory, perform, TaskProblem, type Progress, type Task } from './tasks.ts'

/** `slot` of the shared flags holds the newest job of one line of work; a job that is not the newest stops. */
export type Job = { readonly id: number; readonly slot: number; readonly task: Task }
export type Answer = { readonly id: number; readonly progress?: Progress; readonly result?: unknown; readonly problem?: string; readonly stopped?: true; readonly fault?: string }

if (!parentPort) throw new Error('this is a worker')
const port = parentPort
const { folder, flags, cacheBytes } = workerData as { folder: string; flags: Int32Array; cacheBytes: number }
const memory = new Memory(cacheBytes)

/** Jobs take turns: one that reads a large file lets the others through at its breaths. */
const handle = async ({ id, slot, task }: Job): Promise<void> => {
  const say = (answer: Omit<Answer, 'id'>): void => port.postMessage({ id, ...answer } satisfies Answer)
  const shouldStop = (): boolean => Atomics.load(flags, slot) !== id
  try {
    if (shouldStop()) say({ stopped: true })
    else say({ result: await perform(task, { folder, memory, shouldStop, progress: (progress) => say({ progress }) }) })
  } catch (error) {
    if (error instanceof Stopped || shouldStop()) say({ stopped: true })
    else if (error instanceof TaskProblem || error instanceof FileProblem) say({ problem: error.message })
    else say({ fault: error instanceof Error ? (error.stack ?? error.message) : String(error) })
  }
}
port.on('message', (job: Job) => void handle(job))

import { parentPort, workerData } from 'node:worker_threads'
import { FileProblem, useReadingThreads } from '@fabula/formats'
import { useCompiledKernels } from '@fabula/core/compiled'
import { RunStopped, TooLarge } from '@fabula/core'
import { ColumnStore } from './column-store.ts'
import { Refusal } from '../refusal.ts'
import { InputCache, type WorkerContext } from './worker-context.ts'
import type { ChildSettings, JobEvent, ToChild } from './protocol.ts'
import { perform } from './tasks/index.ts'

useCompiledKernels()
useReadingThreads(new URL('./segment-worker.js', import.meta.url))

if (!parentPort) throw new Error('this is a worker')
const port = parentPort
const { folder, cacheBytes, columnBytes, stopped } = workerData as ChildSettings & { readonly stopped: Int32Array }
const inputs = new InputCache(cacheBytes)
const columns = new ColumnStore(folder, columnBytes)
columns.sweep()

const isMemory = (error: unknown): boolean =>
  error instanceof RangeError &&
  /array buffer allocation|invalid (?:typed )?array (?:buffer )?length|invalid string length/i.test(error.message)
const isDeep = (error: unknown): boolean => error instanceof RangeError && /call stack/i.test(error.message)

/** What went wrong, as an event for the supervisor. */
const failure = (error: unknown, wasStopped: boolean): JobEvent => {
  if (error instanceof RunStopped || wasStopped) return { stopped: true }
  if (error instanceof Refusal) return { refusal: error.data }
  if (error instanceof FileProblem || error instanceof TooLarge)
    return { refusal: { code: 'unreadable', facts: { reason: error.message } } }
  if (isDeep(error)) return { refusal: { code: 'too-deep' } }
  if (isMemory(error)) {
    inputs.clear()
    return { outOfMemory: true }
  }
  return { fault: error instanceof Error ? (error.stack ?? error.message) : String(error) }
}

/** Jobs take turns: one that reads a large file lets the others through when it pauses. */
port.on('message', (message: ToChild) => {
  if (message.kind !== 'run') return
  const { id, task } = message
  const report = (event: JobEvent): void => port.postMessage({ id, ...event })
  const shouldStop = (): boolean => Atomics.load(stopped, id % stopped.length) === id
  const context: WorkerContext = { folder, inputs, columns, shouldStop, progress: (progress) => report({ progress }) }
  const work = async (): Promise<void> => {
    try {
      if (shouldStop()) return report({ stopped: true })
      report({ started: true })
      report({ result: await perform(task, context) })
    } catch (error) {
      report(failure(error, shouldStop()))
    }
  }
  void work()
})

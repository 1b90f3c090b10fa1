import { Worker } from 'node:worker_threads'
import { exitCodes, settingsVariable, type ChildSettings, type FromChild, type ToChild } from './protocol.ts'

/**
 * The main thread of a compute process: it only listens, so that a stop always reaches the one worker thread that computes,
 * and watches the memory of the whole process.
 */
const settings = JSON.parse(process.env[settingsVariable] ?? '') as ChildSettings
const slots = 1024
const watchMs = 100

/** The job that was stopped last in each slot; read by the worker between steps and while it reads. */
const stopped = new Int32Array(new SharedArrayBuffer(slots * 4))
const worker = new Worker(new URL('./worker.js', import.meta.url), {
  workerData: { ...settings, stopped },
  resourceLimits: { maxOldGenerationSizeMb: Math.max(64, Math.floor(settings.memoryBytes / 2 ** 20)), stackSizeMb: 4 },
})
const end = (code: number): void => process.exit(code)

worker.on('message', (event: FromChild) => process.send?.(event))
worker.on('error', (error: NodeJS.ErrnoException) => {
  process.stderr.write(`${error.stack ?? error.message}\n`)
  end(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? exitCodes.outOfMemory : 1)
})
process.on('message', (message: ToChild) => {
  if (message.kind === 'stop') Atomics.store(stopped, message.id % slots, message.id)
  else worker.postMessage(message)
})
process.on('disconnect', () => end(exitCodes.parentGone))
// a server that ended while this process started was not heard
if (!process.connected) end(exitCodes.parentGone)
// a signal for the whole group (Ctrl+C) is the server's to handle; it ends this process when it ends
process.on('SIGINT', () => undefined)
setInterval(() => {
  if (process.memoryUsage.rss() > settings.memoryBytes) end(exitCodes.outOfMemory)
}, watchMs)

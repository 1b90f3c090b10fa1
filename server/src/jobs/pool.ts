import { Worker } from 'node:worker_threads'
import { Refusal } from '../refusal.ts'
import type { Progress, Task } from './tasks.ts'
import type { Answer } from './worker.ts'

type Waiting = { readonly resolve: (result: unknown) => void; readonly reject: (error: Error) => void; readonly progress: ((progress: Progress) => void) | undefined }
const slots = 256

/** One worker thread with its step cache. Jobs of one line of work (a flow's previews) supersede one another. */
export class Bench {
  private worker: Worker
  private readonly start: () => Worker
  private readonly flags: Int32Array
  private readonly waiting = new Map<number, Waiting>()
  private readonly lines = new Map<string, number>()
  private next = 1
  private own = 0
  /** `cacheBytes`: how much of the tables it may keep between jobs. */
  constructor(folder: string, cacheBytes: number) {
    this.flags = new Int32Array(new SharedArrayBuffer(slots * 4))
    this.start = () => {
      const worker = new Worker(new URL('./jobs/worker.js', import.meta.url), { workerData: { folder, flags: this.flags, cacheBytes }, resourceLimits: { maxOldGenerationSizeMb: 8192 } })
      worker.on('message', (answer: Answer) => this.hear(answer))
      worker.on('error', (error) => this.fall(error))
      return worker
    }
    this.worker = this.start()
  }
  /** A worker that ran out of memory takes its jobs along; another one stands in at once. */
  private fall(error: Error): void {
    const lost = [...this.waiting.values()]
    this.waiting.clear()
    this.worker = this.start()
    for (const { reject } of lost) reject((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY' ? new Refusal(507, 'out-of-memory', 'This needs more memory than the server gives to one job. Keep fewer rows or columns early in the story, or give the server more memory.') : error)
  }
  private hear({ id, progress, result, problem, stopped, fault }: Answer): void {
    const waiting = this.waiting.get(id)
    if (!waiting) return
    if (progress) {
      waiting.progress?.(progress)
      return
    }
    this.waiting.delete(id)
    if (stopped) waiting.reject(new Refusal(409, 'superseded', 'A newer draft took the place of this one, or it was stopped.'))
    else if (problem !== undefined) waiting.reject(new Refusal(422, 'refused', problem))
    else if (fault !== undefined) waiting.reject(new Error(fault))
    else waiting.resolve(result)
  }
  /** The slot of a line of work; work without a line has one of its own, and is superseded by nothing. */
  private slotOf(line: string | undefined): number {
    if (line === undefined) return 128 + (this.own++ % 128)
    let slot = this.lines.get(line)
    if (slot === undefined) this.lines.set(line, (slot = this.lines.size % 128))
    return slot
  }
  do<T>(task: Task, line?: string, progress?: (progress: Progress) => void): { result: Promise<T>; stop: () => void } {
    const id = this.next++
    const slot = this.slotOf(line)
    Atomics.store(this.flags, slot, id)
    const result = new Promise<T>((resolve, reject) => {
      this.waiting.set(id, { resolve: resolve as (value: unknown) => void, reject, progress })
      this.worker.postMessage({ id, slot, task })
    })
    return { result, stop: () => void Atomics.compareExchange(this.flags, slot, id, 0) }
  }
  async close(): Promise<void> {
    await this.worker.terminate()
  }
}

import { Worker } from 'node:worker_threads'
import { Refusal } from '../refusal.ts'
import type { Progress, Task } from './tasks.ts'
import type { Answer } from './worker.ts'

type Waiting = { readonly resolve: (result: unknown) => void; readonly reject: (error: Error) => void; readonly progress: ((progress: Progress) => void) | undefined }
const slots = 256

/** One worker thread with its step cache. Jobs of one line of work (a flow's previews) supersede one another. */
export class Bench {
  private readonly worker: Worker
  private readonly flags: Int32Array
  private readonly waiting = new Map<number, Waiting>()
  private readonly lines = new Map<string, number>()
  private next = 1
  private own = 0
  constructor(folder: string) {
    this.flags = new Int32Array(new SharedArrayBuffer(slots * 4))
    this.worker = new Worker(new URL('./jobs/worker.js', import.meta.url), { workerData: { folder, flags: this.flags }, resourceLimits: { maxOldGenerationSizeMb: 8192 } })
    this.worker.on('message', (answer: Answer) => this.hear(answer))
    this.worker.on('error', (error) => {
      for (const { reject } of this.waiting.values()) reject(error)
      this.waiting.clear()
    })
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

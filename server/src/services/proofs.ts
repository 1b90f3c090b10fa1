import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ProofReply } from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import type { Progress } from '../compute/worker-context.ts'
import type { Supervisor } from '../compute/supervisor.ts'
import type { Task } from '../compute/tasks/index.ts'

/** How long a script that was asked to stop may take before its process is ended, in milliseconds. */
const patience = 1500

/** One proof at a time: it has a process and a folder of its own, which end with it. */
export class Proofs {
  private readonly compute: Supervisor
  private going: { readonly flow: string; progress: Progress; readonly stop: () => void } | undefined
  constructor(compute: Supervisor) {
    this.compute = compute
  }
  async prove(flow: string, asked: Omit<Extract<Task, { kind: 'prove' }>, 'kind' | 'folder'>): Promise<ProofReply> {
    if (this.going) throw new Refusal('busy')
    const folder = mkdtempSync(join(tmpdir(), 'fabula-proof-'))
    const job = this.compute.alone<ProofReply>({ kind: 'prove', folder, ...asked }, (progress) => {
      if (this.going) this.going.progress = progress
    })
    try {
      return await new Promise<ProofReply>((resolve, reject) => {
        let stopped = false
        const end = (): void => reject(new Refusal('stopped'))
        const stop = (): void => {
          stopped = true
          job.stop()
          // a statement that runs in the embedded database hears nothing
          setTimeout(end, patience)
        }
        this.going = { flow, progress: { done: 0, of: 100, doing: '' }, stop }
        job.value().then(resolve, (error: Error) => (stopped ? end() : reject(error)))
      })
    } finally {
      this.going = undefined
      job.end()
      rmSync(folder, { recursive: true, force: true })
    }
  }
  /** How far the proof of this flow is; undefined where none is under way. */
  progressOf(flow: string): Progress | undefined {
    return this.going?.flow === flow ? this.going.progress : undefined
  }
  stop(flow: string): void {
    if (this.going?.flow === flow) this.going.stop()
  }
}

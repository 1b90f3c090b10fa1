import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ProofReply } from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import type { Bench } from './pool.ts'
import type { Progress, Task } from './tasks.ts'

/** How long a script that was told to stop may take before its worker is ended, in milliseconds. */
const patience = 1500

/** One proof at a time: it has a worker and a folder of its own, which end with it. */
export class Proofs {
  private readonly prover: () => Bench
  private going: { readonly flow: string; progress: Progress; readonly stop: () => void } | undefined
  constructor(prover: () => Bench) {
    this.prover = prover
  }
  async prove(flow: string, asked: Omit<Extract<Task, { kind: 'prove' }>, 'kind' | 'folder'>): Promise<ProofReply> {
    if (this.going) throw new Refusal(409, 'busy', 'A proof is already under way. Wait until it has ended, or stop it.')
    const bench = this.prover()
    const folder = mkdtempSync(join(tmpdir(), 'fabula-proof-'))
    try {
      return await new Promise<ProofReply>((resolve, reject) => {
        const job = bench.do<ProofReply>({ kind: 'prove', folder, ...asked }, undefined, (progress) => this.going && (this.going.progress = progress))
        let stopped = false
        const end = (): void => reject(new Refusal(409, 'stopped', 'The proof was stopped.'))
        const stop = (): void => {
          stopped = true
          job.stop()
          // a statement that runs in the embedded database hears nothing
          setTimeout(end, patience)
        }
        this.going = { flow, progress: { done: 0, of: 100, doing: '' }, stop }
        job.result.then(resolve, (error: Error) => (stopped ? end() : reject(error)))
      })
    } finally {
      this.going = undefined
      await bench.close()
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

import { ownValue, setOwnValue, isFile, type Recipe } from '@fabula/core'
import type { RunSummary } from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import type { Connection } from '../sources/postgresql.ts'
import type { Flows } from '../store/flows.ts'
import type { RunMade, Runs, RunStart } from '../store/runs.ts'
import type { Progress } from '../compute/worker-context.ts'
import type { Cluster, ClusterAsked } from './cluster.ts'
import type { Supervisor } from '../compute/supervisor.ts'
import type { RunResult } from '../compute/tasks/run.ts'
import type { Task } from '../compute/tasks/index.ts'

type ReplayJob = {
  readonly run: string
  readonly start: RunStart
  readonly again: boolean
  stopped: boolean
  stop: (() => void) | undefined
  progress: Progress
}
type ReplayParts = {
  readonly flows: Flows
  readonly runs: Runs
  readonly compute: Supervisor
  readonly connection: (name: string) => Promise<Connection>
  readonly registerFile: (file: { hash: string; size: number }) => Promise<void>
  /** Where the file of a hash is kept. */ readonly pathOf: (hash: string) => string
  readonly fault: (error: unknown) => void
  /** Where replays can run beyond this machine. */
  readonly cluster: Cluster | undefined
}
const nothing: RunMade = { files: [], tables: [], outputs: [], pictures: [], findings: [], open: 0 }
const mostBegun = 2

/** Replays wait in one line for the processes of the batch lane. What was asked for is on disk before it begins, so a stop of the server loses none. */
export class Replays {
  private readonly parts: ReplayParts
  private readonly line: ReplayJob[] = []
  private readonly going = new Map<string, ReplayJob>()
  private busy = 0
  private readonly ended: ((run: string, flow: string) => void)[] = []
  constructor(parts: ReplayParts) {
    this.parts = parts
  }
  async begin(start: RunStart): Promise<string> {
    const run = await this.parts.runs.start(start)
    this.queue(run, start, false)
    return run
  }
  /** After a start of the server: what it left unfinished is begun again, unless that could write twice or has stopped the server before. */
  async resume(): Promise<void> {
    for (const { id, begun, ...start } of await this.parts.runs.unfinished()) {
      const { recipe } = await this.parts.flows.get(start.flow, start.edit)
      if (begun > mostBegun)
        await this.parts.runs.finish(
          id,
          'failed',
          'The server stopped twice while this replay ran, so it is not begun a third time. If the files are very large, the server may need more memory.',
          nothing,
        )
      else if (
        start.asked.databases &&
        (recipe.outputs ?? []).some((output) => !isFile(output) && output.mode === 'append')
      )
        await this.parts.runs.finish(
          id,
          'failed',
          'The server stopped while this replay ran. It adds rows to a table of a database and may have added them already: look there, then replay it again.',
          nothing,
        )
      else this.queue(id, start, true)
    }
  }
  private queue(run: string, start: RunStart, again: boolean): void {
    const job: ReplayJob = {
      run,
      start,
      again,
      stopped: false,
      stop: undefined,
      progress: { done: 0, of: 1, doing: '' },
    }
    this.going.set(run, job)
    this.line.push(job)
    this.next()
  }
  private next(): void {
    const job = this.busy < this.parts.compute.batchWidth ? this.line[this.nextInLine()] : undefined
    if (!job) return
    this.line.splice(this.line.indexOf(job), 1)
    this.busy++
    void this.report(job).finally(() => {
      this.busy--
      this.going.delete(job.run)
      this.next()
      for (const hear of this.ended) hear(job.run, job.start.flow)
    })
  }
  /** The owner's replays go first, and those by link never take the last process; -1 where none may begin. */
  private nextInLine(): number {
    const own = this.line.findIndex(({ start }) => start.link === undefined)
    if (own >= 0) return own
    const byLink = [...this.going.values()].filter(
      (job) => job.start.link !== undefined && !this.line.includes(job),
    ).length
    return byLink < Math.max(1, this.parts.compute.batchWidth - 1)
      ? this.line.findIndex(({ start }) => start.link !== undefined)
      : -1
  }
  private async report(job: ReplayJob): Promise<void> {
    const { run, start } = job
    const { runs, registerFile, fault, compute } = this.parts
    const fail = (state: 'failed' | 'stopped', sentence: string): Promise<void> =>
      runs.finish(run, state, sentence, nothing)
    try {
      if (job.stopped) return await fail('stopped', 'This replay was stopped before it began.')
      job.progress = { done: 0, of: 1, doing: job.again ? 'Begun again: the server had stopped' : 'Opening the files' }
      if (start.asked.cluster)
        return await runs.finish(run, 'done', null, await this.onCluster(job, start.asked.cluster))
      const { value, stop } = compute.do<RunResult>(await this.taskOf(start), {
        home: start.flow,
        lane: 'batch',
        progress: (progress) => (job.progress = progress),
      })
      this.canStop(job, stop)
      const { stored, ...made } = await value()
      for (const file of stored) await registerFile(file)
      await runs.finish(run, 'done', null, made)
    } catch (error) {
      if (error instanceof Refusal)
        return fail(
          error.code === 'superseded' ? 'stopped' : 'failed',
          error.code === 'superseded' ? 'This replay was stopped.' : error.message,
        )
      fault(error)
      await fail('failed', 'This replay met a fault of Fabula itself; the log of the server says more.')
    }
  }
  /** From now on the job is stopped by this; at once where it was asked to stop while it was being begun. */
  private canStop(job: ReplayJob, stop: () => void): void {
    job.stop = stop
    if (job.stopped) stop()
  }
  private async onCluster(job: ReplayJob, asked: ClusterAsked): Promise<RunMade> {
    const {
      flow,
      edit,
      asked: { parameters },
      clock,
    } = job.start
    const { cluster, flows } = this.parts
    if (!cluster) throw new Refusal('no-cluster')
    const { recipe } = await flows.get(flow, edit)
    const { made, stop } = await cluster.run({
      recipe,
      asked,
      parameters,
      clock,
      progress: (progress) => (job.progress = progress),
      pathOf: this.parts.pathOf,
    })
    this.canStop(job, stop)
    return made
  }
  private async taskOf({ flow, edit, asked, clock, link, watch }: RunStart): Promise<Extract<Task, { kind: 'run' }>> {
    const { recipe: whole } = await this.parts.flows.get(flow, edit)
    const recipe: Recipe =
      asked.databases || !whole.outputs ? whole : { ...whole, outputs: whole.outputs.filter(isFile) }
    const connections: Record<string, Connection> = {}
    for (const output of recipe.outputs ?? [])
      if (!isFile(output) && !ownValue(connections, output.connection))
        setOwnValue(connections, output.connection, await this.parts.connection(output.connection))
    const { files, kept = {}, answers, allowChanges, parameters, pictures } = asked
    const last = await this.parts.runs.lastAccepted(flow, { link, watch })
    const before = await this.parts.flows.files(flow)
    return {
      kind: 'run',
      recipe,
      pictures,
      files,
      kept,
      answers,
      allowChanges,
      parameters,
      last,
      before,
      connections,
      now: clock,
    }
  }
  stop(run: string): void {
    const job = this.going.get(run)
    if (!job) return
    job.stopped = true
    job.stop?.()
  }
  withProgress<T extends RunSummary>(run: T): T {
    const job = this.going.get(run.id)
    if (!job) return run
    const before = this.line.indexOf(job)
    return {
      ...run,
      ...(before < 0
        ? job.progress
        : {
            done: 0,
            of: 1,
            doing:
              before === 0
                ? 'Waiting for its turn'
                : `Waiting for its turn: ${before} ${before === 1 ? 'replay stands' : 'replays stand'} before it`,
          }),
    }
  }
  /** Told whenever a replay has ended, however it did. */
  onEnd(hear: (run: string, flow: string) => void): void {
    this.ended.push(hear)
  }
}

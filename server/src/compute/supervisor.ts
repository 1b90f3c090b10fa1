import { availableParallelism, totalmem } from 'node:os'
import type { FileRef } from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import { ComputeProcess, type ComputeJob, type ProcessOptions } from './compute-process.ts'
import type { Progress } from './worker-context.ts'
import type { Task } from './tasks/index.ts'

/** Work of one lane never waits for another's: the owner's looks, those by link, and replays. Each has processes of its own. */
export type Lane = 'interactive' | 'guest' | 'batch'

/** The most that one job of each sort may take, in milliseconds. */
export type TimeLimits = {
  readonly look: number
  readonly preview: number
  readonly read: number
  readonly replay: number
  readonly proof: number
}

export type ComputeLimits = {
  /** Bytes of memory of one process, array buffers included. */
  readonly memoryBytes: number
  /** Bytes of tables that all interactive processes keep between jobs. */
  readonly cacheBytes: number
  /** Bytes of columns kept on disk. */
  readonly columnBytes: number
  readonly times: TimeLimits
}

const sortOf: { readonly [K in Task['kind']]: keyof TimeLimits } = {
  look: 'look',
  cells: 'look',
  open: 'read',
  fit: 'read',
  preview: 'preview',
  facts: 'preview',
  values: 'preview',
  groups: 'preview',
  picture: 'preview',
  match: 'preview',
  align: 'preview',
  reconcile: 'preview',
  trace: 'preview',
  follow: 'preview',
  lost: 'preview',
  sheet: 'preview',
  find: 'preview',
  scripts: 'preview',
  run: 'replay',
  prove: 'proof',
}

const number = (name: string, otherwise: number): number => {
  const given = Number(process.env[name])
  return process.env[name] !== undefined && Number.isFinite(given) && given > 0 ? given : otherwise
}

/** The limits as the environment sets them; by default a share of the machine. */
export const limitsFromEnvironment = (): ComputeLimits => {
  const constrained = process.constrainedMemory()
  const machine = constrained > 0 ? Math.min(constrained, totalmem()) : totalmem()
  const seconds = (name: string, otherwise: number): number => number(`FABULA_${name}_SECONDS`, otherwise) * 1000
  return {
    memoryBytes: number('FABULA_JOB_MEMORY_MB', Math.max(768, Math.min(8192, (machine * 0.4) / 2 ** 20))) * 2 ** 20,
    cacheBytes: number('FABULA_CACHE_MB', Math.max(256, Math.min(3000, (machine * 0.15) / 2 ** 20))) * 2 ** 20,
    columnBytes: number('FABULA_COLUMNS_MB', 8192) * 2 ** 20,
    times: {
      look: seconds('LOOK', 60),
      preview: seconds('PREVIEW', 60),
      read: seconds('READ', 900),
      replay: seconds('REPLAY', 7200),
      proof: seconds('PROOF', 1800),
    },
  }
}

export type Computation<T> = {
  /** The reply as JSON text, to be passed on unread. */
  readonly text: Promise<string>
  /** The reply as data. */
  readonly value: () => Promise<T>
  readonly stop: () => void
}
export type ComputeRequest = {
  /** The story or file that the job is about: its jobs go to one process, whose cache then serves them. */
  readonly home: string
  /** A newer job of the same line takes the place of an older one; jobs without a line do not supersede. */
  readonly requestKey?: string | undefined
  readonly lane?: Lane
  readonly progress?: ((progress: Progress) => void) | undefined
}

/** A job that has not started beside one that runs this long moves, with its story, to another process. */
const moveAfterMs = 1000
const mostHomes = 10_000
/** Files of so many bytes take long to read. */
const largeFile = 64 << 20
/** Looks by links that may wait or run at a time; more are refused, so that none of them fills the server's memory. */
const mostGuestJobs = 200

type Pool = {
  readonly processes: ComputeProcess[]
  readonly homes: Map<string, ComputeProcess>
  readonly most: number
  readonly options: ProcessOptions
}

/** Runs tasks in child processes that may die: none of them takes the server, or another's work, along. */
export class Supervisor {
  private readonly pools: { readonly [L in Lane]: Pool }
  private readonly limits: ComputeLimits
  private readonly base: ProcessOptions
  private readonly balancing: NodeJS.Timeout
  private nextId = 1
  constructor(folder: string, limits: ComputeLimits, fault: (error: unknown) => void) {
    this.limits = limits
    const size = Math.max(2, availableParallelism())
    this.base = {
      folder,
      columnBytes: limits.columnBytes,
      memoryBytes: limits.memoryBytes,
      cacheBytes: limits.cacheBytes / 4,
      width: 1,
      retries: false,
      niceness: 10,
      fault,
    }
    const pool = (options: ProcessOptions, start: number, most: number): Pool => ({
      processes: Array.from({ length: start }, () => new ComputeProcess(options)),
      homes: new Map(),
      most,
      options,
    })
    this.pools = {
      interactive: pool(
        { ...this.base, cacheBytes: limits.cacheBytes / size, width: 4, retries: true, niceness: 0 },
        size,
        size * 2,
      ),
      guest: pool({ ...this.base, width: 4, retries: true, niceness: 5 }, 1, size),
      batch: pool(this.base, 2, 2),
    }
    this.balancing = setInterval(() => {
      this.balance(this.pools.interactive)
      this.balance(this.pools.guest)
    }, moveAfterMs / 2)
    this.balancing.unref()
  }

  /** Starts the process that takes the first look, so that nobody waits for it. */
  warm(): void {
    this.pools.interactive.processes[0]?.warm()
  }

  /** How many replays run at a time. */
  get batchWidth(): number {
    return this.pools.batch.processes.length
  }

  /** Whether a process of a lane has nothing to do. */
  isIdle(lane: Lane): boolean {
    return this.pools[lane].processes.some(({ jobs }) => jobs.length === 0)
  }

  /** A story made of a large file that a process has read goes on there, so that it is not read twice. */
  adopt(story: string, files: readonly FileRef[]): void {
    const { homes } = this.pools.interactive
    const [reader] = files.filter(({ size }) => size >= largeFile).flatMap(({ hash }) => homes.get(hash) ?? [])
    if (reader && !homes.has(story)) homes.set(story, reader)
  }

  do<T>(task: Task, asked: ComputeRequest): Computation<T> {
    const pool = this.pools[asked.lane ?? 'interactive']
    const { home } = asked
    if (asked.lane === 'guest' && pool.processes.reduce((sum, { jobs }) => sum + jobs.length, 0) >= mostGuestJobs)
      throw new Refusal('too-many-requests')
    return this.begin<T>(
      task,
      asked,
      (job) => this.processFor(pool, home).add(job),
      (job) => pool.processes.find(({ jobs }) => jobs.includes(job))?.stop(job),
    )
  }

  /** A job in a process of its own, which ends with it. */
  alone<T>(task: Task, progress: (progress: Progress) => void): Computation<T> & { readonly end: () => void } {
    const process = new ComputeProcess(this.base)
    const computation = this.begin<T>(
      task,
      { home: '', progress },
      (job) => process.add(job),
      (job) => process.stop(job),
    )
    return { ...computation, end: () => process.close() }
  }

  close(): void {
    clearInterval(this.balancing)
    for (const { processes } of Object.values(this.pools)) for (const process of processes) process.close()
  }

  private begin<T>(
    task: Task,
    { home, requestKey, progress }: ComputeRequest,
    add: (job: ComputeJob) => void,
    stop: (job: ComputeJob) => void,
  ): Computation<T> {
    let job: ComputeJob | undefined
    const text = new Promise<string>((resolve, reject) => {
      job = {
        id: this.nextId++,
        task,
        home,
        requestKey,
        limitMs: this.limits.times[sortOf[task.kind]],
        progress,
        resolve,
        reject,
        state: 'waiting',
        startedAt: 0,
        suspected: 0,
        stopped: false,
        timedOut: false,
        timer: undefined,
      }
      add(job)
    })
    return { text, value: async () => JSON.parse(await text) as T, stop: () => job && stop(job) }
  }

  /** A story keeps to one process; a replay takes any that is free, for its columns are on disk. */
  private processFor({ processes, homes, options }: Pool, home: string): ComputeProcess {
    const known = homes.get(home)
    const chosen = known && (options.retries || known.jobs.length === 0) ? known : leastBusy(processes, homes)
    homes.delete(home)
    homes.set(home, chosen)
    for (const old of homes.keys()) {
      if (homes.size <= mostHomes) break
      homes.delete(old)
    }
    return chosen
  }

  /** Stories that wait behind a long job of another story move to the process that has least to do, or to a new one. */
  private balance(pool: Pool): void {
    for (const process of [...pool.processes]) {
      const long = process.jobs.filter(
        ({ state, startedAt }) => state === 'started' && Date.now() - startedAt > moveAfterMs,
      )
      const stuck = new Set(process.jobs.filter(({ state }) => state !== 'started').map(({ home }) => home))
      for (const { home } of long) stuck.delete(home)
      if (long.length === 0 || stuck.size === 0) continue
      const idle = pool.processes.find(({ jobs }) => jobs.length === 0)
      if (!idle && pool.processes.length < pool.most) pool.processes.push(new ComputeProcess(pool.options))
      const others = pool.processes.filter((one) => one !== process)
      if (others.length === 0) continue
      const target = idle ?? leastBusy(others, pool.homes)
      for (const home of stuck) pool.homes.set(home, target)
      for (const job of process.takeUnstarted(({ home }) => stuck.has(home))) target.add(job)
    }
  }
}

const leastBusy = (
  processes: readonly ComputeProcess[],
  homes: ReadonlyMap<string, ComputeProcess>,
): ComputeProcess => {
  const counts = new Map(processes.map((process) => [process, process.jobs.length * 1000]))
  for (const process of homes.values()) counts.set(process, (counts.get(process) ?? 0) + 1)
  const [first] = [...processes].sort((a, b) => (counts.get(a) ?? 0) - (counts.get(b) ?? 0))
  if (!first) throw new Error('a pool has no process')
  return first
}

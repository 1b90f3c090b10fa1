import { spawn, type ChildProcess } from 'node:child_process'
import { existsSync } from 'node:fs'
import { setPriority } from 'node:os'
import { fileURLToPath } from 'node:url'
import { Refusal } from '../refusal.ts'
import { withLargePages } from './large-pages.ts'
import type { Progress } from './worker-context.ts'
import { exitCodes, settingsVariable, type ChildSettings, type FromChild, type ToChild } from './protocol.ts'
import type { Task } from './tasks/index.ts'

/** A job of a compute process, from when it is asked for until it is answered. */
export type ComputeJob = {
  readonly id: number
  readonly task: Task
  /** What the job works on, a story say: its jobs keep to one process. */
  readonly home: string
  /** Jobs of one line supersede one another. */
  readonly requestKey: string | undefined
  readonly limitMs: number
  readonly progress: ((progress: Progress) => void) | undefined
  readonly resolve: (text: string) => void
  readonly reject: (error: Error) => void
  state: 'waiting' | 'sent' | 'started'
  startedAt: number
  /** How many processes ended while it was under way and others were too, so that it is not known which one ended it. */
  suspected: number
  stopped: boolean
  timedOut: boolean
  timer: NodeJS.Timeout | undefined
}

export type ProcessOptions = ChildSettings & {
  /** How many jobs a process has at a time; the rest wait outside it. */
  readonly width: number
  /** Whether jobs are begun again when their process ended through another one. */
  readonly retries: boolean
  /** Nice value: 0 as the server, 19 last of all. */
  readonly niceness: number
  readonly fault: (error: unknown) => void
}

const superseded = (): Refusal => new Refusal('superseded')
const outOfMemory = (bytes: number): Refusal => new Refusal('out-of-memory', { bytes })
const tooSlow = (ms: number): Refusal => new Refusal('too-slow', { ms })
const lost = (): Refusal => new Refusal('process-ended')

/** How long a job that was asked to stop may go on before its process is ended. */
const graceMs = 2000
const prlimit = ['/usr/bin/prlimit', '/bin/prlimit'].find((path) => existsSync(path))
const entry = fileURLToPath(new URL('./compute/child.js', import.meta.url))

/**
 * One child process and the jobs it has. A job that takes too long or too much memory costs the process, which is replaced;
 * the others that it had are begun again in its successor.
 */
export class ComputeProcess {
  private child: ChildProcess | undefined
  private readonly waiting: ComputeJob[] = []
  private readonly sent = new Map<number, ComputeJob>()
  private readonly options: ProcessOptions
  private message = ''
  private closed = false
  /** The job whose time limit ended the process. */
  private ended: ComputeJob | undefined
  constructor(options: ProcessOptions) {
    this.options = options
  }

  /** Starts it before a job comes, which then need not wait. */
  warm(): void {
    this.child ??= this.start()
  }

  get jobs(): readonly ComputeJob[] {
    return [...this.sent.values(), ...this.waiting]
  }

  add(job: ComputeJob): void {
    for (const older of this.jobs)
      if (job.requestKey !== undefined && older.requestKey === job.requestKey) this.stop(older)
    this.waiting.push(job)
    this.send()
  }

  /** Ends a job, at once where it has not started. */
  stop(job: ComputeJob): void {
    if (job.stopped) return
    job.stopped = true
    const at = this.waiting.indexOf(job)
    if (at >= 0) this.waiting.splice(at, 1)
    if (at >= 0 || job.state !== 'started') this.answer(job, () => job.reject(superseded()))
    if (at < 0) this.report({ kind: 'stop', id: job.id })
  }

  /** Takes away the jobs that have not started, so that another process can have them. */
  takeUnstarted(which: (job: ComputeJob) => boolean): ComputeJob[] {
    const taken = this.jobs.filter((job) => job.state !== 'started' && which(job))
    for (const job of taken) {
      const at = this.waiting.indexOf(job)
      if (at >= 0) this.waiting.splice(at, 1)
      else this.report({ kind: 'stop', id: job.id })
      this.sent.delete(job.id)
      job.state = 'waiting'
    }
    return taken
  }

  close(): void {
    this.closed = true
    for (const job of this.jobs) job.reject(superseded())
    this.child?.kill('SIGKILL')
  }

  private report(message: ToChild): void {
    this.child?.send(message, () => undefined)
  }

  /** While it is not known which job ended the last process, those that may have done it go one at a time. */
  private send(): void {
    if (this.closed) return
    const suspect = this.waiting.find(({ suspected }) => suspected > 0)
    const alone = suspect !== undefined || [...this.sent.values()].some(({ suspected }) => suspected > 0)
    while (this.waiting.length > 0 && this.sent.size < (alone ? 1 : this.options.width)) {
      const job = suspect && this.waiting.includes(suspect) ? suspect : this.waiting[0]
      if (!job) return
      this.waiting.splice(this.waiting.indexOf(job), 1)
      this.sent.set(job.id, job)
      job.state = 'sent'
      this.child ??= this.start()
      this.report({ kind: 'run', id: job.id, task: job.task })
    }
  }

  private start(): ChildProcess {
    const { folder, cacheBytes, columnBytes, memoryBytes, niceness, fault } = this.options
    const settings: ChildSettings = { folder, cacheBytes, columnBytes, memoryBytes }
    const words = ['--enable-source-maps', entry]
    const [program, args] = prlimit
      ? [prlimit, [`--data=${memoryBytes}`, process.execPath, ...words]]
      : [process.execPath, words]
    const child = spawn(program, args, {
      stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
      serialization: 'advanced',
      env: { ...withLargePages(process.env), [settingsVariable]: JSON.stringify(settings) },
    })
    this.message = ''
    this.ended = undefined
    child.stderr?.setEncoding('utf8').on('data', (text: string) => (this.message = (this.message + text).slice(-4000)))
    child.on('message', (event: FromChild) => this.hear(event))
    child.on('error', fault)
    child.on('exit', (code, signal) => this.exited(child, code, signal))
    try {
      if (niceness > 0 && child.pid !== undefined) setPriority(child.pid, niceness)
    } catch (error) {
      fault(error)
    }
    return child
  }

  private hear(event: FromChild): void {
    const job = this.sent.get(event.id)
    if (!job) return
    if ('started' in event) this.started(job)
    else if ('progress' in event) job.progress?.(event.progress)
    else this.answer(job, () => this.settle(job, event))
  }

  private settle(job: ComputeJob, event: Exclude<FromChild, { started: true } | { progress: Progress }>): void {
    if ('result' in event) job.resolve(event.result)
    else if ('refusal' in event) job.reject(Refusal.from(event.refusal))
    else if ('outOfMemory' in event) job.reject(outOfMemory(this.options.memoryBytes))
    else if ('stopped' in event) job.reject(job.timedOut ? tooSlow(job.limitMs) : superseded())
    else job.reject(new Error(event.fault))
  }

  private started(job: ComputeJob): void {
    job.state = 'started'
    job.startedAt = Date.now()
    job.timer = setTimeout(() => {
      job.timedOut = true
      this.report({ kind: 'stop', id: job.id })
      job.timer = setTimeout(() => {
        this.ended = job
        this.child?.kill('SIGKILL')
      }, graceMs)
    }, job.limitMs)
  }

  private answer(job: ComputeJob, settle: () => void): void {
    clearTimeout(job.timer)
    this.sent.delete(job.id)
    settle()
    this.send()
  }

  /** Who is to blame is refused; the others are begun again. */
  private exited(child: ChildProcess, code: number | null, signal: NodeJS.Signals | null): void {
    if (this.child !== child || this.closed) return
    const { ended, options } = this
    const message = this.message.trim()
    this.child = undefined
    const jobs = [...this.sent.values()]
    this.sent.clear()
    for (const job of jobs) clearTimeout(job.timer)
    const started = jobs.filter(({ state }) => state === 'started')
    const memory = code === exitCodes.outOfMemory || (signal !== null && !ended)
    if (!ended) options.fault(new Error(`A compute process ended (${signal ?? code}).${message ? ` ${message}` : ''}`))
    const blamed = (job: ComputeJob): boolean =>
      ended ? job === ended : job.state === 'started' && (!options.retries || started.length === 1 || job.suspected > 0)
    const reasonFor = (job: ComputeJob) => {
      if (job === ended) return tooSlow(job.limitMs)
      if (memory) return outOfMemory(options.memoryBytes)
      return lost()
    }
    for (const job of jobs.filter(blamed)) job.reject(reasonFor(job))
    for (const job of jobs.filter((one) => !blamed(one)).reverse()) {
      if (job.stopped) {
        job.reject(superseded())
        continue
      }
      if (job.state === 'started' && !ended) job.suspected++
      job.state = 'waiting'
      this.waiting.unshift(job)
    }
    this.send()
  }
}

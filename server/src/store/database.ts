import { randomBytes } from 'node:crypto'
import { once } from 'node:events'
import { Worker } from 'node:worker_threads'
import { Refusal } from '../refusal.ts'
import type { DatabaseAnswer } from './database-worker.ts'
import { migrations } from './migrations.ts'
import type { Statement, StatementRunner } from './statements.ts'

/** A new name for a row: 72 random bits, as they stand in an address. */
export const newId = (): string => randomBytes(9).toString('base64url')
/** A timestamp of the database as ISO 8601 in UTC. */
export const iso = (value: unknown): string => new Date(value as string).toISOString()

type Waiting = { resolve: (rows: Record<string, unknown>[]) => void; reject: (error: Error) => void }

/** What the disk would not do, as a refusal for the request; undefined for errors that are not the disk's. */
const diskProblem = (message: string): Refusal | undefined => {
  if (/no space left|ENOSPC|disk full|quota exceeded|could not (?:extend|write)/i.test(message))
    return new Refusal('disk-full', {})
  if (/read-only file system|EROFS|permission denied|EACCES|Operation not permitted/i.test(message))
    return new Refusal('read-only', {})
  return undefined
}
const stopped = (): Refusal => new Refusal('database-lost')

/** The embedded PostgreSQL in a thread of its own, asked by messages. What `transaction` has answered is on disk. A thread that dies is replaced. */
export class Database implements StatementRunner {
  private readonly folder: string
  private worker: Worker | undefined
  private opening: Promise<Worker> | undefined
  private readonly waiting = new Map<number, Waiting>()
  private next = 1
  private closing = false
  private constructor(folder: string) {
    this.folder = folder
  }
  static async open(folder: string): Promise<Database> {
    const database = new Database(folder)
    await database.running()
    await database.migrate()
    return database
  }
  private async running(): Promise<Worker> {
    if (this.worker) return this.worker
    this.opening ??= this.start().finally(() => (this.opening = undefined))
    return this.opening
  }
  private async start(): Promise<Worker> {
    const worker = new Worker(new URL('./store/database-worker.js', import.meta.url), {
      workerData: { folder: this.folder },
    })
    const [first] = (await Promise.race([
      once(worker, 'message'),
      once(worker, 'error').then(([error]) => Promise.reject(error as Error)),
    ])) as [unknown]
    if (first !== 'ready') throw new Error('the database did not start')
    worker.on('message', (answer: DatabaseAnswer) => this.hear(answer))
    worker.on('error', () => this.lose(worker))
    worker.on('exit', () => this.lose(worker))
    this.worker = worker
    return worker
  }
  private hear({ id, rows, error }: DatabaseAnswer): void {
    const waiting = this.waiting.get(id)
    this.waiting.delete(id)
    if (error !== undefined) waiting?.reject(diskProblem(error) ?? new Error(error))
    else waiting?.resolve([...(rows ?? [])])
  }
  private lose(worker: Worker): void {
    if (this.worker !== worker) return
    this.worker = undefined
    if (this.closing) return
    const lost = [...this.waiting.values()]
    this.waiting.clear()
    for (const { reject } of lost) reject(stopped())
  }
  async transaction(statements: readonly Statement[]): Promise<Record<string, unknown>[]> {
    const worker = await this.running().catch((error: unknown) => {
      throw diskProblem(String(error)) ?? new Refusal('database-stopped')
    })
    const id = this.next++
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject })
      worker.postMessage({ id, statements })
    })
  }
  query(sql: string, ...params: readonly unknown[]): Promise<Record<string, unknown>[]> {
    return this.transaction([{ sql, params }])
  }
  private async migrate(): Promise<void> {
    await this.query(
      'create table if not exists migrations (n int primary key, at timestamptz not null default now());',
    )
    const [{ n: last = 0 } = {}] = (await this.query('select coalesce(max(n), 0)::int as n from migrations')) as {
      n?: number
    }[]
    for (const [i, sql] of migrations.entries())
      if (i + 1 > last)
        await this.transaction([
          { sql, params: [] },
          { sql: 'insert into migrations (n) values ($1)', params: [i + 1] },
        ])
  }
  async close(): Promise<void> {
    this.closing = true
    const { worker } = this
    if (!worker) return
    const gone = once(worker, 'exit')
    worker.postMessage('close')
    await gone
  }
}

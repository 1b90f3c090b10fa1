import { randomBytes } from 'node:crypto'
import { once } from 'node:events'
import { Worker } from 'node:worker_threads'
import type { DatabaseAnswer, Statement } from './database-worker.ts'
import { migrations } from './migrations.ts'

/** A new name for a row: 72 random bits, as they stand in an address. */
export const newId = (): string => randomBytes(9).toString('base64url')
export const iso = (value: unknown): string => new Date(value as string).toISOString()

type Waiting = { resolve: (rows: Record<string, unknown>[]) => void; reject: (error: Error) => void }

/** The embedded PostgreSQL, asked by messages. What `transaction` has answered is on disk. */
export class Database {
  private readonly worker: Worker
  private readonly waiting = new Map<number, Waiting>()
  private next = 1
  private constructor(worker: Worker) {
    this.worker = worker
    worker.on('message', (answer: DatabaseAnswer) => {
      const waiting = this.waiting.get(answer.id)
      this.waiting.delete(answer.id)
      if (answer.error !== undefined) waiting?.reject(new Error(answer.error))
      else waiting?.resolve([...(answer.rows ?? [])])
    })
  }
  static async open(folder: string): Promise<Database> {
    const worker = new Worker(new URL('./store/database-worker.js', import.meta.url), { workerData: { folder } })
    const [first] = (await Promise.race([once(worker, 'message'), once(worker, 'error').then(([error]) => Promise.reject(error as Error))])) as [unknown]
    if (first !== 'ready') throw new Error('the database did not start')
    const database = new Database(worker)
    await database.migrate()
    return database
  }
  transaction(statements: readonly Statement[]): Promise<Record<string, unknown>[]> {
    const id = this.next++
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject })
      this.worker.postMessage({ id, statements })
    })
  }
  query(sql: string, ...params: readonly unknown[]): Promise<Record<string, unknown>[]> {
    return this.transaction([{ sql, params }])
  }
  private async migrate(): Promise<void> {
    await this.query('create table if not exists migrations (n int primary key, at timestamptz not null default now());')
    const [{ n: last = 0 } = {}] = (await this.query('select coalesce(max(n), 0)::int as n from migrations')) as { n?: number }[]
    for (const [i, sql] of migrations.entries())
      if (i + 1 > last) await this.transaction([{ sql, params: [] }, { sql: 'insert into migrations (n) values ($1)', params: [i + 1] }])
  }
  async close(): Promise<void> {
    const gone = once(this.worker, 'exit')
    this.worker.postMessage('close')
    await gone
  }
}

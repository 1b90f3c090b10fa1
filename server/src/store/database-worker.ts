import { parentPort, workerData } from 'node:worker_threads'
import { openDurably } from './durable-fs.ts'
import { runStatements, type Statement } from './statements.ts'

/** Statements of one transaction. */
export type DatabaseJob = { readonly id: number; readonly statements: readonly Statement[] }
/** Rows of each statement, or the error that rolled them back. */
export type DatabaseAnswer = {
  readonly id: number
  readonly rows?: readonly Record<string, unknown>[]
  readonly error?: string
}

// the database lives in this thread, so that no request waits for it to compute
if (!parentPort) throw new Error('this is a worker')
const port = parentPort
const db = await openDurably((workerData as { folder: string }).folder)

port.on('message', (job: DatabaseJob | 'close') => {
  if (job === 'close') {
    void db.close().then(() => port.close())
    return
  }
  runStatements(db, job.statements).then(
    (rows) => port.postMessage({ id: job.id, rows } satisfies DatabaseAnswer),
    (error: unknown) => {
      port.postMessage({ id: job.id, error: String(error) } satisfies DatabaseAnswer)
      // an error without a SQLSTATE is PostgreSQL itself that ended: it can only be started anew, and then recovers
      if (!/^[0-9A-Z]{5}$/.test(String((error as { code?: unknown }).code))) process.exit(1)
    },
  )
})
port.postMessage('ready')

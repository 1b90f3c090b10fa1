import { createHash, randomBytes } from 'node:crypto'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pg from 'pg'
import { freshData, startServer, type Running } from '../browser/server.ts'
import { startPostgres } from '../parity/postgres.ts'
import type { FlowReply, RunReply } from '@fabula/core/api'

export type Tortured = {
  readonly rounds: number
  readonly edits: number
  readonly uploads: number
  readonly replays: { readonly done: number; readonly told: number }
  readonly slowestStartMs: number
  readonly faults: readonly string[]
}

const rowsWritten = 3000
const csv = `N,T\n${Array.from({ length: rowsWritten }, (_, i) => `${i},row ${i}`).join('\n')}\n`

/** What was acknowledged, to be found again after the next start. */
type Acknowledged = {
  edit: number
  readonly uploads: { readonly hash: string; readonly size: number }[]
  readonly runs: Set<string>
}

/** One life of the server: edits, uploads, replays and writing into PostgreSQL at once, until it falls. */
class Life {
  private readonly server: Running
  private readonly flow: string
  private readonly acknowledged: Acknowledged
  constructor(server: Running, flow: string, acknowledged: Acknowledged) {
    this.server = server
    this.flow = flow
    this.acknowledged = acknowledged
  }
  private async call<T>(method: string, path: string, body?: unknown): Promise<T> {
    const response = await fetch(`${this.server.base}${path}`, {
      method,
      ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    })
    if (!response.ok)
      throw new Error(`${method} ${path} answered ${response.status}: ${(await response.text()).slice(0, 200)}`)
    return (await response.json()) as T
  }
  story(): Promise<FlowReply> {
    return this.call('GET', `/api/flows/${this.flow}`)
  }
  run(id: string): Promise<RunReply> {
    return this.call('GET', `/api/flows/${this.flow}/runs/${id}`)
  }
  private async edit(): Promise<void> {
    const { recipe, edit } = await this.story()
    for (let n = Number(recipe.about), after = edit; ;) {
      after = (
        await this.call<FlowReply>('POST', `/api/flows/${this.flow}/edit`, {
          recipe: { ...recipe, about: String(++n) },
          what: 'about',
          after,
        })
      ).edit
      this.acknowledged.edit = n
    }
  }
  private async upload(): Promise<void> {
    for (;;) {
      const bytes = randomBytes(1000 + Math.floor(Math.random() * 400_000))
      const response = await fetch(`${this.server.base}/api/files?name=torture.csv`, { method: 'POST', body: bytes })
      const ref = (await response.json()) as { hash: string; size: number }
      if (response.ok) this.acknowledged.uploads.push(ref)
    }
  }
  private async replay(): Promise<void> {
    for (;;) {
      const { id } = await this.call<RunReply>('POST', `/api/flows/${this.flow}/replay`, {
        files: {},
        answers: [],
        allowChanges: true,
        parameters: {},
      })
      this.acknowledged.runs.add(id)
      while ((await this.run(id)).state === 'running') await new Promise((resolve) => setTimeout(resolve, 30))
    }
  }
  /** Works until the server is gone; what else goes wrong is told. */
  async workUntilKilled(afterMs: number): Promise<string[]> {
    const faults: string[] = []
    const watched = (work: Promise<void>) =>
      work.catch(
        (error: Error) =>
          void (
            /fetch failed|terminated|ECONN|socket|aborted/i.test(`${error.message} ${String(error.cause)}`) ||
            faults.push(error.message)
          ),
      )
    const works = [this.edit(), this.upload(), this.replay()].map(watched)
    await new Promise((resolve) => setTimeout(resolve, afterMs))
    await this.server.stop('SIGKILL')
    await Promise.all(works)
    return faults
  }
}

const make = async (server: Running, port: number): Promise<string> => {
  const post = async <T>(path: string, body: unknown): Promise<T> =>
    (await (
      await fetch(`${server.base}${path}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      })
    ).json()) as T
  const file = (await (
    await fetch(`${server.base}/api/files?name=rows.csv`, { method: 'POST', body: csv })
  ).json()) as unknown
  await post('/api/connections', {
    name: 'Till',
    host: '127.0.0.1',
    port,
    database: 'postgres',
    user: 'postgres',
    password: 'x',
    tls: 'none',
  })
  const recipe = {
    fabula: 1,
    name: 'Torture',
    about: '0',
    inputs: [
      {
        id: 'a',
        name: 'A',
        columns: [
          { name: 'N', type: 'integer' },
          { name: 'T', type: 'text' },
        ],
      },
    ],
    tables: [
      {
        id: 't',
        name: 'T',
        steps: [
          { id: 's1', kind: 'open', input: 'a' },
          { id: 's2', kind: 'sort', by: [{ column: 'N', descending: true }] },
        ],
      },
    ],
    outputs: [
      { table: 't', format: 'csv', file: 't.csv' },
      { table: 't', format: 'postgresql', connection: 'Till', name: 'torture', mode: 'replace' },
    ],
  }
  return (await post<{ id: string }>('/api/flows', { recipe, files: { a: [file] } })).id
}

/** Kills the server at random moments of edits, uploads, replays and writes into PostgreSQL, and looks each time at what was acknowledged. */
export const torture = async (rounds: number, say: (line: string) => void = () => undefined): Promise<Tortured> => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-torture-'))
  const postgres = startPostgres(folder, '127.0.0.1')
  const data = await freshData()
  const faults: string[] = []
  const acknowledged: Acknowledged = { edit: 0, uploads: [], runs: new Set() }
  const replays = { done: 0, told: 0 }
  const settled = new Set<string>()
  let server = await startServer(data)
  const flow = await make(server, postgres.port)
  const port = Number(new URL(server.base).port)
  let slowestStartMs = 0
  let seen = 0
  try {
    for (let round = 1; round <= rounds; round++) {
      faults.push(
        ...(await new Life(server, flow, acknowledged).workUntilKilled(200 + Math.random() * 1800)).map(
          (fault) => `round ${round}: ${fault}`,
        ),
      )
      const began = performance.now()
      server = await startServer(data, port)
      slowestStartMs = Math.max(slowestStartMs, performance.now() - began)
      const life = new Life(server, flow, acknowledged)
      const about = Number((await life.story()).recipe.about)
      // the edit that was under way when the server fell may be there or not; none before it is missing
      if (about !== acknowledged.edit && about !== acknowledged.edit + 1)
        faults.push(`round ${round}: edit ${acknowledged.edit} was acknowledged, ${about} is there`)
      acknowledged.edit = about
      for (; seen < acknowledged.uploads.length; seen++) {
        const { hash = '', size = 0 } = acknowledged.uploads[seen] ?? {}
        const bytes = readFileSync(join(data, 'files', hash.slice(0, 2), hash))
        if (bytes.length !== size || createHash('sha256').update(bytes).digest('hex') !== hash)
          faults.push(`round ${round}: upload ${hash} is not whole`)
      }
      for (const id of acknowledged.runs) {
        if (settled.has(id)) continue
        let run = await life.run(id)
        for (let i = 0; run.state === 'running' && i < 600; i++) {
          await new Promise((resolve) => setTimeout(resolve, 50))
          run = await life.run(id)
        }
        settled.add(id)
        if (run.state === 'done') replays.done++
        else if (run.state !== 'running' && run.sentence) replays.told++
        else faults.push(`round ${round}: replay ${id} is ${run.state} and says nothing`)
      }
      const client = new pg.Client({ host: '127.0.0.1', port: postgres.port, user: 'postgres', database: 'postgres' })
      await client.connect()
      const there = await client.query<{ n: number }>('select count(*)::int as n from torture').catch(() => undefined)
      await client.end()
      if (there && there.rows[0]?.n !== rowsWritten)
        faults.push(`round ${round}: the table of the database has ${there.rows[0]?.n} rows, not ${rowsWritten}`)
      say(
        `round ${round}: edit ${about}, ${acknowledged.uploads.length} uploads, ${settled.size} replays, start ${(performance.now() - began).toFixed(0)} ms with all checks${faults.length > 0 ? `, ${faults.length} faults` : ''}`,
      )
    }
  } finally {
    await server.stop()
    postgres.stop()
  }
  return { rounds, edits: acknowledged.edit, uploads: acknowledged.uploads.length, replays, slowestStartMs, faults }
}

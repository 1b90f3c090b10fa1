// npm run bench:reopen -- [rows]: how long a large file takes to be there the first time, and after a restart of the server from
// the columns that were kept. 4,500,000 rows are about 480 MB.
import { createReadStream, existsSync, readdirSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freshData, startServer } from '../e2e/browser/server.ts'
import { writeVisits } from './data.ts'

const rows = Number(process.argv[2] ?? 4_500_000)
const path = join(tmpdir(), `fabula-bench-${rows}.csv`)
if (!existsSync(path)) writeVisits(path, rows)
const data = await freshData()
let server = await startServer(data)
const timed = async <T>(work: () => Promise<T>): Promise<[T, number]> => {
  const began = performance.now()
  return [await work(), performance.now() - began]
}
const post = async <T>(at: string, body: unknown): Promise<T> => {
  const response = await fetch(`${server.base}${at}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  })
  if (!response.ok) throw new Error(await response.text())
  return (await response.json()) as T
}
const ref = (await (
  await fetch(`${server.base}/api/files?name=visits.csv`, {
    method: 'POST',
    body: createReadStream(path) as never,
    duplex: 'half',
  } as RequestInit)
).json()) as { name: string; hash: string; size: number }
const [opened, openMs] = await timed(() =>
  post<{ columns: { name: string; type: string }[]; rows: number }>('/api/open', { files: [ref], read: {} }),
)
const types = Object.fromEntries(opened.columns.map(({ name, type }) => [name, { type }]))
const recipe = {
  fabula: 1,
  name: 'Large',
  inputs: [{ id: 'visits', name: 'Visits', columns: opened.columns }],
  tables: [{ id: 'visits', name: 'Visits', steps: [{ id: 's1', kind: 'open', input: 'visits', read: { types } }] }],
}
const { id } = await post<{ id: string }>('/api/flows', { recipe, files: { visits: [ref] } })
const preview = () =>
  post<{ total: number }>(`/api/flows/${id}/preview`, {
    recipe,
    table: 'visits',
    step: 's1',
    diffMode: 'after',
    only: 'all',
    from: opened.rows - 100,
    count: 100,
  })
const columns = join(data, 'columns')
const kept = (): string | undefined =>
  existsSync(columns) ? readdirSync(columns).find((name) => name.endsWith('.columns')) : undefined
while (!kept()) await new Promise((resolve) => setTimeout(resolve, 200))
const size = statSync(join(columns, kept() ?? '')).size
await server.stop()
server = await startServer(data)
const [, againMs] = await timed(preview)
const [, warmMs] = await timed(preview)
process.stdout.write(
  `${opened.rows.toLocaleString('en-GB')} rows, ${Math.round(ref.size / 1e6)} MB: read ${(openMs / 1000).toFixed(1)} s; after a restart, from ${Math.round(size / 1e6)} MB of columns, its last rows ${(againMs / 1000).toFixed(2)} s, then ${warmMs.toFixed(0)} ms\n`,
)
await server.stop()
rmSync(data, { recursive: true, force: true })

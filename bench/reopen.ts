// npm run bench:reopen -- [rows]: how long a large file takes to be looked at and read the first time, and after a restart of the server from
// the columns that were kept. 4,500,000 rows are about 480 MB.
import { existsSync, readdirSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { freshData } from '../e2e/browser/server.ts'
import { benchFile } from './files.ts'
import { previewOf, serve, storyOf } from './served.ts'

const rows = Number(process.argv[2] ?? 4_500_000)
const path = await benchFile('visits', rows)
const data = await freshData()
const server = await serve(data)
const timed = async <T>(work: () => Promise<T>): Promise<[T, number]> => {
  const began = performance.now()
  return [await work(), performance.now() - began]
}
const ref = await server.upload(path)
const look = () => server.post('/api/look', { hash: ref.hash, name: ref.name, read: {} })
const [, lookMs] = await timed(look)
const [opened, openMs] = await timed(() => server.open(ref))
const recipe = storyOf(opened)
const { id } = await server.post<{ id: string }>('/api/flows', { recipe, files: { visits: [ref] } })
const preview = () => server.post(`/api/flows/${id}/preview`, previewOf(recipe, 's1', opened.rows - 100, 100))
const columns = join(data, 'columns')
const kept = (): string | undefined =>
  existsSync(columns) ? readdirSync(columns).find((name) => name.endsWith('.columns')) : undefined
while (!kept()) await new Promise((resolve) => setTimeout(resolve, 200))
const size = statSync(join(columns, kept() ?? '')).size
await server.restart()
const [, startMs] = await timed(preview)
await server.restart()
// the process that computes is started when the server is up
await new Promise((resolve) => setTimeout(resolve, 2000))
const [, againMs] = await timed(preview)
const [, warmMs] = await timed(preview)
process.stdout.write(
  `${opened.rows.toLocaleString('en-GB')} rows, ${Math.round(ref.size / 1e6)} MB: first rows as they stand in the file ${(lookMs / 1000).toFixed(2)} s, all read ${(openMs / 1000).toFixed(1)} s; after a restart, from ${Math.round(size / 1e6)} MB of columns, its last rows ${(againMs / 1000).toFixed(2)} s (${(startMs / 1000).toFixed(2)} s in the moment in which the server starts), then ${warmMs.toFixed(0)} ms\n`,
)
await server.stop()
rmSync(data, { recursive: true, force: true })

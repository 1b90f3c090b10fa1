// npm run bench:large -- [rows]: whether a file near the bound of the machine opens, previews and replays by a running server: 20 columns,
// by default 20,000,000 rows (3.3 GB). Times, and the memory that the process of each work held at most.
import { existsSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freshData } from '../e2e/browser/server.ts'
import { previewOf, serve, storyOf } from './served.ts'
import { writeWideVisits } from './wide.ts'

const rows = Number(process.argv[2] ?? 20_000_000)
const path = join(tmpdir(), `fabula-wide-${rows}.csv`)
if (!existsSync(path)) await writeWideVisits(path, rows)
const data = await freshData()
const server = await serve(data)
/** The most memory that any process of Fabula held, in GB. */
const mostMemory = (): number =>
  Math.max(
    ...readdirSync('/proc').map((pid) => {
      const of = (file: string): string => {
        try {
          return /^\d+$/.test(pid) ? readFileSync(`/proc/${pid}/${file}`, 'utf8') : ''
        } catch {
          return ''
        }
      }
      if (!/compute\/child\.js/.test(of('cmdline'))) return 0
      return Number(/^VmHWM:\s+(\d+)/m.exec(of('status'))?.[1] ?? 0) / 2 ** 20
    }),
  )
const timed = async <T>(what: string, work: () => Promise<T>): Promise<T> => {
  const began = performance.now()
  try {
    return await work()
  } finally {
    const seconds = (performance.now() - began) / 1000
    process.stdout.write(`${what.padEnd(46)} ${seconds.toFixed(1).padStart(7)} s   ${mostMemory().toFixed(1)} GB\n`)
  }
}
process.stdout.write(`${rows.toLocaleString('en-GB')} rows × 20, ${(statSync(path).size / 1e9).toFixed(1)} GB\n`)
const ref = await timed('brought in', () => server.upload(path))
await timed('first rows as they stand in the file', () =>
  server.post('/api/look', { hash: ref.hash, name: ref.name, read: {} }),
)
const opened = await timed('opened', () => server.open(ref))
const recipe = storyOf(opened, [
  { kind: 'filter', where: { column: 'Status', op: 'is-not', value: 'Cancelled' } },
  { kind: 'derive', as: 'Rate', formula: 'Weight / Minutes * 60' },
  { kind: 'sort', by: [{ column: 'Clinic' }, { column: 'Weight', descending: true }] },
  { kind: 'summarise', by: ['Clinic', 'Species'], measures: [{ how: 'mean', column: 'Rate', as: 'Rate' }] },
])
const { id } = await server.post<{ id: string }>('/api/flows', {
  recipe: { ...recipe, outputs: [{ table: 'visits', format: 'csv', file: 'rates.csv' }] },
  files: { visits: [ref] },
})
const preview = (step: string, from: number) =>
  server.post(`/api/flows/${id}/preview`, previewOf(recipe, step, from, 100))
for (const [i, what] of ['its last rows', 'filtered', 'a formula', 'sorted', 'summarised'].entries())
  await timed(what, () => preview(`s${i + 1}`, i === 0 ? rows - 100 : 0))
type Replay = { readonly id: string; readonly state: string; readonly sentence: string | null }
const replay = await timed('replayed', async () => {
  const asked = { files: { visits: [ref] }, answers: [], parameters: {}, allowChanges: true }
  const { id: run } = await server.post<{ id: string }>(`/api/flows/${id}/replay`, asked)
  for (;;) {
    const found = await server.get<Replay>(`/api/flows/${id}/runs/${run}`)
    if (found.state !== 'running') return found
    await new Promise((resolve) => setTimeout(resolve, 500))
  }
})
process.stdout.write(`${replay.state} ${replay.sentence ?? ''}\n`)
await server.stop()
rmSync(data, { recursive: true, force: true })

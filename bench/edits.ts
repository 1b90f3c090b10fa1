// npm run bench:edits: what it costs that an acknowledged edit is on the disk. The same edits of the demo's story in the embedded
// database, once with real syncs as the server opens it, once as it ships (no sync), taking turns; medians in milliseconds.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { openDurably } from '@fabula/server/durable'

const recipe = readFileSync(join(import.meta.dirname, '../demo/monthly-takings.fabula.json'), 'utf8')
const folder = mkdtempSync(join(tmpdir(), 'fabula-edits-'))
const ways = {
  synced: await openDurably(join(folder, 'synced')),
  'not synced': await PGlite.create({ dataDir: join(folder, 'plain'), relaxedDurability: false }),
}
const times: Record<keyof typeof ways, number[]> = { synced: [], 'not synced': [] }
for (const db of Object.values(ways))
  await db.exec(
    'create table edits (id bigint generated always as identity primary key, recipe jsonb not null, at timestamptz not null default now())',
  )
for (let i = 0; i < 1000; i++)
  for (const [name, db] of Object.entries(ways)) {
    const began = performance.now()
    await db.query('insert into edits (recipe) values ($1)', [recipe])
    times[name as keyof typeof ways].push(performance.now() - began)
  }
const at = (list: readonly number[], share: number): string =>
  ([...list].sort((a, b) => a - b)[Math.floor(list.length * share)] ?? 0).toFixed(1)
for (const [name, list] of Object.entries(times))
  process.stdout.write(`${name}: median ${at(list, 0.5)} ms, p95 ${at(list, 0.95)} ms an edit\n`)
for (const db of Object.values(ways)) await db.close()
rmSync(folder, { recursive: true, force: true })

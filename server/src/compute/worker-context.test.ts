import { mkdirSync, mkdtempSync, readdirSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { expect, test, vi } from 'vitest'
import { ColumnStore } from './column-store.ts'
import { pathOf } from './outputs.ts'
import { InputCache, openFiles, type WorkerContext } from './worker-context.ts'

/** What a worker of so much memory works with, and a file of its shelf. */
const workerOf = (
  cacheBytes: number,
  text: string,
): { context: WorkerContext; file: { name: string; hash: string; size: number } } => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-worker-'))
  const hash = createHash('sha256').update(text).digest('hex')
  const path = pathOf(folder, hash)
  mkdirSync(dirname(path), { recursive: true })
  writeFileSync(path, text)
  const context = {
    folder,
    inputs: new InputCache(cacheBytes),
    columns: new ColumnStore(folder, 1e9),
    progress: () => undefined,
    shouldStop: () => false,
  }
  return { context, file: { name: 'visits.csv', hash, size: text.length } }
}
const rows = 400_000
const visits = `Ref,Clinic,Fee\n${Array.from({ length: rows }, (_, i) => `B${i},${['Oxbow', 'Marlpit'][i % 2]},${i / 8}`).join('\n')}\n`
const bytesOf = (table: { readonly buffers: readonly (readonly [object, number])[] }): number =>
  [...new Map(table.buffers).values()].reduce((sum, bytes) => sum + bytes, 0)

test('an input that takes more memory than is kept goes on from disk, a column at a time', async () => {
  const { context, file } = workerOf(1 << 20, visits)
  const { key, files } = await openFiles([file], {}, {}, context)
  expect(bytesOf(files.table)).toBeGreaterThan(1 << 20)
  await vi.waitFor(() => expect(context.inputs.get(key)).not.toBe(files), { timeout: 10_000, interval: 20 })
  const kept = (await openFiles([file], {}, {}, context)).files
  expect(kept.table.schema).toEqual(files.table.schema)
  expect(bytesOf(kept.table)).toBe(0)
  for (const row of [0, 4096, rows - 1])
    expect([0, 1, 2].map((at) => kept.table.cell(at, row))).toEqual([0, 1, 2].map((at) => files.table.cell(at, row)))
  expect(kept.table.column(2)).toEqual(files.table.column(2))
  expect(bytesOf(kept.table)).toBe(rows * 8)
  // the next job begins without what the last one needed
  expect((await openFiles([file], {}, {}, context)).files).toBe(kept)
  expect(bytesOf(kept.table)).toBe(0)
  expect(kept.table.cell(1, rows - 1)).toBe('Marlpit')
})
test('an input that fits stays in memory, and is on disk for the next start', async () => {
  const { context, file } = workerOf(1 << 30, visits)
  const { key, files } = await openFiles([file], {}, {}, context)
  await vi.waitFor(() => expect(readdirSync(join(context.folder, 'columns')).length).toBeGreaterThan(0), {
    timeout: 10_000,
    interval: 20,
  })
  expect(context.inputs.get(key)).toBe(files)
})

import { spawn } from 'node:child_process'
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, expect, test } from 'vitest'
import type { Recipe } from '@fabula/core'
import type { FileRef } from '@fabula/core/api'
import { root } from '../browser/server.ts'
import { Cluster } from '@fabula/server/cluster'

let folder: string
beforeEach(() => void (folder = mkdtempSync(join(tmpdir(), 'fabula-submit-'))))
afterEach(() => rmSync(folder, { recursive: true, force: true }))

const recipe: Recipe = {
  fabula: 1,
  name: 'Visits',
  inputs: [{ id: 'visits', name: 'Visits', columns: [{ name: 'Fee', type: 'decimal' }] }],
  tables: [{ id: 'visits', name: 'Visits', steps: [{ id: 's1', kind: 'open', input: 'visits', read: {} }] }],
}
/** A program in place of spark-submit that writes down its words and its own number, and does as told. */
const submitting = (does: string): Cluster => {
  const program = join(folder, 'spark-submit')
  writeFileSync(program, `#!/bin/sh\nprintf '%s\\n' "$@" > ${folder}/words\necho $$ > ${folder}/pid\n${does}\n`)
  chmodSync(program, 0o755)
  return Cluster.fromEnvironment({ FABULA_SPARK: 'spark://master:7077', PATH: `/nowhere:${folder}` }) as Cluster
}
const asked = { paths: { visits: ['/shared/a b.csv', '/shared/c*.csv'] }, folder: '/shared/results/' }
const run = (cluster: Cluster, places: typeof asked & { files?: Record<string, FileRef[]> } = asked) =>
  cluster.run({
    recipe,
    asked: places,
    parameters: { 'As of': '2031-06-30' },
    clock: Date.UTC(2031, 5, 30, 8),
    progress: () => undefined,
    pathOf: (hash) => join(folder, hash),
  })
const isAlive = (pid: number): boolean => {
  try {
    process.kill(pid, 0)
    return true
  } catch {
    return false
  }
}
const pidOf = async (): Promise<number> => {
  const text = (): string => (existsSync(join(folder, 'pid')) ? readFileSync(join(folder, 'pid'), 'utf8') : '')
  await expect.poll(text, { timeout: 20_000 }).toMatch(/\d\n/)
  return Number(readFileSync(join(folder, 'pid'), 'utf8'))
}

test('there is none where none is named, or no spark-submit is found', () => {
  expect(Cluster.fromEnvironment({ PATH: folder })).toBeUndefined()
  expect(Cluster.fromEnvironment({ FABULA_SPARK: 'yarn', PATH: folder })).toBeUndefined()
  expect(submitting('').master).toBe('spark://master:7077')
})

test('what it is called with, and what is made of what it says', async () => {
  const { made: ending } = await run(
    submitting('echo "2 cells of “Fee” cannot be read."; echo "       1,204 rows × 9 columns  s1"'),
  )
  const made = await ending
  const words = readFileSync(join(folder, 'words'), 'utf8').trimEnd().split('\n')
  expect(words.slice(0, 2)).toEqual(['--master', 'spark://master:7077'])
  expect(words.slice(5)).toEqual([
    ...['--input', 'visits=/shared/a b.csv', '--input', 'visits=/shared/c*.csv'],
    ...['--output', 'visits=/shared/results/visits.csv', '--param', 'As of=2031-06-30', '--now', '2031-06-30T08:00:00'],
  ])
  expect(made).toMatchObject({
    tables: [{ id: 'visits', steps: [{ id: 's1', rowsOut: 1204 }] }],
    outputs: [{ table: 'visits', rows: 1204, columns: 9, into: '/shared/results/', first: [] }],
    findings: [{ code: 'said-by-script', sentence: '2 cells of “Fee” cannot be read.' }],
  })
})

test('what was sent here is copied beside what is written, under its own name, and is no pattern there', async () => {
  writeFileSync(join(folder, 'kept'), 'Fee\n1\n')
  const files = { visits: [{ name: 'May [new].csv', hash: 'kept', size: 6 }] }
  const shared = join(folder, 'results')
  await (
    await run(submitting(''), { ...asked, files, folder: shared })
  ).made
  expect(readFileSync(join(shared, 'inputs/visits/1/May [new].csv'), 'utf8')).toBe('Fee\n1\n')
  const words = readFileSync(join(folder, 'words'), 'utf8').split('\n')
  expect(words).toContain(`visits=${shared}/inputs/visits/1/May \\[new\\].csv`)
  expect(words.indexOf('visits=/shared/c*.csv')).toBeLessThan(words.findIndex((word) => word.includes('/inputs/')))
  const elsewhere = run(submitting(''), { ...asked, files, folder: 's3a://results' })
  await expect(elsewhere).rejects.toMatchObject({ code: 'no-shared-folder' })
})

test('why it failed is its last sentence, or its exit code where it said none', async () => {
  const ending = async (does: string) => (await run(submitting(does))).made
  await expect(ending('echo "There is no file."; exit 6')).rejects.toThrow('There is no file.')
  await expect(ending('exit 9')).rejects.toThrow('spark-submit ended with 9.')
})

test('it ends with its replay, and with the server', async () => {
  const { made, stop } = await run(submitting('sleep 60'))
  const pid = await pidOf()
  stop()
  await expect(made).rejects.toMatchObject({ code: 'superseded' })
  await expect.poll(() => isAlive(pid), { timeout: 10_000 }).toBe(false)

  rmSync(join(folder, 'pid'))
  const file = join(folder, 'server.mts')
  const environment = JSON.stringify({ FABULA_SPARK: 'yarn', PATH: folder })
  const words = JSON.stringify({ recipe, asked, parameters: {}, clock: 0 })
  writeFileSync(
    file,
    `import { Cluster } from ${JSON.stringify(join(root, 'server/src/services/cluster.ts'))}
    Cluster.fromEnvironment(${environment}).run({ ...${words}, progress: () => undefined, pathOf: String })`,
  )
  const server = spawn(process.execPath, ['--import', 'tsx', file], { cwd: root, stdio: 'ignore' })
  const other = await pidOf()
  expect(isAlive(other)).toBe(true)
  server.kill('SIGKILL')
  await expect.poll(() => isAlive(other), { timeout: 10_000 }).toBe(false)
}, 60_000)

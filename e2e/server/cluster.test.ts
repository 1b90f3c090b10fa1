import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { FileRef, RunReply } from '@fabula/core/api'
import { hasSpark } from '../../scripts/python.mjs'
import { demo, startServer, type Running } from '../browser/server.ts'
import { caller } from './call.ts'
import { startSparkCluster, type SparkCluster } from './spark-cluster.ts'
import { until } from './until.ts'

let server: Running
let cluster: SparkCluster
let folder: string
let base: string
const { call, demoFlow } = caller(() => server)
const runOf = async (id: string): Promise<RunReply> => (await call<RunReply>('GET', `${base}/runs/${id}`)).data
const ended = async (id: string): Promise<RunReply> => {
  await until(async () => (await runOf(id)).state !== 'running', `replay ${id} does not end`)
  return runOf(id)
}
/** Begins a replay on the cluster that writes to a folder of its own. */
const begin = async (visits: string, to: string, targets = demo('targets-2031.csv')): Promise<RunReply> => {
  const places = { paths: { visits: [visits], targets: [targets] }, folder: join(folder, to) }
  const { status, data } = await call<RunReply>('POST', `${base}/cluster`, places)
  expect(status, JSON.stringify(data)).toBe(200)
  return data
}
const takings = (to: string): string => readFileSync(join(folder, to, 'takings.csv'), 'utf8')

/** The story replayed by the server itself on the same visits: its takings and what its steps left. */
const hereOn = async (visits: string): Promise<{ readonly text: string; readonly run: RunReply }> => {
  const response = await fetch(`${server.base}/api/files?name=visits.csv`, {
    method: 'POST',
    body: readFileSync(visits),
    headers: { 'content-type': 'application/octet-stream' },
  })
  const files = { visits: [(await response.json()) as FileRef] }
  const asked = { files, answers: [], allowChanges: true, parameters: {} }
  const run = await ended((await call<RunReply>('POST', `${base}/replay`, asked)).data.id)
  const at = run.outputs.findIndex(({ table }) => table === 'takings')
  return { text: await (await fetch(`${server.base}${base}/runs/${run.id}/outputs/${at}`)).text(), run }
}

describe.skipIf(!hasSpark())('a replay on a cluster', () => {
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'fabula-shared-'))
    cluster = await startSparkCluster()
    server = await startServer(undefined, undefined, { ...cluster.environment, FABULA_SPARK: cluster.master })
    base = `/api/flows/${(await demoFlow()).id}`
  })
  afterAll(async () => {
    await server?.stop()
    await cluster?.close()
    rmSync(folder, { recursive: true, force: true })
  })

  test('makes what the server itself makes, and its steps are counted alike', async () => {
    expect((await call('GET', `${base}/cluster`)).data).toEqual({ master: cluster.master })
    const visits = demo('visits-2031-05.csv')
    const here = await hereOn(visits)
    const run = await ended((await begin(visits, 'may')).id)
    expect(run).toMatchObject({ state: 'done', cluster: { paths: { visits: [visits] } } })
    expect(takings('may')).toBe(here.text)
    const rows = ({ tables }: RunReply): unknown =>
      tables.map(({ id, steps }) => [id, steps.map((step) => [step.id, step.sentence, step.rowsOut])])
    expect(rows(run)).toEqual(rows(here.run))
    const [ours, theirs] = [run, here.run].map(({ outputs }) => outputs.find(({ table }) => table === 'takings'))
    expect(ours).toMatchObject({
      rows: theirs?.rows,
      columns: theirs?.columns,
      names: theirs?.names,
      into: join(folder, 'may'),
    })
    expect(ours?.first).toEqual(theirs?.first)
    expect(run.findings.map(({ sentence }) => sentence)).toEqual([
      '3 cells of “Visit date” cannot be read as date; they are empty.',
      '4 cells of “Charged” cannot be read as decimal; they are empty.',
    ])
    // rows of another file would stand under its counts
    const { recipe } = await demoFlow()
    const rowsAsked = { recipe, table: 'takings', limit: 1, data: { run: run.id } }
    expect((await call('POST', `${base}/lost`, rowsAsked)).data).toMatchObject({ error: { code: 'rows-on-cluster' } })
  })

  test('a path with no file and a step that a file cannot follow end it with a sentence', async () => {
    const nothing = await ended((await begin(join(folder, 'none.csv'), 'none')).id)
    expect(nothing).toMatchObject({ state: 'failed', sentence: expect.stringContaining('none.csv') as string })
    const short = join(folder, 'short.csv')
    writeFileSync(short, 'Booking ref,Visit date,Clinic,Patient,Species,Service,Status\n1,2031-05-01,Oxbow,,,,\n')
    const refused = await ended((await begin(short, 'short')).id)
    expect(refused).toMatchObject({ state: 'failed', sentence: expect.stringContaining('Charged') as string })
    expect(refused.sentence).not.toContain('Traceback')
    expect(existsSync(join(folder, 'short', 'takings.csv'))).toBe(false)
  })

  test('a worker that is killed in the middle changes nothing, and a stopped replay writes nothing', async () => {
    const [head = '', ...rows] = readFileSync(demo('visits-2031-05.csv'), 'utf8').trimEnd().split('\n')
    const large = join(folder, 'large.csv')
    writeFileSync(large, [head, ...Array.from({ length: 100 }, () => rows).flat(), ''].join('\n'))
    const atWork = (id: string): Promise<void> =>
      until(async () => /stage/.test((await runOf(id)).doing), 'the cluster does not begin its work')

    const stopped = (await begin(large, 'stopped')).id
    await atWork(stopped)
    await call('DELETE', `${base}/runs/${stopped}`)
    expect(await ended(stopped)).toMatchObject({ state: 'stopped', outputs: [] })
    expect(existsSync(join(folder, 'stopped', 'takings.csv'))).toBe(false)

    const here = await hereOn(large)
    const run = (await begin(large, 'survived')).id
    await atWork(run)
    cluster.killWorker(0)
    expect((await runOf(run)).state).toBe('running')
    expect(await ended(run)).toMatchObject({ state: 'done' })
    expect(takings('survived')).toBe(here.text)
  })
})

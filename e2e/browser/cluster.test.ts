import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Key } from 'selenium-webdriver'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type { RunReply, TakeReply } from '@fabula/core/api'
import { hasSpark } from '../../scripts/python.mjs'
import { caller } from '../server/call.ts'
import { until } from '../server/until.ts'
import { accessible, click, fill, labelled, closeBrowser, openBrowser, see, text, type Browser } from './driver.ts'
import { demo, startServer, type Running } from './server.ts'
import { startSparkCluster, type SparkCluster } from '../parity/spark-cluster.ts'

let server: Running
let browser: Browser
let cluster: SparkCluster
let folder: string
let base: string
const { call, demoFlow, sendFile, ended } = caller(() => server)
const runOf = async (id: string): Promise<RunReply> => (await call<RunReply>('GET', `${base}/runs/${id}`)).data
/** Begins a replay on the cluster that writes to a folder of its own. */
const begin = async (visits: string, to: string): Promise<RunReply> => {
  const places = { paths: { visits: [visits], targets: [demo('targets-2031.csv')] }, folder: join(folder, to) }
  const { status, data } = await call<RunReply>('POST', `${base}/cluster`, places)
  expect(status, JSON.stringify(data)).toBe(200)
  return data
}
/** Fills in the part of the page that begins such a replay, and begins it; its id. */
const beginInPage = async (visits: string, to: string): Promise<string> => {
  const { driver } = browser
  await driver.get(`${server.base}${base.replace('/api', '')}/replay`)
  await click(driver, 'Replay it on the cluster…')
  // as last time, but for what is written anew
  expect(await (await labelled(driver, 'Targets on the cluster')).getAttribute('value')).toBe(demo('targets-2031.csv'))
  await fill(driver, 'Visits on the cluster', visits)
  await fill(driver, 'Write to the folder', Key.BACK_SPACE)
  await see(driver, 'It waits for the folder to write to.')
  await fill(driver, 'Write to the folder', join(folder, to))
  // on rows of the whole files' tops, before anything runs
  await click(driver, 'Try it on their first rows')
  await see(driver, 'large.csv: the first 1,000 rows')
  await see(driver, 'rows of a sample would come out.')
  await click(driver, 'Replay on the cluster')
  await see(driver, 'Spark begins')
  return (await call<{ runs: { id: string }[] }>('GET', `${base}/runs`)).data.runs[0]?.id ?? ''
}
/** Waits until Spark is at work on it. */
const atWork = (id: string): Promise<void> =>
  until(async () => (await runOf(id)).doing.includes('stage'), 'the cluster does not begin its work')
const takings = (to: string): string => readFileSync(join(folder, to, 'takings.csv'), 'utf8')

/** The story replayed by the server itself on the same visits: its takings and what its steps left. */
const hereOn = async (visits: string): Promise<{ readonly text: string; readonly run: RunReply }> => {
  const files = { visits: [await sendFile('visits.csv', readFileSync(visits))] }
  const asked = { files, answers: [], allowChanges: true, parameters: {} }
  const run = await ended(base, (await call<RunReply>('POST', `${base}/replay`, asked)).data.id)
  const at = run.outputs.findIndex(({ table }) => table === 'takings')
  return { text: await (await fetch(`${server.base}${base}/runs/${run.id}/outputs/${at}`)).text(), run }
}

describe.skipIf(!hasSpark())('a replay on a cluster', () => {
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'fabula-shared-'))
    cluster = await startSparkCluster()
    server = await startServer(undefined, undefined, { ...cluster.environment, FABULA_SPARK: cluster.master })
    base = `/api/flows/${(await demoFlow()).id}`
    browser = await openBrowser()
  })
  afterAll(async () => {
    if (browser) await closeBrowser(browser)
    await server?.stop()
    await cluster?.close()
    rmSync(folder, { recursive: true, force: true })
  })

  test('that is stopped writes nothing', async () => {
    expect((await call('GET', '/api/cluster')).data).toEqual({ master: cluster.master })
    const stopped = (await begin(demo('visits-2031-05.csv'), 'stopped')).id
    await atWork(stopped)
    await call('DELETE', `${base}/runs/${stopped}`)
    expect(await ended(base, stopped)).toMatchObject({ state: 'stopped', outputs: [] })
    expect(existsSync(join(folder, 'stopped', 'takings.csv'))).toBe(false)
  })

  test('a story is built on one row in so many of its files', async () => {
    const rows = Array.from({ length: 2000 }, (_, i) => `C${i},"no ${i}"`)
    writeFileSync(join(folder, 'many.csv'), ['Clinic,Note', ...rows, ''].join('\n'))
    const asked = { kind: 'cluster', path: join(folder, 'many*.csv'), rows: { oneIn: 100 } }
    const { files } = (await call<TakeReply>('POST', '/api/sources/take', { asked })).data
    expect(files.map(({ name, sample }) => [name, sample])).toEqual([['many.csv', 'one row in 100 of 2,001']])
    const hash = files[0]?.hash ?? ''
    const kept = readFileSync(join(server.data, 'files', hash.slice(0, 2), hash), 'utf8')
      .trimEnd()
      .split('\n')
    expect(kept.slice(0, 22)).toEqual(['Clinic,Note', ...rows.slice(0, 20), rows[119]])
    expect(kept).toHaveLength(20 + 20)
  })

  test('makes what the server itself makes and counts alike, also when a worker is killed in the middle', async () => {
    const [head = '', ...rows] = readFileSync(demo('visits-2031-05.csv'), 'utf8').trimEnd().split('\n')
    const visits = join(folder, 'large.csv')
    writeFileSync(visits, [head, ...Array.from({ length: 100 }, () => rows).flat(), ''].join('\n'))
    const here = await hereOn(visits)
    const id = await beginInPage(visits, 'may')
    await atWork(id)
    cluster.killWorker(0)
    expect((await runOf(id)).state).toBe('running')
    const doings = new Set<string>()
    const isOver = async (): Promise<boolean> => {
      const { doing, state } = await runOf(id)
      doings.add(doing)
      return state !== 'running'
    }
    await until(isOver, 'the cluster does not end its work')
    const ofSentences = [...doings].filter((doing) => / rows so far\./.test(doing))
    expect(ofSentences[0], [...doings].join('\n')).toMatch(/^(?:Open|Turn|Drop|Read|Keep|Compute|Summarise|Sort) /)
    const run = await runOf(id)
    const { driver } = browser
    await see(driver, 'Done: 8 + 56 rows, and 2 sentences of the script to read.')
    await see(driver, '400 cells of “Charged” cannot be read as decimal')
    expect(await text(driver)).not.toContain('Which rows are not in Takings?')
    expect(await accessible(driver, 'one')).toEqual([])
    expect(run).toMatchObject({ state: 'done', cluster: { paths: { visits: [visits] } } })
    expect(takings('may')).toBe(here.text)

    const counts = ({ tables }: RunReply): unknown =>
      tables.map((table) => [table.id, table.steps.map((step) => [step.id, step.sentence, step.rowsOut])])
    expect(counts(run)).toEqual(counts(here.run))
    const [ours, theirs] = [run, here.run].map(({ outputs }) => outputs.find(({ table }) => table === 'takings'))
    expect(ours).toMatchObject({
      rows: theirs?.rows,
      columns: theirs?.columns,
      names: theirs?.names,
      into: join(folder, 'may'),
    })
    expect(ours?.first).toEqual(theirs?.first)
    expect(run.findings.map(({ sentence }) => sentence)).toEqual([
      '300 cells of “Visit date” cannot be read as date; they are empty.',
      '400 cells of “Charged” cannot be read as decimal; they are empty.',
    ])
    // rows of another file would stand under its counts
    const { recipe } = await demoFlow()
    const rowsAsked = { recipe, table: 'takings', limit: 1, data: { run: run.id } }
    expect((await call('POST', `${base}/lost`, rowsAsked)).data).toMatchObject({ error: { code: 'rows-on-cluster' } })
  })
})

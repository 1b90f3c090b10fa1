import { copyFileSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { demo, startServer, type Running } from '../browser/server.ts'
import { caller } from './call.ts'
import { until } from './until.ts'
import type { FlowReply, MailsReply, RunReply, WatchesReply } from '@fabula/core/api'

let server: Running
beforeAll(async () => {
  server = await startServer(undefined, undefined, { FABULA_WATCH_SECONDS: '0.2' })
})
afterAll(async () => server?.stop())
const { call, demoFlow } = caller(() => server)

const folder = mkdtempSync(join(tmpdir(), 'fabula-watched-'))
/** What a watch has noted, newest first, once there is more than this. */
const noted = async (base: string, more: number): Promise<WatchesReply['watches'][number]['log']> => {
  const log = async (): Promise<WatchesReply['watches'][number]['log']> =>
    (await call<WatchesReply>('GET', `${base}/watches`)).data.watches[0]?.log ?? []
  await until(async () => (await log()).length > more, `the watch noted nothing after ${more} entries`)
  return log()
}
const mails = async (): Promise<MailsReply['mails']> => (await call<MailsReply>('GET', '/api/mails')).data.mails

test('a folder is watched: what fits is replayed, what does not waits and says why, and both are told by mail', async () => {
  const { id } = await demoFlow()
  const base = `/api/flows/${id}`
  // what lies there already is not new, and what is still being written does not count
  copyFileSync(demo('visits-2031-05.csv'), join(folder, 'visits-2031-04.csv'))
  expect(
    (await call('POST', `${base}/watches`, { when: { kind: 'arrival' }, folder: join(folder, 'none'), mail: null }))
      .data,
  ).toMatchObject({ error: { sentence: expect.stringContaining('there is no such folder') as string } })
  expect(
    (await call('POST', `${base}/watches`, { when: { kind: 'arrival' }, folder, mail: 'ines@fernhollow.example' }))
      .status,
  ).toBe(200)
  writeFileSync(join(folder, 'visits-2031-05.csv.part'), 'half')
  copyFileSync(demo('visits-2031-05.csv'), join(folder, 'visits-2031-05.csv'))
  const [first] = await noted(base, 0)
  expect(first).toMatchObject({ what: 'replays', sentence: 'targets-2031.csv, visits-2031-05.csv' })
  const run = async (): Promise<RunReply> => (await call<RunReply>('GET', `${base}/runs/${first?.run ?? ''}`)).data
  await until(async () => (await run()).state !== 'running', 'the replay does not end')
  expect(await run()).toMatchObject({ state: 'done', alone: true, outputs: [{ rows: 8 }, { rows: 56 }] })
  await until(async () => (await mails()).length > 0, 'no mail of a replay that ended')

  copyFileSync(demo('visits-2031-06.csv'), join(folder, 'visits-2031-06.csv'))
  const [second] = await noted(base, 1)
  expect(second).toMatchObject({ what: 'waits', run: null })
  expect(second?.sentence).toContain('Visits has no column “Status”')

  copyFileSync(demo('price-list-2031.csv'), join(folder, 'price-list-2031.csv'))
  expect((await noted(base, 2))[0]?.sentence).toBe(
    'price-list-2031.csv fits no input of the story by its name or its columns.',
  )
  const sent = await mails()
  expect(sent.map(({ to, subject }) => `${to}: ${subject}`)).toEqual([
    'ines@fernhollow.example: Monthly takings by clinic waits for you',
    'ines@fernhollow.example: Monthly takings by clinic waits for you',
    'ines@fernhollow.example: Monthly takings by clinic was replayed',
  ])
  expect(sent[2]?.body).toBe('takings.csv: 8 rows\ntargets.csv: 56 rows')
})

test('a file whose name says nothing finds its input by its columns', async () => {
  const { id } = await demoFlow()
  copyFileSync(demo('visits-2031-05.csv'), join(folder, 'download (3).csv'))
  const [log] = await noted(`/api/flows/${id}`, 3)
  expect(log).toMatchObject({ what: 'replays', sentence: 'targets-2031.csv, download (3).csv' })
})

test('a story that asks for a day is told the day it replays itself', async () => {
  const { id } = (await call<{ id: string }>('POST', `/api/flows/${(await demoFlow()).id}/copy`)).data
  const base = `/api/flows/${id}`
  const { recipe, edit } = (await call<FlowReply>('GET', base)).data
  await call('POST', `${base}/edit`, {
    recipe: {
      ...recipe,
      parameters: [...(recipe.parameters ?? []), { name: 'Told on', type: 'date', value: '2030-01-01' }],
    },
    what: 'a value asked at replay',
    after: edit,
  })
  const own = mkdtempSync(join(tmpdir(), 'fabula-watched-'))
  const begin = (parameters: unknown): Promise<{ status: number; data: unknown }> =>
    call('POST', `${base}/watches`, { when: { kind: 'arrival' }, folder: own, mail: null, parameters })
  expect((await begin({ 'Told at': { day: 'today' } })).data).toMatchObject({
    error: { sentence: expect.stringContaining('no parameter “Told at”') as string },
  })
  expect((await begin({ 'Told on': { value: 'soon' } })).status).toBe(400)
  expect((await begin({ 'Told on': { day: 'today' } })).status).toBe(200)
  copyFileSync(demo('visits-2031-05.csv'), join(own, 'visits-2031-05.csv'))
  const [log] = await noted(base, 0)
  const run = (await call<RunReply>('GET', `${base}/runs/${log?.run ?? ''}`)).data
  expect(run.parameters).toEqual({ 'Told on': new Date(run.clock).toISOString().slice(0, 10) })
  // a story that asks for something else by now is not told with what it does not know
  const later = (await call<FlowReply>('GET', base)).data
  await call('POST', `${base}/edit`, {
    recipe: { ...later.recipe, parameters: [{ name: 'As of', type: 'date', value: '2030-01-01' }] },
    what: 'a value renamed',
    after: later.edit,
  })
  copyFileSync(demo('visits-2031-05.csv'), join(own, 'visits-2031-06.csv'))
  const [waiting] = await noted(base, 1)
  expect(waiting).toMatchObject({ what: 'waits', run: null })
  expect(waiting?.sentence).toContain('The recipe has no parameter “Told on”.')
})

test('of two files that arrive together the one that does not fit waits alone, and is counted on the first page', async () => {
  const { id } = (await call<{ id: string }>('POST', `/api/flows/${(await demoFlow()).id}/copy`)).data
  const base = `/api/flows/${id}`
  const own = mkdtempSync(join(tmpdir(), 'fabula-watched-'))
  await call('POST', `${base}/watches`, { when: { kind: 'arrival' }, folder: own, mail: null })
  copyFileSync(demo('visits-2031-05.csv'), join(own, 'visits-2031-05.csv'))
  copyFileSync(demo('price-list-2031.csv'), join(own, 'price-list-2031.csv'))
  const log = await noted(base, 1)
  expect(log.map(({ what }) => what).sort()).toEqual(['replays', 'waits'])
  expect(log.find(({ what }) => what === 'waits')?.sentence).toContain('price-list-2031.csv fits no input')
  expect(log.find(({ what }) => what === 'replays')?.sentence).not.toContain('price-list')
  copyFileSync(demo('visits-2031-06.csv'), join(own, 'visits-2031-06.csv'))
  await noted(base, 2)
  const { flows } = (await call<{ flows: { id: string; waits: number }[] }>('GET', '/api/flows')).data
  expect(flows.find((flow) => flow.id === id)?.waits).toBeGreaterThan(0)
  // nobody is told by mail, but the notices have it
  expect((await mails())[0]).toMatchObject({ to: 'who keeps this server' })
})

test('where all must be there, nothing begins before every input has a new file', async () => {
  const { id } = (await call<{ id: string }>('POST', `/api/flows/${(await demoFlow()).id}/copy`)).data
  const base = `/api/flows/${id}`
  const own = mkdtempSync(join(tmpdir(), 'fabula-watched-'))
  await call('POST', `${base}/watches`, { when: { kind: 'arrival' }, folder: own, mail: null, together: true })
  copyFileSync(demo('visits-2031-05.csv'), join(own, 'visits-2031-05.csv'))
  // ten looks at the folder
  await new Promise((resolve) => setTimeout(resolve, 2000))
  expect((await call<WatchesReply>('GET', `${base}/watches`)).data.watches[0]?.log).toEqual([])
  copyFileSync(demo('targets-2031.csv'), join(own, 'targets-2031.csv'))
  const [log] = await noted(base, 0)
  expect(log?.what).toBe('replays')
})

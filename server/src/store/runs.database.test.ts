import type { RunReply } from '@fabula/core/api'
import { mkdirSync, mkdtempSync, writeFileSync, existsSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { knownFile, memoryDatabase, recipeOf } from '../testing/memory-store.ts'
import { FileStore } from './files.ts'
import { Flows } from './flows.ts'
import { Links } from './links.ts'
import { Runs, type RunAsked, type RunMade, type RunStart } from './runs.ts'
import { Secrets } from './secrets.ts'
import { Shelf } from './shelf.ts'
import { SourceStore } from './sources.ts'
import { Watches } from './watches.ts'

let database: Awaited<ReturnType<typeof memoryDatabase>>
let flows: Flows
let runs: Runs
const folder = mkdtempSync(join(tmpdir(), 'fabula-store-'))
beforeAll(async () => {
  database = await memoryDatabase()
  flows = new Flows(database)
  runs = new Runs(database)
})
afterAll(() => database.close())

const asked: RunAsked = {
  files: {},
  answers: [
    { code: 'missing-column', input: 'visits', column: 'Clinic', offer: { do: 'rename', column: 'Praxis', why: '' } },
  ],
  allowChanges: true,
  parameters: { 'As of': '2031-06-30' },
  pictures: [],
  databases: false,
}
const nothing: RunMade = { files: [], tables: [], outputs: [], pictures: [], findings: [], open: 0 }
const output = (hash: string): RunReply['outputs'][number] => ({
  table: 'visits',
  file: 'visits.csv',
  format: 'csv',
  hash,
  into: null,
  rows: 114,
  columns: 1,
  totals: { Fee: 12 },
  types: ['integer'],
  first: [['12']],
  names: ['Fee'],
})
const start = async (flow: string, more: Partial<Pick<RunStart, 'link' | 'repeats' | 'alone' | 'watch'>> = {}) => {
  const { edit } = await flows.get(flow)
  return runs.start({ flow, edit, asked, clock: 1_000, ...more })
}

describe('a run', () => {
  test('is running until it is finished, and keeps what it was asked with', async () => {
    const flow = await flows.create(recipeOf('May takings'))
    const id = await start(flow)
    expect(await runs.get(flow, id)).toMatchObject({
      state: 'running',
      sentence: null,
      clock: 1_000,
      by: null,
      alone: false,
      parameters: asked.parameters,
      answers: asked.answers,
    })
    await runs.finish(id, 'failed', 'The file is gone.', nothing)
    expect(await runs.get(flow, id)).toMatchObject({ state: 'failed', sentence: 'The file is gone.' })
  })
  test('can be told again from what it was asked with', async () => {
    const flow = await flows.create(recipeOf('May takings'))
    const id = await start(flow)
    expect(await runs.startOf(flow, id)).toMatchObject({ flow, asked, clock: 1_000 })
    const again = await start(flow, { repeats: id, alone: true })
    expect(await runs.get(flow, again)).toMatchObject({ repeats: id, alone: true })
  })
  test('is listed without the rows of its outputs, the newest first', async () => {
    const flow = await flows.create(recipeOf('May takings'))
    const first = await start(flow)
    const second = await start(flow)
    await runs.finish(second, 'done', null, { ...nothing, outputs: [output('a'.repeat(64))] })
    const list = await runs.list(flow)
    expect(list.map(({ id }) => id)).toEqual([second, first])
    expect(list[0]?.outputs).toEqual([expect.not.objectContaining({ first: expect.anything() as unknown })])
    expect((await runs.get(flow, second)).outputs[0]?.first).toEqual([['12']])
  })
  test('of another flow or another link is not there', async () => {
    const flow = await flows.create(recipeOf('One'))
    const other = await flows.create(recipeOf('Other'))
    const link = await new Links(database).make(flow, {
      rights: 'replay',
      note: 'for Oxbow',
      endsAt: null,
      follows: 'story',
      bytesADay: 1,
      waiting: 1,
    })
    const id = await start(flow)
    const linked = await start(flow, { link })
    const gone = { code: 'no-run' }
    await expect(runs.get(other, id)).rejects.toMatchObject(gone)
    await expect(runs.get(flow, id, link)).rejects.toMatchObject(gone)
    expect((await runs.get(flow, linked, link)).by).toBe('for Oxbow')
    expect((await runs.list(flow, link)).map((run) => run.id)).toEqual([linked])
  })
  test('that was going when the server stopped is counted as begun once more', async () => {
    const flow = await flows.create(recipeOf('Cut short'))
    const id = await start(flow)
    const done = await start(flow)
    await runs.finish(done, 'done', null, nothing)
    const begun = async () => (await runs.unfinished()).find((run) => run.id === id)?.begun
    const first = await begun()
    expect(await begun()).toBe((first ?? 0) + 1)
    expect((await runs.unfinished()).some((run) => run.id === done)).toBe(false)
  })
})

describe('the shelf', () => {
  const shelfWith = () => {
    const files = new FileStore(folder, database)
    return { files, shelf: new Shelf(database, files) }
  }
  const onDisk = (files: FileStore, hash: string): string => {
    const path = files.path(hash)
    mkdirSync(dirname(path), { recursive: true })
    writeFileSync(path, 'Fee\n12\n')
    return path
  }
  const entry = async (shelf: Shelf, name: string) => (await shelf.list()).find((one) => one.name === name)

  test('lists each file once, with its versions and where it is used', async () => {
    const { shelf } = shelfWith()
    const may = await knownFile(database, 'visits.csv', 'd')
    const june = await knownFile(database, 'visits.csv', 'e')
    for (const file of [may, may, june]) await shelf.add(file)
    await shelf.note([may], ['Fee', 'Clinic'])
    const flow = await flows.create(recipeOf('Uses it'), { visits: [may] })
    const listed = (await shelf.list()).filter(({ name }) => name === 'visits.csv')
    expect(listed).toHaveLength(2)
    expect(listed.find(({ hash }) => hash === may.hash)).toMatchObject({
      versions: 2,
      columns: ['Fee', 'Clinic'],
      uses: [{ flow, name: 'Uses it', input: 'visits' }],
    })
  })
  test('another file takes the place of one in every flow', async () => {
    const { shelf } = shelfWith()
    const old = await knownFile(database, 'old.csv', 'f')
    await shelf.add(old)
    const flow = await flows.create(recipeOf('Replaced'), { visits: [old] })
    await shelf.replace((await entry(shelf, 'old.csv'))?.id ?? 0, await knownFile(database, 'new.csv', '1'))
    expect((await flows.files(flow)).visits?.map(({ name }) => name)).toEqual(['new.csv'])
  })
  test('a removed file leaves the flows, and its bytes go', async () => {
    const { files, shelf } = shelfWith()
    const file = await knownFile(database, 'gone.csv', '2')
    const path = onDisk(files, file.hash)
    await shelf.add(file)
    const flow = await flows.create(recipeOf('Loses it'), { visits: [file] })
    const id = (await entry(shelf, 'gone.csv'))?.id ?? 0
    await shelf.remove(id)
    expect(await flows.files(flow)).toEqual({})
    expect(existsSync(path)).toBe(false)
    await expect(shelf.remove(id)).rejects.toMatchObject({ code: 'not-on-shelf' })
  })
  test('bytes that a past run tells of stay', async () => {
    const { files, shelf } = shelfWith()
    const file = await knownFile(database, 'told.csv', '3')
    const path = onDisk(files, file.hash)
    await shelf.add(file)
    const flow = await flows.create(recipeOf('Told'))
    const run = await start(flow)
    await runs.finish(run, 'done', null, { ...nothing, outputs: [output(file.hash)] })
    await shelf.remove((await entry(shelf, 'told.csv'))?.id ?? 0)
    expect(existsSync(path)).toBe(true)
  })
  test('no path is made of what is not a hash', () => {
    expect(() => shelfWith().files.path('../../owner.key')).toThrow('not a hash')
  })
})

describe('connections', () => {
  const till = { host: 'db.fernhollow.example', port: 5432, database: 'till', user: 'reader', tls: 'verified' } as const
  test('keep their password sealed, and give it only to connect', async () => {
    const store = new SourceStore(database, new Secrets(folder))
    await store.connect('Till', { ...till, password: 'foxglove-31' })
    expect(await store.connection('Till')).toEqual({ ...till, password: 'foxglove-31' })
    expect(JSON.stringify(await store.connections())).not.toContain('foxglove')
    const [row] = await database.query('select settings::text || secret as kept from connections')
    expect(row?.kept).not.toContain('foxglove')
  })
  test('of the same name are replaced, and end', async () => {
    const store = new SourceStore(database, new Secrets(folder))
    await store.connect('Till', { ...till, port: 5433, password: 'a' })
    expect((await store.connections()).map(({ name, port }) => [name, port])).toEqual([['Till', 5433]])
    await store.disconnect('Till')
    await expect(store.connection('Till')).rejects.toMatchObject({ code: 'no-connection' })
  })
  test('a source is asked again as it was asked', async () => {
    const store = new SourceStore(database, new Secrets(folder))
    const web = { kind: 'web', address: 'https://data.fernhollow.example/visits.csv' } as const
    expect(await store.asked(await store.add('visits.csv', web))).toEqual(web)
    await expect(store.asked(987_654)).rejects.toMatchObject({ code: 'no-source' })
  })
})

describe('watches', () => {
  const settings = { when: { kind: 'arrival' }, folder: '/exports', mail: null, parameters: {} } as never
  test('go until they are paused or removed, and remember what they saw', async () => {
    const watches = new Watches(database)
    const flow = await flows.create(recipeOf('Watched'))
    await watches.add(flow, settings, undefined, ['may.csv'])
    const [watch] = (await watches.list(flow)).watches
    const id = watch?.id ?? ''
    await watches.sawAll(id, ['june.csv', 'may.csv'])
    expect([...((await watches.one(flow, id))?.seen ?? [])].sort()).toEqual(['june.csv', 'may.csv'])
    await watches.pause(flow, id, false)
    expect((await watches.going()).some((one) => one.id === id)).toBe(false)
    await watches.pause(flow, id, true)
    expect((await watches.going()).some((one) => one.id === id)).toBe(true)
    await watches.remove(flow, id)
    expect(await watches.one(flow, id)).toBeUndefined()
    expect((await watches.list(flow)).watches).toEqual([])
  })
  test('take the files of their last replay for inputs that get none', async () => {
    const watches = new Watches(database)
    const flow = await flows.create(recipeOf('Watched'))
    await watches.add(flow, settings, new Date('2031-07-01T06:00:00Z'), [])
    const [watch] = (await watches.list(flow)).watches
    const id = watch?.id ?? ''
    const may = await knownFile(database, 'may.csv', 'a')
    const run = await start(flow, { watch: id })
    await watches.note(id, { what: 'replays', sentence: 'May is told.', run, files: { visits: [may] } })
    await watches.note(id, { what: 'waits', sentence: 'June does not fit.', files: {} })
    expect(await watches.lastFiles(id)).toEqual({ visits: [may] })
    expect((await watches.ofRun(run))?.id).toBe(id)
    expect((await watches.list(flow)).watches[0]?.log.map(({ what }) => what)).toEqual(['waits', 'replays'])
  })
  test('a mail goes with its entry or not at all', async () => {
    const watches = new Watches(database)
    const mail = { to: 'cleo@fernhollow.example', subject: 'July waits', text: 'A sheet is missing.' }
    const waits = { what: 'waits', sentence: 'July does not fit.', files: {} } as const
    await expect(watches.note('no such watch', waits, mail)).rejects.toThrow()
    expect((await watches.mails()).mails.map(({ to }) => to)).not.toContain(mail.to)
    const flow = await flows.create(recipeOf('Watched'))
    await watches.add(flow, settings, new Date('2031-07-01T06:00:00Z'), [])
    await watches.note((await watches.list(flow)).watches[0]?.id ?? '', waits, mail)
    expect((await watches.mails()).mails[0]).toMatchObject({ to: mail.to, subject: mail.subject })
  })
  test('their mails lie in the box, the newest first', async () => {
    const watches = new Watches(database)
    await watches.mail({ to: 'ada@fernhollow.example', subject: 'May is told', text: 'All 114 rows.' })
    await watches.mail({ to: 'bo@fernhollow.example', subject: 'June waits', text: 'A column is missing.' })
    expect((await watches.mails()).mails.slice(0, 2).map(({ to }) => to)).toEqual([
      'bo@fernhollow.example',
      'ada@fernhollow.example',
    ])
  })
})

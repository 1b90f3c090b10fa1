import type { LinkAsked } from '@fabula/core/api'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { memoryDatabase, recipeOf } from '../testing/memory-store.ts'
import { Flows } from './flows.ts'
import { Links } from './links.ts'
import { Runs } from './runs.ts'

let database: Awaited<ReturnType<typeof memoryDatabase>>
let flows: Flows
let links: Links
let flow: string
beforeAll(async () => {
  database = await memoryDatabase()
  flows = new Flows(database)
  links = new Links(database)
  flow = await flows.create(recipeOf('May takings'))
})
afterAll(() => database.close())

const asked = (more: Partial<LinkAsked> = {}): LinkAsked => ({
  rights: 'replay',
  note: 'for Oxbow',
  endsAt: null,
  follows: 'story',
  bytesADay: 1_000_000,
  waiting: 2,
  ...more,
})
const made = (more?: Partial<LinkAsked>) => links.make(flow, asked(more))
const gone = { code: 'no-link' }

describe('a link', () => {
  test('opens its flow with its rights, at an address that cannot be guessed', async () => {
    const token = await made({ rights: 'copy' })
    expect(await links.open(token)).toEqual({ token, flow, rights: 'copy', edit: undefined })
    expect(token).toMatch(/^[\w-]{32}$/)
    expect(await made()).not.toBe(token)
  })
  test('that never was, has ended or is past its end opens nothing', async () => {
    const ended = await made()
    await links.end(flow, ended)
    const past = await made({ endsAt: '2020-01-01T00:00:00.000Z' })
    for (const token of ['never', ended, past]) await expect(links.open(token)).rejects.toMatchObject(gone)
  })
  test('cannot be ended or changed from another flow', async () => {
    const token = await made()
    const other = await flows.create(recipeOf('Other'))
    await links.end(other, token)
    await links.change(other, token, asked({ rights: 'edit' }))
    expect((await links.open(token)).rights).toBe('replay')
  })
  test('keeps its address when its rights change', async () => {
    const token = await made()
    await links.change(flow, token, asked({ rights: 'edit', note: 'for Marlpit' }))
    expect((await links.open(token)).rights).toBe('edit')
    expect((await links.list(flow)).links.find((link) => link.token === token)).toMatchObject({ note: 'for Marlpit' })
  })
  test('is listed as over once it is', async () => {
    const token = await made({ endsAt: '2020-01-01T00:00:00.000Z' })
    expect((await links.list(flow)).links.find((link) => link.token === token)).toMatchObject({ over: true })
  })
})

describe('editions', () => {
  test('show the story as it was frozen, whatever is changed later', async () => {
    const id = await flows.create(recipeOf('Frozen'))
    const { edit } = await flows.get(id)
    await links.freeze(id, 'May close', 'as audited')
    await flows.edit(id, { recipe: recipeOf('Changed'), what: 'renamed', after: edit })
    const { editions } = await links.editions(id)
    expect(editions).toMatchObject([{ name: 'May close', note: 'as audited', edit, recipe: { name: 'Frozen' } }])
    const fixed = await links.make(id, asked({ follows: String(editions[0]?.id) }))
    expect((await links.open(fixed)).edit).toBe(edit)
  })
  test('a link to the newest follows to the next one', async () => {
    const id = await flows.create(recipeOf('One'))
    await links.freeze(id, 'first', '')
    const token = await links.make(id, asked({ follows: 'newest' }))
    const { edit } = await flows.get(id)
    await flows.edit(id, { recipe: recipeOf('Two'), what: 'renamed', after: edit })
    expect((await links.open(token)).edit).toBe(edit)
    await links.freeze(id, 'second', '')
    expect((await links.open(token)).edit).toBeGreaterThan(edit)
  })
  test('a link follows none that is not there, nor one of another flow', async () => {
    await expect(made({ follows: 'newest' })).rejects.toMatchObject({ code: 'no-edition' })
    const other = await flows.create(recipeOf('Other'))
    await links.freeze(other, 'theirs', '')
    const theirs = String((await links.editions(other)).editions[0]?.id)
    await expect(made({ follows: theirs })).rejects.toMatchObject({ code: 'no-edition' })
  })
  test('a link that may change the story follows the story', async () => {
    await links.freeze(flow, 'May close', '')
    await expect(made({ follows: 'newest', rights: 'edit' })).rejects.toMatchObject({ code: 'edits-the-story' })
  })
})

describe('what a link may send', () => {
  test('is counted up to its bound a day, and a refusal says what was sent', async () => {
    const token = await made({ bytesADay: 5_000_000 })
    await links.countUpload(token, 3_000_000)
    await expect(links.countUpload(token, 3_000_000)).rejects.toMatchObject({
      code: 'link-limit',
      message: expect.stringMatching(/5 MB may be sent a day; 3 MB were sent today, and this file has 3 MB/) as string,
    })
    await links.countUpload(token, 2_000_000)
    expect((await links.list(flow)).links.find((link) => link.token === token)?.bytesToday).toBe(5_000_000)
  })
  test('is refused before it is read where its length is not said', async () => {
    await expect(links.countUpload(await made(), 0)).rejects.toMatchObject({ code: 'no-length' })
  })
  test('files sent at once cannot pass the bound together', async () => {
    const token = await made({ bytesADay: 5_000_000 })
    const sent = await Promise.allSettled(Array.from({ length: 6 }, () => links.countUpload(token, 2_000_000)))
    expect(sent.filter(({ status }) => status === 'fulfilled')).toHaveLength(2)
  })
  test('a link of nothing sends nothing', async () => {
    await expect(links.countUpload(await made({ bytesADay: 0 }), 1)).rejects.toMatchObject({ code: 'link-limit' })
  })
})

const start = async (link: string): Promise<string> => {
  const { edit } = await flows.get(flow)
  const nothing = { files: {}, answers: [], allowChanges: true, parameters: {}, pictures: [], databases: false }
  return new Runs(database).start({ flow, edit, asked: nothing, clock: 0, link })
}

describe('replays by a link', () => {
  test('are as many at a time as it may have', async () => {
    const token = await made({ waiting: 1 })
    await links.mayReplay(token)
    const run = await start(token)
    await expect(links.mayReplay(token)).rejects.toMatchObject({ code: 'link-limit' })
    await new Runs(database).finish(run, 'done', null, {
      files: [],
      tables: [],
      outputs: [],
      pictures: [],
      findings: [],
      open: 0,
    })
    await expect(links.mayReplay(token)).resolves.toBeUndefined()
  })
  test('that are asked for at once take their turn', async () => {
    const token = await made({ waiting: 2 })
    const ask = () =>
      links.inTurn(token, async () => {
        await links.mayReplay(token)
        return start(token)
      })
    const outcomes = await Promise.allSettled([ask(), ask(), ask(), ask()])
    expect(outcomes.map(({ status }) => status)).toEqual(['fulfilled', 'fulfilled', 'rejected', 'rejected'])
  })
})

describe('uses of a link', () => {
  test('are listed; reading counts once an hour, replays each time', async () => {
    const token = await made()
    await links.used(token, 'read')
    await links.used(token, 'read')
    await links.used(token, 'replayed', await start(token))
    await links.used(token, 'replayed', await start(token))
    const uses = (await links.list(flow)).links.find((link) => link.token === token)?.uses ?? []
    expect(uses.map(({ what }) => what).sort()).toEqual(['read', 'replayed', 'replayed'])
  })
  test('a copy may cost no more than the link it was taken by', async () => {
    expect(await links.limits(await made({ bytesADay: 7, waiting: 1 }))).toEqual({ bytesADay: 7, waiting: 1 })
    expect(await links.limits('never')).toEqual({ bytesADay: 0, waiting: 0 })
  })
})

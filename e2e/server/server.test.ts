import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { request } from 'node:http'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { root, startServer, type Running } from '../browser/server.ts'
import { caller } from './call.ts'
import { firstPageBytes } from './first-page.ts'
import type { FlowReply, PreviewReply } from '@fabula/core/api'

let server: Running
beforeAll(async () => {
  server = await startServer()
})
afterAll(async () => server?.stop())

const { call, demoFlow } = caller(() => server)
/** A request as another program would send it, with headers that fetch does not let one set. */
const raw = (path: string, headers: Record<string, string>): Promise<number> =>
  new Promise((resolve, reject) =>
    request(`${server.base}${path}`, { headers }, (response) => (response.resume(), resolve(response.statusCode ?? 0)))
      .on('error', reject)
      .end(),
  )

test('the demo is there at the first start, finished and previewable', async () => {
  const flow = await demoFlow()
  const { status, data } = await call<PreviewReply>('POST', `/api/flows/${flow.id}/preview`, {
    recipe: flow.recipe,
    table: 'takings',
    step: 's9',
    diffMode: 'after',
    only: 'all',
    from: 0,
    count: 3,
  })
  expect(status).toBe(200)
  expect(data.rows[0]?.cells.slice(0, 3)).toEqual(['Fernhollow', '2031-05-01', '112622.75'])
  expect(data.steps.map(({ statistics }) => statistics?.rowsOut)).toEqual([
    1204, 1204, 1204, 1204, 1112, 1112, 1112, 8, 8,
  ])
})

test('what changes: rows that leave stand among those that stay', async () => {
  const flow = await demoFlow()
  const ask = (only: string) =>
    call<PreviewReply>('POST', `/api/flows/${flow.id}/preview`, {
      recipe: flow.recipe,
      table: 'takings',
      step: 's5',
      diffMode: 'changes',
      only,
      from: 0,
      count: 500,
    })
  const all = (await ask('all')).data
  expect(all.total).toBe(1204)
  const left = (await ask('left')).data
  expect(left.total).toBe(92)
  expect(left.rows.every(({ state }) => state === 'removed')).toBe(true)
})

test('foreign hosts and origins are refused, a policy is set', async () => {
  expect(await raw('/api/flows', { host: 'evil.example' })).toBe(403)
  expect(await raw('/api/flows', { origin: 'http://evil.example' })).toBe(403)
  expect(await raw('/api/flows', { 'sec-fetch-site': 'cross-site' })).toBe(403)
  expect(await raw('/api/flows', {})).toBe(200)
  const page = await fetch(server.base)
  expect(page.headers.get('content-security-policy')).toContain("default-src 'self'")
})

test('script and style of the first page are sent in less than 200 kB', async () => {
  expect(await firstPageBytes(server.base)).toBeLessThan(200_000)
})

test('errors have one shape and a plain sentence', async () => {
  expect(await call('GET', '/api/flows/none')).toMatchObject({
    status: 404,
    data: { error: { code: 'no-flow', sentence: expect.stringContaining('does not exist') as string } },
  })
  expect(await call('POST', '/api/flows', { recipe: { fabula: 1 } })).toMatchObject({
    status: 400,
    data: { error: { code: 'bad-request' } },
  })
  expect(await call('GET', '/api/nowhere')).toMatchObject({ status: 404 })
})

test('an edit on an old state is refused; undo and redo walk the log', async () => {
  const flow = await demoFlow()
  const about = (text: string) => ({ recipe: { ...flow.recipe, about: text }, what: 'about', after: flow.edit })
  const first = await call<FlowReply>('POST', `/api/flows/${flow.id}/edit`, about('one'))
  expect(first.data.recipe.about).toBe('one')
  expect(await call('POST', `/api/flows/${flow.id}/edit`, about('two'))).toMatchObject({
    status: 409,
    data: { error: { code: 'changed-elsewhere' } },
  })
  expect(
    (await call<FlowReply>('POST', `/api/flows/${flow.id}/undo`, { after: first.data.edit })).data.recipe.about,
  ).toBe(flow.recipe.about)
  expect(await call('POST', `/api/flows/${flow.id}/undo`, { after: first.data.edit })).toMatchObject({
    status: 409,
    data: { error: { code: 'changed-elsewhere' } },
  })
  expect((await call<FlowReply>('POST', `/api/flows/${flow.id}/redo`, { after: flow.edit })).data.recipe.about).toBe(
    'one',
  )
  await call('POST', `/api/flows/${flow.id}/undo`, { after: first.data.edit })
})

test('a second server on the same folder is refused with a sentence', () => {
  const { status, stderr } = spawnSync(process.execPath, [join(root, 'server/dist/main.js')], {
    encoding: 'utf8',
    env: { ...process.env, PORT: '0', FABULA_DATA: server.data },
  })
  expect(status).toBe(1)
  expect(stderr).toContain('is in use by another Fabula server')
})

test('no other file of the server is reached by a made-up hash or name', async () => {
  const flow = await demoFlow()
  for (const [hash, name] of [
    ['../../secret.key', 'a.csv'],
    ['0'.repeat(64), '../a.csv'],
  ]) {
    expect((await call('POST', `/api/flows/${flow.id}/place`, { files: [{ name, hash, size: 1 }] })).status).toBe(400)
    expect((await call('PUT', `/api/flows/${flow.id}/files`, { visits: [{ name, hash, size: 1 }] })).status).toBe(400)
  }
  expect((await call('POST', '/api/look', { hash: '../../secret.key', name: 'a', read: {} })).status).toBe(400)
})

test('a file is stored once, by its content', async () => {
  const bytes = readFileSync(join(root, 'demo/targets-2031.csv'))
  const send = async (name: string) =>
    (await (
      await fetch(`${server.base}/api/files?name=${name}`, {
        method: 'POST',
        body: bytes,
        headers: { 'content-type': 'application/octet-stream' },
      })
    ).json()) as { hash: string; size: number }
  const [one, two] = [await send('a.csv'), await send('b.csv')]
  expect(one.hash).toBe(two.hash)
  expect(one.size).toBe(bytes.length)
})

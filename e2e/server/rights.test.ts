import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { buildApp, type AppOptions } from '@fabula/server/app'
import { startServer, type Running } from '../browser/server.ts'
import type { FlowReply, RunReply } from '@fabula/core/api'

/**
 * Who may do what. `public`: anybody. `upload`: the owner and every living link. `look`: the owner and links that may change.
 * `replay`, `copy`, `edit`: links of that right and above, and the owner. `owner`: nobody else.
 */
type Right = 'public' | 'upload' | 'look' | 'replay' | 'copy' | 'edit' | 'owner'

/** Every route outside of stories. */
const general: { readonly [route: string]: Right } = {
  'GET /api/owner': 'public',
  'POST /api/owner': 'public',
  'DELETE /api/owner': 'public',
  'GET /api/flows': 'owner',
  'POST /api/flows': 'owner',
  'GET /api/mails': 'owner',
  'POST /api/samples/:name': 'owner',
  'POST /api/files': 'upload',
  'POST /api/look': 'look',
  'POST /api/open': 'look',
  'GET /api/open/:job': 'look',
  'DELETE /api/open/:job': 'look',
  'POST /api/sources/offer': 'owner',
  'POST /api/sources/look': 'owner',
  'POST /api/sources/take': 'owner',
  'GET /api/sources/take/:job': 'owner',
  'POST /api/sources/:id/again': 'owner',
  'GET /api/cluster': 'owner',
  'GET /api/connections': 'owner',
  'POST /api/connections': 'owner',
  'DELETE /api/connections/:name': 'owner',
  'GET /api/shelf': 'owner',
  'PUT /api/shelf/:id': 'owner',
  'DELETE /api/shelf/:id': 'owner',
}
/** Every route of a story, below /api/flows/:id and /api/shared/:token. */
const ofStory: { readonly [route: string]: Right } = {
  'GET /': 'replay',
  'DELETE /': 'owner',
  'POST /restore': 'owner',
  'POST /rename': 'owner',
  'POST /edit': 'edit',
  'POST /undo': 'edit',
  'POST /redo': 'edit',
  'POST /agree': 'owner',
  'PUT /files': 'edit',
  'POST /preview': 'replay',
  'POST /facts': 'replay',
  'POST /values': 'replay',
  'POST /groups': 'replay',
  'POST /picture': 'replay',
  'POST /match': 'replay',
  'POST /align': 'replay',
  'POST /reconcile': 'replay',
  // of the files of its own replays; see routes/table-queries.ts
  'POST /trace': 'replay',
  'POST /follow': 'replay',
  'POST /sheet': 'replay',
  'POST /lost': 'replay',
  'POST /find': 'replay',
  'GET /scripts': 'copy',
  'GET /download/:what': 'copy',
  'POST /copy': 'copy',
  'POST /place': 'replay',
  'POST /fit': 'replay',
  'POST /replay': 'replay',
  'POST /prove': 'owner',
  'GET /prove': 'replay',
  'DELETE /prove': 'owner',
  'POST /cluster': 'owner',
  'POST /cluster/look': 'owner',
  'GET /runs': 'replay',
  'GET /runs/:run': 'replay',
  'DELETE /runs/:run': 'replay',
  'POST /runs/:run/again': 'replay',
  'GET /runs/:run/outputs/:at': 'replay',
  'GET /runs/:run/outputs/:at/cells': 'replay',
  'GET /runs/:run/outputs.zip': 'replay',
  'GET /links': 'owner',
  'POST /links': 'owner',
  'PUT /links/:link': 'owner',
  'DELETE /links/:link': 'owner',
  'GET /editions': 'edit',
  'POST /editions': 'owner',
  'GET /watches': 'owner',
  'POST /watches': 'owner',
  'PUT /watches/:watch': 'owner',
  'DELETE /watches/:watch': 'owner',
}

type Layer = {
  readonly route?: { readonly path: string; readonly stack: readonly { readonly method: string }[] }
  readonly handle?: { readonly stack?: readonly Layer[] }
}
const routesIn = (stack: readonly Layer[]): string[] =>
  stack.flatMap(({ route, handle }) =>
    route
      ? [...new Set(route.stack.map(({ method }) => `${method.toUpperCase()} ${route.path}`))]
      : routesIn(handle?.stack ?? []),
  )

test('every route of the server stands in the table of rights', () => {
  const nothing = new Proxy({}, { get: () => undefined })
  const log: unknown = new Proxy(
    {},
    { get: (_target, name) => (name === 'levels' ? { values: {} } : name === 'child' ? () => log : undefined) },
  )
  const app = buildApp({
    services: nothing,
    log,
    web: '/nowhere',
    demo: '/nowhere',
    hosts: [],
    maxUpload: 0,
    owner: nothing,
    alone: true,
    proxies: [],
  } as unknown as AppOptions)
  const found = new Set(routesIn((app as unknown as { router: { stack: readonly Layer[] } }).router.stack))
  const short = (route: string): string => route.replace(/ \/api(?:\/owner)?(?=\/|$)/, ' ').replace(/ $/, ' /')
  const table = new Set([...Object.keys(general).flatMap((route) => [route, short(route)]), ...Object.keys(ofStory)])
  expect([...found].filter((route) => !table.has(route))).toEqual([])
  const all = [...found]
  expect(
    [...Object.keys(ofStory), ...Object.keys(general)].filter(
      (route) => !all.includes(route) && !all.includes(short(route)),
    ),
  ).toEqual([])
})

let server: Running
let flow: FlowReply
let run: RunReply
const tokens: Record<string, string> = {}
const cookie = { value: '' }
const asked = async (method: string, path: string, headers: Record<string, string> = {}) =>
  fetch(`${server.base}${path}`, {
    method,
    headers: { 'content-type': 'application/json', ...headers },
    ...(method === 'GET' || method === 'DELETE' ? {} : { body: '{}' }),
  })
const owned = async <T>(method: string, path: string, body?: unknown): Promise<T> =>
  (await (
    await fetch(`${server.base}${path}`, {
      method,
      headers: { cookie: cookie.value, 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
  ).json()) as T

beforeAll(async () => {
  // a named host says that others reach this server: being on this machine makes nobody the owner
  server = await startServer(undefined, undefined, { FABULA_HOSTS: 'fabula.fernhollow.example' })
  const key = readFileSync(join(server.data, 'owner.key'), 'utf8')
  const given = await fetch(`${server.base}/api/owner`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ key }),
  })
  cookie.value = (given.headers.get('set-cookie') ?? '').split(';')[0] ?? ''
  const [first] = (await owned<{ flows: { id: string }[] }>('GET', '/api/flows')).flows
  flow = await owned('GET', `/api/flows/${first?.id}`)
  run = await owned('POST', `/api/flows/${flow.id}/replay`, {
    files: {},
    answers: [],
    allowChanges: true,
    parameters: {},
  })
  for (const rights of ['replay', 'copy', 'edit'])
    tokens[rights] =
      (
        await owned<{ links: { token: string; rights: string }[] }>('POST', `/api/flows/${flow.id}/links`, {
          rights,
          note: rights,
          endsAt: null,
          follows: 'story',
        })
      ).links.find((link) => link.rights === rights)?.token ?? ''
})
afterAll(async () => server?.stop())

const path = (route: string): string =>
  route
    .replace(':run', run.id)
    .replace(':id', '1')
    .replace(':job', 'none')
    .replace(':name', 'none')
    .replace(':at', '0')
    .replace(':what', 'recipe')
    .replace(':link', 'none')
    .replace(':watch', 'none')
const ranks = ['replay', 'copy', 'edit']
/** Nothing was asked that could be done: whoever may, is told what the request lacks, and never that it may not. */
const refused = (status: number): boolean => status === 401 || status === 403

describe.each(Object.entries(general))('%s is for %s', (route, right) => {
  const [method = '', at = ''] = route.split(' ')
  test('the owner may, whoever has no key may only what is public', async () => {
    expect(refused((await asked(method, path(at), { cookie: cookie.value })).status) && at !== '/api/owner').toBe(false)
    const without = (await asked(method, path(at))).status
    expect(
      right === 'public' ? without : refused(without) || (right === 'upload' && without === 404),
      String(without),
    ).toBe(right === 'public' ? (method === 'POST' ? 400 : 200) : true)
  })
  test.each(ranks)('a link that may %s', async (rank) => {
    const { status } = await asked(method, path(at), { 'x-fabula-link': tokens[rank] ?? '' })
    const may = right === 'public' || right === 'upload' || (right === 'look' && rank === 'edit')
    expect(refused(status), String(status)).toBe(!may)
  })
})

describe.each(Object.entries(ofStory))('%s of a story is for %s', (route, right) => {
  const [method = '', at = ''] = route.split(' ')
  const below = (): string => (at === '/' ? '' : path(at))
  test('the owner may, whoever has no key may not, by capitals neither', async () => {
    if (route !== 'POST /prove' && route !== 'POST /copy' && route !== 'POST /agree')
      expect(refused((await asked(method, `/api/flows/${flow.id}${below()}`, { cookie: cookie.value })).status)).toBe(
        false,
      )
    expect((await asked(method, `/api/flows/${flow.id}${below()}`)).status).toBe(401)
    expect((await asked(method, `/API/Flows/${flow.id}${below()}`)).status).toBe(401)
    expect((await asked(method, `/api/shared/${'x'.repeat(32)}${below()}`)).status).toBe(404)
  })
  test.each(ranks)('a link that may %s', async (rank) => {
    const { status } = await asked(method, `/api/shared/${tokens[rank] ?? ''}${below()}`)
    const may = right !== 'owner' && ranks.indexOf(rank) >= ranks.indexOf(right)
    expect(refused(status), String(status)).toBe(!may)
  })
})

test('requests of other sites are refused in capitals too', async () => {
  for (const at of ['/api/flows', '/API/flows', '/Api/owner'])
    expect((await asked('GET', at, { cookie: cookie.value, 'sec-fetch-site': 'cross-site' })).status).toBe(403)
})

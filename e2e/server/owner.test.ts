import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { request } from 'node:https'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, describe, expect, test } from 'vitest'
import { freePort, root, startServer, type Running } from '../browser/server.ts'
import type { FlowReply, LinksReply, RunReply } from '@fabula/core/api'
import { until } from './until.ts'

const running: Running[] = []
const others: ChildProcess[] = []
const start = async (more: Readonly<Record<string, string>> = {}, data?: string): Promise<Running> => {
  const server = await startServer(data, undefined, more)
  running.push(server)
  return server
}
afterEach(async () => {
  for (const child of others.splice(0)) child.kill()
  for (const server of running.splice(0)) await server.stop()
})

type Reply = {
  readonly status: number
  readonly headers: Headers
  readonly data: Record<string, unknown> & { error?: { code: string; sentence: string } }
}
const ask = async (
  server: Running,
  method: string,
  path: string,
  { body, headers = {} }: { body?: unknown; headers?: Record<string, string> } = {},
): Promise<Reply> => {
  const response = await fetch(`${server.base}${path}`, {
    method,
    headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  })
  return { status: response.status, headers: response.headers, data: (await response.json()) as Reply['data'] }
}
const keyOf = (server: Running): string => readFileSync(join(server.data, 'owner.key'), 'utf8')
const flowOf = async (server: Running, headers: Record<string, string> = {}): Promise<FlowReply> => {
  const { data } = await ask(server, 'GET', '/api/flows', { headers })
  return (await ask(server, 'GET', `/api/flows/${(data.flows as { id: string }[])[0]?.id ?? ''}`, { headers }))
    .data as unknown as FlowReply
}
const linkOf = async (server: Running, flow: string, asked: Record<string, unknown> = {}): Promise<string> =>
  (
    (
      await ask(server, 'POST', `/api/flows/${flow}/links`, {
        body: { rights: 'replay', note: String(Math.random()), endsAt: null, follows: 'story', ...asked },
      })
    ).data as unknown as LinksReply
  ).links[0]?.token ?? ''

describe('the owner', () => {
  test('has the key: it is told once, becomes a cookie that no page can read, and any other key is refused', async () => {
    const server = await start(
      { FABULA_HOSTS: 'fabula.fernhollow.example' },
      mkdtempSync(join(tmpdir(), 'fabula-first-')),
    )
    expect(server.said()).toContain(`/#key=${keyOf(server)}`)
    expect(await ask(server, 'GET', '/api/flows')).toMatchObject({
      status: 401,
      data: { error: { code: 'owner-key' } },
    })
    expect(await ask(server, 'POST', '/api/owner', { body: { key: 'guess' } })).toMatchObject({
      status: 401,
      data: { error: { code: 'wrong-key' } },
    })
    const given = await ask(server, 'POST', '/api/owner', { body: { key: keyOf(server) } })
    const cookie = given.headers.get('set-cookie') ?? ''
    expect(cookie).toMatch(/HttpOnly/i)
    expect(cookie).toMatch(/SameSite=Strict/i)
    expect(cookie).not.toContain(keyOf(server))
    expect((await ask(server, 'GET', '/api/flows', { headers: { cookie: cookie.split(';')[0] ?? '' } })).status).toBe(
      200,
    )
    expect((await ask(server, 'GET', '/api/flows', { headers: { cookie: 'fabula_owner=wrong' } })).status).toBe(401)
    const { data } = server
    await server.stop()
    const again = await start({ FABULA_HOSTS: 'fabula.fernhollow.example' }, data)
    expect(again.said()).not.toContain('key=')
    expect((await ask(again, 'GET', '/api/flows', { headers: { cookie: cookie.split(';')[0] ?? '' } })).status).toBe(
      200,
    )
  })
  test('is whoever is here on a plain start, until a proxy stands between', async () => {
    const server = await start()
    expect((await ask(server, 'GET', '/api/flows')).status).toBe(200)
    for (const [name, value] of Object.entries({
      forwarded: 'for=192.0.2.1',
      'x-forwarded-for': '192.0.2.1',
      'x-forwarded-proto': 'https',
      'x-forwarded-host': 'x',
      'x-real-ip': '192.0.2.1',
      via: '1.1 proxy',
    }))
      expect((await ask(server, 'GET', '/api/flows', { headers: { [name]: value } })).status, name).toBe(401)
    expect((await ask(server, 'GET', '/api/flows', { headers: { referer: 'https://fabula.example/' } })).status).toBe(
      403,
    )
  })
  test.each([{ HOST: '0.0.0.0' }, { FABULA_TRUST_PROXY: '127.0.0.1' }])(
    'is asked for the key with %o',
    async (more) => {
      const server = await start(more as Record<string, string>)
      expect((await ask(server, 'GET', '/api/flows')).status).toBe(401)
    },
  )
  test('keeps what is in the data folder readable by nobody else', async () => {
    const { data } = await start({}, mkdtempSync(join(tmpdir(), 'fabula-first-')))
    const modes = (path: string): string[] => [
      `${(statSync(path).mode & 0o077).toString(8)} ${path}`,
      ...(statSync(path).isDirectory() ? readdirSync(path).flatMap((name) => modes(join(path, name))) : []),
    ]
    expect(modes(data).filter((line) => !line.startsWith('0 '))).toEqual([])
  })
})

/** Debian's nginx with the example of the docs, its ports, names and certificate replaced. */
const nginx = async (server: Running, config: string): Promise<{ port: number; log: () => string }> => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-nginx-'))
  execFileSync(
    'openssl',
    [
      'req',
      '-x509',
      '-newkey',
      'rsa:2048',
      '-nodes',
      '-days',
      '2',
      '-subj',
      '/CN=fabula.fernhollow.example',
      '-keyout',
      join(folder, 'key.pem'),
      '-out',
      join(folder, 'cert.pem'),
    ],
    { stdio: 'ignore' },
  )
  const port = await freePort()
  const site = config
    .replace('listen 443 ssl', `listen 127.0.0.1:${port} ssl`)
    .replace('/etc/ssl/fabula.pem', join(folder, 'cert.pem'))
    .replace('/etc/ssl/fabula.key', join(folder, 'key.pem'))
    .replace('http://127.0.0.1:4310', server.base.replace('localhost', '127.0.0.1'))
  writeFileSync(
    join(folder, 'nginx.conf'),
    `daemon off;\npid ${folder}/nginx.pid;\nerror_log ${folder}/error.log;\nevents {}\nhttp {\n  access_log ${folder}/access.log;\n  client_body_temp_path ${folder}/b; proxy_temp_path ${folder}/p; fastcgi_temp_path ${folder}/f; uwsgi_temp_path ${folder}/u; scgi_temp_path ${folder}/s;\n${site}\n}\n`,
  )
  others.push(spawn('/usr/sbin/nginx', ['-c', join(folder, 'nginx.conf'), '-p', folder], { stdio: 'ignore' }))
  await until(() => existsSync(join(folder, 'nginx.pid')), 'nginx does not start')
  return {
    port,
    log: () => (existsSync(join(folder, 'access.log')) ? readFileSync(join(folder, 'access.log'), 'utf8') : ''),
  }
}
const through = (
  port: number,
  method: string,
  path: string,
  { headers = {}, body }: { headers?: Record<string, string>; body?: string | Buffer } = {},
): Promise<{ status: number; cookie: string; text: string }> =>
  new Promise((resolve, reject) => {
    const call = request(
      {
        host: '127.0.0.1',
        port,
        method,
        path,
        rejectUnauthorized: false,
        headers: { host: 'fabula.fernhollow.example', ...headers },
      },
      (response) => {
        let text = ''
        response
          .on('data', (piece: Buffer) => (text += piece.toString('latin1')))
          .on('end', () =>
            resolve({ status: response.statusCode ?? 0, cookie: response.headers['set-cookie']?.[0] ?? '', text }),
          )
      },
    )
    call.on('error', reject)
    call.end(body)
  })

describe('behind nginx', () => {
  test('as the docs have it: visitors are strangers, the key makes the owner, links work, large files pass', async () => {
    const server = await start({ FABULA_HOSTS: 'fabula.fernhollow.example', FABULA_TRUST_PROXY: '127.0.0.1' })
    const { port, log } = await nginx(server, readFileSync(join(root, 'docs/nginx.conf'), 'utf8'))
    expect((await through(port, 'GET', '/')).status).toBe(200)
    expect((await through(port, 'GET', '/api/flows')).status).toBe(401)
    const origin = { origin: 'https://fabula.fernhollow.example', 'content-type': 'application/json' }
    const { cookie } = await through(port, 'POST', '/api/owner', {
      headers: origin,
      body: JSON.stringify({ key: keyOf(server) }),
    })
    expect(cookie).toMatch(/Secure/i)
    const mine = { cookie: cookie.split(';')[0] ?? '' }
    const { flows } = JSON.parse((await through(port, 'GET', '/api/flows', { headers: mine })).text) as {
      flows: { id: string }[]
    }
    const { links } = JSON.parse(
      (
        await through(port, 'POST', `/api/flows/${flows[0]?.id}/links`, {
          headers: { ...mine, ...origin },
          body: JSON.stringify({ rights: 'replay', note: '', endsAt: null, follows: 'story' }),
        })
      ).text,
    ) as LinksReply
    const token = links[0]?.token ?? ''
    expect((await through(port, 'GET', `/api/shared/${token}`)).status).toBe(200)
    const bytes = Buffer.alloc(30 << 20, 'a,b\n')
    const sent = await through(port, 'POST', '/api/files?name=large.csv', {
      headers: { 'x-fabula-link': token, origin: origin.origin },
      body: bytes,
    })
    expect(JSON.parse(sent.text)).toMatchObject({
      size: bytes.length,
      hash: createHash('sha256').update(bytes).digest('hex'),
    })
    expect(log()).not.toContain(token)
  })
  test('as nginx is without any setting: its visitors are not the owner', async () => {
    const server = await start()
    const { port } = await nginx(
      server,
      'server { listen 443 ssl; ssl_certificate /etc/ssl/fabula.pem; ssl_certificate_key /etc/ssl/fabula.key; location / { proxy_pass http://127.0.0.1:4310; } }',
    )
    expect((await through(port, 'GET', '/api/flows')).status).toBe(401)
  })
})

describe('links', () => {
  test('have limits of bytes a day and of replays at a time, which the owner changes', async () => {
    const server = await start()
    const flow = await flowOf(server)
    const token = await linkOf(server, flow.id, { bytesADay: 1000, waiting: 0 })
    const by = { headers: { 'x-fabula-link': token } }
    const send = (size: number) =>
      fetch(`${server.base}/api/files?name=a.csv`, {
        method: 'POST',
        body: Buffer.alloc(size, 'a'),
        headers: by.headers,
      }).then(async (response) => ({ status: response.status, data: (await response.json()) as Reply['data'] }))
    // whoever is here is the owner, so that limits are seen only as a stranger
    const stranger = { ...by.headers, 'x-forwarded-for': '192.0.2.7' }
    const sendAs = (size: number) =>
      fetch(`${server.base}/api/files?name=a.csv`, {
        method: 'POST',
        body: Buffer.alloc(size, 'a'),
        headers: stranger,
      }).then(async (response) => ({ status: response.status, data: (await response.json()) as Reply['data'] }))
    expect((await send(2000)).status).toBe(200)
    expect((await sendAs(900)).status).toBe(200)
    expect(await sendAs(200)).toMatchObject({
      status: 429,
      data: { error: { code: 'link-limit', sentence: expect.stringContaining('may be sent a day') as string } },
    })
    // sent at once they are counted together
    const many = await linkOf(server, flow.id, { bytesADay: 1000, waiting: 2 })
    const statuses = await Promise.all(
      Array.from({ length: 8 }, () =>
        fetch(`${server.base}/api/files?name=a.csv`, {
          method: 'POST',
          body: Buffer.alloc(300, 'a'),
          headers: { 'x-fabula-link': many, 'x-forwarded-for': '192.0.2.7' },
        }).then(({ status }) => status),
      ),
    )
    expect(statuses.filter((status) => status === 200)).toHaveLength(3)
    const begun = await Promise.all(
      Array.from({ length: 6 }, () =>
        ask(server, 'POST', `/api/shared/${many}/replay`, {
          body: { files: {}, answers: [], allowChanges: true, parameters: {} },
        }),
      ),
    )
    expect(begun.filter(({ status }) => status === 200).length).toBeLessThanOrEqual(3)
    expect(begun.filter(({ status }) => status === 429).length).toBeGreaterThan(2)
    const replay = () =>
      ask(server, 'POST', `/api/shared/${token}/replay`, {
        body: { files: {}, answers: [], allowChanges: true, parameters: {} },
      })
    expect(await replay()).toMatchObject({ status: 429, data: { error: { code: 'link-limit' } } })
    await ask(server, 'PUT', `/api/flows/${flow.id}/links/${token}`, {
      body: { rights: 'replay', note: '', endsAt: null, follows: 'story', bytesADay: 5000, waiting: 2 },
    })
    expect((await sendAs(200)).status).toBe(200)
    expect((await replay()).status).toBe(200)
    const listed = ((await ask(server, 'GET', `/api/flows/${flow.id}/links`)).data as unknown as LinksReply).links.find(
      (link) => link.token === token,
    )
    expect(listed).toMatchObject({ bytesADay: 5000, waiting: 2, bytesToday: 1100 })
  })
  test('change no output into a database, and hold back all such writing until the owner agrees', async () => {
    const server = await start()
    const begun = await flowOf(server)
    const output = { table: 'takings', format: 'postgresql', connection: 'Till', name: 'takings', mode: 'replace' }
    const into = { ...begun.recipe, outputs: [...(begun.recipe.outputs ?? []), output] }
    const kept = (
      await ask(server, 'POST', `/api/flows/${begun.id}/edit`, {
        body: { recipe: into, what: 'into the till', after: begun.edit },
      })
    ).data as unknown as FlowReply
    expect(kept.heldSince).toBeNull()
    const token = await linkOf(server, begun.id, { rights: 'edit' })
    const change = (recipe: unknown, after: number) =>
      ask(server, 'POST', `/api/shared/${token}/edit`, { body: { recipe, what: 'by link', after } })
    expect(await change({ ...into, outputs: [{ ...output, name: 'wages' }] }, kept.edit)).toMatchObject({
      status: 403,
      data: { error: { code: 'owner-only-output' } },
    })
    expect(await change(begun.recipe, kept.edit)).toMatchObject({ status: 403 })
    expect((await ask(server, 'GET', `/api/flows/${begun.id}`)).data.heldSince).toBeNull()
    expect((await change({ ...into, about: 'changed by link' }, kept.edit)).status).toBe(200)
    const held = (await ask(server, 'GET', `/api/flows/${begun.id}`)).data as unknown as FlowReply
    expect(held.heldSince).not.toBeNull()
    const replay = () =>
      ask(server, 'POST', `/api/flows/${begun.id}/replay`, {
        body: { files: {}, answers: [], allowChanges: true, parameters: {} },
      })
    expect(await replay()).toMatchObject({
      status: 409,
      data: { error: { code: 'held', sentence: expect.stringContaining('changed by a link') as string } },
    })
    // an edit of the owner on top agrees to nothing
    await ask(server, 'POST', `/api/flows/${begun.id}/edit`, {
      body: { recipe: { ...into, about: 'more' }, what: 'more', after: held.edit },
    })
    expect((await replay()).status).toBe(409)
    expect((await ask(server, 'POST', `/api/shared/${token}/agree`)).status).toBe(403)
    expect((await ask(server, 'POST', `/api/flows/${begun.id}/agree`)).data.heldSince).toBeNull()
    const run = (await replay()).data as unknown as RunReply
    expect(run.state).toBe('running')
  })
  test('stand in no log', async () => {
    const server = await start({ LOG_LEVEL: 'trace' })
    const flow = await flowOf(server)
    const token = await linkOf(server, flow.id)
    await fetch(`${server.base}/api/shared/${token}/preview`, {
      method: 'POST',
      body: '{',
      headers: { 'content-type': 'application/json', 'x-fabula-link': token },
    })
    // a fault of the server's own is logged with the request
    await fetch(`${server.base}/api/shared/${token}/runs/%E0%A4%A`, { headers: { 'x-fabula-link': token } })
    await fetch(`${server.base}/api/shared/${token}/preview`, {
      method: 'POST',
      body: JSON.stringify({
        recipe: flow.recipe,
        table: 'none',
        step: 'none',
        diffMode: 'after',
        only: 'all',
        from: 0,
        count: 1,
      }),
      headers: { 'content-type': 'application/json' },
    })
    expect(server.said()).not.toContain(token)
  })
})

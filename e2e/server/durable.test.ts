import { execFileSync, spawn, spawnSync } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { request } from 'node:http'
import { once } from 'node:events'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, describe, expect, test } from 'vitest'
import { freePort, freshData, root, startServer, type Running } from '../browser/server.ts'
import { startPostgres } from '../parity/postgres.ts'
import { caller } from './call.ts'
import { torture } from './torture.ts'
import type { FlowReply } from '@fabula/core/api'
import { until } from './until.ts'

const running: Running[] = []
const start = async (data?: string, more: Readonly<Record<string, string>> = {}): Promise<Running> => {
  const server = await startServer(data, undefined, more)
  running.push(server)
  return server
}
afterEach(async () => {
  for (const server of running.splice(0)) await server.stop('SIGKILL')
})
const ofServer = (server: Running) => caller(() => server)

test('killed six times amid edits, uploads, replays and writes into PostgreSQL, nothing acknowledged is lost', async () => {
  const { faults, edits, uploads, replays } = await torture(6)
  expect(faults).toEqual([])
  expect(edits).toBeGreaterThan(12)
  expect(uploads).toBeGreaterThan(12)
  expect(replays.done).toBeGreaterThan(0)
}, 1_200_000)

/** What strace saw, in order: writes to the write-ahead log, syncs of it, and answers sent. */
type Event = { readonly kind: 'write' | 'sync'; readonly file: string } | { readonly kind: 'answer' }
const eventsOf = (trace: string): Event[] => {
  const begun = new Map<string, string>()
  return trace.split('\n').flatMap((line): Event[] => {
    const [, thread = '', rest = ''] = /^(\d+)\s+(.*)$/.exec(line) ?? []
    if (rest.includes('<unfinished ...>')) {
      begun.set(thread, rest)
      // a write or an answer counts from when it began, a sync only when it is done
      if (/^f(?:data)?sync/.test(rest)) return []
    }
    const resumed = /^<\.\.\. (\w+) resumed>/.exec(rest)
    const whole = resumed ? (begun.get(thread) ?? '') : rest
    const file = /<([^>]*\/pg_wal\/[^>]*)>/.exec(whole)?.[1]
    if (file && whole.startsWith('pwrite64')) return resumed ? [] : [{ kind: 'write' as const, file }]
    if (file && /^f(?:data)?sync/.test(whole) && /= 0$/.test(rest)) return [{ kind: 'sync' as const, file }]
    return /^(?:write|writev|sendto|sendmsg)\(/.test(whole) && !resumed && whole.includes('HTTP/1.1 200')
      ? [{ kind: 'answer' as const }]
      : []
  })
}

test('the write-ahead log is written and synced before an edit is answered, over a change of segment too', async () => {
  const data = await freshData()
  const trace = join(mkdtempSync(join(tmpdir(), 'fabula-trace-')), 'trace')
  const port = await freePort()
  const child = spawn(
    'strace',
    [
      '-f',
      '-y',
      '-s',
      '40',
      '-e',
      'trace=pwrite64,fsync,fdatasync,write,writev,sendto,sendmsg',
      '-o',
      trace,
      process.execPath,
      join(root, 'server/dist/main.js'),
    ],
    { env: { ...process.env, PORT: String(port), FABULA_DATA: data } },
  )
  let said = ''
  child.stdout.on('data', (text: Buffer) => (said += text.toString()))
  await until(() => said.includes('Fabula is at'), 'the server did not start')
  const { call, demoFlow } = caller(() => ({ base: `http://localhost:${port}` }) as Running)
  try {
    let flow = await demoFlow()
    const before = readFileSync(trace, 'utf8').length
    const edits = 45
    for (let n = 0; n < edits; n++)
      flow = (
        await call<FlowReply>('POST', `/api/flows/${flow.id}/edit`, {
          recipe: { ...flow.recipe, about: `${n} ${randomBytes(250_000).toString('hex')}` },
          what: 'about',
          after: flow.edit,
        })
      ).data
    // strace writes a line after the call it tells of: the last answer may be here before its line is
    const traced = () => eventsOf(readFileSync(trace, 'utf8').slice(before))
    await expect
      .poll(() => traced().filter(({ kind }) => kind === 'answer').length, { timeout: 10_000 })
      .toBeGreaterThanOrEqual(edits)
    const events = traced()
    const unsynced = new Set<string>()
    const segments = new Set<string>()
    let answers = 0
    let synced = 0
    for (const event of events) {
      if (event.kind === 'write') unsynced.add(event.file)
      else if (event.kind === 'sync') {
        unsynced.delete(event.file)
        segments.add(event.file)
        synced++
      } else {
        answers++
        expect([...unsynced], `answer ${answers}`).toEqual([])
      }
    }
    expect(synced).toBeGreaterThanOrEqual(edits)
    expect([...segments].filter((file) => /[0-9A-F]{24}$/.test(file)).length).toBeGreaterThan(1)
  } finally {
    // strace with an output file blocks signals (its manual, -I); it ends with the server
    const traced = readFileSync(`/proc/${child.pid}/task/${child.pid}/children`, 'utf8').trim().split(' ')
    const ended = once(child, 'exit')
    for (const pid of traced) process.kill(Number(pid), 'SIGTERM')
    await ended
  }
}, 180_000)

/** A small file system of its own, where this machine lets one be mounted. */
const smallDisk = (options: string): string | undefined => {
  const place = mkdtempSync(join(tmpdir(), 'fabula-disk-'))
  return spawnSync('mount', ['-t', 'tmpfs', '-o', options, 'tmpfs', place]).status === 0 ? place : undefined
}
const mountable = (() => {
  const place = smallDisk('size=1m')
  if (place) execFileSync('umount', [place])
  return place !== undefined
})()

describe.skipIf(!mountable)('a disk that will not take more', () => {
  test('full: edits, uploads and reading are told apart, nothing is lost, and with room all goes on', async () => {
    const disk = smallDisk('size=130m') ?? ''
    try {
      cpSync(await freshData(), join(disk, 'data'), { recursive: true })
      const server = await start(join(disk, 'data'))
      const { call, demoFlow } = ofServer(server)
      let flow = await demoFlow()
      spawnSync('dd', ['if=/dev/zero', `of=${join(disk, 'fill')}`, 'bs=1M'])
      const edit = async () => {
        const reply = await call<FlowReply & { error?: { code: string; sentence: string } }>(
          'POST',
          `/api/flows/${flow.id}/edit`,
          { recipe: { ...flow.recipe, about: randomBytes(100_000).toString('hex') }, what: 'about', after: flow.edit },
        )
        if (reply.status === 200) flow = reply.data
        return reply
      }
      let refused = await edit()
      for (let i = 0; i < 200 && refused.status === 200; i++) refused = await edit()
      expect(refused).toMatchObject({
        status: 507,
        data: {
          error: { code: 'disk-full', sentence: expect.stringContaining('The disk of the server is full') as string },
        },
      })
      expect(
        await (
          await fetch(`${server.base}/api/files?name=a.csv`, { method: 'POST', body: randomBytes(3_000_000) })
        ).json(),
      ).toMatchObject({ error: { code: 'disk-full' } })
      // what was acknowledged is there, and can be looked at
      expect((await demoFlow()).recipe.about).toBe(flow.recipe.about)
      expect(
        (
          await call('POST', `/api/flows/${flow.id}/preview`, {
            recipe: flow.recipe,
            table: 'takings',
            step: 's9',
            diffMode: 'after',
            only: 'all',
            from: 0,
            count: 3,
          })
        ).status,
      ).toBe(200)
      rmSync(join(disk, 'fill'))
      flow = await demoFlow()
      let again = await edit()
      for (let i = 0; i < 20 && again.status !== 200; i++) {
        await new Promise((resolve) => setTimeout(resolve, 250))
        flow = await demoFlow()
        again = await edit()
      }
      expect(again.status).toBe(200)
    } finally {
      for (const server of running.splice(0)) await server.stop('SIGKILL')
      spawnSync('umount', ['-l', disk])
    }
  }, 120_000)
  test('read-only: the server says so and ends', async () => {
    const disk = smallDisk('size=5m,ro') ?? ''
    const { status, stderr } = spawnSync(process.execPath, [join(root, 'server/dist/main.js')], {
      encoding: 'utf8',
      env: { ...process.env, PORT: '0', FABULA_DATA: join(disk, 'data') },
    })
    spawnSync('umount', [disk])
    expect(status).toBe(1)
    expect(stderr).toMatch(/^The data folder .* cannot be used: /)
  })
})

test('a destroyed database file is one sentence; nothing is touched', async () => {
  const data = await freshData()
  writeFileSync(join(data, 'database/global/pg_control'), randomBytes(8192))
  const before = readdirSync(join(data, 'files')).sort()
  const { status, stderr } = spawnSync(process.execPath, [join(root, 'server/dist/main.js')], {
    encoding: 'utf8',
    env: { ...process.env, PORT: '0', FABULA_DATA: data },
  })
  expect(status).toBe(1)
  expect(stderr).toMatch(/^The database in .* cannot be opened: .*Nothing was changed\./)
  expect(readdirSync(join(data, 'files')).sort()).toEqual(before)
})

test('what uploads left half written when the server ended is swept at the next start', async () => {
  const data = await freshData()
  mkdirSync(join(data, 'files/new'), { recursive: true })
  writeFileSync(join(data, 'files/new/half'), 'half')
  writeFileSync(join(data, 'files/1-2-x.part'), 'half')
  await start(data)
  expect(existsSync(join(data, 'files/new/half'))).toBe(false)
  expect(existsSync(join(data, 'files/1-2-x.part'))).toBe(false)
})

test('an upload that is cut off is not kept, and the server goes on', async () => {
  const server = await start()
  const place = join(server.data, 'files/new')
  const begun = () => (existsSync(place) ? readdirSync(place) : [])
  await new Promise<void>((resolve) => {
    const call = request(`${server.base}/api/files?name=cut.csv`, {
      method: 'POST',
      headers: { 'content-length': '1000000' },
    })
    call.on('error', () => resolve())
    call.write('a,b\n1,2\n')
    void until(() => begun().length > 0, 'no upload began').then(() => call.destroy())
  })
  await until(() => begun().length === 0, 'what was cut off is kept')
  expect((await ofServer(server).demoFlow()).recipe.name).toBe('Monthly takings by clinic')
})

test('a PostgreSQL server that goes away while it is read is one sentence, and nothing else stops', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-gone-'))
  const postgres = startPostgres(folder, '127.0.0.1')
  const server = await start()
  const { call } = ofServer(server)
  await call('POST', '/api/connections', {
    name: 'Till',
    host: '127.0.0.1',
    port: postgres.port,
    database: 'postgres',
    user: 'postgres',
    password: 'x',
    tls: 'none',
  })
  const taking = call<{ error: { sentence: string } }>('POST', '/api/sources/take', {
    asked: {
      kind: 'postgresql',
      connection: 'Till',
      wanted: { query: 'select n, pg_sleep(0.0005)::text from generate_series(1, 1000000) n' },
    },
  })
  const asked = "select count(*) from pg_stat_activity where query like 'fetch % from fabula_rows'"
  const psql = ['-h', '127.0.0.1', '-p', String(postgres.port), '-U', 'postgres', '-Atc', asked]
  await until(() => execFileSync('psql', psql, { encoding: 'utf8' }).trim() === '1', 'nothing is asked of PostgreSQL')
  postgres.stop()
  expect(await taking).toMatchObject({
    status: 422,
    data: { error: { sentence: expect.stringContaining('went away while it was asked') as string } },
  })
  expect((await call('GET', '/api/flows')).status).toBe(200)
  expect(
    await call('POST', '/api/connections', {
      name: 'Gone',
      host: '127.0.0.1',
      port: postgres.port,
      database: 'postgres',
      user: 'postgres',
      password: 'x',
      tls: 'none',
    }),
  ).toMatchObject({
    status: 422,
    data: { error: { sentence: expect.stringContaining('cannot be reached') as string } },
  })
})

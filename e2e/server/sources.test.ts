import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import type { FileRef, OpenReply, ShelfEntry, TakeReply } from '@fabula/core/api'
import { startOData, startServer, type Running } from '../browser/server.ts'
import { startPostgres, type RealPostgres } from '../parity/postgres.ts'

let server: Running
let odata: Awaited<ReturnType<typeof startOData>>
let site: Server
let address = ''
let real: RealPostgres
const folder = mkdtempSync(join(tmpdir(), 'fabula-sources-'))
beforeAll(async () => {
  real = startPostgres(folder, '127.0.0.1')
  execFileSync('psql', [
    '-X',
    '-q',
    '-h',
    folder,
    '-p',
    String(real.port),
    '-U',
    'postgres',
    '-v',
    'ON_ERROR_STOP=1',
    '-c',
    `create schema clinic; create table clinic."Price list" (code text primary key, fee numeric(8,2), from_day date, seen timestamptz, active boolean, note text); insert into clinic."Price list" select 'VAC-' || n, n * 1.5, date '2031-05-01' + n % 30, timestamptz '2031-05-01 09:30:00.123456+00', n % 2 = 0, case when n = 7 then E'says "so",\ntwice' end from generate_series(1, 12000) n; analyze`,
    'postgres',
  ])
  server = await startServer(undefined, undefined, { FABULA_ALLOW_PRIVATE: '1', FABULA_MAX_FETCH: '3000000' })
  odata = await startOData()
  site = createServer((request, response) => {
    if (request.url === '/round') return response.writeHead(302, { location: '/round' }).end()
    if (request.url === '/moved') return response.writeHead(302, { location: '/takings?month=5' }).end()
    if (request.url === '/huge') {
      for (let i = 0; i < 80; i++) response.write('x'.repeat(100_000))
      return response.end()
    }
    return request.url?.startsWith('/takings')
      ? response.writeHead(200, { 'content-type': 'text/csv' }).end('Clinic,Fee\nOxbow,12\n')
      : response.writeHead(404).end()
  }).listen(0, '127.0.0.1')
  await new Promise((resolve) => site.once('listening', resolve))
  address = `http://localhost:${(site.address() as AddressInfo).port}`
})
afterAll(async () => {
  await server?.stop()
  odata?.close()
  site?.close()
  real?.stop()
})

const call = async <T>(
  method: string,
  path: string,
  body?: unknown,
  base = server.base,
): Promise<{ status: number; data: T & { error?: { sentence: string } } }> => {
  const response = await fetch(`${base}/api${path}`, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  })
  return { status: response.status, data: (await response.json()) as T & { error?: { sentence: string } } }
}
/** What a source gives: one file, or why it gives none. */
const take = async (asked: object) => {
  const { status, data } = await call<TakeReply>('POST', '/sources/take', { asked })
  return { status, data: { error: data.error, file: data.files?.[0] as FileRef } }
}
const opened = async (file: FileRef, read: object = {}) =>
  (await call<OpenReply>('POST', '/open', { files: [file], read })).data

test('a web address is fetched, redirects followed; what is not to be had says why', async () => {
  const { data } = await take({ kind: 'web', address: `${address}/moved` })
  expect(data.file.name).toBe('takings.csv')
  expect((await opened(data.file)).first).toEqual([['Oxbow', '12']])
  expect((await take({ kind: 'web', address: `${address}/none` })).data.error?.sentence).toContain(
    'nothing stands at this address',
  )
  expect((await take({ kind: 'web', address: `${address}/round` })).data.error?.sentence).toContain('without end')
  expect((await take({ kind: 'web', address: `${address}/huge` })).data.error?.sentence).toContain('more than 3 MB')
  expect((await take({ kind: 'web', address: 'file:///etc/passwd' })).data.error?.sentence).toContain(
    'not a web address',
  )
  expect((await take({ kind: 'web', address: 'http://127.0.0.1:1/' })).data.error?.sentence).toContain(
    'cannot be reached',
  )
})

test('private addresses are refused unless allowed, by number and by name', async () => {
  const careful = await startServer()
  try {
    for (const host of [
      '127.0.0.1',
      'localhost',
      '[::1]',
      '[::ffff:127.0.0.1]',
      '0.0.0.0',
      '10.1.2.3',
      '169.254.169.254',
    ])
      expect(
        (
          await call(
            'POST',
            '/sources/take',
            { asked: { kind: 'web', address: address.replace('localhost', host) } },
            careful.base,
          )
        ).data.error?.sentence,
        host,
      ).toContain('private network')
  } finally {
    await careful.stop()
  }
})

test('an OData service: what it offers, a look, then page after page with the columns chosen', async () => {
  const { data: offer } = await call<{ tables: { name: string }[] }>('POST', '/sources/offer', {
    kind: 'odata',
    service: odata.address,
  })
  expect(offer.tables.map(({ name }) => name)).toEqual(['Clinics', 'Visits'])
  const asked = { kind: 'odata', service: odata.address, table: 'Visits', columns: ['Id', 'Clinic', 'Charged'] }
  const { data: sample } = await call<{ names: string[]; rows: string[][] }>('POST', '/sources/look', { asked })
  expect(sample.rows).toHaveLength(20)
  const { data } = await take(asked)
  const { rows, columns } = await opened(data.file, { path: 'value' })
  expect([rows, columns.map(({ name }) => name)]).toEqual([1204, ['Id', 'Clinic', 'Charged']])
  expect((await call('POST', '/sources/offer', { kind: 'odata', service: address })).data.error?.sentence).toContain(
    'answered 404',
  )
})

test('PostgreSQL: a named connection, its tables, a look, a table and what a query gives; it can only read', async () => {
  const connection = {
    name: 'Till',
    host: '127.0.0.1',
    port: real.port,
    database: 'postgres',
    user: 'postgres',
    password: 'hidden-word',
    tls: 'none',
  }
  expect((await call('POST', '/connections', { ...connection, port: 1 })).data.error?.sentence).toContain(
    'cannot be reached',
  )
  const { data: known } = await call<{ connections: object[] }>('POST', '/connections', connection)
  expect(JSON.stringify(known)).not.toContain('hidden-word')
  const { data: offer } = await call<{ tables: object[] }>('POST', '/sources/offer', {
    kind: 'postgresql',
    connection: 'Till',
  })
  expect(offer.tables).toEqual([{ name: 'Price list', schema: 'clinic', rows: 12000 }])
  const asked = { kind: 'postgresql', connection: 'Till', wanted: { schema: 'clinic', table: 'Price list' } }
  expect((await call<{ rows: string[][] }>('POST', '/sources/look', { asked })).data.rows[0]).toEqual([
    'VAC-1',
    '1.50',
    '2031-05-02',
    '2031-05-01 09:30:00.123',
    'false',
    '',
  ])
  const { rows, columns, first } = await opened((await take(asked)).data.file)
  expect([rows, columns.map(({ type }) => type)]).toEqual([
    12000,
    ['text', 'decimal', 'date', 'datetime', 'boolean', 'text'],
  ])
  expect(first[6]?.[5]).toBe('says "so",\ntwice')
  const query = (text: string) => take({ kind: 'postgresql', connection: 'Till', wanted: { query: text } })
  expect(
    (await opened((await query('select active, count(*) from clinic."Price list" group by 1 order by 1;')).data.file))
      .first,
  ).toEqual([
    ['false', '6000'],
    ['true', '6000'],
  ])
  expect((await query('select 1; commit; drop table clinic."Price list"')).data.error?.sentence).toContain(
    'The database refused',
  )
  expect((await query('delete from clinic."Price list" returning code')).data.error?.sentence).toContain(
    'The database refused',
  )
  // the password lies sealed: nowhere in the data folder does it stand as it is
  const everything = readdirSync(server.data, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name))
    .filter((path) => statSync(path).size < 20e6)
  expect(everything.some((path) => readFileSync(path).includes('hidden-word'))).toBe(false)
})

test('the shelf: where a file is used, its versions, found by column; replaced and deleted with what that breaks', async () => {
  const put = async (name: string, text: string) =>
    (await (await fetch(`${server.base}/api/files?name=${name}`, { method: 'POST', body: text })).json()) as FileRef
  const shelf = async () => (await call<{ entries: ShelfEntry[] }>('GET', '/shelf')).data.entries
  const old = await put('fees.csv', 'Code,Fee\nA,1\n')
  const { columns } = await opened(old)
  const recipe = {
    fabula: 1,
    name: 'Fees',
    inputs: [{ id: 'fees', name: 'Fees', columns }],
    tables: [{ id: 'fees', name: 'Fees', steps: [{ id: 's1', kind: 'open', input: 'fees' }] }],
  }
  const { data: flow } = await call<{ id: string }>('POST', '/flows', { recipe, files: { fees: [old] } })
  const next = await put('fees.csv', 'Code,Fee\nA,2\n')
  const [newer, older] = (await shelf()).filter(({ name }) => name === 'fees.csv')
  expect([newer?.versions, newer?.uses, older?.uses.map(({ name }) => name), older?.columns]).toEqual([
    2,
    [],
    ['Fees'],
    ['Code', 'Fee'],
  ])
  await call('PUT', `/shelf/${older?.id}`, { file: next })
  const files = async () => (await call<{ files: Record<string, FileRef[]> }>('GET', `/flows/${flow.id}`)).data.files
  expect((await files()).fees?.[0]?.hash).toBe(next.hash)
  await call('DELETE', `/shelf/${newer?.id}`)
  expect(await files()).toEqual({})
  expect((await shelf()).filter(({ name }) => name === 'fees.csv').map(({ id }) => id)).toEqual([older?.id])
  expect((await call('POST', '/open', { files: [next], read: {} })).status).not.toBe(200)
  const [source] = (await shelf()).filter((entry) => entry.source?.kind === 'odata')
  const { files: anew } = (await call<TakeReply>('POST', `/sources/${source?.source?.id}/again`)).data
  expect(anew.map(({ hash }) => hash)).toEqual([source?.hash])
})

test('PostgreSQL over TLS: a certificate is believed by the machine’s authorities or one of one’s own, by its name; any is a choice', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-tls-'))
  const openssl = (...words: string[]): void => void execFileSync('openssl', words, { cwd: folder, stdio: 'ignore' })
  openssl(
    'req',
    '-x509',
    '-newkey',
    'rsa:2048',
    '-nodes',
    '-days',
    '2',
    '-subj',
    '/CN=Fernhollow authority',
    '-keyout',
    'ca.key',
    '-out',
    'ca.pem',
  )
  openssl(
    'req',
    '-newkey',
    'rsa:2048',
    '-nodes',
    '-subj',
    '/CN=localhost',
    '-keyout',
    'server.key',
    '-out',
    'server.csr',
  )
  writeFileSync(join(folder, 'names'), 'subjectAltName=DNS:localhost')
  openssl(
    'x509',
    '-req',
    '-in',
    'server.csr',
    '-CA',
    'ca.pem',
    '-CAkey',
    'ca.key',
    '-CAcreateserial',
    '-days',
    '2',
    '-extfile',
    'names',
    '-out',
    'server.pem',
  )
  execFileSync('chown', ['postgres', join(folder, 'server.key'), join(folder, 'server.pem')])
  const real = startPostgres(folder, 'localhost', [
    'ssl=on',
    `ssl_cert_file=${folder}/server.pem`,
    `ssl_key_file=${folder}/server.key`,
  ])
  try {
    const connect = (more: Record<string, unknown>) =>
      call<{ error?: { sentence: string } }>('POST', '/connections', {
        name: 'Guarded',
        host: 'localhost',
        port: real.port,
        database: 'postgres',
        user: 'postgres',
        password: 'x',
        tls: 'verified',
        ...more,
      })
    const ca = readFileSync(join(folder, 'ca.pem'), 'utf8')
    expect(await connect({})).toMatchObject({
      status: 422,
      data: { error: { sentence: expect.stringContaining('certificate') as string } },
    })
    expect((await connect({ ca })).status).toBe(200)
    expect(await connect({ ca, host: '127.0.0.1' })).toMatchObject({ status: 422 })
    expect((await connect({ tls: 'any', host: '127.0.0.1' })).status).toBe(200)
    expect((await connect({ tls: 'none' })).status).toBe(200)
  } finally {
    real.stop()
  }
})

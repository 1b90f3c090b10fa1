import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root, startServer, type Running } from '../browser/server.ts'
import { caller } from './call.ts'
import type { FlowReply, PreviewReply, RunReply } from '@fabula/core/api'
import { until } from './until.ts'

let server: Running
beforeAll(async () => {
  server = await startServer(undefined, undefined, { FABULA_JOB_MEMORY_MB: '700' })
})
afterAll(async () => server?.stop())
const { call, demoFlow } = caller(() => server)
/** Does work on a server of its own, whose previews may take two seconds. */
const onHastyServer = async (work: () => Promise<void>): Promise<void> => {
  const patient = server
  server = await startServer(undefined, undefined, { FABULA_PREVIEW_SECONDS: '2' })
  try {
    await work()
  } finally {
    await server.stop()
    server = patient
  }
}

type Refused = { readonly error: { readonly code: string; readonly sentence: string } }
const send = async (name: string, bytes: string | Buffer) =>
  (await (
    await fetch(`${server.base}/api/files?name=${encodeURIComponent(name)}`, { method: 'POST', body: bytes as never })
  ).json()) as { name: string; hash: string; size: number }

/** A story of one table on one file, with these sentences. */
const story = async (
  csv: string,
  steps: readonly Record<string, unknown>[],
): Promise<{ id: string; recipe: unknown }> => {
  const file = await send('rows.csv', csv)
  const columns = (csv.split('\n', 1)[0] ?? '').split(',').map((name) => ({ name, type: 'text' }))
  const recipe = {
    fabula: 1,
    name: 'Contained',
    inputs: [{ id: 'a', name: 'A', columns }],
    tables: [
      { id: 'b', name: 'B', steps: [{ id: 'o1', kind: 'open', input: 'a', read: { types: 'text' } }] },
      {
        id: 't',
        name: 'T',
        steps: [
          { id: 's1', kind: 'open', input: 'a', read: { types: 'text' } },
          ...steps.map((step, i) => ({ id: `s${i + 2}`, ...step })),
        ],
      },
    ],
  }
  const { data } = await call<{ id: string }>('POST', '/api/flows', { recipe, files: { a: [file] } })
  return { id: data.id, recipe }
}
const preview = ({ id, recipe }: { id: string; recipe: unknown }, step = 's2', page = 'one') =>
  fetch(`${server.base}/api/flows/${id}/preview`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-fabula-page': page },
    body: JSON.stringify({ recipe, table: 't', step, diffMode: 'after', only: 'all', from: 0, count: 3 }),
  }).then(async (response) => ({ status: response.status, data: (await response.json()) as PreviewReply & Refused }))

/** Every row beside every row: within what a table may have, and beyond what one job may take of memory. */
const huge = () =>
  story(`N\n${Array.from({ length: 9900 }, (_, i) => `v${i}`).join('\n')}\n`, [
    { kind: 'join', with: 'b', how: 'cross', prefix: 'b ' },
    { kind: 'sort', by: [{ column: 'b N', descending: true }] },
  ])
/** Thousands of long spellings held against each other: many seconds in one go, so that no stop between steps ends it. */
const slow = async () => {
  const { id, recipe } = await story(
    `N\n${Array.from({ length: 6000 }, (_, i) => `${(i * 7919).toString(36).padStart(6, 'k').repeat(30)}`).join('\n')}\n`,
    [],
  )
  return call<Refused>('POST', `/api/flows/${id}/groups`, { recipe, table: 't', step: 's1', column: 'N' })
}
const small = () => story('N\n1\n2\n', [{ kind: 'slice', first: 1 }])

/** Asks again and again meanwhile, as somebody else would, and tells the slowest answer in milliseconds. */
const meanwhile = async <T>(work: Promise<T>): Promise<{ result: T; statuses: Set<number> }> => {
  const other = await small()
  const statuses = new Set<number>()
  let going = true
  const asking = (async () => {
    while (going) statuses.add((await preview(other, 's2', `other-${Math.random()}`)).status)
  })()
  const result = await work
  going = false
  await asking
  return { result, statuses }
}

describe('a job that takes too much ends alone', () => {
  test('too much memory is one sentence, and everyone else goes on', async () => {
    const { result, statuses } = await meanwhile(preview(await huge(), 's3'))
    expect(result).toMatchObject({
      status: 507,
      data: {
        error: {
          code: 'out-of-memory',
          sentence: expect.stringContaining('more memory than the server gives to one job (734 MB)') as string,
        },
      },
    })
    expect([...statuses]).toEqual([200])
    expect(server.process.exitCode).toBeNull()
  })
  test('too much time is one sentence, and everyone else goes on', () =>
    onHastyServer(async () => {
      const { result, statuses } = await meanwhile(slow())
      expect(result).toMatchObject({
        status: 504,
        data: { error: { code: 'too-slow', sentence: expect.stringContaining('longer than 2 seconds') as string } },
      })
      expect(statuses.has(200)).toBe(true)
      // the process that took the place of the ended one serves on
      expect((await preview(await small())).status).toBe(200)
    }))
  test('a replay that ended its process is told as that and not begun again', async () => {
    const { id } = await huge()
    const begun = (
      await call<RunReply>('POST', `/api/flows/${id}/replay`, {
        files: {},
        answers: [],
        allowChanges: true,
        parameters: {},
      })
    ).data
    let run = begun
    await until(async () => {
      run = (await call<RunReply>('GET', `/api/flows/${id}/runs/${begun.id}`)).data
      return run.state !== 'running'
    }, 'the replay does not end')
    expect(run).toMatchObject({
      state: 'failed',
      sentence: expect.stringContaining('more memory than the server gives to one job') as string,
      outputs: [],
    })
    await new Promise((resolve) => setTimeout(resolve, 1000))
    expect((await call<{ runs: readonly unknown[] }>('GET', `/api/flows/${id}/runs`)).data.runs).toHaveLength(1)
  })
  test('a workbook of 1 kB that claims the whole sheet, sent by a link that may only replay', async () => {
    const flow = await demoFlow()
    const links = (
      await call<{ links: readonly { token: string }[] }>('POST', `/api/flows/${flow.id}/links`, {
        rights: 'replay',
        note: 'x',
        endsAt: null,
        follows: 'story',
      })
    ).data
    const token = links.links[0]?.token ?? ''
    const bytes = readFileSync(join(root, 'fuzz/corpus/xlsx/hostile-row.xlsx'))
    const file = (await (
      await fetch(`${server.base}/api/files?name=visits-2031-07.xlsx`, {
        method: 'POST',
        body: bytes,
        headers: { 'x-fabula-link': token },
      })
    ).json()) as { hash: string }
    const fit = await call<Refused>('POST', `/api/shared/${token}/fit`, { files: { visits: [file] }, answers: [] })
    expect(fit).toMatchObject({
      status: 422,
      data: { error: { sentence: expect.stringContaining('it speaks of row 99999999999') as string } },
    })
    expect((await call<FlowReply>('GET', `/api/flows/${flow.id}`)).status).toBe(200)
  })
})

describe('two pages on one story', () => {
  test('do not cancel each other; a newer draft of one page takes the place of its older one', async () => {
    const shared = await story(`N\n${Array.from({ length: 50_000 }, (_, i) => `v${i % 977}`).join('\n')}\n`, [
      { kind: 'sort', by: [{ column: 'N' }] },
    ])
    const draft = (page: string, n: number) => {
      const recipe = structuredClone(shared.recipe) as { tables: { steps: Record<string, unknown>[] }[] }
      recipe.tables[1]?.steps.push({
        id: 's9',
        kind: 'filter',
        where: { column: 'N', op: 'contains', value: String(n) },
      })
      return preview({ id: shared.id, recipe }, 's9', page)
    }
    const together = await Promise.all(Array.from({ length: 24 }, (_, n) => draft(`page-${n}`, n)))
    expect(new Set(together.map(({ status }) => status))).toEqual(new Set([200]))
    const one = await Promise.all(Array.from({ length: 12 }, (_, n) => draft('page-one', n)))
    expect(one.at(-1)?.status).toBe(200)
    expect(one.filter(({ status }) => status === 409).length).toBeGreaterThan(0)
    expect(one.every(({ status }) => status === 200 || status === 409)).toBe(true)
  })
})

test('names of files are cleaned or refused', async () => {
  const named = async (name: string) => {
    const response = await fetch(`${server.base}/api/files?name=${encodeURIComponent(name)}`, {
      method: 'POST',
      body: 'a\n1\n',
    })
    return response.status === 200 ? ((await response.json()) as { name: string }).name : response.status
  }
  expect(await named('../../etc/passwd')).toBe('passwd')
  expect(await named('C:\\exports\\may.csv')).toBe('may.csv')
  expect(await named('may\r\nx: y.csv')).toBe('may x: y.csv')
  expect(await named('may\0.csv')).toBe('may .csv')
  expect(await named('..')).toBe(400)
  expect(await named('/')).toBe(400)
  expect(await named('\u202e\n')).toBe(400)
  expect(await named('x'.repeat(300))).toBe(400)
  expect(await named('constructor')).toBe('constructor')
  expect(await named('__proto__.csv')).toBe('__proto__.csv')
})

test('what was read once is there again after a restart, and the same', async () => {
  const csv = `N,T\n${Array.from({ length: 120_000 }, (_, i) => `${i},note ${i} é\n`).join('')}`
  const made = await story(csv, [{ kind: 'filter', where: { column: 'T', op: 'contains', value: '99 é' } }])
  const first = await preview(made)
  expect(first.data.rows[0]?.cells).toEqual(['99', 'note 99 é'])
  await new Promise((resolve) => setTimeout(resolve, 1500))
  const { data, base } = server
  await server.stop('SIGKILL')
  server = await startServer(data, Number(new URL(base).port))
  expect((await preview(made)).data.rows).toEqual(first.data.rows)
})

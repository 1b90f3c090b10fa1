import { strFromU8, unzipSync } from 'fflate'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { startServer, type Running } from '../browser/server.ts'
import { caller } from './call.ts'
import { until } from './until.ts'
import type { EditionsReply, FileRef, FlowReply, LinksReply, ProofReply, RunReply, RunsReply } from '@fabula/core/api'

let server: Running
beforeAll(async () => {
  server = await startServer()
})
afterAll(async () => server?.stop())
const { call, demoFlow, sendFile, ended } = caller(() => server)

const asked = { files: {}, answers: [], allowChanges: true, parameters: {} }
const replay = async (base: string, files: Record<string, FileRef[]> = {}): Promise<RunReply> =>
  (await call<RunReply>('POST', `${base}/replay`, { ...asked, files })).data
/** A story on many rows, which takes some seconds. */
const longStory = async (seed: number): Promise<string> => {
  const rows = Array.from(
    { length: 400_000 },
    (_, i) => `Clinic ${(i * seed) % 977},${i % 1009}.5,2031-0${(i % 9) + 1}-11`,
  )
  const file = await sendFile('long.csv', `Clinic,Fee,Day\n${rows.join('\n')}\n`)
  const recipe = {
    fabula: 1,
    name: 'Long',
    inputs: [
      {
        id: 'long',
        name: 'Long',
        columns: [
          { name: 'Clinic', type: 'text' },
          { name: 'Fee', type: 'decimal' },
          { name: 'Day', type: 'date' },
        ],
      },
    ],
    tables: [
      {
        id: 'long',
        name: 'Long',
        steps: [
          { id: 's1', kind: 'open', input: 'long' },
          ...Array.from({ length: 12 }, (_, i) => ({
            id: `s${i + 2}`,
            kind: 'sort',
            by: [{ column: i % 2 ? 'Fee' : 'Clinic', descending: i % 3 === 0 }],
          })),
          { id: 's20', kind: 'derive', as: 'At', formula: 'NOW()' },
          { id: 's21', kind: 'slice', first: 5000 },
        ],
      },
    ],
    outputs: [{ table: 'long', format: 'csv', file: 'long.csv' }],
  }
  return `/api/flows/${(await call<{ id: string }>('POST', '/api/flows', { recipe, files: { long: [file] } })).data.id}`
}

test('a replay that kill -9 cuts short is begun again, and a third that is told exactly gives the same bytes', async () => {
  const base = await longStory(1)
  const { id } = await replay(base)
  await new Promise((resolve) => setTimeout(resolve, 600))
  expect((await call<RunReply>('GET', `${base}/runs/${id}`)).data.state).toBe('running')
  const port = Number(new URL(server.base).port)
  server.process.kill('SIGKILL')
  server = await startServer(server.data, port)
  const run = await ended(base, id)
  expect(run).toMatchObject({ state: 'done', outputs: [{ file: 'long.csv', rows: 5000 }] })
  const again = await ended(base, (await call<RunReply>('POST', `${base}/runs/${id}/again`)).data.id)
  // NOW() is in every row: only with the clock of then are the bytes the same
  expect(again.outputs[0]?.hash).toBe(run.outputs[0]?.hash)
  expect(again).toMatchObject({ repeats: id, clock: run.clock })
})

test('two replays run at once, a third waits for its turn and can be stopped there', async () => {
  const base = await longStory(3)
  const [one, two, three] = [await replay(base), await replay(base), await replay(base)] as [
    RunReply,
    RunReply,
    RunReply,
  ]
  // both others have work of their own while the third looks on
  const waiting = (await call<RunReply>('GET', `${base}/runs/${three.id}`)).data
  expect(waiting).toMatchObject({ state: 'running', doing: 'Waiting for its turn' })
  await call('DELETE', `${base}/runs/${three.id}`)
  expect(await ended(base, three.id)).toMatchObject({ state: 'stopped', outputs: [] })
  expect((await ended(base, one.id)).outputs[0]?.hash).not.toBe('')
  expect((await ended(base, two.id)).state).toBe('done')
})

test('a link lets what it says, until it ends, and its uses are listed', async () => {
  const flow = await demoFlow()
  const own = `/api/flows/${flow.id}`
  const make = async (link: object): Promise<string> =>
    (
      await call<LinksReply>('POST', `${own}/links`, {
        rights: 'replay',
        note: '',
        endsAt: null,
        follows: 'story',
        ...link,
      })
    ).data.links[0]?.token ?? ''
  const change = { recipe: { ...flow.recipe, about: 'by a link' }, what: 'about', after: flow.edit }

  const replaying = await make({ note: 'Ines' })
  const by = `/api/shared/${replaying}`
  expect((await call<FlowReply>('GET', by)).data).toMatchObject({
    rights: 'replay',
    recipe: { name: flow.recipe.name },
  })
  for (const [method, path, body] of [
    ['POST', '/edit', change],
    ['POST', '/undo'],
    ['POST', '/copy'],
    ['GET', '/download/recipe'],
    ['GET', '/links'],
    ['GET', '/editions'],
    ['POST', '/prove'],
  ] as const)
    expect((await call(method, `${by}${path}`, body)).status, path).toBe(403)
  const run = await ended(by, (await replay(by)).id)
  expect(run).toMatchObject({ state: 'done', by: 'Ines' })
  // only what was asked for by it is seen by it
  await ended(own, (await replay(own)).id)
  expect((await call<RunsReply>('GET', `${by}/runs`)).data.runs.map(({ id }) => id)).toEqual([run.id])
  const listed = (await call<LinksReply>('GET', `${own}/links`)).data.links.find(({ token }) => token === replaying)
  expect(listed?.uses.map(({ what, run: made }) => [what, made])).toEqual([
    ['replayed', run.id],
    ['read', null],
  ])

  const copying = await make({ rights: 'copy' })
  expect((await fetch(`${server.base}/api/shared/${copying}/download/python`)).status).toBe(200)
  const copy = (await call<{ link: string }>('POST', `/api/shared/${copying}/copy`)).data
  expect((await call<FlowReply>('GET', `/api/shared/${copy.link}`)).data).toMatchObject({
    rights: 'edit',
    recipe: { name: `${flow.recipe.name}, a copy` },
  })
  expect((await call('POST', `/api/shared/${copying}/edit`, change)).status).toBe(403)

  const editing = await make({ rights: 'edit' })
  const byLink = (await call<FlowReply>('POST', `/api/shared/${editing}/edit`, change)).data
  expect(byLink.recipe.about).toBe('by a link')
  await call('POST', `/api/shared/${editing}/undo`, { after: byLink.edit })

  expect(
    (await call('GET', `/api/shared/${await make({ endsAt: new Date(Date.now() - 1000).toISOString() })}`)).status,
  ).toBe(404)
  await call('DELETE', `${own}/links/${replaying}`)
  expect((await call('GET', by)).status).toBe(404)
})

test('a link stays on an edition or follows the newest, whatever is changed later', async () => {
  const flow = await demoFlow()
  const own = `/api/flows/${flow.id}`
  const edit = async (about: string): Promise<void> => {
    const now = await demoFlow()
    await call('POST', `${own}/edit`, { recipe: { ...now.recipe, about }, what: 'about', after: now.edit })
  }
  const freeze = async (name: string): Promise<number> =>
    (await call<EditionsReply>('POST', `${own}/editions`, { name, note: '' })).data.editions[0]?.id ?? 0
  const seen = async (token: string): Promise<(string | null | undefined)[]> => {
    const { data } = await call<FlowReply>('GET', `/api/shared/${token}`)
    return [data.edition, data.recipe.about]
  }
  await edit('first')
  const first = await freeze('May close')
  const make = async (follows: string): Promise<string> =>
    (await call<LinksReply>('POST', `${own}/links`, { rights: 'replay', note: '', endsAt: null, follows })).data
      .links[0]?.token ?? ''
  const [stays, follows, stands] = [await make(String(first)), await make('newest'), await make('story')]
  await edit('second')
  expect([await seen(stays), await seen(follows), await seen(stands)]).toEqual([
    ['May close', 'first'],
    ['May close', 'first'],
    [null, 'second'],
  ])
  await freeze('June close')
  expect([await seen(stays), await seen(follows)]).toEqual([
    ['May close', 'first'],
    ['June close', 'second'],
  ])
  const run = await ended(`/api/shared/${stays}`, (await replay(`/api/shared/${stays}`)).id)
  expect(run.edit).toBe(
    (await call<EditionsReply>('GET', `${own}/editions`)).data.editions.find(({ id }) => id === first)?.edit,
  )
  expect(
    (await call('POST', `${own}/links`, { rights: 'edit', note: '', endsAt: null, follows: 'newest' })).status,
  ).toBe(400)
})

test('both scripts are proven on the flow’s own files', async () => {
  const flow = await demoFlow()
  const { data } = await call<ProofReply>('POST', `/api/flows/${flow.id}/prove`)
  expect(data.tables.map(({ table, rows, proofs }) => [table, rows, ...proofs.map(({ state }) => state)])).toEqual([
    ['takings', 8, 'same', 'same'],
    ['targets', 56, 'same', 'same'],
  ])
})

test('a proof tells how far it is and can be stopped', async () => {
  const proof = `/api/flows/${(await demoFlow()).id}/prove`
  const stopped = call<{ error: { sentence: string } }>('POST', proof)
  const doesSql = async (): Promise<boolean> => (await call<{ doing: string }>('GET', proof)).data.doing.includes('SQL')
  await until(doesSql, 'the proof does not come to SQL')
  expect((await call('POST', proof)).status).toBe(409)
  await call('DELETE', proof)
  expect((await stopped).data.error.sentence).toBe('The proof was stopped.')
  expect((await call<{ doing: string }>('GET', proof)).data.doing).toBe('')
})

test('a workbook takes along what its pictures show; a whole table is had for the clipboard', async () => {
  const { id } = (await call<{ id: string }>('POST', `/api/flows/${(await demoFlow()).id}/copy`)).data
  const own = `/api/flows/${id}`
  const begun = (await call<FlowReply>('GET', own)).data
  const { data: drawn } = await call<FlowReply>('POST', `${own}/edit`, {
    recipe: begun.recipe,
    what: 'a picture',
    after: begun.edit,
    pictures: [
      {
        id: 'p1',
        name: 'Takings by clinic',
        table: 'takings',
        kind: 'bar',
        label: 'Clinic',
        how: 'sum',
        column: 'Takings',
      },
    ],
  })
  // a picture is part of an edit: taken back and kept again with it, left alone by edits that say nothing of it
  expect((await call<FlowReply>('POST', `${own}/undo`, { after: drawn.edit })).data.pictures).toEqual([])
  expect((await call<FlowReply>('POST', `${own}/redo`, { after: begun.edit })).data.pictures).toHaveLength(1)
  const flow = (await call<FlowReply>('GET', own)).data
  await call('POST', `${own}/edit`, {
    recipe: {
      ...flow.recipe,
      outputs: [
        { table: 'takings', format: 'xlsx', file: 'all.xlsx' },
        { table: 'targets', format: 'xlsx', file: 'all.xlsx' },
      ],
    },
    what: 'a workbook',
    after: flow.edit,
  })
  const run = await ended(own, (await replay(own)).id)
  const book = unzipSync(
    new Uint8Array(await (await fetch(`${server.base}${own}/runs/${run.id}/outputs/0`)).arrayBuffer()),
  )
  const part = (name: string): string => strFromU8(book[name] ?? new Uint8Array())
  expect([...part('xl/workbook.xml').matchAll(/<sheet name="([^"]+)"/g)].map((match) => match[1])).toEqual([
    'Takings',
    'Targets',
    'Takings by clinic',
  ])
  expect(part('xl/worksheets/sheet3.xml')).toContain('Fernhollow')
  const cells = (await call<{ rows: string[][] }>('GET', `${own}/runs/${run.id}/outputs/1/cells`)).data.rows
  expect(cells.length).toBe(56)
  expect(cells[0]).toEqual(['Fernhollow', 'Jan', '35100'])
})

test('who has only a link is not told the values that decided earlier runs', async () => {
  const file = await sendFile('visits-05.csv', 'Clinic,Fee\nOxbow,12\nQuarry Lane,3\n')
  const recipe = {
    fabula: 1,
    name: 'By clinic',
    inputs: [
      {
        id: 'visits',
        name: 'Visits',
        columns: [
          { name: 'Clinic', type: 'text' },
          { name: 'Fee', type: 'integer' },
        ],
      },
    ],
    tables: [
      {
        id: 'visits',
        name: 'Visits',
        steps: [
          { id: 's1', kind: 'open', input: 'visits' },
          { id: 's2', kind: 'filter', where: { column: 'Clinic', op: 'is', value: 'Oxbow' } },
        ],
      },
    ],
    outputs: [{ table: 'visits', format: 'csv', file: 'visits.csv' }],
  }
  const { id } = (await call<{ id: string }>('POST', '/api/flows', { recipe, files: { visits: [file] } })).data
  const run = await replay(`/api/flows/${id}`)
  expect(await ended(`/api/flows/${id}`, run.id)).toMatchObject({ state: 'done', open: 0 })
  const { links } = (
    await call<LinksReply>('POST', `/api/flows/${id}/links`, {
      rights: 'replay',
      note: 'Marlpit',
      endsAt: null,
      follows: 'story',
    })
  ).data
  const shared = `/api/shared/${links[0]?.token ?? ''}`
  const next = await sendFile('visits-06.csv', 'Clinic,Fee\nOxbow,12\nTarn End,3\n')
  const fit = (await call<object>('POST', `${shared}/fit`, { files: { visits: [next] } })).data
  expect(fit).toMatchObject({ verdict: 'fits-with-changes', findings: [{ code: 'new-value', values: ['Tarn End'] }] })
  expect(JSON.stringify(fit)).not.toContain('Quarry Lane')
})

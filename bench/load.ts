// npm run bench:load -- [--people 50] [--seconds 30] [--rows 200000] [--mix standard|text|unpivot]
// People at work on one server: each on a story of their own, a new draft each second as the page asks for it (the rows in
// view and the statistics of all sentences). Prints the latency until both have answered, errors and memory.
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { rolling } from '@fabula/core/testing'
import { startServer } from '../e2e/browser/server.ts'

const { values } = parseArgs({
  options: {
    people: { type: 'string', default: '50' },
    seconds: { type: 'string', default: '30' },
    rows: { type: 'string', default: '200000' },
    mix: { type: 'string', default: 'standard' },
  },
})
const people = Number(values.people)
const seconds = Number(values.seconds)
const rows = Number(values.rows)

/** The value that so many per cent of the figures do not exceed. */
const percentile = (figures: readonly number[], share: number): number =>
  [...figures].sort((a, b) => a - b)[Math.min(figures.length - 1, Math.ceil((figures.length * share) / 100) - 1)] ?? 0

const clinics = ['Fernhollow', 'Marlpit', 'Oxbow', 'Tarn Lane', 'Wick Green', 'Saltmarsh', 'Hollin Bank', 'Cold Ash']
const species = ['Dog', 'Cat', 'Rabbit', 'Ferret', 'Parrot']
const file = (): string => {
  const random = rolling(7)
  const lines = ['Ref,Day,Clinic,Species,Patient,Minutes,Fee,Paid']
  for (let i = 0; i < rows; i++)
    lines.push(
      `V-${i},2031-${String(1 + random(12)).padStart(2, '0')}-${String(1 + random(28)).padStart(2, '0')},${clinics[random(8)]},${species[random(5)]},Patient ${random(rows)},${5 + random(90)},${(random(20000) / 100).toFixed(2)},${random(3) > 0}`,
    )
  return `${lines.join('\n')}\n`
}

type Step = Record<string, unknown>
const standard: readonly ((n: number) => Step)[] = [
  (n) => ({ kind: 'filter', where: { column: 'Fee', op: 'greater', value: n % 180 } }),
  (n) => ({ kind: 'derive', as: 'Rate', formula: `Fee / Minutes * ${1 + (n % 9)}` }),
  (n) => ({
    kind: 'filter',
    where: { column: 'Clinic', op: 'is-one-of', values: [clinics[n % 8], clinics[(n + 3) % 8]] },
  }),
  (n) => ({
    kind: 'summarise',
    by: n % 2 ? ['Clinic'] : ['Clinic', 'Species'],
    measures: [{ how: 'sum', column: 'Fee', as: `Takings ${n}` }],
  }),
  (n) => ({ kind: 'sort', by: [{ column: n % 2 ? 'Fee' : 'Clinic', descending: n % 3 === 0 }, { column: 'Minutes' }] }),
]
const mixes: Readonly<Record<string, readonly ((n: number) => Step)[]>> = {
  standard,
  text: [
    (n) => ({ kind: 'filter', where: { column: 'Ref', op: 'contains', value: String(n % 97) } }),
    (n) => ({ kind: 'derive', as: 'Label', formula: `Ref & " ${n}"` }),
    () => ({ kind: 'sort', by: [{ column: 'Ref', descending: true }] }),
  ],
  unpivot: [
    (n) => ({ kind: 'unpivot', name: `Figure ${n}`, groups: [{ columns: ['Minutes', 'Fee'], value: 'Value' }] }),
  ],
}
const mix = mixes[values.mix] ?? standard

const data = mkdtempSync(join(tmpdir(), 'fabula-load-'))
const server = await startServer(data)
const call = async <T>(path: string, body: unknown, page = ''): Promise<{ status: number; data: T }> => {
  const response = await fetch(`${server.base}${path}`, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'content-type': 'application/json', ...(page ? { 'x-fabula-page': page } : {}) },
  })
  return { status: response.status, data: (await response.json()) as T }
}

const upload = await fetch(`${server.base}/api/files?name=visits.csv`, { method: 'POST', body: file() })
const ref = (await upload.json()) as { name: string; hash: string; size: number }
const { data: opened } = await call<{ columns: { name: string; type: string }[] }>('/api/open', {
  files: [ref],
  read: {},
})
const types = Object.fromEntries(opened.columns.map(({ name, type }) => [name, { type }]))
const recipe = (person: number, draft?: Step) => ({
  fabula: 1,
  name: `Visits of ${person}`,
  inputs: [{ id: 'visits', name: 'Visits', columns: opened.columns }],
  tables: [
    {
      id: 'visits',
      name: 'Visits',
      steps: [
        { id: 's1', kind: 'open', input: 'visits', read: { types } },
        { id: 's2', kind: 'filter', where: { column: 'Minutes', op: 'greater', value: person % 5 } },
        { id: 's3', kind: 'derive', as: 'Hours', formula: 'Minutes / 60' },
        ...(draft ? [{ id: 's4', ...draft }] : []),
      ],
    },
  ],
})
const ids: string[] = []
for (let person = 0; person < people; person++)
  ids.push((await call<{ id: string }>('/api/flows', { recipe: recipe(person), files: { visits: [ref] } })).data.id)

const latencies: number[] = []
let refused = 0
let failed = 0
const message = new Map<number, number>()
const draft = async (person: number, n: number): Promise<void> => {
  const step = mix[(person + n) % mix.length]?.(person * 31 + n)
  const began = performance.now()
  const ask = (count: number) =>
    call(
      `/api/flows/${ids[person]}/preview`,
      {
        recipe: recipe(person, step),
        table: 'visits',
        step: 's4',
        diffMode: count ? 'changes' : 'after',
        only: 'all',
        from: 0,
        count,
        drafts: ['s4'],
      },
      `page-${person}`,
    )
  const replies = await Promise.all([ask(100), ask(0)])
  latencies.push(performance.now() - began)
  for (const { status } of replies) if (status !== 200) message.set(status, (message.get(status) ?? 0) + 1)
  if (replies.some(({ status }) => status === 409)) refused++
  else if (replies.some(({ status }) => status !== 200)) failed++
}
/** Resident memory of the server and its compute processes, in MB. */
const memory = (): number => {
  const own = server.process.pid
  const parent = (pid: string): number => Number(/\) \S (\d+)/.exec(readFileSync(`/proc/${pid}/stat`, 'utf8'))?.[1])
  const resident = (pid: string): number =>
    Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .reduce((sum, pid) => {
      try {
        return Number(pid) === own || parent(pid) === own ? sum + resident(pid) : sum
      } catch {
        return sum
      }
    }, 0)
}
// each story is seen once before the clock runs, as one that is open
for (let person = 0; person < people; person++) await draft(person, 0)
latencies.length = 0
let peak = 0
const watching = setInterval(() => (peak = Math.max(peak, memory())), 500)
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))
await Promise.all(
  Array.from({ length: people }, async (_, person) => {
    await pause((person / people) * 1000)
    const going: Promise<void>[] = []
    for (let n = 1; n <= seconds; n++) {
      going.push(draft(person, n))
      await pause(1000)
    }
    await Promise.all(going)
  }),
)
clearInterval(watching)
process.stdout.write(
  `${people} people, ${rows.toLocaleString('en-GB')} rows, ${values.mix} drafts, ${seconds} s: ${latencies.length} drafts, p50 ${percentile(latencies, 50).toFixed(0)} ms, p95 ${percentile(latencies, 95).toFixed(0)} ms, worst ${percentile(latencies, 100).toFixed(0)} ms; superseded ${refused}, failed ${failed} ${JSON.stringify([...message])}; ${peak.toFixed(0)} MB of memory at most\n`,
)
await server.stop()
rmSync(data, { recursive: true, force: true })

// The engine's side of bench/run.ts: does the works that are named on standard input, a line each, and says how long each took
// (ms, and until the first rows could be shown) and how much memory it took at most beside what was held before (MB).
import { closeSync, mkdtempSync, openSync, readFileSync, writeFileSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { useCompiledKernels } from '@fabula/core/compiled'
import {
  factsOf,
  runRecipe,
  StepCache,
  suggestGroups,
  valuesOf,
  type Column,
  type OpenedSource,
  type OutputFormat,
  type Recipe,
  type Step,
  type Table,
} from '@fabula/core'
import { contentAt, openInput, outputPieces, useReadingThreads } from '@fabula/formats'
import { benchFile, type BenchFile } from './files.ts'
import { works, type Work } from './works.ts'

useCompiledKernels()
useReadingThreads(new URL('../server/dist/compute/segment-worker.js', import.meta.url))

const rows = Number(process.argv[2])
const folder = mkdtempSync(join(tmpdir(), 'fabula-bench-out-'))
const read = { encoding: 'utf-8', delimiter: ',' }
/** The file that is open, so that no more is held than a work needs. */
const held = new Map<string, OpenedSource>()

/** A file as the server opens it, which hashed it when it came. */
const openFile = async (name: BenchFile, count: number): Promise<OpenedSource> => {
  const content = contentAt(await benchFile(name, count), name)
  return { ...(await openInput([{ name, content, hash: name }], read)), key: `${name} ${count}` }
}
const opened = async (name: BenchFile, count: number): Promise<OpenedSource> => {
  const source = held.get(`${name} ${count}`) ?? (await openFile(name, count))
  held.set(`${name} ${count}`, source)
  return source
}

/** What the engine says of a work that is too large for it. */
class Refused extends Error {}

/** All cells, as a reader of the table would ask for them. */
const made = (table: Table): void => table.names.forEach((_, at) => table.column(at))
/** When the first rows could be shown, as the page asks for them: until then a result is a selection of rows. */
let shownAt: number | undefined
const shown = (table: Table): void => {
  for (let row = 0; row < Math.min(100, table.rowCount); row++) table.names.forEach((_, at) => table.cell(at, row))
  shownAt = performance.now()
}
const shownAndMade = (table: Table): void => {
  shown(table)
  made(table)
}

const recipeOf = (steps: Work['steps'], sources: Readonly<Record<string, OpenedSource>>): Recipe => ({
  fabula: 1,
  name: 'Bench',
  inputs: Object.entries(sources).map(([id, { table }]) => ({ id, name: id, columns: [...table.schema] })),
  tables: Object.keys(sources).map((id) => ({
    id,
    name: id,
    steps: [
      { id: `${id}1`, kind: 'open', input: id, read },
      ...(id === 'rows' ? steps : []).map((step, i) => ({ ...step, id: `s${i + 2}` }) as Step),
    ],
  })),
})
const run = (steps: Work['steps'], sources: Readonly<Record<string, OpenedSource>>, cache?: StepCache): Table => {
  const options = { sources: (id: string) => sources[id] as OpenedSource, parameters: {}, now: 0 }
  const { tables, plan } = runRecipe(recipeOf(steps, sources), { ...options, ...(cache ? { cache } : {}) })
  const table = tables.find(({ id }) => id === 'rows')?.table
  if (!table)
    throw new Refused(JSON.stringify(plan.tables.flatMap((one) => one.steps.flatMap(({ problems }) => problems))))
  return table
}

const write = (format: OutputFormat, table: Table): void => {
  const out = openSync(join(folder, `out.${format}`), 'w')
  for (const piece of outputPieces(format, [{ name: 'Rows', table }], false)) writeSync(out, piece as string)
  closeSync(out)
}
const unify = (table: Table): void => {
  const values = valuesOf(table.named('Clinic'), 100_000).map(({ label, count }) => ({ text: label, count }))
  suggestGroups(values, 'spelling')
}

/** The same columns with their last row first: nothing is remembered of these. */
const unseen = (table: Table): { readonly names: readonly string[]; readonly columns: readonly Column[] } => {
  const { names, rowCount } = table
  const rows = Int32Array.from({ length: rowCount }, (_, i) => (i + rowCount - 1) % rowCount)
  const turned = table.rows(rows)
  return { names, columns: names.map((_, at) => turned.column(at)) }
}

/** What of a work is timed; all else is done before. */
const timedPart = async (work: Work): Promise<() => unknown> => {
  const count = Math.min(rows, work.most ?? rows)
  if (work.act === 'read') return () => openFile(work.file, count)
  const source = await opened(work.file, count)
  const { table } = source
  const { act } = work
  if (act === 'facts') {
    const { names, columns } = unseen(table)
    return () => columns.slice(0, 10).map((column, at) => factsOf(names[at] as string, column))
  }
  if (act === 'unify') return () => unify(table)
  if (act) return () => write(act, table)
  const sources = { rows: source, ...(work.other ? { other: await opened(work.other, count) } : {}) }
  if (work.kept === undefined) return () => shownAndMade(run(work.steps, sources))
  const { cache, edits } = keptRun(work, sources)
  // another value in the first of the sentences that are run again
  const again = work.steps.map((step, i) =>
    i === work.kept && step.kind === 'filter'
      ? { ...step, where: { column: 'Minutes', op: 'greater' as const, value: 10 + edits } }
      : step,
  )
  return () => shownAndMade(run(again, sources, cache))
}
/** Works that are run again from a sentence on, with what is kept of them and how often they were edited: somebody tries one value after the other. */
const kept = new Map<string, { readonly cache: StepCache; edits: number }>()
const keptRun = (work: Work, sources: Readonly<Record<string, OpenedSource>>) => {
  const one = kept.get(work.name) ?? { cache: new StepCache(), edits: 0 }
  if (one.edits++ === 0) made(run(work.steps, sources, one.cache))
  kept.set(work.name, one)
  return one
}

/** Memory in MB, now and at most since the last call. */
const memory = (): { now: number; most: number } => {
  const status = readFileSync('/proc/self/status', 'utf8')
  const value = (name: string): number => Number(new RegExp(`^${name}:\\s+(\\d+)`, 'm').exec(status)?.[1] ?? 0) / 1024
  const found = { now: value('VmRSS'), most: value('VmHWM') }
  writeFileSync('/proc/self/clear_refs', '5')
  return found
}

/** How long a work takes, and how much memory. */
const measured = async (work: Work): Promise<{ ms: number; shownMs: number | undefined; mb: number }> => {
  const part = await timedPart(work)
  globalThis.gc?.()
  const before = memory().now
  shownAt = undefined
  const began = performance.now()
  await part()
  const ms = performance.now() - began
  const shownMs = shownAt === undefined ? undefined : shownAt - began
  return { ms, shownMs, mb: Math.max(0, memory().most - before) }
}

for await (const name of createInterface({ input: process.stdin })) {
  const work = works.find((one) => one.name === name) as Work
  for (const key of held.keys())
    if (!key.startsWith(`${work.file} `) && !key.startsWith(`${work.other} `)) held.delete(key)
  const found = await measured(work).catch((error: unknown) => {
    if (error instanceof Refused) return { refused: error.message }
    throw error
  })
  process.stdout.write(`${JSON.stringify(found)}\n`)
}

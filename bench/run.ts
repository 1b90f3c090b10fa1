// npm run bench -- [rows …] [--rounds N] [--only WORDS …] [--json FILE]: each kind of work by the engine and by pandas written by hand
// (bench/pandas/works.py), in turn, with texts held as objects, as categories and as Arrow reads them. Medians of the rounds after a
// first that does not count. Of the engine two times: until the first hundred rows could be shown, as the page asks for them, and until all
// cells of the result are made. Three ratios, of which one above 1 means that the engine is faster: of the first and of the second time to
// the faster of objects and categories, by which the goals are set, and of the second to the fastest of all three. With several numbers of rows the growth from each to the next stands
// behind. At the end a changed last sentence of ten (`--only 'last sentence'`), by the engine alone and over HTTP by the built server.
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { statSync, writeFileSync } from 'node:fs'
import { cpus } from 'node:os'
import { dirname, join } from 'node:path'
import { createInterface } from 'node:readline'
import { parseArgs } from 'node:util'
import { inEnvironment, makeEnvironment } from '../scripts/python.mjs'
import { withLargePages } from '../server/src/compute/large-pages.ts'
import { benchFile } from './files.ts'
import { lastSentence } from './last-sentence.ts'
import { works, type Work } from './works.ts'

const { values: options, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    rounds: { type: 'string', default: '5' },
    only: { type: 'string', multiple: true },
    json: { type: 'string' },
  },
})
const sizes = positionals.length > 0 ? positionals.map(Number) : [1_000_000]
const noCount = positionals.find((_, i) => !(sizes[i]! > 0))
if (noCount !== undefined) throw new Error(`“${noCount}” is no number of rows; each --only takes one choice of words`)
const chosen = works.filter(({ name }) => options.only?.some((words) => name.includes(words)) ?? true)

type Measured = { readonly ms: number; readonly mb: number; readonly shownMs?: number | undefined }
/** What a program says of a work that is too large for it. */
class Refusal extends Error {}
/** A program that does the works it is told, a line each. */
const start = (program: string, words: readonly string[], env = process.env) => {
  const child = spawn(program, words, { stdio: ['pipe', 'pipe', 'inherit'], env })
  const answers = createInterface({ input: child.stdout })[Symbol.asyncIterator]()
  return {
    /** @throws Refusal where the work is too large for the program */
    run: async (name: string): Promise<Measured> => {
      child.stdin.write(`${name}\n`)
      const { value, done } = await answers.next()
      if (done === true) throw new Error(`${program} ended at “${name}”`)
      const found = JSON.parse(value) as Measured | { readonly refused: string }
      if ('refused' in found) throw new Refusal(found.refused)
      return found
    },
    end: async (): Promise<void> => {
      child.stdin.end()
      if (child.exitCode === null) await once(child, 'exit')
    },
  }
}
type Program = ReturnType<typeof start>

const median = (list: readonly number[]): number => list.toSorted((a, b) => a - b)[list.length >> 1] ?? 0
/** What counts of the rounds of a work. */
const ofRounds = (all: readonly Measured[]): Measured => ({
  ms: median(all.map(({ ms }) => ms)),
  mb: Math.max(...all.map(({ mb }) => mb)),
  ...(all[0]?.shownMs === undefined ? {} : { shownMs: median(all.map(({ shownMs = 0 }) => shownMs)) }),
})
/** How pandas holds texts. */
type Dtypes = 'object' | 'category' | 'arrow'
type Row = {
  readonly name: string
  readonly rows: number
  readonly ours: Measured
  readonly pandas: Readonly<Record<Dtypes, Measured>>
}

/** One work, by each program in turn so many times. */
const measure = async (work: Work, rows: number, programs: Readonly<Record<string, Program>>): Promise<Row> => {
  const times: Record<string, Measured[]> = {}
  for (let round = 0; round <= (work.rounds ?? Number(options.rounds)); round++)
    for (const [name, program] of Object.entries(programs)) (times[name] ??= []).push(await program.run(work.name))
  const { engine, ...pandas } = Object.fromEntries(
    Object.entries(times).map(([name, all]) => [name, ofRounds(all.slice(1))] as const),
  )
  return { name: work.name, rows, ours: engine as Measured, pandas: pandas as Row['pandas'] }
}
/** What the goals are measured by, and the fastest that pandas can do. */
const usual = ({ pandas }: Row): number => Math.min(pandas.object.ms, pandas.category.ms)
const fastest = ({ pandas }: Row): number => Math.min(...Object.values(pandas).map(({ ms: one }) => one))
const ms = (n: number): string => (n < 10 ? n.toFixed(1) : n.toFixed(0)).padStart(7)
const ratio = (pandas: number, ours: number): string => `× ${(pandas / ours).toFixed(2)}`.padEnd(9)
const say = (row: Row, work: Work, before: Row | undefined): void => {
  const goal = work.must === undefined ? '' : `must ${work.must}, aim ${work.aim}`
  const growth = before
    ? `   × ${(row.ours.ms / before.ours.ms).toFixed(1)} against × ${(usual(row) / usual(before)).toFixed(1)}`
    : ''
  const { object, category, arrow } = row.pandas
  const { ms: whole, shownMs = whole } = row.ours
  const memory = `${row.ours.mb.toFixed(0).padStart(5)} ${Math.min(object.mb, category.mb, arrow.mb).toFixed(0).padStart(5)} MB`
  process.stdout.write(
    `${row.name.padEnd(32)} ${[shownMs, whole, object.ms, category.ms, arrow.ms].map(ms).join(' ')} ms   ${ratio(usual(row), shownMs)} ${ratio(usual(row), whole)} ${ratio(fastest(row), whole)} ${goal.padEnd(16)} ${memory}${growth}\n`,
  )
}

makeEnvironment('bench')
const python = inEnvironment('bench')
const found: Row[] = []
process.stdout.write(`${cpus()[0]?.model ?? ''} × ${cpus().length}, Node ${process.version}\n`)
/** The chosen works over so many rows, each beside pandas. */
const besidePandas = async (rows: number): Promise<void> => {
  const names = new Set(chosen.flatMap(({ file, other }) => (other ? [file, other] : [file])))
  const paths = await Promise.all([...names].map((name) => benchFile(name, rows)))
  const folder = dirname(paths[0] ?? '.')
  const script = join(import.meta.dirname, 'pandas/works.py')
  const engine = ['--expose-gc', '--import', 'tsx', join(import.meta.dirname, 'engine-process.ts'), String(rows)]
  const programs = {
    // as the server starts its compute processes
    engine: start(process.execPath, engine, withLargePages(process.env)),
    object: start(python, [script, folder, 'object']),
    category: start(python, [script, folder, 'category']),
    arrow: start(python, [script, folder, 'arrow']),
  }
  const size = Math.max(...paths.map((path) => statSync(path).size)) / 1e6
  process.stdout.write(
    `\n${rows.toLocaleString('en-GB')} rows, files of up to ${size.toFixed(0)} MB: engine until rows are shown, until all cells are made; pandas with objects, categories, Arrow; how many times faster the engine is than the faster of the first two, by both times, and than all; memory beside the table\n`,
  )
  for (const work of chosen) {
    const row = await measure(work, rows, programs).catch((error: unknown) => {
      if (!(error instanceof Refusal)) throw error
      process.stdout.write(`${work.name.padEnd(32)} refused by the engine: ${error.message}\n`)
      return undefined
    })
    if (!row) continue
    const before = found.findLast(({ name }) => name === work.name)
    found.push(row)
    say(row, work, before)
  }
  await Promise.all(Object.values(programs).map((program) => program.end()))
}
for (const rows of sizes) {
  if (chosen.length > 0) await besidePandas(rows)
  if (options.only?.includes('last sentence') ?? true) process.stdout.write(`${await lastSentence(rows)}\n`)
}
if (options.json !== undefined) writeFileSync(options.json, `${JSON.stringify(found, undefined, 2)}\n`)

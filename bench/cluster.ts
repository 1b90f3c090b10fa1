// npm run bench:cluster -- [millions of rows]: the demo's story through its Spark script on a standalone cluster of this machine,
// a master and two workers with a core each: seconds, and the greatest memory of any one process.
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { sparkScript, type Recipe } from '@fabula/core'
import { rolling } from '@fabula/core/testing'
import { startSparkCluster } from '../e2e/parity/spark-cluster.ts'
import { pick, two, writeRows } from './files.ts'

const millions = Number(process.argv[2] ?? 100)
/** Milliseconds between two looks at the memory of the processes. */
const interval = 500
const clinics = ['Fernhollow', 'Marlpit', ' Oxbow', 'Long  Acre', 'Tarn End', 'Oxbow ']
const statuses = ['Done', 'Done', 'Done', 'Cancelled', 'Test']

/** A visits export of the demo's columns, 1,000,000 rows, of its own for each `seed`; about 75 bytes a row. */
const writeMonth = (path: string, seed: number): Promise<void> => {
  const roll = rolling(seed * 7919 + 1)
  const head = 'Booking ref,Visit date,Clinic,Patient,Species,Service,Status,Charged,Desk'
  return writeRows(path, head, 1_000_000, (i) => {
    const [year, month, day] = [2030 + roll(3), two(1 + roll(12)), two(1 + roll(28))]
    const date = roll(9) === 0 ? `${year}-${month}-${day}` : `${day}/${month}/${year}`
    const charged = `${roll(3) === 0 ? '£ ' : ''}${(roll(90_000) / 100).toFixed(2)}`
    const [species, status] = [pick(roll, ['dog', 'cat', 'rabbit']), pick(roll, statuses)]
    return `B${seed}-${i},${date},${pick(roll, clinics)},Biscuit ${roll(400)},${species},CON-${roll(9)},${status},${charged},front`
  })
}

/** All processes that this one started, and theirs: what each is, and the memory that it holds in MB. */
const processes = (): readonly { name: string; memory: number }[] => {
  const found = readdirSync('/proc').flatMap((pid) => {
    try {
      const status = readFileSync(`/proc/${pid}/status`, 'utf8')
      const words = readFileSync(`/proc/${pid}/cmdline`, 'utf8')
      const value = (name: string): number => Number(new RegExp(`^${name}:\\s+(\\d+)`, 'm').exec(status)?.[1] ?? 0)
      return [{ pid: Number(pid), parent: value('PPid'), memory: value('VmRSS') / 1024, words }]
    } catch {
      return [] // not a process, or one that has ended
    }
  })
  const ours = new Set([process.pid])
  for (let before = 0; before !== ours.size;) {
    before = ours.size
    for (const { pid, parent } of found) if (ours.has(parent)) ours.add(pid)
  }
  const nameOf = (words: string): string =>
    words.includes('CoarseGrainedExecutorBackend')
      ? 'executor'
      : words.includes('pyspark.daemon')
        ? 'Python of an executor'
        : words.includes('SparkSubmit')
          ? 'driver'
          : 'other'
  return found
    .filter(({ pid }) => ours.has(pid) && pid !== process.pid)
    .map(({ words, memory }) => ({ name: nameOf(words), memory }))
}

const folder = join(tmpdir(), `fabula-cluster-${millions}`)
mkdirSync(folder, { recursive: true })
const files = Array.from({ length: millions }, (_, i) => join(folder, `visits-${String(i).padStart(4, '0')}.csv`))
for (const [i, path] of files.entries()) if (!existsSync(path)) await writeMonth(path, i)
const bytes = files.reduce((sum, path) => sum + statSync(path).size, 0)
process.stdout.write(`${millions},000,000 rows × 9, ${(bytes / 1e9).toFixed(1)} GB\n`)

const recipe = JSON.parse(readFileSync('demo/monthly-takings.fabula.json', 'utf8')) as Recipe
const script = join(folder, 'flow.py')
writeFileSync(script, sparkScript(recipe).text)
const cluster = await startSparkCluster([])
const most: Record<string, number> = {}
const watch = setInterval(() => {
  for (const { name, memory } of processes()) most[name] = Math.max(most[name] ?? 0, memory)
}, interval)
const began = performance.now()
const submit = spawn(
  'spark-submit',
  [
    ...['--master', cluster.master, script],
    ...['--input', `visits=${folder}/visits-*.csv`, '--input', 'targets=demo/targets-2031.csv'],
    ...['--output', `takings=${folder}/takings.csv`],
  ],
  { env: { ...process.env, ...cluster.environment }, stdio: ['ignore', 'ignore', 'pipe'] },
)
let said = ''
submit.stderr.on('data', (piece: Buffer) => (said = `${said}${piece.toString()}`.slice(-4000)))
const [code] = (await once(submit, 'exit')) as [number | null]
const seconds = (performance.now() - began) / 1000
clearInterval(watch)
await cluster.close()
if (code !== 0) throw new Error(`spark-submit ended with ${code}: ${said}`)
const took = `${seconds.toFixed(0)} s, ${(seconds / millions).toFixed(1)} s a million rows`
const memory = Object.entries(most).map(([name, mb]) => `${name} ${mb.toFixed(0)} MB`)
process.stdout.write(`${took}; most memory of one process: ${memory.join(', ')}\n`)

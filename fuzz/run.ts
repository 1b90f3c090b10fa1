// npm run fuzz -- [--seconds 600] [--seed N] [--together 2] [target …]
// Feeds changed files, formulas and recipes to every reader and checker, each target in a process of its own. A crash, an error
// that is no refusal, one input that takes over 5 s of the processor, or over 1 GB of memory ends the target, keeps the input, and fails the run.
import { fork } from 'node:child_process'
import { copyFileSync, mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parseArgs } from 'node:util'

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    seconds: { type: 'string', default: '600' },
    seed: { type: 'string', default: String(Date.now() % 1e6) },
    together: { type: 'string', default: '2' },
  },
})
const all = ['csv', 'json', 'parquet', 'xlsx', 'ods', 'formula', 'recipe']
const wanted = positionals.length > 0 ? positionals : all
const folder = mkdtempSync(join(tmpdir(), 'fabula-fuzz-'))
const mostBytes = 1 << 30
const hangSeconds = 8
const ticksASecond = 100

type Told = { readonly runs: number; readonly longest: number; readonly error?: string }
const residentBytes = (pid: number): number => {
  try {
    return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) * 1024
  } catch {
    return 0
  }
}

/** Seconds of the processor that a process took, whatever else the machine did meanwhile. */
const cpuSeconds = (pid: number): number => {
  try {
    const [user = '0', system = '0'] = readFileSync(`/proc/${pid}/stat`, 'utf8')
      .replace(/^.*\) /s, '')
      .split(' ')
      .slice(11, 13)
    return (Number(user) + Number(system)) / ticksASecond
  } catch {
    return 0
  }
}

/** Runs one target; the sentence says how it went, and whether that was well. */
const fuzz = (name: string): Promise<{ readonly well: boolean; readonly sentence: string }> =>
  new Promise((resolve) => {
    const current = join(folder, name)
    const child = fork(join(import.meta.dirname, 'child.ts'), [name, values.seconds, values.seed, current], {
      execArgv: ['--import', 'tsx', '--max-old-space-size=1024'],
      stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
    })
    let told: Told = { runs: 0, longest: 0 }
    let heard = 0
    let peak = 0
    let ended: string | undefined
    let said = ''
    child.stderr?.on('data', (text: Buffer) => (said = (said + text.toString()).slice(-2000)))
    child.on('message', (message: Told) => {
      told = message
      heard = cpuSeconds(child.pid ?? 0)
    })
    const watch = setInterval(() => {
      const resident = residentBytes(child.pid ?? 0)
      peak = Math.max(peak, resident)
      if (resident > mostBytes) ended = `took ${Math.round(resident / 1e6)} MB of memory`
      else if (cpuSeconds(child.pid ?? 0) - heard > hangSeconds) ended = 'did not come back'
      if (ended !== undefined) child.kill('SIGKILL')
    }, 100)
    child.on('exit', (code) => {
      clearInterval(watch)
      const figures = `${told.runs.toLocaleString('en-GB')} inputs, the longest ${told.longest.toFixed(0)} ms, ${Math.round(peak / 1e6)} MB of memory`
      if (code === 0 && ended === undefined)
        return resolve({ well: true, sentence: `${name}: nothing found. ${figures}.` })
      const kept = join(folder, `${name}-found`)
      copyFileSync(current, kept)
      resolve({
        well: false,
        sentence: `${name}: ${ended ?? told.error ?? said}\n  The input is in ${kept}; seed ${values.seed}. ${figures}.`,
      })
    })
  })

const queue = [...wanted]
let well = true
const lane = async (): Promise<void> => {
  for (let name = queue.shift(); name !== undefined; name = queue.shift()) {
    const result = await fuzz(name)
    well &&= result.well
    process.stdout.write(`${result.sentence}\n`)
  }
}
await Promise.all(Array.from({ length: Number(values.together) }, lane))
process.exit(well ? 0 : 1)

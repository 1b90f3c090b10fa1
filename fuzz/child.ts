// One target, for so many seconds, in a process of its own: fuzz/run.ts starts it, watches it, and reports what it was at when it died.
import { writeFileSync } from 'node:fs'
import fc from 'fast-check'
import { targets } from './targets.ts'

const [name = '', seconds = '60', seed = '1', current = '/dev/null'] = process.argv.slice(2)
const target = targets[name]
if (!target) throw new Error(`no target ${name}; there are ${Object.keys(targets).join(', ')}`)

let runs = 0
let longest = 0
const slowMs = 5000
const result = await fc.check(
  fc.asyncProperty(target.arbitrary, async (input) => {
    writeFileSync(current, target.bytes(input as never))
    process.send?.({ runs, longest })
    const before = process.cpuUsage()
    await target.run(input as never)
    const { user, system } = process.cpuUsage(before)
    const took = (user + system) / 1000
    runs++
    longest = Math.max(longest, took)
    if (took > slowMs) throw new Error(`took ${took.toFixed(0)} ms`)
  }),
  {
    seed: Number(seed),
    numRuns: 1e9,
    interruptAfterTimeLimit: Number(seconds) * 1000,
    markInterruptAsFailure: false,
    endOnFailure: false,
  },
)
if (result.failed && result.counterexample) writeFileSync(current, target.bytes(result.counterexample[0] as never))
process.send?.(
  {
    runs,
    longest,
    ...(result.failed && result.errorInstance
      ? { error: String((result.errorInstance as Error).stack ?? result.errorInstance).slice(0, 2000) }
      : {}),
  },
  () => process.exit(result.failed && result.counterexample ? 1 : 0),
)

// npm run torture -- [rounds]: kills the server so many times (200) at random moments and prints what was lost: nothing, if all is well.
import { torture } from './torture.ts'

const result = await torture(Number(process.argv[2] ?? 200), (line) => process.stdout.write(`${line}\n`))
process.stdout.write(
  `${result.rounds} kills: ${result.edits} edits and ${result.uploads} uploads acknowledged, ${result.replays.done} replays done, ${result.replays.told} told why not; slowest start ${result.slowestStartMs.toFixed(0)} ms; ${result.faults.length} faults\n${result.faults.join('\n')}\n`,
)
process.exit(result.faults.length > 0 ? 1 : 0)
